"""Fonts: those that ship, and those that people add to a project, which travel with it."""

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import IO, Any

import numpy as np
from PIL import Image

from ..core.document import Document
from ..core.errors import Fault, LimitReached, MissingFace
from ..core.evaluate import family_key
from ..core.letters import FAMILIES, Choice, FaceFiles, FontFile
from ..core.paint.lettering import line_coverage
from ..media.faces import ShippedFaces
from ..media.fonts import LARGEST_BYTES, FontInfo, checked_font
from . import keys
from .ports import Blobs

OWN = "own-"
MOST_FONTS = 40


class KeptFaces(FaceFiles):
    """The shipped faces, and those of projects: blobs by the hash of what was checked."""

    def __init__(self, blobs: Blobs, shipped: FaceFiles | None = None):
        self._blobs, self._shipped = blobs, shipped or ShippedFaces()

    def files(self, family: str, weight: float, italic: bool) -> tuple[FontFile, ...]:
        if not family.startswith(OWN):
            return self._shipped.files(family, weight, italic)
        return (FontFile(family),) if self._blobs.has(keys.font(family.removeprefix(OWN))) else ()

    def data(self, key: str) -> bytes:
        if not key.startswith(OWN):
            return self._shipped.data(key)
        try:
            return self._blobs.local(keys.font(key.removeprefix(OWN))).read_bytes()
        except FileNotFoundError:
            raise MissingFace.of("face.missing", "A font of this project is not here. Add it again.", key) from None


def sample(document: Document, family: str, text: str, weight: float, italic: bool, ink: str, height: int) -> bytes:
    """A line of text in a face, as PNG: ink (rrggbb) on nothing."""
    choice = Choice(family_key(document, family), weight, italic)
    coverage = line_coverage(text or SHIPPED_NAME.get(family, family), choice, height / 1.6)
    colour = bytes.fromhex(ink)
    pixels = np.empty((*coverage.shape, 4), np.uint8)
    pixels[..., :3], pixels[..., 3] = np.frombuffer(colour, np.uint8), coverage
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue()


SHIPPED_NAME = {family.id: family.name for family in FAMILIES}


@dataclass(frozen=True, slots=True)
class TakenFont:
    """A font that was let in: the hash of its checked file, and what it says of itself."""

    sha256: str
    info: FontInfo

    @property
    def record(self) -> Mapping[str, Any]:
        """For `add_font`, without its id."""
        info = self.info
        return {"name": info.name, "family": info.family, "sha256": self.sha256, "weight": info.weight, "italic": info.italic}


class Fonts:
    """What people do with fonts of their own."""

    def __init__(self, blobs: Blobs):
        self._blobs = blobs

    def take_in(self, document: Document, stream: IO[bytes]) -> TakenFont:
        """One font checked and kept. Raises InvalidFont, LimitReached, StorageFull; then nothing is kept."""
        if len(document.fonts) >= MOST_FONTS:
            raise LimitReached([Fault("font.count", "", f"A project has at most {MOST_FONTS} fonts of its own. Remove one first.")])
        received = self._blobs.receive(stream, LARGEST_BYTES)
        try:
            with TemporaryDirectory(dir=received.parent) as folder:
                checked = Path(folder) / "checked.ttf"
                info = checked_font(received, checked)
                content = checked.read_bytes()
                sha256 = hashlib.sha256(content).hexdigest()
                if not self._blobs.has(keys.font(sha256)):
                    with self._blobs.writing(keys.font(sha256)) as target:
                        target.write_bytes(content)
        finally:
            received.unlink(missing_ok=True)
        return TakenFont(sha256, info)
