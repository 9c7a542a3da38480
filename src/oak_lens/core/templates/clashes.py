"""What a template brings along under ids that a film uses for something else."""

from typing import Any

from ..document import Document, GroupLayer, Layer, PhotoLayer, Scene, TextLayer
from .content import TemplateContent

BROUGHT = ("media", "moves", "fonts", "groups")
"""Tables of a document that a template's scenes name records of."""


def without_clashes(document: Document, content: TemplateContent) -> TemplateContent:
    """The content, in which what it brings along has other ids where the document has something else by them."""
    ids: dict[str, dict[str, str]] = {}
    for table in BROUGHT:
        own = getattr(document, table)
        brought = {k: r for k, r in getattr(content.document, table).items() if k in own and not getattr(r, "placeholder", 0)}
        ids[table] = {k: f"{k[:40]}-{content.key[:12]}" for k, r in brought.items() if _same(own[k]) != _same(r)}
    if not any(ids.values()):
        return content
    there = content.document
    tables = {table: {renamed.get(k, k): r for k, r in getattr(there, table).items()} for table, renamed in ids.items()}
    tables["groups"] = {k: g.model_copy(update={"layers": {n: _renamed(layer, ids) for n, layer in g.layers.items()}}) for k, g in tables["groups"].items()}
    scenes = {k: _renamed_scene(scene, ids) for k, scene in there.scenes.items()}
    return TemplateContent(there.model_copy(update={**tables, "scenes": scenes}), content.id, content.version)


def _same(record: Any) -> Any:
    """What two records have alike that are the same: all but where they stand."""
    return record.model_copy(update={"order": "V"}) if hasattr(record, "order") else record


def _renamed_scene(scene: Scene, ids: dict[str, dict[str, str]]) -> Scene:
    update: dict[str, Any] = {"layers": {k: _renamed(layer, ids) for k, layer in scene.layers.items()}}
    if scene.backdrop is not None and scene.backdrop.media in ids["media"]:
        update["backdrop"] = scene.backdrop.model_copy(update={"media": ids["media"][scene.backdrop.media]})
    if scene.camera_move is not None and scene.camera_move.move in ids["moves"]:
        update["camera_move"] = scene.camera_move.model_copy(update={"move": ids["moves"][scene.camera_move.move]})
    return scene.model_copy(update=update)


def _renamed(layer: Layer, ids: dict[str, dict[str, str]]) -> Layer:
    update: dict[str, Any] = {}
    for slot in ("move", "entrance", "exit"):
        use = getattr(layer, slot)
        if use is not None and use.move in ids["moves"]:
            update[slot] = use.model_copy(update={"move": ids["moves"][use.move]})
    if isinstance(layer, PhotoLayer):
        update["media"] = ids["media"].get(layer.media, layer.media)
    elif isinstance(layer, GroupLayer) and layer.shared is not None:
        update["shared"] = ids["groups"].get(layer.shared, layer.shared)
    elif isinstance(layer, TextLayer):
        if layer.setting is not None:
            update["setting"] = layer.setting.model_copy(update={"family": ids["fonts"].get(layer.setting.family, layer.setting.family)})
        update["text"] = tuple(span.model_copy(update={"family": ids["fonts"].get(span.family or "", span.family)}) for span in layer.text)
    return layer.model_copy(update=update)
