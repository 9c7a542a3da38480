"""One scene at a moment: its draw list."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from math import hypot

import numpy as np

from ..document import Document, GroupLayer, Layer, PhotoLayer, Scene, ShapeLayer, in_order, resolved_shutter
from ..draw import ColourItem, DrawItem, DrawList, Focus, GroupItem, GroupShadow, LayerItem, ShadowItem, homography_of
from ..looks import Shadow, casts_of, shadow_growth, shadow_offset
from ..space import Matrix3, Matrix4, box_corners, plane_homography, translated
from .backdrops import backdrop_at
from .cameras import Seeing, lit_by, seeing_at, travel_between
from .order import Sheet, drawn_in_order
from .places import Ground, Standing, frame_ground, ground_in, moved_group, standing_photo, standing_shape
from .travels import travel_at

SHADOW_SLOPE = 0.4
"""Frame heights that the shadow of something lifted moves away from a far light, for each that it is lifted."""

SHADOW_SPREADS = 0.09
"""Frame heights by which a shadow is softer for each that its layer is lifted."""

FADES_BY_HEIGHT = 1.6
NOT_SEEN = 1e-4

Layers = Mapping[str, Layer]


def scene_at(document: Document, scene_id: str, at: int, length: int) -> DrawList:
    """The scene `at` ticks after it came on screen for `length` ticks."""
    scene = document.scenes[scene_id]
    seeing = scene_seeing(document, scene, at, length)
    shutter = _shutter_ticks(document, scene)
    later = scene_seeing(document, scene, at + shutter, length) if shutter else None
    backdrop = backdrop_at(document, scene_id, at, length, seeing, later)
    ground = frame_ground(document, seeing)
    moment = _Moment(document, at, length, shutter, None if later is None else frame_ground(document, later))
    sheets = _sheets(moment, scene.layers, ground, moment.later)
    if seeing.by_depth:
        sheets = drawn_in_order(sheets, seeing.place, seeing.frame_from_world)
    items = [item for sheet in sheets for item in _clipped(sheet)]
    shown = [*([] if backdrop is None else [backdrop]), *items, *_faded(scene, at, length)]
    return DrawList(document.frame.aspect, tuple(shown))


def _faded(scene: Scene, at: int, length: int) -> Iterator[DrawItem]:
    """Colours that the scene fades from and to, over all of it."""
    for fade, since in ((scene.fade_in, at), (scene.fade_out, length - at)):
        if fade is not None and since < fade.length:
            yield GroupItem((ColourItem(fade.colour),), 1.0 - max(since, 0) / fade.length)


def scene_seeing(document: Document, scene: Scene, at: int, length: int) -> Seeing:
    """How the scene's camera sees it at a moment, on its travel if it has one."""
    return seeing_at(document, scene, at, length, travel_at(document, scene, at, length))


def _shutter_ticks(document: Document, scene: Scene) -> int:
    """How long a frame is exposed, in the scene's own time."""
    return round(document.frame.frame_rate.frame_ticks * resolved_shutter(document, scene) / 360.0 * scene.speed)


class _Moment:
    """What all layers of a scene share: the time, how long it is exposed, and the ground as it is when the shutter closes."""

    __slots__ = ("at", "document", "later", "length", "shutter")

    def __init__(self, document: Document, at: int, length: int, shutter: int, later: Ground | None):
        self.document, self.at, self.length, self.shutter, self.later = document, at, length, shutter, later


def _sheets(
    moment: _Moment, layers: Layers, ground: Ground, later: Ground | None, parent: str | None = None, shown: frozenset[str] | None = None
) -> list[Sheet]:
    """What the layers whose parent is `parent` show, lowest first. `shown`: ids that are not kept out by another's solo."""
    shown = shown_layers(layers) if shown is None else shown
    found: list[Sheet] = []
    for layer_id, layer in in_order(layers):
        if layer.parent != parent or layer.hidden or layer_id not in shown:
            continue
        if isinstance(layer, GroupLayer):
            found.extend(_group(moment, layers, layer_id, layer, ground, later, shown))
            continue
        standing = _standing(moment.document, layer, moment.at, moment.length, ground)
        if standing.opacity <= NOT_SEEN:
            continue
        after = None
        if later is not None:
            after = _standing(moment.document, layer, moment.at + moment.shutter, moment.length, later)
        found.append(_sheet(moment, standing, after, layer, ground, later))
    return found


