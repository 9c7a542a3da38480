"""What stands in empty zones of templates, drawn."""

from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from ..core.document import Document, Frame, Layer, Media, Placement, Scene, ShapeLayer, Span, TextLayer
from ..core.evaluate import scene_at
from ..core.looks import Backdrop, Form, Ink, Setting, Shadow
from ..core.paint import Painter
from .jpegs import jpeg
from .pyramids import Pyramids

PAPER, LINE, NUMERAL = "#ded6c5", "#a89b84", "#7d715d"
QUALITY = 92


def placeholder_file(media: Media) -> bytes:
    """The JPEG that stands in for the picture of an empty zone: its content is named by what is on it."""
    return jpeg(drawn(media), quality=QUALITY)


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
