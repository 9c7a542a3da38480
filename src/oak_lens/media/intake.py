"""What a file is: a picture or a clip, with the facts a document keeps of it."""

from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from ..core.errors import InvalidPicture
from ..core.framing.subject_finding import subject_in
from .clips import ClipReader, clip_facts
from .pictures import picture_facts, save_thumbnail, write_thumbnail

PICTURE_ENDINGS = (".jpg", ".jpeg", ".png", ".webp", ".tif", ".tiff", ".heic", ".heif", ".avif")
CLIP_ENDINGS = (".mp4", ".mov", ".m4v", ".webm", ".mkv", ".avi")


def media_facts(path: Path) -> dict[str, Any]:
    """Kind, size, capture time and description; of a clip its times, too. Raises InvalidPicture if it is neither."""
    try:
        facts = picture_facts(path)
    except InvalidPicture as error:
        if error.code != "picture.format":
            raise
        clip = clip_facts(path)
        times = {"length": clip.length, "frames": clip.frames, "sound": clip.sound}
        return {"kind": "clip", "width": clip.width, "height": clip.height, "captured": None, "description": "", "clip": times}
    return {"kind": "picture", "width": facts.width, "height": facts.height, "captured": facts.captured, "description": facts.description}


def thumbnail(path: Path, target: Path, kind: str) -> None:
    """A small JPEG of a picture, or of a clip's poster a tenth into it; decoding it finds damage. Raises InvalidPicture."""
    if kind == "picture":
        write_thumbnail(path, target)
        return
    reader = ClipReader(path)
    pixels = reader.frame(reader.index_at(0))
    reader.close()
    save_thumbnail(Image.fromarray(np.ascontiguousarray(pixels)), target)


def subject_of(small: Path) -> dict[str, float] | None:
    """The subject found in a thumbnail, as an area in fractions of the picture; None if nothing stands out."""
    with Image.open(small) as image:
        pixels = np.asarray(image.convert("RGB"))
    area = subject_in(pixels)
    return None if area is None else dict(zip(("x", "y", "width", "height"), area, strict=True))
