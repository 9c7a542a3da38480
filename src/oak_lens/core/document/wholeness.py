"""What a document names must be there: pictures, looks, moves, groups, and what its links follow."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from ..looks import Backdrop
from ..moves import BEYOND, SHIPPED, MoveUse
from .layers import KIND_OF, LAYER_PROPERTIES, GroupLayer, Layer
from .links import LINKABLE, followed_value, sources_of, values_of
from .properties import known_lanes
from .remembered import ByRecord
from .scenes import SCENE_PROPERTIES, Scene

if TYPE_CHECKING:
    from .models import Document, SharedGroup

TABLES: Mapping[str, str] = {"media": "picture", "looks": "look", "styles": "text style", "groups": "shared group", "moves": "move"}
"""What a record of each table is called."""


def broken_links(document: "Document") -> list[str]:
    """Sentences about everything a document names that is not there, and about groups that hold themselves."""
    found: list[str] = []

    def missing(path: str, what: str) -> None:
        found.append(f"at {path} a {what} is named that the document does not list")

    def backdrop(path: str, value: Backdrop | None) -> None:
        if value is not None and value.media is not None and value.media not in document.media:
            missing(f"{path}.media", "picture")

    backdrop("defaults.backdrop", document.defaults.backdrop)
    for look_id, look in document.looks.items():
        backdrop(f"looks.{look_id}.backdrop", look.backdrop)
    if document.defaults.look is not None and document.defaults.look not in document.looks:
        missing("defaults.look", "look")
    for move_id, move in document.moves.items():
        try:
            known_lanes({k: v for k, v in move.lanes.items() if k not in BEYOND}, {**LAYER_PROPERTIES, **SCENE_PROPERTIES})
        except ValueError as error:
            found.append(f"at moves.{move_id}.lanes {error}")

    for song_id, song in document.songs.items():
        if song.sound not in document.sounds:
            missing(f"songs.{song_id}.sound", "sound")
    tables: dict[str, Mapping[str, Any]] = {name: getattr(document, name) for name in TABLES}
    for root, containers in (("scenes", document.scenes), ("groups", document.groups)):
        for key, container in containers.items():
            named = _named.of(container)
            for table, name, path in named.elsewhere:
                if name not in tables[table] and not (table == "moves" and name in SHIPPED):
                    missing(f"{root}.{key}.{path}", TABLES[table])
            found += (f"at {root}.{key}.{sentence}" for sentence in named.faults)
            if named.zoned and isinstance(container, Scene):
                found += _unknown_zones(document, key, container)
    for group_id in document.groups:
        if group_id in document.scenes:
            found.append(f"at groups.{group_id} a shared group has the id of a scene")
        if group_id in _shared_within(document, group_id, frozenset()):
            found.append(f"at groups.{group_id} a shared group holds itself")
    return found


@dataclass(frozen=True, slots=True)
class _Named:
    """What a scene or a shared group names: (table, id, path) of what is elsewhere, sentences about what is wrong in it by itself, and whether it
    is made by a template."""

    elsewhere: tuple[tuple[str, str, str], ...]
    faults: tuple[str, ...]
    zoned: bool


def _named_in(container: "Scene | SharedGroup") -> _Named:
    named: list[tuple[str, str | None, str]] = []
    faults: list[str] = []
    zoned = False
    if isinstance(container, Scene):
        zoned = container.template is not None or container.backdrop_zone is not None or any(getattr(v, "zone", None) for v in container.layers.values())
        named.append(("media", None if container.backdrop is None else container.backdrop.media, "backdrop.media"))
        named.append(("moves", None if container.camera_move is None else container.camera_move.move, "camera_move.move"))
        for stop_id, stop in (container.travel.stops if container.travel else {}).items():
            if stop.layer is not None and stop.layer not in container.layers:
                faults.append(f"travel.stops.{stop_id}.layer a layer is named that the document does not list")
    for layer_id, layer in container.layers.items():
        path = f"layers.{layer_id}"
        uses: tuple[tuple[str, MoveUse | None], ...] = tuple((slot, getattr(layer, slot)) for slot in ("move", "entrance", "exit"))
        named += (("moves", use.move, f"{path}.{slot}.move") for slot, use in uses if use is not None)
        named += ((table, getattr(layer, name), f"{path}.{name}") for name, table in KIND_OF[layer.kind].named)
        if layer.parent is not None and not _is_inside_groups(container.layers, layer_id):
            faults.append(f"{path}.parent must stand a group of the same scene that does not hold itself")
    return _Named(tuple((table, name, path) for table, name, path in named if name is not None), tuple(faults), zoned)


_named: "ByRecord[Scene | SharedGroup, _Named]" = ByRecord(_named_in, 20_000)


def _unknown_zones(document: "Document", scene_id: str, scene: Scene) -> Iterator[str]:
    """Sentences about what a scene is made by that is not there, and about zones that are not there or take something else."""
    template = document.templates.get(scene.template.template) if scene.template else None
    if scene.template is not None and template is None:
        yield f"at scenes.{scene_id}.template a template is named that the document does not list"
    elif scene.template is not None and template is not None and scene.template.part not in template.scenes:
        yield f"at scenes.{scene_id}.template.part a scene is named that its template does not list"
    named = [("backdrop_zone", scene.backdrop_zone, "photo")]
    named += [(f"layers.{k}.zone", getattr(layer, "zone", None), layer.kind) for k, layer in scene.layers.items()]
    for path, zone, kind in named:
        known = template.zones.get(zone) if template is not None and zone is not None else None
        if zone is not None and (known is None or known.takes == "song" or (known.takes == "text") != (kind == "text")):
            yield f"at scenes.{scene_id}.{path} a zone is named that its template does not list, or one of something else"


def wrong_links(document: "Document") -> list[str]:
    """Sentences about fields that are nothing's, and about links of values that are not there, or to sources that are not there."""
    found = []
    for key, field in document.fields.items():
        entry = LINKABLE.get(field.of)
        if entry is None:
            found.append(f"at fields.{key}.of stands no value that others could follow")
        elif not entry.is_measured or not entry.fits(field.value):
            found.append(f"at fields.{key}.value stands nothing that {entry.spec.label.lower()} can be")

    def check(path: str, owner: Any, container: str | None = None) -> None:
        known = values_of(owner)
        for name, link in owner.links.items():
            entry = known.get(name)
            if entry is None or entry.of(owner) is None:
                found.append(f"at {path}.links.{name} there is no value of its own that could follow another")
            elif link.source not in sources_of(owner) or followed_value(document, entry, link, container) is None:
                found.append(f"at {path}.links.{name} a source is named that is not there")

    check("defaults", document.defaults)
    for look_id, look in document.looks.items():
        check(f"looks.{look_id}", look)
    for scene_id, scene in document.scenes.items():
        check(f"scenes.{scene_id}", scene, scene_id)
    for root, layers in _layer_maps(document):
        for layer_id, layer in layers.items():
            check(f"{root}.layers.{layer_id}", layer, root.partition(".")[2])
    return found


def _layer_maps(document: "Document") -> Iterator[tuple[str, Mapping[str, Layer]]]:
    for scene_id, scene in document.scenes.items():
        yield f"scenes.{scene_id}", scene.layers
    for group_id, group in document.groups.items():
        yield f"groups.{group_id}", group.layers


def _is_inside_groups(layers: Mapping[str, Layer], layer_id: str) -> bool:
    """Whether the chain of parents ends at the top and has own groups only."""
    seen = {layer_id}
    parent = layers[layer_id].parent
    while parent is not None:
        group = layers.get(parent)
        if parent in seen or not isinstance(group, GroupLayer) or group.shared is not None:
            return False
        seen.add(parent)
        parent = group.parent
    return True


def _shared_within(document: "Document", group_id: str, above: frozenset[str]) -> frozenset[str]:
    """Ids of the shared groups reached from one."""
    group = document.groups.get(group_id)
    if group is None or group_id in above:
        return frozenset()
    direct = {layer.shared for layer in group.layers.values() if isinstance(layer, GroupLayer) and layer.shared}
    return frozenset(direct).union(*(_shared_within(document, d, above | {group_id}) for d in direct))
