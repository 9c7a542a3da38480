"""How layers of each kind stand: one entry for each of `document.LAYER_KINDS`."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..document import Document, Layer
from .lettering import standing_text, text_size
from .motion import Motion
from .standing import Ground, Moment, Size, Standing, beyond_frame, photo_size, shape_size, standing_photo, standing_shape

GROUP_GOES = 1.2
"""Fractions of the frame that what holds others goes to be out of sight: how large it is shows only when its layers stand."""


@dataclass(frozen=True, slots=True)
class Stands:
    """`size`: of a layer at size 1; `standing`: what it shows, from the layer as it is at a moment and how far it is lifted above its rest;
    None where it only holds other layers."""

    kind: str
    size: Callable[[Document, Any], Size]
    standing: Callable[[Moment, Any, Motion, Ground, float], Standing] | None = None

    def beyond(self, document: Document, layer: Layer) -> tuple[float, float, float, float]:
        """How far (left, up, right, down; fractions of the frame) a layer must go to be out of sight."""
        if self.standing is None:
            return (GROUP_GOES,) * 4
        return beyond_frame(layer.placement, self.size(document, layer), document.frame.aspect)


STANDS = {
    entry.kind: entry
    for entry in (
        Stands("photo", photo_size, standing_photo),
        Stands("shape", shape_size, standing_shape),
        Stands("text", text_size, standing_text),
        Stands("group", lambda document, _: (document.frame.aspect, 1.0)),
    )
}
