"""The document of one project, schema 11. Format: `docs/document-format.md`.

`None` where a value may be inherited means "as the look or the project's defaults say".
"""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from ..looks import Backdrop, Correction, Look, Mount, Shadow, TextStyle
from ..moves import Move
from ..time import RATES, TICKS_PER_SECOND, FrameRate, rate_named
from .layers import FitChoice, Layer
from .links import Link, ProjectField
from .media import Media
from .records import HoldTicks, Id, IdKey, Name, Record, Ticks
from .scenes import Join, Scene, Shutter
from .sounds import Mix, Song, SoundFile
from .templates import Template
from .texts import Details
from .wholeness import broken_links, wrong_links

SCHEMA_VERSION = 11


def _even(value: int) -> int:
    if value % 2:
        raise ValueError("must be an even number of pixels")
    return value


def _known_rate(value: str) -> str:
    if value not in {r.label for r in RATES}:
        raise ValueError("must be one of " + ", ".join(r.label for r in RATES))
    return value


EvenPixels = Annotated[int, Field(ge=64, le=4096), AfterValidator(_even)]
RateLabel = Annotated[str, AfterValidator(_known_rate)]


class Frame(Record):
    """Shape, size in pixels (even numbers) and rate of the film."""

    width: EvenPixels = 1920
    height: EvenPixels = 1080
    rate: RateLabel = "30"

    @property
    def aspect(self) -> float:
        """Width / height."""
        return self.width / self.height

    @property
    def frame_rate(self) -> FrameRate:
        return rate_named(self.rate)


class Ends(Record):
    """What leads into the first scene and out of the last: from and to a frame of the join's colour; None: they just begin and end."""

    beginning: Join | None = None
    ending: Join | None = None


class Defaults(Record):
    """Project defaults; scenes and photos that say nothing of their own follow them. A look comes before the parts below it.

    `links`: what of those parts follows a field of the project.
    """

    hold: HoldTicks = 3 * TICKS_PER_SECOND
    join: Join = Join()
    shutter: Shutter = 0.0
    fit: FitChoice = "auto"
    look: Id | None = None
    mount: Mount = Mount()
    shadow: Shadow = Shadow()
    backdrop: Backdrop = Backdrop()
    correction: Correction = Correction()
    links: dict[str, Link] = Field(default_factory=dict)


class SharedGroup(Record):
    """Layers that several scenes show through groups; a change reaches all of them."""

    name: Name = ""
    layers: dict[IdKey, Layer] = Field(default_factory=dict)


class Guide(Record):
    """A line to lay out by. `at`: fraction of the frame from its left (axis x) or top (axis y) edge."""

    axis: Literal["x", "y"]
    at: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Poster(Record):
    """The frame that stands for the film where it is listed. `at`: ticks of the own time of scene `scene`; None: by default, the middle of the
    first scene that shows something."""

    scene: Id | None = None
    at: Ticks = 0


class OwnFont(Record):
    """A font that was added to the project: a face of its own family. `sha256` of the checked file; `weights` that it has; `name` as it says itself."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    family: Annotated[str, Field(min_length=1, max_length=200)]
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    weight: Annotated[float, Field(ge=1, le=1000)] = 400
    italic: bool = False


class Document(Record):
    """A whole project."""

    schema_version: Literal[11] = Field(11, alias="schema")
    title: Annotated[str, Field(min_length=1, max_length=200)] = "Untitled film"
    frame: Frame = Frame()
    defaults: Defaults = Defaults()
    ends: Ends = Ends()
    details: Details = Details()
    looks: dict[IdKey, Look] = Field(default_factory=dict)
    styles: dict[IdKey, TextStyle] = Field(default_factory=dict)
    fonts: dict[IdKey, OwnFont] = Field(default_factory=dict)
    moves: dict[IdKey, Move] = Field(default_factory=dict)
    groups: dict[IdKey, SharedGroup] = Field(default_factory=dict)
    guides: tuple[Guide, ...] = ()
    poster: Poster = Poster()
    sounds: dict[IdKey, SoundFile] = Field(default_factory=dict)
    songs: dict[IdKey, Song] = Field(default_factory=dict)
    mix: Mix = Mix()
    fields: dict[IdKey, ProjectField] = Field(default_factory=dict)
    templates: dict[IdKey, Template] = Field(default_factory=dict)
    media: dict[IdKey, Media] = Field(default_factory=dict)
    scenes: dict[IdKey, Scene] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _everything_named_is_there(self) -> "Document":
        faults = [*broken_links(self), *wrong_links(self)]
        if faults:
            raise ValueError("; ".join(faults))
        return self
