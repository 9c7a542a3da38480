"""One scene at a moment: its draw list."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from math import hypot

import numpy as np

from ..document import Document, GroupLayer, Scene, resolved_shutter
from ..draw import ColourItem, DrawItem, DrawList, Focus, GroupItem, GroupShadow, LayerItem, Lettering, ShadowItem, homography_of
from ..looks import Shadow, casts_of, shadow_growth, shadow_offset
from ..space import Matrix3, Matrix4, box_corners, plane_homography, translated
from .backdrops import backdrop_at
from .cameras import Seeing, lit_by, travel_between
from .lettering import with_closing
from .order import Sheet, drawn_in_order
from .staging import Placed, staged
from .standing import Ground, Standing

SHADOW_SLOPE = 0.4
"""Frame heights that the shadow of something lifted moves away from a far light, for each that it is lifted."""

SHADOW_SPREADS = 0.09
"""Frame heights by which a shadow is softer for each that its layer is lifted."""

FADES_BY_HEIGHT = 1.6
NOT_SEEN = 1e-4


def scene_at(document: Document, scene_id: str, at: int, length: int) -> DrawList:
    """The scene `at` ticks after it came on screen for `length` ticks."""
    scene = document.scenes[scene_id]
    shutter = _shutter_ticks(document, scene)
    now = staged(document, scene_id, at, length, in_sight_only=True)
    later = staged(document, scene_id, at + shutter, length, in_sight_only=True) if shutter else None
    seeing = now.seeing
    backdrop = backdrop_at(document, scene_id, at, length, seeing, None if later is None else later.seeing)
    sheets = _sheets(document.frame.aspect, now.layers, None if later is None else later.layers)
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


def _shutter_ticks(document: Document, scene: Scene) -> int:
    """How long a frame is exposed, in the scene's own time."""
    return round(document.frame.frame_rate.frame_ticks * resolved_shutter(document, scene) / 360.0 * scene.speed)


def _sheets(aspect: float, layers: Sequence[Placed], later: Sequence[Placed] | None) -> list[Sheet]:
    """What layers show, lowest first. `later`: the same layers as they are when the shutter closes."""
    found: list[Sheet] = []
    closing: Sequence[Placed | None] = [None] * len(layers) if later is None else later
    for placed, after in zip(layers, closing, strict=True):
        if placed.standing is None:
            found.extend(_group(aspect, placed, after))
        elif placed.standing.opacity > NOT_SEEN:
            found.append(_sheet(aspect, placed, placed.standing, after))
    return found


def _sheet(aspect: float, placed: Placed, standing: Standing, after: Placed | None) -> Sheet:
    seeing, closing = placed.ground.seeing, None if after is None else after.standing
    if closing is not None and isinstance(standing.content, Lettering) and isinstance(closing.content, Lettering):
        standing = replace(standing, content=with_closing(standing.content, closing.content))
    travel = None if after is None else travel_between(standing.frame_from_plane, after.frame_from_plane)
    focus = None if seeing.focus is None else Focus(seeing.focus.k, seeing.focus.at / seeing.home)
    items: list[DrawItem] = list(_shadows(aspect, standing, placed.ground, after))
    items.append(
        LayerItem(
            standing.content,
            homography_of(standing.frame_from_plane),
            standing.opacity,
            placed.layer.blend,
            blur=standing.blur,
            focus=focus,
            travel=travel,
            lit=lit_by(seeing, standing.world_from_plane, aspect),
        )
    )
    outline = box_corners(*standing.content.sheet)
    return Sheet(tuple(items), outline, standing.world_from_plane, placed.layer.placement.z + standing.lifted, placed.ground)


def _clipped(sheet: Sheet) -> list[DrawItem]:
    if sheet.clip is None:
        return list(sheet.item)
    return [replace(item, clip=sheet.clip) if isinstance(item, LayerItem) else item for item in sheet.item]


def _group(aspect: float, placed: Placed, after: Placed | None) -> list[Sheet]:
    """What is in a group: by itself, or, where it fades, blends, is masked or casts a shadow, as one."""
    now, ground, inner = placed.now, placed.ground, placed.inner
    assert inner is not None
    if now.opacity <= NOT_SEEN:
        return []
    sheets = _sheets(aspect, placed.inside, None if after is None else after.inside)
    shadow = now.shadow if isinstance(now, GroupLayer) else None
    shadows = () if shadow is None else _group_shadows(shadow, aspect, inner, ground)
    if not sheets or (now.opacity >= 1.0 and now.blend == "normal" and not shadows and now.mask is None and not now.blur):
        return sheets
    inside = drawn_in_order(sheets, ground.seeing.place, ground.seeing.frame_from_world) if ground.seeing.by_depth else sheets
    items = tuple(item for sheet in inside for item in _clipped(sheet))
    on_ground = np.linalg.inv(inner.world_from_ground)
    corners = np.concatenate([np.column_stack([s.corners, np.ones(len(s.corners))]) @ on_ground.T for s in sheets])
    (left, top), (right, bottom) = corners[:, :2].min(axis=0), corners[:, :2].max(axis=0)
    outline = box_corners(float(left), float(top), float(right), float(bottom))
    group = GroupItem(items, now.opacity, now.blend, shadows, now.mask, homography_of(placed.frame_from_plane), now.blur)
    return [Sheet((group,), outline, inner.world_from_ground, now.placement.z, ground, whole=True)]


def _shadows(aspect: float, standing: Standing, ground: Ground, after: Placed | None) -> list[ShadowItem]:
    """The outline moved away from the light on its ground, so turning the layer does not turn its shadow; lifted, it goes farther."""
    if standing.shadow is None:
        return []
    shadow, found = _lit_shadow(standing.shadow, ground.seeing), list[ShadowItem]()
    plane_per_ground = standing.plane_scale / standing.shadow_scale
    for cast in casts_of(shadow):
        seen = _thrown_plane(shadow, cast.distance * standing.shadow_scale, standing, ground, aspect)
        moved = None
        if after is not None and after.standing is not None:
            closing = _thrown_plane(shadow, cast.distance * standing.shadow_scale, after.standing, after.ground, aspect)
            moved = travel_between(seen, closing)
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