def _standing(document: Document, layer: PhotoLayer | ShapeLayer, at: int, length: int, ground: Ground) -> Standing:
    if isinstance(layer, PhotoLayer):
        return standing_photo(document, layer, at, length, ground)
    return standing_shape(document, layer, at, length, ground)


def _sheet(
    moment: _Moment, standing: Standing, after: Standing | None, layer: PhotoLayer | ShapeLayer, ground: Ground, later: Ground | None
) -> Sheet:
    seeing = ground.seeing
    travel = None if after is None else travel_between(standing.frame_from_plane, after.frame_from_plane)
    focus = None if seeing.focus is None else Focus(seeing.focus.k, seeing.focus.at / seeing.home)
    items: list[DrawItem] = list(_shadows(standing, after, moment.document.frame.aspect, ground, later))
    items.append(
        LayerItem(
            standing.content,
            homography_of(standing.frame_from_plane),
            standing.opacity,
            layer.blend,
            blur=standing.blur,
            focus=focus,
            travel=travel,
            lit=lit_by(seeing, standing.world_from_plane, moment.document.frame.aspect),
        )
    )
    outline = box_corners(*standing.content.sheet)
    return Sheet(tuple(items), outline, standing.world_from_plane, layer.placement.z + standing.lifted, ground)


def _clipped(sheet: Sheet) -> list[DrawItem]:
    if sheet.clip is None:
        return list(sheet.item)
    return [replace(item, clip=sheet.clip) if isinstance(item, LayerItem) else item for item in sheet.item]


def shown_layers(layers: Layers) -> frozenset[str]:
    """Ids of the layers that solo leaves in sight: all, or the solo ones with what they are in and what is in them."""
    solo = {k for k, layer in layers.items() if layer.solo}
    if not solo:
        return frozenset(layers)

    def above(layer_id: str) -> set[str]:
        parent = layers[layer_id].parent
        return {layer_id} | (above(parent) if parent is not None and parent in layers else set())

    return frozenset(k for k in layers if above(k) & solo).union(*(above(k) for k in solo))


def _group(
    moment: _Moment, layers: Layers, layer_id: str, layer: GroupLayer, ground: Ground, later: Ground | None, shown: frozenset[str]
) -> list[Sheet]:
    document = moment.document
    now = moved_group(document, layer, moment.at, moment.length)
    if now.opacity <= NOT_SEEN:
        return []
    inner = ground_in(document, ground, now)
    after = None if later is None else ground_in(document, later, moved_group(document, layer, moment.at + moment.shutter, moment.length))
    if layer.shared is not None:
        sheets = _sheets(moment, document.groups[layer.shared].layers, inner, after)
    else:
        sheets = _sheets(moment, layers, inner, after, layer_id, shown)
    shadows = () if layer.shadow is None else _group_shadows(layer.shadow, document.frame.aspect, inner, ground)
    if not sheets or (now.opacity >= 1.0 and layer.blend == "normal" and not shadows and now.mask is None and not now.blur):
        return sheets
    inside = drawn_in_order(sheets, ground.seeing.place, ground.seeing.frame_from_world) if ground.seeing.by_depth else sheets
    items = tuple(item for sheet in inside for item in _clipped(sheet))
    seen = homography_of(plane_homography(inner.frame_from_ground))
    on_ground = np.linalg.inv(inner.world_from_ground)
    corners = np.concatenate([np.column_stack([s.corners, np.ones(len(s.corners))]) @ on_ground.T for s in sheets])
    (left, top), (right, bottom) = corners[:, :2].min(axis=0), corners[:, :2].max(axis=0)
    outline = box_corners(float(left), float(top), float(right), float(bottom))
    group = GroupItem(items, now.opacity, layer.blend, shadows, now.mask, seen, now.blur)
    return [Sheet((group,), outline, inner.world_from_ground, now.placement.z, ground, whole=True)]


