"""Edits of links and fields: what values follow; numbers and colours of the project that are there to be followed."""

from typing import Annotated, Any

from pydantic import Field

from ..document import (
    LINKABLE,
    Document,
    Linkable,
    OwnerRef,
    ProjectField,
    followed_value,
    owner_at,
    resolved_part,
    sources_of,
    values_of,
    with_owner_at,
)
from ..document.records import Id
from ..looks.links import Link
from ..looks.parameters import COLOUR
from .registry import Edit, EditSpec, fresh, refused

FieldName = Annotated[str, Field(min_length=1, max_length=100)]
FieldValue = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] | Annotated[str, Field(pattern=COLOUR)]


class ValueRef(Edit):
    """A number or colour, `part.name`: of a layer, of a scene, of a look, or (all three None) of the project's defaults."""

    property: str
    scene: Id | None = None
    layer: Id | None = None
    look: Id | None = None


class LinkValues(Edit):
    """Values that follow a source from now on, and are what it is; `link` None: they follow nothing any more and stay what they are.

    What a photo or scene had by inheritance becomes its own, but for what follows.
    """

    values: list[ValueRef] = Field(min_length=1, max_length=20_000)
    link: Link | None


def link_values(document: Document, edit: LinkValues) -> Document:
    for ref in edit.values:
        owner, entry = value_of(document, ref)
        links = {k: v for k, v in owner.links.items() if k != ref.property}
        if edit.link is not None:
            if edit.link.source not in sources_of(owner) or followed_value(document, entry, edit.link, ref.scene) is None:
                raise refused("edit.no_source", _path(ref), f"{entry.spec.label} cannot follow this: it is not there, or of another unit.")
            owner = with_own_part(document, owner, entry, ref)
            links[ref.property] = edit.link
        document = with_owner_at(document, owner_ref(ref), owner.model_copy(update={"links": links}))
    return document


class AddField(Edit):
    """A number or colour of the project under a name, for values to follow: of the kind of `like`, and as that is now, or `value`."""

    id: Id
    name: FieldName
    like: ValueRef
    value: FieldValue | None = None


def add_field(document: Document, edit: AddField) -> Document:
    fresh(document.fields, (edit.id,), "fields")
    owner, entry = value_of(document, edit.like)
    if not entry.is_measured:
        raise refused("edit.no_value", _path(edit.like), "A field is a number or a colour.")
    value = entry.of(with_own_part(document, owner, entry, edit.like)) if edit.value is None else edit.value
    assert value is not None
    return _with_field(document, edit.id, ProjectField(name=edit.name, of=entry.id, value=_checked(edit.id, entry.id, value)))


class SetField(Edit):
    """Another name, or another value: all that follows it changes along."""

    id: Id
    name: FieldName | None = None
    value: FieldValue | None = None


def set_field(document: Document, edit: SetField) -> Document:
    field = _field(document, edit.id)
    update: dict[str, Any] = {} if edit.name is None else {"name": edit.name}
    if edit.value is not None:
        update["value"] = _checked(edit.id, field.of, edit.value)
    return _with_field(document, edit.id, field.model_copy(update=update))


class RemoveField(Edit):
    """Takes a field away; what followed it stays as it is."""

    id: Id


def remove_field(document: Document, edit: RemoveField) -> Document:
    _field(document, edit.id)
    return document.model_copy(update={"fields": {k: v for k, v in document.fields.items() if k != edit.id}})


class IntoSources(Edit):
    """Stands before other edits of one step: where they change a value that follows another, that other one is changed, for all that
    follow it, instead of ending the link."""


def into_sources(document: Document, edit: IntoSources) -> Document:
    """By itself it changes nothing."""
    return document


def owner_ref(ref: ValueRef) -> OwnerRef:
    """What the value is of."""
    return OwnerRef(ref.scene, ref.layer, ref.look)


def _path(ref: ValueRef) -> str:
    if ref.look is not None:
        return f"looks.{ref.look}.{ref.property}"
    if ref.scene is None:
        return f"defaults.{ref.property}"
    return f"scenes.{ref.scene}" + (f".layers.{ref.layer}" if ref.layer else "") + f".{ref.property}"


def value_of(document: Document, ref: ValueRef) -> tuple[Any, Linkable]:
    """(what a value is of, the value's entry). Raises InvalidEdit where there is none."""
    owner = owner_at(document, owner_ref(ref))
    if owner is None:
        raise refused("edit.no_layer" if ref.layer else "edit.no_look" if ref.look else "edit.no_scene", _path(ref), "What this value is of is not there; it may have been deleted.")
    entry = values_of(owner).get(ref.property)
    if entry is None:
        raise refused("edit.no_value", _path(ref), "There is no value of this name here that could follow another.")
    return owner, entry


def with_own_part(document: Document, owner: Any, entry: Linkable, ref: ValueRef) -> Any:
    """The owner with the part of its own that a value needs to follow something."""
    if entry.of(owner) is not None:
        return owner
    part = resolved_part(document, owner, entry.part)
    if part is None or getattr(part, entry.spec.id) is None:
        raise refused("edit.no_value", _path(ref), f"There is no {entry.spec.label.lower()} here yet that could follow another.")
    return owner.model_copy(update={entry.part: part})


def _field(document: Document, field: str) -> ProjectField:
    if field not in document.fields:
        raise refused("edit.no_field", f"fields.{field}", "There is no such field in this project; it may have been deleted.")
    return document.fields[field]


def _checked(field: str, of: str, value: float | str) -> float | str:
    """The value, if a field may have it; raises InvalidEdit."""
    entry = LINKABLE[of]
    if not entry.fits(value):
        low, high, scale = entry.spec.minimum, entry.spec.maximum, entry.spec.scale
        what = "a colour, such as #a05a2c" if entry.spec.kind == "colour" else f"a number from {(low or 0) / scale:g} to {(high or 0) / scale:g} {entry.spec.unit}".rstrip()
        raise refused("edit.value", f"fields.{field}.value", f"This field is {what}.")
    return value


def _with_field(document: Document, key: str, field: ProjectField) -> Document:
    return document.model_copy(update={"fields": {**document.fields, key: field}})


LINK_EDITS = (
    EditSpec("link_values", "Link a value", LinkValues, link_values),
    EditSpec("add_field", "Add a field", AddField, add_field),
    EditSpec("set_field", "Change a field", SetField, set_field),
    EditSpec("remove_field", "Remove a field", RemoveField, remove_field),
    EditSpec("into_sources", "Change what is followed", IntoSources, into_sources),
)
