"""What is worth knowing about each photo's use: its fit, and how far it is enlarged over its whole move."""

from dataclasses import dataclass
from itertools import pairwise

from ..curves import key_times
from ..document import Document, PhotoLayer, Scene, photos_of
from ..framing import enlargement, fit_zoom, plane_size, seen_aspect
from .motion import moves_at_all
from .staging import staged
from .standing import StandingPhoto
from .timeline import Timeline

STEPS_BETWEEN_KEYS = 8
STEPS_WITH_MOTION = 12
SOFT_FROM = 1.05


@dataclass(frozen=True, slots=True)
class PhotoFinding:
    """`largest_use`: frame pixels per picture pixel at the most enlarged moment; `sharp_zoom`: how much further in
    (above 1) or out (below 1) the closest view may go before it is soft."""

    scene: str
    layer: str
    fit: str
    largest_use: float
    sharp_zoom: float
    soft: bool


def photo_findings(document: Document, timeline: Timeline, scene_ids: frozenset[str] | None = None) -> list[PhotoFinding]:
    """Findings for the photos of the scenes named (all by default), over each scene's whole time on screen."""
    found = []
    for span in timeline.spans:
        if scene_ids is not None and span.scene not in scene_ids:
            continue
        length = span.own_length
        moments = {0, length}
        for _, layer in photos_of(document.scenes[span.scene]):
            times = [at for at, _ in key_times(layer.view.keys, length)]
            for a, b in pairwise(times):
                moments.update(a + (b - a) * i // STEPS_BETWEEN_KEYS for i in range(STEPS_BETWEEN_KEYS + 1))
        if _moves(document.scenes[span.scene]):
            moments.update(length * i // STEPS_WITH_MOTION for i in range(STEPS_WITH_MOTION + 1))
        uses: dict[str, list[float]] = {}
        empty = {k for k, p in photos_of(document.scenes[span.scene]) if document.media[p.media].placeholder}
        fits: dict[str, str] = {}
        for at in sorted(moments):
            for placed in staged(document, span.scene, at, length).every_layer:
                if isinstance(placed.standing, StandingPhoto) and isinstance(placed.layer, PhotoLayer):
                    fits[placed.layer_id] = placed.standing.fit
                    uses.setdefault(placed.layer_id, []).append(_enlargement(document, placed.layer, placed.standing))
        for layer_id, fit in fits.items():
            largest = max(max(uses[layer_id]), 1e-6)
            # What stands in an empty zone is no picture that could be soft.
            soft = largest > SOFT_FROM and layer_id not in empty
            found.append(PhotoFinding(span.scene, layer_id, fit, largest, 1.0 / largest, soft))
    return found


def _enlargement(document: Document, layer: PhotoLayer, photo: StandingPhoto) -> float:
    """Frame pixels per picture pixel where the picture is largest."""
    content, media = photo.content, document.media[layer.media]
    pixels_across = media.shown_size[0]
    if layer.window is not None:
        # Across the window, the view shows this share of the picture's width.
        pixels_across *= (
            content.width
            / (plane_size(media.aspect, seen_aspect(document, layer))[0] * content.height)
            / (photo.view.zoom * fit_zoom(photo.fit, media.aspect, seen_aspect(document, layer)))
        )
    return enlargement(photo.frame_from_plane, content.width, content.height, pixels_across, document.frame.height)


def _moves(scene: Scene) -> bool:
    """Whether anything but views moves in a scene."""
    camera = bool(scene.animation) or scene.camera_move is not None or scene.travel is not None
    return camera or any(moves_at_all(layer) for layer in scene.layers.values())
