"""Another frame for the whole film, with nothing broken: layouts anew, subjects in view, what was whole not cut."""

from math import isfinite

import numpy as np

from ..document import Document, Layer, PhotoLayer
from ..evaluate import Placed, bounds_of, placed_layers
from .layers import on_subject
from .layouts import laid_out_anew
from .placing import moment_in
from .registry import LayerRef, containers, with_layers

TOUCHING = 0.02
"""How far, in frame heights, a layer may reach out of the frame and still count as inside it."""


def reframed(before: Document, after: Document) -> Document:
    """`after`, which is `before` with another frame, brought into order for it."""
    if abs(after.frame.aspect / before.frame.aspect - 1.0) < 1e-3:
        return after
    after = _subjects_in_view(laid_out_anew(before, after))
    return _kept_inside(before, after)


def _subjects_in_view(document: Document) -> Document:
    changed: list[tuple[LayerRef, Layer | None]] = []
    for container_id, container in containers(document):
        for layer_id, layer in container.layers.items():
            if isinstance(layer, PhotoLayer):
                kept = on_subject(document, layer)
                if kept != layer:
                    changed.append((LayerRef(scene=container_id, layer=layer_id), kept))
    return with_layers(document, changed)


def _kept_inside(before: Document, after: Document) -> Document:
    """Layers that stood wholly in the frame, and would not any more, made smaller and moved by as little as brings them back."""
    changed: list[tuple[LayerRef, Layer | None]] = []
    for scene_id, scene in after.scenes.items():
        at, length = moment_in(before, scene_id, None)
        stood = {p.layer_id: p for p in placed_layers(before, scene_id, at, length)}
        for placed in placed_layers(after, scene_id, at, length):
            if scene.layout is not None and isinstance(placed.layer, PhotoLayer):
                continue
            if not all(isfinite(v) for v in bounds_of(placed)):
                continue
            if _is_inside(stood[placed.layer_id], before.frame.aspect) and not _is_inside(placed, after.frame.aspect):
                changed.append((LayerRef(scene=scene_id, layer=placed.layer_id), _brought_in(placed, after.frame.aspect)))
    return with_layers(after, changed)


def _is_inside(placed: Placed, aspect: float) -> bool:
    left, top, right, bottom = bounds_of(placed)
    return left >= -aspect / 2 - TOUCHING and right <= aspect / 2 + TOUCHING and top >= -0.5 - TOUCHING and bottom <= 0.5 + TOUCHING


def _brought_in(placed: Placed, aspect: float) -> Layer:
    placement = placed.layer.placement
    x, y, size = placement.x, placement.y, placement.size
    left, top, right, bottom = bounds_of(placed)
    share = min(1.0, (aspect + TOUCHING) / (right - left), (1.0 + TOUCHING) / (bottom - top))
    centre = np.array((x * aspect, y))
    # The bounds as they are once the layer is smaller, about its own place.
    (left, top), (right, bottom) = (centre + (np.array(corner) - centre) * share for corner in ((left, top), (right, bottom)))
    dx = max(-aspect / 2 - left, 0.0) - max(right - aspect / 2, 0.0)
    dy = max(-0.5 - top, 0.0) - max(bottom - 0.5, 0.0)
    update = {"x": x + dx / aspect, "y": y + dy, "size": max(size * share, 0.01)}
    return placed.layer.model_copy(update={"placement": placement.model_copy(update={k: float(v) for k, v in update.items()})})
