"""Edits of text styles: saved from a text, changed for all that are linked, put on texts as a link or a copy."""

from typing import Annotated, Any

from pydantic import Field

from ..document import Document, Layer, TextLayer, resolved_text
from ..document.records import Id
from ..looks import SHIPPED_STYLES, TextStyle
from .registry import Edit, EditSpec, LayerRef, containers, fresh, layer_of, merged, refused, with_layers

STYLED = ("setting", "ink", "panel", "shadow")
StyleName = Annotated[str, Field(min_length=1, max_length=100)]


def text_of(document: Document, ref: LayerRef) -> TextLayer:
    """The text a reference names. Raises InvalidEdit."""
    layer = layer_of(document, ref)
    if not isinstance(layer, TextLayer):
        raise refused("edit.no_text", ref.path, "This layer is no text: choose a text for this.")
    return layer


def _as_it_is(document: Document, layer: TextLayer) -> dict[str, Any]:
    return dict(zip(STYLED, resolved_text(document, layer), strict=True))


class SaveStyle(Edit):
    """What a text looks like now becomes text style `id`; the text is linked to it."""

    id: Id
    name: StyleName
    text: LayerRef


def save_style(document: Document, edit: SaveStyle) -> Document:
    fresh({**document.styles, **SHIPPED_STYLES}, (edit.id,), "styles")
    style = TextStyle(name=edit.name, **_as_it_is(document, text_of(document, edit.text)))
    document = document.model_copy(update={"styles": {**document.styles, edit.id: style}})
    return use_style(document, UseStyle(style=edit.id, texts=[edit.text]))


class SetStyle(Edit):
    """Change a text style; every text linked to it follows."""

    id: Id
    name: StyleName | None = None
    setting: dict[str, Any] | None = None
    ink: dict[str, Any] | None = None
    panel: dict[str, Any] | None = None
    shadow: dict[str, Any] | None = None


def set_style(document: Document, edit: SetStyle) -> Document:
    style = _style(document, edit.id)
    update: dict[str, Any] = {} if edit.name is None else {"name": edit.name}
    for part in STYLED:
        if (partial := getattr(edit, part)) is not None:
            update[part] = merged(getattr(style, part), partial, f"styles.{edit.id}.{part}")
    return document.model_copy(update={"styles": {**document.styles, edit.id: style.model_copy(update=update)}})


class UseStyle(Edit):
    """Put a style on texts: linked, so that they follow its changes, or as a copy of its values. What they had of their own gives way to it."""

    style: Id
    texts: list[LayerRef] = Field(min_length=1)
    linked: bool = True


def use_style(document: Document, edit: UseStyle) -> Document:
    document = with_style(document, edit.style)
    style = document.styles[edit.style]
    own = dict.fromkeys(STYLED) if edit.linked else {part: getattr(style, part) for part in STYLED}
    changed: list[tuple[LayerRef, Layer | None]] = [
        (ref, text_of(document, ref).model_copy(update={**own, "style": edit.style if edit.linked else None})) for ref in edit.texts
    ]
    return with_layers(document, changed)


class PutIntoStyle(Edit):
    """What a text looks like becomes its style `id`, for all that are linked to it; `texts` follow it again."""

    id: Id
    text: LayerRef
    texts: list[LayerRef] = Field(default_factory=list)


def put_into_style(document: Document, edit: PutIntoStyle) -> Document:
    style = _style(document, edit.id)
    own = _as_it_is(document, text_of(document, edit.text))
    document = document.model_copy(update={"styles": {**document.styles, edit.id: style.model_copy(update=own)}})
    return use_style(document, UseStyle(style=edit.id, texts=[edit.text, *edit.texts]))


class RemoveStyle(Edit):
    """Take a text style out of the project; texts linked to it keep its values as their own."""

    id: Id


def remove_style(document: Document, edit: RemoveStyle) -> Document:
    _style(document, edit.id)
    changed: list[tuple[LayerRef, Layer | None]] = []
    for container_id, container in containers(document):
        for layer_id, layer in container.layers.items():
            if isinstance(layer, TextLayer) and layer.style == edit.id:
                own = {**_as_it_is(document, layer), "style": None}
                changed.append((LayerRef(scene=container_id, layer=layer_id), layer.model_copy(update=own)))
    document = with_layers(document, changed)
    return document.model_copy(update={"styles": {k: v for k, v in document.styles.items() if k != edit.id}})


def with_style(document: Document, style_id: str) -> Document:
    """The document with a shipped style taken into it, if it is not there yet. Raises InvalidEdit."""
    if style_id in document.styles:
        return document
    if style_id not in SHIPPED_STYLES:
        raise refused("edit.no_style", f"styles.{style_id}", "There is no such text style in this project.")
    return document.model_copy(update={"styles": {**document.styles, style_id: SHIPPED_STYLES[style_id]}})


def _style(document: Document, style_id: str) -> TextStyle:
    if style_id not in document.styles:
        raise refused("edit.no_style", f"styles.{style_id}", "There is no such text style in this project.")
    return document.styles[style_id]


STYLE_EDITS = (
    EditSpec("save_style", "Save a text style", SaveStyle, save_style),
    EditSpec("set_style", "Change a text style", SetStyle, set_style),
    EditSpec("use_style", "Use a text style", UseStyle, use_style),
    EditSpec("put_into_style", "Change a text style", PutIntoStyle, put_into_style),
    EditSpec("remove_style", "Remove a text style", RemoveStyle, remove_style),
)
