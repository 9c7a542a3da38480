"""What the picture of a scene depends on: whatever is not named here can change without it looking any different."""

from collections.abc import Iterator, Mapping

from pydantic import BaseModel

from ..document import KIND_OF, Document, Layer, TextLayer, details_told, filled, naming_details, remembered, resolved_backdrop, shared_of
from ..document.layers import Table
from .backdrops import SurfaceRun, surface_run

NOT_SEEN: dict[str, frozenset[str]] = {
    "Scene": frozenset({"name", "order", "hold", "join", "links", "template", "backdrop_zone"}),
    "Defaults": frozenset({"hold", "join", "links"}),
    "Media": frozenset({"name", "file", "order", "description", "placeholder"}),
    "Look": frozenset({"name", "links"}),
    "Move": frozenset({"name"}),
    "TextStyle": frozenset({"name"}),
    "OwnFont": frozenset({"name", "family", "weight", "italic"}),
}
"""Fields of the records below that show in no frame of a scene (its joins and its length apart)."""


class Said(BaseModel):
    """What texts say that name details from elsewhere."""

    words: tuple[str, ...]


@remembered
def told_in(document: Document) -> Mapping[str, tuple[str, ...]]:
    """What scenes tell of the rest of the document, and may tell otherwise without having been changed: by scene, those of shared groups too."""
    told = details_told(document)
    groups = {key for key, group in document.groups.items() if key in told or any(map(shared_of, group.layers.values()))}
    found = {}
    for key, scene in document.scenes.items():
        words = told.get(key, ())
        if groups and any(shared_of(layer) in groups for layer in scene.layers.values()):
            words = tuple(filled(document, layer, key).text for layer in naming_details(_layers(document, scene.layers, {})))
        if words:
            found[key] = words
    return found


def seen_in(document: Document, scene_id: str) -> tuple[tuple[BaseModel, ...], SurfaceRun | None]:
    """Records that `scene_at` reads for a scene, besides the length of its time; and the surface it runs on from.

    Of these, fields in `NOT_SEEN` do not matter.
    """
    scene = document.scenes[scene_id]
    backdrop = resolved_backdrop(document, scene)
    found: list[BaseModel] = [document.frame, document.defaults, scene]
    pictures = {backdrop.media} if backdrop.media else set()
    looks = {document.defaults.look} if document.defaults.look else set()
    reached: dict[Table, set[str]] = {"media": pictures, "looks": looks, "styles": set(), "groups": set()}
    moves = {scene.camera_move.move} if scene.camera_move else set()
    groups: dict[str, None] = {}
    all_layers = list(_layers(document, scene.layers, groups))
    for layer in all_layers:
        moves |= {use.move for use in (layer.move, layer.entrance, layer.exit) if use is not None}
        for name, table in KIND_OF[layer.kind].named:
            if (named := getattr(layer, name)) is not None:
                reached[table].add(named)
    found += [document.groups[k] for k in groups]
    styles = reached["styles"]
    if any(isinstance(layer, TextLayer) for layer in all_layers):
        found += [font for _, font in sorted(document.fonts.items())]
    for records, named in ((document.looks, looks), (document.styles, styles), (document.moves, moves), (document.media, pictures)):
        found += [records[k] for k in sorted(named) if k in records]
    if telling := list(naming_details(all_layers)):
        found.append(Said(words=tuple(filled(document, layer, scene_id).text for layer in telling)))
    return tuple(found), surface_run(document, scene_id, backdrop) if backdrop.kind == "surface" else None


def _layers(document: Document, layers: Mapping[str, Layer], groups: dict[str, None]) -> Iterator[Layer]:
    """All layers, those of shared groups too, whose ids are added to `groups`."""
    for layer in layers.values():
        yield layer
        shared = shared_of(layer)
        if shared is not None and shared not in groups:
            groups[shared] = None
            yield from _layers(document, document.groups[shared].layers, groups)
