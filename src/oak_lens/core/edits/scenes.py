"""Edits of the run sheet: scenes added, removed, moved, duplicated, timed and joined."""

from typing import Annotated, Any

from pydantic import Field

from ..document import Document, Fade, Join, PhotoLayer, Scene, in_order, resolved_backdrop, resolved_hold, resolved_join, view_lane
from ..document.records import LONGEST_TICKS, SHORTEST_HOLD, HoldTicks, Id, Name, Speed
from ..errors import Fault, InvalidEdit
from ..framing import chosen_fit, suggested_views
from ..stage import CameraRig, Light
from .layers import checked
from .positions import orders_before
from .registry import Edit, EditSpec, fresh, merged, scene_of, with_scenes
from .views import wish_for

FIRST_LAYER = "photo"


class NewScene(Edit):
    id: Id
    media: Id


class AddScenes(Edit):
    """One scene per picture, before scene `before` or at the end, each with a suggested opening and closing view."""

    scenes: list[NewScene] = Field(min_length=1, max_length=5000)
    before: Id | None = None


def add_scenes(document: Document, edit: AddScenes) -> Document:
    fresh({**document.scenes, **document.groups}, (s.id for s in edit.scenes), "scenes")
    orders = orders_before(document.scenes, edit.before, len(edit.scenes))
    added: dict[str, Scene | None] = {}
    for number, (new, order) in enumerate(zip(edit.scenes, orders, strict=True), start=len(document.scenes)):
        picture = document.media.get(new.media)
        if picture is None:
            raise InvalidEdit([Fault("edit.no_picture", f"media.{new.media}", "There is no such picture on the contact sheet.")])
        aspect = document.frame.aspect
        fit = chosen_fit(document.defaults.fit, picture.aspect, aspect)
        views = suggested_views(fit, picture, aspect, wish_for(document, picture, document.defaults.hold, number, 0))
        layer = PhotoLayer(media=new.media, name=picture.name, view=view_lane(*views))
        added[new.id] = Scene(order=order, name=picture.name[:300], layers={FIRST_LAYER: layer})
    return with_scenes(document, added)


class SceneIds(Edit):
    ids: list[Id] = Field(min_length=1)


def remove_scenes(document: Document, edit: SceneIds) -> Document:
    for scene_id in edit.ids:
        scene_of(document, scene_id)
    return with_scenes(document, dict.fromkeys(edit.ids))


class MoveScenes(SceneIds):
    """Put scenes before scene `before`, or at the end, in the order they have now."""

    before: Id | None = None


def move_scenes(document: Document, edit: MoveScenes) -> Document:
    for scene_id in edit.ids:
        scene_of(document, scene_id)
    moving = [k for k, _ in in_order(document.scenes) if k in set(edit.ids)]
    rest = {k: v for k, v in document.scenes.items() if k not in set(moving)}
    orders = orders_before(rest, edit.before, len(moving))
    return with_scenes(document, {k: document.scenes[k].model_copy(update={"order": o}) for k, o in zip(moving, orders, strict=True)})


class SceneCopy(Edit):
    """`id` of the scene to copy, `copy_id` of the new one."""

    id: Id
    copy_id: Id


class DuplicateScenes(Edit):
    """Each copy stands right behind its original."""

    copies: list[SceneCopy] = Field(min_length=1)


def duplicate_scenes(document: Document, edit: DuplicateScenes) -> Document:
    fresh({**document.scenes, **document.groups}, (c.copy_id for c in edit.copies), "scenes")
    for entry in edit.copies:
        scene = scene_of(document, entry.id)
        listed = [k for k, _ in in_order(document.scenes)]
        position = listed.index(entry.id) + 1
        (order,) = orders_before(document.scenes, listed[position] if position < len(listed) else None, 1)
        update = {"order": order, "template": scene.template and scene.template.model_copy(update={"round": _next_round(document)})}
        document = with_scenes(document, {entry.copy_id: scene.model_copy(update=update)})
    return document


def _next_round(document: Document) -> int:
    """A turn of its own for a copy: its zones are filled by themselves."""
    return 1 + max((scene.template.round for scene in document.scenes.values() if scene.template is not None), default=0)


class SetScenes(SceneIds):
    """Change what is given on every scene named; an explicit null goes back to the project's default.

    `speed` changes the hold along, so that the scene shows as much of itself as before, unless a hold is given, too.
    """

    name: Name | None = None
    hold: HoldTicks | None = None
    speed: Speed | None = None
    join: dict[str, Any] | None = None
    backdrop: dict[str, Any] | None = None
    camera: dict[str, Any] | None = None
    light: dict[str, Any] | None = None
    shutter: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)] | None = None
    fade_in: dict[str, Any] | None = None
    fade_out: dict[str, Any] | None = None


def set_scenes(document: Document, edit: SetScenes) -> Document:
    changed: dict[str, Scene | None] = {}
    for scene_id in edit.ids:
        scene = scene_of(document, scene_id)
        update: dict[str, Any] = {}
        if edit.name is not None:
            update["name"] = edit.name
        if edit.speed is not None:
            shown = round(resolved_hold(document, scene) * scene.speed / edit.speed)
            update |= {"speed": edit.speed, "hold": min(max(shown, SHORTEST_HOLD), LONGEST_TICKS)}
        if "hold" in edit.model_fields_set:
            update["hold"] = edit.hold
        if "join" in edit.model_fields_set:
            update["join"] = None if edit.join is None else _join(document, scene, edit.join, f"scenes.{scene_id}.join")
        if "backdrop" in edit.model_fields_set:
            update["backdrop"] = (
                None if edit.backdrop is None else merged(resolved_backdrop(document, scene), edit.backdrop, f"scenes.{scene_id}.backdrop")
            )
        if "camera" in edit.model_fields_set:
            update["camera"] = CameraRig() if edit.camera is None else merged(scene.camera, edit.camera, f"scenes.{scene_id}.camera")
        if "light" in edit.model_fields_set:
            update["light"] = None if edit.light is None else merged(scene.light or Light(), edit.light, f"scenes.{scene_id}.light")
        if "shutter" in edit.model_fields_set:
            update["shutter"] = edit.shutter
        for fade in ("fade_in", "fade_out"):
            if fade in edit.model_fields_set:
                partial = getattr(edit, fade)
                update[fade] = None if partial is None else merged(getattr(scene, fade) or Fade(), partial, f"scenes.{scene_id}.{fade}")
        changed[scene_id] = scene.model_copy(update=update)
    return checked(with_scenes(document, changed))


def _join(document: Document, scene: Scene, partial: dict[str, Any], path: str) -> Join:
    return merged(resolved_join(document, scene), partial, path)


SCENE_EDITS = (
    EditSpec("add_scenes", "Add scenes", AddScenes, add_scenes),
    EditSpec("remove_scenes", "Delete scenes", SceneIds, remove_scenes),
    EditSpec("move_scenes", "Move scenes", MoveScenes, move_scenes),
    EditSpec("duplicate_scenes", "Duplicate scenes", DuplicateScenes, duplicate_scenes),
    EditSpec("set_scenes", "Change scenes", SetScenes, set_scenes, keyed=True),
)
