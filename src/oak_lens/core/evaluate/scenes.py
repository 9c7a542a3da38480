"""One scene at a moment: its draw list."""

from collections.abc import Mapping

import numpy as np

from ..document import Document, GroupLayer, Layer, PhotoLayer, in_order
from ..draw import DrawItem, DrawList, GroupItem, GroupShadow, LayerItem, ShadowItem, homography_of
from ..looks import Shadow, casts_of, shadow_growth, shadow_offset
from ..space import Matrix3, plane_homography, similarity
from .backdrops import backdrop_at
from .places import Ground, Standing, frame_ground, ground_in, standing_photo, standing_shape


def scene_at(document: Document, scene_id: str, at: int, length: int) -> DrawList:
    """The scene `at` ticks after it came on screen for `length` ticks."""
    backdrop = backdrop_at(document, scene_id, at, length)
    items = layers_at(document, document.scenes[scene_id].layers, at, length, frame_ground(document))
    return DrawList(document.frame.aspect, tuple(items if backdrop is None else [backdrop, *items]))


def layers_at(
    document: Document,
    layers: Mapping[str, Layer],
    at: int,
    length: int,
    ground: Ground,
    parent: str | None = None,
    shown: frozenset[str] | None = None,
) -> list[DrawItem]:
    """Items of the layers whose parent is `parent`, lowest first. `shown`: ids that are not kept out by another's solo."""
    shown = shown_layers(layers) if shown is None else shown
    items: list[DrawItem] = []
    for layer_id, layer in in_order(layers):
        if layer.parent != parent or layer.hidden or layer.opacity <= 0.0 or layer_id not in shown:
            continue
        if isinstance(layer, GroupLayer):
            items.extend(_group(document, layers, layer_id, layer, at, length, ground, shown))
        else:
            standing: Standing
            if isinstance(layer, PhotoLayer):
                standing = standing_photo(document, layer, at, length, ground)
            else:
                standing = standing_shape(document, layer, at, length, ground)
            items.extend(_shadows(standing, layer.opacity, document.frame.aspect))
            items.append(LayerItem(standing.content, homography_of(standing.frame_from_plane), layer.opacity, layer.blend))
    return items


def shown_layers(layers: Mapping[str, Layer]) -> frozenset[str]:
    """Ids of the layers that solo leaves in sight: all, or the solo ones with what they are in and what is in them."""
    solo = {k for k, layer in layers.items() if layer.solo}
    if not solo:
        return frozenset(layers)

    def above(layer_id: str) -> set[str]:
        parent = layers[layer_id].parent
        return {layer_id} | (above(parent) if parent is not None and parent in layers else set())

    return frozenset(k for k in layers if above(k) & solo).union(*(above(k) for k in solo))


def _group(
    document: Document,
    layers: Mapping[str, Layer],
    layer_id: str,
    layer: GroupLayer,
    at: int,
    length: int,
    ground: Ground,
    shown: frozenset[str],
) -> list[DrawItem]:
    inner = ground_in(document, ground, layer.placement, at, length)
    if layer.shared is not None:
        items = layers_at(document, document.groups[layer.shared].layers, at, length, inner)
    else:
        items = layers_at(document, layers, at, length, inner, layer_id, shown)
    shadows = () if layer.shadow is None else _group_shadows(layer.shadow, inner.scale, document.frame.aspect, inner)
    if not items or (layer.opacity >= 1.0 and layer.blend == "normal" and not shadows and layer.mask is None):
        return items
    seen = homography_of(plane_homography(inner.frame_from_ground))
    return [GroupItem(tuple(items), layer.opacity, layer.blend, shadows, layer.mask, seen)]


def _shadows(standing: Standing, opacity: float, aspect: float) -> list[DrawItem]:
    """The outline moved away from the light in frame coordinates, so turning the layer does not turn its shadow."""
    if standing.shadow is None:
        return []
    shadow, found = standing.shadow, list[DrawItem]()
    for cast in casts_of(shadow):
        moved = _thrown(shadow, cast.distance * standing.shadow_scale, aspect) @ standing.frame_from_plane
        found.append(
            ShadowItem(
                content=standing.content,
                frame_from_plane=homography_of(moved),
                softness=cast.softness * standing.plane_scale,
                spread=cast.spread * standing.plane_scale,
                colour=shadow.colour,
                opacity=cast.opacity * opacity,
            )
        )
    return found


def _thrown(shadow: Shadow, distance: float, aspect: float) -> Matrix3:
    """(3, 3): frame coordinates of a layer `distance` above the ground to those of its shadow."""
    if shadow.light == "direction":
        return similarity(1.0, 0.0, *shadow_offset(shadow, distance))
    grown = shadow_growth(shadow, distance)
    lamp = np.array((shadow.light_x * aspect, shadow.light_y))
    return similarity(grown, 0.0, *(lamp * (1.0 - grown)))


def _group_shadows(shadow: Shadow, scale: float, aspect: float, ground: Ground) -> tuple[GroupShadow, ...]:
    found = []
    for cast in casts_of(shadow):
        matrix = _thrown(shadow, cast.distance * scale, aspect)
        seen = plane_homography(ground.frame_from_ground) @ (0.0, 0.0, 1.0)
        middle = np.array((seen[0] / seen[2], seen[1] / seen[2], 1.0))
        x, y, _ = matrix @ middle - middle
        found.append(GroupShadow(float(x), float(y), cast.softness * scale, shadow.colour, cast.opacity))
    return tuple(found)
