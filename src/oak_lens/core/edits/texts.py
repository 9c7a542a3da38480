"""Edits of texts: put on, written, parts of them set otherwise; what a project tells of itself."""

from typing import Annotated, Any

from pydantic import Field

from ..document import Details, Document, Layer, OwnDetail, OwnFont, Placement, Span, TextLayer, restyled, rewritten, written
from ..document.records import ID_PATTERN, Id, Name
from ..letters import LONGEST_TEXT, SHIPPED_FACES
from ..titles import TITLES
from .layers import checked
from .positions import orders_before
from .registry import Edit, EditSpec, LayerRef, container_of, fresh, merged, refused, with_layers
from .styles import text_of, with_style

NEW_TEXT = "Text"
Written = Annotated[str, Field(max_length=LONGEST_TEXT)]


class AddText(Edit):
    """A text above all other layers; `x`, `y`: where it hangs, fractions of the frame from its middle."""

    scene: Id
    id: Id
    text: Written = NEW_TEXT
    style: Id | None = None
    x: Annotated[float, Field(ge=-10, le=10, allow_inf_nan=False)] = 0.0
    y: Annotated[float, Field(ge=-10, le=10, allow_inf_nan=False)] = 0.0
    name: Name = ""


def add_text(document: Document, edit: AddText) -> Document:
    container = container_of(document, edit.scene)
    fresh(container.layers, (edit.id,), f"scenes.{edit.scene}.layers")
    if edit.style is not None:
        document = with_style(document, edit.style)
    (order,) = orders_before(container.layers, None, 1)
    layer = TextLayer(
        order=order, name=edit.name, text=(Span(text=edit.text),) if edit.text else (), style=edit.style, placement=Placement(x=edit.x, y=edit.y)
    )
    return checked(with_layers(document, [(LayerRef(scene=edit.scene, layer=edit.id), layer)]))


class SetText(Edit):
    """Write a text anew. What was there before keeps its looks; what is new looks like what it follows."""

    texts: list[LayerRef] = Field(min_length=1)
    text: Written


def set_text(document: Document, edit: SetText) -> Document:
    changed: list[tuple[LayerRef, Layer | None]] = []
    for ref in edit.texts:
        layer = text_of(document, ref)
        changed.append((ref, layer.model_copy(update={"text": rewritten(layer.text, edit.text)})))
    return with_layers(document, changed)


class SetLetters(Edit):
    """Give characters `start` to `stop` of a text a look of their own; an explicit null goes back to the text's."""

    text: LayerRef
    start: int = Field(ge=0)
    stop: int = Field(ge=0)
    family: Annotated[str, Field(pattern=ID_PATTERN)] | None = None
    weight: float | None = None
    italic: bool | None = None
    size: float | None = None
    colour: str | None = None
    underline: bool | None = None


def set_letters(document: Document, edit: SetLetters) -> Document:
    layer = text_of(document, edit.text)
    whole = len(written(layer.text))
    start, stop = min(edit.start, edit.stop, whole), min(max(edit.start, edit.stop), whole)
    changes: dict[str, Any] = {name: getattr(edit, name) for name in edit.model_fields_set - {"text", "start", "stop"}}
    if "underline" in changes:
        changes["underline"] = bool(changes["underline"])
    merged(Span(), changes, f"{edit.text.path}.text")
    return with_layers(document, [(edit.text, layer.model_copy(update={"text": restyled(layer.text, start, stop, changes)}))])


class AddTitle(Edit):
    """A title setting above all other layers of a scene: a group of texts and shapes, in motion. `texts`: what its texts say, in their order;
    those that are not given say what the setting has."""

    scene: Id
    id: Id
    title: Id
    texts: list[Written] = Field(default_factory=list, max_length=10)


def add_title(document: Document, edit: AddTitle) -> Document:
    container = container_of(document, edit.scene)
    title = TITLES.get(edit.title)
    if title is None:
        raise refused("edit.no_title", f"titles.{edit.title}", "There is no such title setting.")
    ids = title.ids(edit.id)
    fresh(container.layers, ids, f"scenes.{edit.scene}.layers")
    for style in title.styles:
        document = with_style(document, style)
    orders = dict(zip(ids, orders_before(container.layers, None, len(ids)), strict=True))
    layers, words = title.layers(edit.id, title.name, orders), iter(edit.texts)
    for key, layer in layers.items():
        if isinstance(layer, TextLayer) and (said := next(words, None)) is not None:
            layers[key] = layer.model_copy(update={"text": rewritten(layer.text, said)})
    return checked(with_layers(document, [(LayerRef(scene=edit.scene, layer=key), layer) for key, layer in layers.items()]))


class NewFont(OwnFont):
    """A font that was taken in, and the id that it is given."""

    id: Id


class AddFonts(Edit):
    """Fonts that were checked and kept, for this project's texts."""

    fonts: list[NewFont] = Field(min_length=1, max_length=40)


def add_fonts(document: Document, edit: AddFonts) -> Document:
    fresh({**document.fonts, **SHIPPED_FACES}, (font.id for font in edit.fonts), "fonts")
    added = {font.id: OwnFont.model_validate(font.model_dump(exclude={"id"})) for font in edit.fonts}
    return document.model_copy(update={"fonts": {**document.fonts, **added}})


class RemoveFont(Edit):
    """Take a font out of the project; texts in it are shown in what stands in for it."""

    id: Id


def remove_font(document: Document, edit: RemoveFont) -> Document:
    if edit.id not in document.fonts:
        raise refused("edit.no_font", f"fonts.{edit.id}", "There is no such font in this project.")
    return document.model_copy(update={"fonts": {k: v for k, v in document.fonts.items() if k != edit.id}})


class SetDetails(Edit):
    """Change what the project tells of itself. `own`: details of its own by id, null takes one away."""

    author: str | None = None
    place: str | None = None
    date: str | None = None
    rights: str | None = None
    own: dict[Id, OwnDetail | None] = Field(default_factory=dict)


def set_details(document: Document, edit: SetDetails) -> Document:
    given = {name: value for name in ("author", "place", "date", "rights") if (value := getattr(edit, name)) is not None}
    own = {k: v for k, v in {**document.details.own, **edit.own}.items() if v is not None}
    names = [detail.name.lower() for detail in own.values()]
    if len(set(names)) != len(names):
        raise refused("edit.name_taken", "details.own", "Another detail has this name: texts could not tell them apart.")
    details = merged(document.details, {**given, "own": {k: v.model_dump() for k, v in own.items()}}, "details")
    return document.model_copy(update={"details": Details.model_validate(details)})


TEXT_EDITS = (
    EditSpec("add_text", "Add a text", AddText, add_text),
    EditSpec("set_text", "Write", SetText, set_text),
    EditSpec("set_letters", "Set letters", SetLetters, set_letters),
    EditSpec("add_title", "Add a title", AddTitle, add_title),
    EditSpec("add_fonts", "Add fonts", AddFonts, add_fonts),
    EditSpec("remove_font", "Remove a font", RemoveFont, remove_font),
    EditSpec("set_details", "Change the project’s details", SetDetails, set_details),
)
