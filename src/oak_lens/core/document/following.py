"""Values that follow others hold what they follow: so whatever reads a document needs to know nothing of links. This is kept true after
every step: where a source changed, what follows it changes along; where what follows was changed itself, it follows no longer, or (as the
person chose) its source changes."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from ..looks.links import Link
from .dials import dial_at
from .layers import Layer
from .links import LINKABLE, LOOKED, Linkable, Value, dial_of, film_use, followed_value, values_of
from .models import Document
from .scenes import Scene
from .templates import DialValue


@dataclass(frozen=True, slots=True)
class OwnerRef:
    """What has values: a layer (`container` and `layer`), a scene (`container`), a look, or (all None) the project's defaults."""

    container: str | None = None
    layer: str | None = None
    look: str | None = None


def owner_at(document: Document, ref: OwnerRef) -> Any:
    """The layer, scene, look or defaults; None where it is not there."""
    if ref.look is not None:
        return document.looks.get(ref.look)
    if ref.container is None:
        return document.defaults
    if ref.layer is None:
        return document.scenes.get(ref.container)
    container = document.scenes.get(ref.container) or document.groups.get(ref.container)
    return container.layers.get(ref.layer) if container else None


def with_owner_at(document: Document, ref: OwnerRef, owner: Any) -> Document:
    """The document with one of them replaced."""
    if ref.look is not None:
        return document.model_copy(update={"looks": {**document.looks, ref.look: owner}})
    if ref.container is None:
        return document.model_copy(update={"defaults": owner})
    table = "scenes" if ref.container in document.scenes else "groups"
    records = getattr(document, table)
    if ref.layer is not None:
        container = records[ref.container]
        owner = container.model_copy(update={"layers": {**container.layers, ref.layer: owner}})
    return document.model_copy(update={table: {**records, ref.container: owner}})


def owners_of(document: Document) -> Iterator[tuple[OwnerRef, Any]]:
    """Everything with links: what may itself be followed first."""
    yield OwnerRef(), document.defaults
    yield from ((OwnerRef(look=key), look) for key, look in document.looks.items())
    for key, scene in document.scenes.items():
        yield OwnerRef(key), scene
        yield from ((OwnerRef(key, layer_id), layer) for layer_id, layer in scene.layers.items())
    for key, group in document.groups.items():
        yield from ((OwnerRef(key, layer_id), layer) for layer_id, layer in group.layers.items())


def followed(before: Document, after: Document, into_sources: bool = False) -> Document:
    """`after` with every link true, where in `before` they were. A value that follows and was itself changed follows no longer;
    `into_sources`: its source, and all else that follows that, become what it is now. Links to what is gone, or of parts that an owner
    no longer has of its own, go; their values stay."""
    if before is after:
        return after
    if into_sources:
        for ref, owner, name, link in list(_changed_followers(before, after)):
            after = _source_changed(after, ref, values_of(owner)[name], link, values_of(owner)[name].of(owner))
    return _true(None if into_sources else before, after, _linked(before, after))


def settled(document: Document) -> Document:
    """A document from elsewhere, whose values may be otherwise than what they follow, with every link true."""
    return _true(None, document, owners_of(document))


def _true(before: Document | None, after: Document, owners: Iterable[tuple[OwnerRef, Any]]) -> Document:
    """What these owners follow, put into them. `before`: where what differs from it is a person's change."""
    for ref, owner in [(ref, owner) for ref, owner in owners if owner.links]:
        links, changed = dict(owner.links), owner
        was = owner_at(before, ref) if before else None
        for name, link in owner.links.items():
            entry = values_of(owner)[name]
            value, wanted = entry.of(owner), followed_value(after, entry, link, ref.container)
            touched = was is not None and was.links.get(name) == link and entry.of(was) != value
            if value is None or wanted is None or (touched and value != wanted):
                del links[name]
            elif value != wanted:
                changed = entry.put_into(changed, wanted)
        if links != owner.links:
            changed = changed.model_copy(update={"links": links})
        if changed is not owner:
            after = with_owner_at(after, ref, changed)
    return after


def _linked(before: Document, after: Document) -> Iterator[tuple[OwnerRef, Any]]:
    """Owners whose links may be true no longer: all, if anything that is followed changed, else those that are otherwise than before."""
    moved = any(getattr(after, name) is not getattr(before, name) for name in ("fields", "looks", "defaults", "templates"))
    moved = moved or film_use(before) != film_use(after)
    return owners_of(after) if moved else _differing(before, after)


def _differing(before: Document, after: Document) -> Iterator[tuple[OwnerRef, Any]]:
    for table in ("scenes", "groups"):
        old, new = getattr(before, table), getattr(after, table)
        if old is new:
            continue
        for key, record in new.items():
            was = old.get(key)
            if was is record:
                continue
            turned = False
            if isinstance(record, Scene):
                yield OwnerRef(key), record
                turned = was is not None and was.template != record.template
            for layer_id, layer in record.layers.items():
                if turned or was is None or was.layers.get(layer_id) is not layer:
                    yield OwnerRef(key, layer_id), layer


def _changed_followers(before: Document, after: Document) -> Iterator[tuple[OwnerRef, Scene | Layer, str, Link]]:
    """What follows and is itself otherwise than before."""
    for ref, owner in owners_of(after):
        was = owner_at(before, ref)
        if not owner.links or was is None or was is owner:
            continue
        for name, link in owner.links.items():
            entry = values_of(owner)[name]
            if was.links.get(name) == link and entry.of(owner) is not None and entry.of(owner) != entry.of(was):
                yield ref, owner, name, link


def _dial_turned(document: Document, ref: OwnerRef, link: Link, value: Value) -> Document:
    """The document with the dial that a value follows where it says `value`, as near as it comes."""
    found = dial_of(document, ref.container, link.id or "")
    at = None if found is None else dial_at(found[0], link.mapping, value)
    return document if at is None else with_dials(document, ref.container, {str(link.id): at})


def with_dials(document: Document, container: str | None, dials: Mapping[str, DialValue]) -> Document:
    """The document with dials of a scene's use of its template turned, in all scenes of that use; `container` None: of the film's."""
    scene = document.scenes.get(container or "")
    use = scene.template if scene is not None else film_use(document)
    if use is None:
        return document
    turned = {
        key: one.model_copy(update={"template": one.template.model_copy(update={"dials": {**one.template.dials, **dials}})})
        for key, one in document.scenes.items()
        if one.template is not None and one.template.use == use.use
    }
    return document.model_copy(update={"scenes": {**document.scenes, **turned}})


def _source_changed(document: Document, owned: OwnerRef, entry: Linkable, link: Link, value: Any) -> Document:
    """The document in which what `link` leads to is `value`; where that follows something itself, the end of the chain is."""
    if link.source == "dial":
        return _dial_turned(document, owned, link, value)
    if link.source == "field":
        field = document.fields.get(link.id or "")
        if field is None:
            return document
        field = field.model_copy(update={"value": LINKABLE[field.of].limited(value)})
        return document.model_copy(update={"fields": {**document.fields, str(link.id): field}})
    ref = OwnerRef(look=link.id) if link.source == "look" else OwnerRef()
    source = owner_at(document, ref)
    if source is None or entry.id not in LOOKED:
        return document
    document = with_owner_at(document, ref, entry.put_into(source, value))
    onward = source.links.get(entry.id)
    return _source_changed(document, ref, entry, onward, value) if onward else document
