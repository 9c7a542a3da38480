"""Another frame for the whole film, with nothing broken: layouts anew, what fills it fills it, subjects in view, what was whole not cut."""

from math import isfinite

import numpy as np

from ..document import Document, Layer, PhotoLayer, View
from ..evaluate import Placed, bounds_of, outline_of, staged
from ..framing import fit_of, seen_aspect, seen_of, shown_subject, shows, view_keeping
from ..space import map_points, rectangle_corners
from .layouts import laid_out_anew
from .placing import moment_in
from .registry import LayerRef, container_of, containers, with_layers

TOUCHING = 0.02
"""How far, in frame heights, a layer may reach out of the frame and still count as standing inside it."""

HAIR = 1e-6
"""Frame heights that are no distance."""

MOST_GROWTH = 64.0

Changed = list[tuple[LayerRef, Layer | None]]


def reframed(before: Document, after: Document, keep_filling: bool = True) -> Document:
    """`after`, which is `before` with another frame, brought into order for it.

    `keep_filling`: photos whose fit is found by shape go on filling the frame if they filled it and their subjects still fit.
    """
    if abs(after.frame.aspect / before.frame.aspect - 1.0) < 1e-3:
        return after
    after = laid_out_anew(before, after)
    if keep_filling:
        after = _still_filling(before, after)
    return _standing_well(before, _subjects_in_view(before, after))


def _photos(document: Document) -> list[tuple[LayerRef, PhotoLayer]]:
    return [
        (LayerRef(scene=container_id, layer=layer_id), layer)
        for container_id, container in containers(document)
        for layer_id, layer in container.layers.items()
        if isinstance(layer, PhotoLayer)
    ]


def _as_before(before: Document, ref: LayerRef) -> PhotoLayer | None:
    layer = container_of(before, ref.scene).layers.get(ref.layer)
    return layer if isinstance(layer, PhotoLayer) else None


def _still_filling(before: Document, after: Document) -> Document:
    """Photos that filled the frame by their shape fill the new one, too, unless that would cut what they are about."""
    changed: Changed = []
    for ref, layer in _photos(after):
        if layer.window is None and fit_of(before, layer) == "fill" and fit_of(after, layer) == "whole":
            filling = layer.model_copy(update={"fit": "fill"})
            if all(kept for _, kept in _kept_in_view(before, after, layer, filling)):
                changed.append((ref, filling))
    return with_layers(after, changed)


def _subjects_in_view(before: Document, after: Document) -> Document:
    changed: Changed = []
    for ref, layer in _photos(after):
        was = _as_before(before, ref) or layer
        views = _kept_in_view(before, after, was, layer)
        keys = {n: key.model_copy(update={"value": view}) for (n, key), (view, _) in zip(layer.view.keys.items(), views, strict=True)}
        if keys != layer.view.keys:
            changed.append((ref, layer.model_copy(update={"view": layer.view.model_copy(update={"keys": keys})})))
    return with_layers(after, changed)


def _kept_in_view(before: Document, after: Document, was: PhotoLayer, now: PhotoLayer) -> list[tuple[View, bool]]:
    """Each view of a photo as it is kept in the new frame: what it showed of the subject it shows, if it can (the second says so)."""
    media = after.media[now.media]
    subject, old, new = shown_subject(media), seen_aspect(before, was), seen_aspect(after, now)
    found: list[tuple[View, bool]] = []
    for key in now.view.keys.values():
        box = None if subject is None else seen_of(key.value, fit_of(before, was), media, old, subject)
        if box is None or (old == new and was.fit == now.fit):
            found.append((key.value, True))
            continue
        view = view_keeping(key.value, fit_of(after, now), media, new, box)
        found.append((view, shows(view, fit_of(after, now), media, new, box)))
    return found


def _standing_well(before: Document, after: Document) -> Document:
    """Layers that covered the frame still do; those that stood wholly in it, and would not any more, are made smaller and moved by as
    little as brings them back."""
    changed: Changed = []
    for scene_id, scene in after.scenes.items():
        at, length = moment_in(before, scene_id, None)
        stood = {p.layer_id: p for p in staged(before, scene_id, at, length).layers}
        for placed in staged(after, scene_id, at, length).layers:
            if scene.layout is not None and isinstance(placed.layer, PhotoLayer):
                continue
            if not all(isfinite(v) for v in (*bounds_of(placed), *bounds_of(stood[placed.layer_id]))):
                continue
            layer = _standing(before, after, stood[placed.layer_id], placed)
            if layer is not None:
                changed.append((LayerRef(scene=scene_id, layer=placed.layer_id), layer))
    return with_layers(after, changed)


def _standing(before: Document, after: Document, stood: Placed, placed: Placed) -> Layer | None:
    """The layer as it stands well in the new frame; None if it does already."""
    if _covers(stood, before.frame.aspect):
        by_shape = isinstance(placed.layer, PhotoLayer) and placed.layer.window is None and fit_of(after, placed.layer) == "whole"
        if by_shape:
            return None
        if not _covers(placed, after.frame.aspect):
            return _grown(after, placed)
        was_seen = bool(np.abs(_way_onto_subject(before, stood, _surface_of(stood))).max() < HAIR)
        return _moved(after, placed, _surface_of(placed), placed.layer.placement.size) if was_seen else None
    if _is_inside(stood, before.frame.aspect, TOUCHING) and not _is_inside(placed, after.frame.aspect, HAIR):
        return _brought_in(placed, after.frame.aspect)
    return None


