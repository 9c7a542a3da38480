"""Edits of the film as a whole: title, frame, defaults."""

from typing import Annotated, Any, Literal

from pydantic import Field

from ..document import Document, FitChoice, Guide, Poster
from ..document.records import HoldTicks, Ticks
from ..evaluate import timeline_of
from .reframing import reframed
from .registry import Edit, EditSpec, merged, refused
from .renewing import for_frame


class SetTitle(Edit):
    title: Annotated[str, Field(min_length=1, max_length=200)]


def set_title(document: Document, edit: SetTitle) -> Document:
    return document.model_copy(update={"title": edit.title.strip() or document.title})


class SetFrame(Edit):
    """What is not given stays. Layouts are made anew for another shape; what fills the frame fills it still, with subjects in view, and
    what stood wholly in it still does. Scenes of templates are laid out as those do it for that shape.

    `filling` of photos whose fit is found by their shape: `keep` those that filled the frame filling it, where that does not cut what they
    are about, or let the fit be found `anew`.
    """

    width: int | None = None
    height: int | None = None
    rate: str | None = None
    filling: Literal["keep", "anew"] = "keep"


def set_frame(document: Document, edit: SetFrame) -> Document:
    frame = merged(document.frame, edit.model_dump(exclude_none=True, exclude={"filling"}), "frame")
    return for_frame(document, reframed(document, document.model_copy(update={"frame": frame}), edit.filling == "keep"))


class SetDefaults(Edit):
    """Project defaults; what is not given stays. Looks and join may be partial."""

    hold: HoldTicks | None = None
    fit: FitChoice | None = None
    shutter: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)] | None = None
    join: dict[str, Any] | None = None
    mount: dict[str, Any] | None = None
    shadow: dict[str, Any] | None = None
    backdrop: dict[str, Any] | None = None
    correction: dict[str, Any] | None = None


def set_defaults(document: Document, edit: SetDefaults) -> Document:
    defaults = document.defaults
    update: dict[str, Any] = edit.model_dump(exclude_none=True, include={"hold", "fit", "shutter"})
    for part in ("join", "mount", "shadow", "backdrop", "correction"):
        partial = getattr(edit, part)
        if partial is not None:
            update[part] = merged(getattr(defaults, part), partial, f"defaults.{part}")
    return document.model_copy(update={"defaults": defaults.model_copy(update=update)})


class SetGuides(Edit):
    """All guides of the project: lines to lay out by."""

    guides: list[Guide] = Field(max_length=50)


def set_guides(document: Document, edit: SetGuides) -> Document:
    return document.model_copy(update={"guides": tuple(edit.guides)})


class SetPoster(Edit):
    """The frame at `at` (ticks of the film) stands for the film; None: the one by default. It stays that of its scene, wherever that goes."""

    at: Ticks | None = None


def set_poster(document: Document, edit: SetPoster) -> Document:
    if edit.at is None:
        return document.model_copy(update={"poster": Poster()})
    source = timeline_of(document).source_at(edit.at)
    if source is None:
        raise refused("edit.no_scenes", "scenes", "The film has no scene yet: put one into it first.")
    return document.model_copy(update={"poster": Poster(scene=source.span.scene, at=source.span.own(edit.at))})


FILM_EDITS = (
    EditSpec("set_title", "Rename the project", SetTitle, set_title),
    EditSpec("set_frame", "Change the frame", SetFrame, set_frame),
    EditSpec("set_defaults", "Change project defaults", SetDefaults, set_defaults),
    EditSpec("set_guides", "Change guides", SetGuides, set_guides),
    EditSpec("set_poster", "Choose the poster", SetPoster, set_poster),
)
