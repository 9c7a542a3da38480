"""Frames as pictures: a numbered sequence in one ZIP, a still."""

import io
import shutil
import zipfile
from collections.abc import Iterable
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from ..core.delivery import ExportSettings, file_name
from ..core.errors import ExportFailed, Fault
from .publishing import published

COMPRESSION = 2
DIGITS = 5


def png_bytes(pixels: NDArray[np.uint8], transparent: bool) -> bytes:
    """A PNG tagged as sRGB of (h, w, 4) uint8: opaque, or premultiplied if it is `transparent`, which PNG keeps straight."""
    shown = cv2.cvtColor(pixels, cv2.COLOR_mRGBA2RGBA) if transparent else pixels[..., :3]
    tags = PngInfo()
    # Rendering intent: perceptual (PNG specification, third edition, 11.3.2.5).
    tags.add(b"sRGB", b"\x00")
    written = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(shown)).save(written, "PNG", compress_level=COMPRESSION, pnginfo=tags)
    return written.getvalue()


def write_pictures(path: Path, frames: Iterable[NDArray[np.uint8]], settings: ExportSettings) -> None:
    """Frames (h, w, 4) uint8 as numbered PNGs in a ZIP; published whole. Raises ExportFailed."""
    with published(path) as part, zipfile.ZipFile(part, "w", zipfile.ZIP_STORED) as pictures:
        for index, pixels in enumerate(frames):
            pictures.writestr(f"{index:0{DIGITS}}.png", png_bytes(pixels, settings.transparent))


def join_pictures(parts: list[tuple[Path, int]], target: Path, settings: ExportSettings, title: str) -> None:
    """One ZIP of all pictures, named after the film and counted from 1; published whole. Raises ExportFailed."""
    number = 0
    with published(target) as path, zipfile.ZipFile(path, "w", zipfile.ZIP_STORED, strict_timestamps=False) as sequence:
        for source, _ in parts:
            for picture in _pictures(source):
                number += 1
                sequence.writestr(file_name(f"{title} {number:0{DIGITS}}", "png"), picture)


def join_still(parts: list[tuple[Path, int]], target: Path, settings: ExportSettings, title: str) -> None:
    """The one picture there is; published whole. Raises ExportFailed."""
    with published(target) as path, path.open("wb") as still:
        shutil.copyfileobj(io.BytesIO(next(iter(_pictures(parts[0][0])))), still)


def _pictures(path: Path) -> Iterable[bytes]:
    try:
        with zipfile.ZipFile(path) as pictures:
            for name in sorted(pictures.namelist()):
                yield pictures.read(name)
    except zipfile.BadZipFile as error:
        raise ExportFailed(
            [Fault("export.write", "", f"The film could not be written: {error}. Take it off the list and export again.")]
        ) from error