def _shadows(standing: Standing, after: Standing | None, aspect: float, ground: Ground, later: Ground | None) -> list[ShadowItem]:
    """The outline moved away from the light on its ground, so turning the layer does not turn its shadow; lifted, it goes farther."""
    if standing.shadow is None:
        return []
    shadow, found = _lit_shadow(standing.shadow, ground.seeing), list[ShadowItem]()
    plane_per_ground = standing.plane_scale / standing.shadow_scale
    for cast in casts_of(shadow):
        seen = _thrown_plane(shadow, cast.distance * standing.shadow_scale, standing, ground, aspect)
        moved = None
        if after is not None and later is not None:
            moved = travel_between(seen, _thrown_plane(shadow, cast.distance * standing.shadow_scale, after, later, aspect))
        found.append(
            ShadowItem(
                content=standing.content,
                frame_from_plane=homography_of(seen),
                softness=cast.softness * standing.plane_scale + standing.lifted * SHADOW_SPREADS * plane_per_ground,
                spread=cast.spread * standing.plane_scale,
                colour=shadow.colour,
                opacity=cast.opacity * standing.opacity / (1.0 + FADES_BY_HEIGHT * standing.lifted),
                travel=moved,
            )
        )
    return found


def _lit_shadow(shadow: Shadow, seeing: Seeing) -> Shadow:
    """The shadow in the scene's light, if it has one."""
    light = seeing.light
    if light is None:
        return shadow
    update = {"light": "position", "light_x": light.x, "light_y": light.y, "light_height": max(light.z, 0.2)}
    return shadow.model_copy(update=update)


def _thrown_plane(shadow: Shadow, distance: float, standing: Standing, ground: Ground, aspect: float) -> Matrix3:
    """(3, 3): the layer's plane to where its shadow is seen."""
    thrown = _thrown(shadow, distance, standing.lifted, aspect, ground)
    world = thrown @ standing.world_from_plane
    return plane_homography(ground.seeing.frame_from_world @ world)


def _thrown(shadow: Shadow, distance: float, lifted: float, aspect: float, ground: Ground) -> Matrix4:
    """(4, 4) in the world: a layer that rests `distance` above its ground, and is `lifted` more, to its shadow on the ground."""
    down = ground.world_from_ground[:3, 2]
    down = down / max(float(np.linalg.norm(down)), 1e-9) * lifted * ground.scale
    if shadow.light == "direction":
        x, y = shadow_offset(shadow, distance * ground.scale)
        if lifted:
            far = hypot(x, y)
            unit = (x / far, y / far) if far > 1e-9 else shadow_offset(shadow, 1.0)
            x, y = x + unit[0] * SHADOW_SLOPE * lifted, y + unit[1] * SHADOW_SLOPE * lifted
        return translated(x - float(down[0]), y - float(down[1]), -float(down[2]))
    grown = shadow_growth(shadow, distance * ground.scale + lifted)
    lamp_x, lamp_y = shadow.light_x * aspect, shadow.light_y
    matrix = translated(lamp_x * (1.0 - grown) - float(down[0]), lamp_y * (1.0 - grown) - float(down[1]), -float(down[2]))
    matrix[0, 0] = matrix[1, 1] = grown
    return matrix


def _group_shadows(shadow: Shadow, aspect: float, inner: Ground, ground: Ground) -> tuple[GroupShadow, ...]:
    shadow, found = _lit_shadow(shadow, ground.seeing), []
    for cast in casts_of(shadow):
        thrown = _thrown(shadow, cast.distance * inner.scale / ground.scale, 0.0, aspect, ground)
        before = plane_homography(inner.frame_from_ground) @ (0.0, 0.0, 1.0)
        after = plane_homography(ground.seeing.frame_from_world @ thrown @ inner.world_from_ground) @ (0.0, 0.0, 1.0)
        x, y = (float(after[i] / after[2] - before[i] / before[2]) for i in (0, 1))
        found.append(GroupShadow(x, y, cast.softness * inner.scale, shadow.colour, cast.opacity))
    return tuple(found)
