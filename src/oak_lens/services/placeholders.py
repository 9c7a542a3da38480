"""What stands in empty zones of templates: drawn here, kept like any picture, by the name of what is on it."""

from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from ..core.document import Document, Frame, Layer, Media, PhotoLayer, Placement, Scene, ShapeLayer, Span, TextLayer
from ..core.evaluate import scene_at
from ..core.looks import Backdrop, Form, Ink, Setting, Shadow
from ..core.paint import Painter
from ..media.jpegs import jpeg
from ..media.pyramids import Pyramids
from . import keys
from .ports import MediaStore

PAPER, LINE, NUMERAL = "#ded6c5", "#a89b84", "#7d715d"


class Placeholders:
    """Pictures of empty zones, made where a document first shows them."""

    def __init__(self, store: MediaStore):
        self._store, self._there = store, set[str]()

    def bring(self, document: Document, scene: str | None = None) -> None:
        """All that a document shows, or one scene of it, are there when this returns. Raises StorageFull."""
        for media in _shown(document, scene):
            if media.sha256 in self._there:
                continue
            key = keys.original(media.sha256)
            if not self._store.blobs.has(key):
                with self._store.blobs.writing(key) as path:
                    path.write_bytes(jpeg(drawn(media), quality=92))
                self._store.request_preparation(media.sha256)
            self._there.add(media.sha256)


def _shown(document: Document, only: str | None) -> list[Media]:
    """What stands in empty zones that are seen, in all scenes or one."""
    if not any(m.placeholder for m in document.media.values()):
        return []
    scenes = [s for k, s in document.scenes.items() if only is None or k == only]
    layers = [*(s.layers for s in scenes), *(g.layers for g in document.groups.values())]
    ids = {layer.media for own in layers for layer in own.values() if isinstance(layer, PhotoLayer) and not layer.hidden}
    ids |= {scene.backdrop.media for scene in scenes if scene.backdrop is not None and scene.backdrop.media is not None}
    return [m for k, m in document.media.items() if m.placeholder and k in ids]


def drawn(media: Media) -> NDArray[np.uint8]:
    """(h, w, 4) uint8: the zone's number on paper, within a line, in the zone's shape. Painted at half its size, which is enough for it."""
    width, height = (max(side // 4 * 2, 64) for side in (media.width, media.height))
    aspect = width / height
    side = min(aspect, 1.0)
    line = Form(outline="rectangle", aspect=max(min(aspect, 50.0), 0.02), fill="none", stroke=0.006 * side, stroke_colour=LINE)
    layers: dict[str, Layer] = {
        "line": ShapeLayer(order="V", form=line, placement=Placement(size=0.9)),
        "number": TextLayer(
            order="a", text=(Span(text=str(media.placeholder)),), setting=Setting(family="playfair-display", weight=600, size=0.42 * side),
            ink=Ink(colour=NUMERAL), shadow=Shadow(opacity=0.0),
        ),
    }  # fmt: skip
    _, _, said = media.file.removesuffix(".jpg").removeprefix("zone-").partition("-")
    if said:
        layers["kind"] = TextLayer(
            order="n", text=(Span(text=said),), setting=Setting(family="source-serif-4", italic=True, size=0.09 * side), placement=Placement(y=0.3),
            ink=Ink(colour=NUMERAL), shadow=Shadow(opacity=0.0),
        )  # fmt: skip
    scene = Scene(order="V", layers=layers, backdrop=Backdrop(kind="colour", colour=PAPER))
    document = Document(frame=Frame(width=min(width, 4096), height=min(height, 4096)), scenes={"s": scene})
    pixels = Painter(Pyramids(_none, None), 1 << 26).paint(scene_at(document, "s", 0, 1), width, height)
    return np.asarray(cv2.resize(pixels, (media.width, media.height), interpolation=cv2.INTER_CUBIC), np.uint8)


def _none(key: str) -> Path:
    raise FileNotFoundError(key)
