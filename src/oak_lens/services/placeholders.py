"""What stands in empty zones of templates: drawn here, kept like any picture, by the name of what is on it."""

from pathlib import Path

from PIL import Image

from ..core.document import Document, Frame, Media, Placement, Scene, ShapeLayer, Span, TextLayer
from ..core.evaluate import scene_at
from ..core.looks import Backdrop, Form, Ink, Setting, Shadow
from ..core.paint import Painter
from ..media.pyramids import Pyramids
from . import keys
from .ports import MediaStore

PAPER, LINE, NUMERAL = "#d9d0bf", "#a89b84", "#7d715d"


class Placeholders:
    """Pictures of empty zones, made where a document first shows them."""

    def __init__(self, store: MediaStore):
        self._store, self._there = store, set[str]()

    def bring(self, document: Document) -> None:
        """All of a document's are there when this returns. Raises StorageFull."""
        for media in document.media.values():
            if media.placeholder and media.sha256 not in self._there:
                key = keys.original(media.sha256)
                if not self._store.blobs.has(key):
                    with self._store.blobs.writing(key) as path, path.open("wb") as file:
                        drawn(media).save(file, "PNG", compress_level=1)
                    self._store.request_preparation(media.sha256)
                self._there.add(media.sha256)


def drawn(media: Media) -> Image.Image:
    """The zone's number on paper, within a line, in the zone's shape."""
    width, height = (max(side // 2 * 2, 64) for side in (media.width, media.height))
    aspect = width / height
    side = min(aspect, 1.0)
    line = Form(outline="rectangle", aspect=max(min(aspect, 50.0), 0.02), fill="none", stroke=0.006 * side, stroke_colour=LINE)
    layers = {
        "line": ShapeLayer(order="V", form=line, placement=Placement(size=0.9)),
        "number": TextLayer(
            order="a", text=(Span(text=str(media.placeholder)),), setting=Setting(family="playfair-display", weight=600, size=0.42 * side),
            ink=Ink(colour=NUMERAL), shadow=Shadow(opacity=0.0),
        ),
    }  # fmt: skip
    scene = Scene(order="V", layers=layers, backdrop=Backdrop(kind="gradient", colour="#e4dccc", second_colour=PAPER, angle=165))
    document = Document(frame=Frame(width=min(width, 4096), height=min(height, 4096)), scenes={"s": scene})
    pixels = Painter(Pyramids(_none, None), 1 << 26).paint(scene_at(document, "s", 0, 1), width, height)
    image = Image.fromarray(pixels[..., :3])
    return image if image.size == (media.width, media.height) else image.resize((media.width, media.height))


def _none(key: str) -> Path:
    raise FileNotFoundError(key)