def _surface_of(placed: Placed) -> np.ndarray:
    """Corners (4, 2) of what a layer shows, in frame coordinates: of a photo without its mount."""
    if placed.standing is None or not isinstance(placed.layer, PhotoLayer):
        return outline_of(placed)
    content = placed.standing.content
    return map_points(placed.frame_from_plane, rectangle_corners(content.width, content.height))


def _covers(placed: Placed, aspect: float, corners: np.ndarray | None = None) -> bool:
    """Whether the whole frame lies inside the layer."""
    outline = _surface_of(placed) if corners is None else corners
    sides = np.roll(outline, -1, axis=0) - outline
    lengths = np.maximum(np.linalg.norm(sides, axis=1), 1e-12)
    across = rectangle_corners(aspect, 1.0)[None] - outline[:, None]
    beside = (sides[:, None, 0] * across[..., 1] - sides[:, None, 1] * across[..., 0]) / lengths[:, None]
    return bool((beside >= -HAIR).all() or (beside <= HAIR).all())


def _grown(document: Document, placed: Placed) -> Layer:
    """The layer made larger about its own place until it covers the frame, then moved as far onto its picture's subject as it still does;
    where it would be far too large, it comes to the middle first."""
    placement, aspect = placed.layer.placement, document.frame.aspect
    outline = _surface_of(placed)
    for middle in (np.array((placement.x * aspect, placement.y)), np.zeros(2)):
        about = outline - (placement.x * aspect, placement.y)
        if not _covers(placed, aspect, about * MOST_GROWTH + middle):
            continue
        low, high = 1.0, MOST_GROWTH
        for _ in range(50):
            share = (low * high) ** 0.5
            low, high = (low, share) if _covers(placed, aspect, about * share + middle) else (share, high)
        return _moved(document, placed, about * high + middle, placement.size * high, middle) or placed.layer
    return placed.layer


def _moved(document: Document, placed: Placed, corners: np.ndarray, size: float, middle: np.ndarray | None = None) -> Layer | None:
    """The layer of a size at which it has these corners about `middle`, moved onto its subject as far as it covers the frame; None if it
    is as it was."""
    placement, aspect = placed.layer.placement, document.frame.aspect
    middle = np.array((placement.x * aspect, placement.y)) if middle is None else middle
    way = _way_onto_subject(document, placed, corners)
    share = next((s for s in np.linspace(1.0, 0.0, 41) if _covers(placed, aspect, corners + way * s)), 0.0)
    x, y = middle + way * share
    found = {"x": float(x / aspect), "y": float(y), "size": float(size)}
    if max(abs(found[k] - getattr(placement, k)) for k in found) < HAIR:
        return None
    return placed.layer.model_copy(update={"placement": placement.model_copy(update=found)})


def _way_onto_subject(document: Document, placed: Placed, corners: np.ndarray) -> np.ndarray:
    """(2,): the least way, in frame heights, that brings the subject of a photo with these corners into the frame."""
    layer, half = placed.layer, np.array((document.frame.aspect / 2, 0.5))
    subject = shown_subject(document.media[layer.media]) if isinstance(layer, PhotoLayer) and layer.window is None else None
    if subject is None:
        return np.zeros(2)
    points = [
        corners[0] + (corners[1] - corners[0]) * u + (corners[3] - corners[0]) * v
        for u in (subject[0], subject[2])
        for v in (subject[1], subject[3])
    ]
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    return np.asarray(np.where(high - low >= 2 * half, -(low + high) / 2, np.clip(0.0, -half - low, half - high)))


def _is_inside(placed: Placed, aspect: float, beyond: float) -> bool:
    left, top, right, bottom = bounds_of(placed)
    return left >= -aspect / 2 - beyond and right <= aspect / 2 + beyond and top >= -0.5 - beyond and bottom <= 0.5 + beyond


def _brought_in(placed: Placed, aspect: float) -> Layer:
    placement = placed.layer.placement
    x, y, size = placement.x, placement.y, placement.size
    left, top, right, bottom = bounds_of(placed)
    share = min(1.0, aspect / (right - left), 1.0 / (bottom - top))
    centre = np.array((x * aspect, y))
    # The bounds as they are once the layer is smaller, about its own place.
    (left, top), (right, bottom) = (centre + (np.array(corner) - centre) * share for corner in ((left, top), (right, bottom)))
    dx = max(-aspect / 2 - left, 0.0) - max(right - aspect / 2, 0.0)
    dy = max(-0.5 - top, 0.0) - max(bottom - 0.5, 0.0)
    update = {"x": x + dx / aspect, "y": y + dy, "size": max(size * share, 0.01)}
    return placed.layer.model_copy(update={"placement": placement.model_copy(update={k: float(v) for k, v in update.items()})})
