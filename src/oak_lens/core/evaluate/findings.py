"""What is worth knowing about each photo's use: its fit, and how far it is enlarged over its whole move."""

from dataclasses import dataclass
from itertools import pairwise

from ..curves import key_times
from ..document import Document, photos_of
from ..framing.resolution import enlargement
from .photos import standing_photo
from .timeline import Timeline

STEPS_BETWEEN_KEYS = 8
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
        length = span.on_screen.length
        for layer_id, layer in photos_of(document.scenes[span.scene]):
            moments = {0, length}
            times = [at for at, _ in key_times(layer.view.keys, length)]
            for a, b in pairwise(times):
                moments.update(a + (b - a) * i // STEPS_BETWEEN_KEYS for i in range(STEPS_BETWEEN_KEYS + 1))
            uses, fit = [], ""
            for at in sorted(moments):
                photo = standing_photo(document, layer, at, length)
                fit = photo.fit
                uses.append(
                    enlargement(photo.frame_from_plane, photo.width, photo.height, document.media[layer.media].width, document.frame.height)
                )
            largest = max(uses)
            found.append(PhotoFinding(span.scene, layer_id, fit, largest, 1.0 / largest, largest > SOFT_FROM))
    return found
