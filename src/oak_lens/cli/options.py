"""Options as people type them: checked before anything is read or made. What is wrong is said in a sentence."""

import re
from argparse import ArgumentTypeError
from math import isfinite
from pathlib import Path

from ..core.document.records import LONGEST_TICKS
from ..core.time import TICKS_PER_SECOND

LONGEST_SECONDS = LONGEST_TICKS // TICKS_PER_SECOND
FARTHEST_SECONDS = 1_000_000
SMALLEST_PX, LARGEST_PX = 64, 4096
LONGEST_NAME_BYTES = 200
"""Of a file to be written: what it is written to beforehand has a longer name, and file systems end at 255."""


def size_option(text: str) -> tuple[int, int]:
    """`1920x1080`: even pixels, as every size of a frame."""
    match = re.fullmatch(r"(\d{1,6})x(\d{1,6})", text)
    if not match:
        raise ArgumentTypeError("a size is written like 1920x1080")
    width, height = int(match[1]), int(match[2])
    if not all(SMALLEST_PX <= side <= LARGEST_PX and side % 2 == 0 for side in (width, height)):
        raise ArgumentTypeError(f"{text}: both sides are even numbers of pixels from {SMALLEST_PX} to {LARGEST_PX}")
    return width, height


def _seconds(text: str, most: float, what: str) -> float:
    try:
        value = float(text)
    except ValueError:
        raise ArgumentTypeError(f"{what} is a number of seconds, not {text!r}") from None
    if not isfinite(value) or not 0.0 <= value <= most:
        raise ArgumentTypeError(f"{what} is from 0 to {most:,} seconds, not {text}")
    return value


def moment_option(text: str) -> float:
    """Seconds of the film."""
    return _seconds(text, FARTHEST_SECONDS, "a moment")


def length_option(text: str) -> float:
    """Seconds that something lasts."""
    return _seconds(text, LONGEST_SECONDS, "a length")


def range_option(text: str) -> tuple[float, float | None]:
    """`A:B` in seconds; either may be left out."""
    start, colon, end = text.partition(":")
    if not colon:
        raise ArgumentTypeError("a range is written in seconds like 2.5:8")
    first, last = moment_option(start or "0"), moment_option(end) if end else None
    if last is not None and last <= first:
        raise ArgumentTypeError(f"{text}: a range ends after it begins")
    return first, last


def join_option(text: str) -> tuple[str, float]:
    """`dissolve:1` or `cut`."""
    kind, _, length = text.partition(":")
    return kind, length_option(length or "0")


def out_option(text: str) -> Path:
    """A file to be written, in a folder that is there."""
    path = Path(text)
    if not text.strip() or "\0" in text:
        raise ArgumentTypeError("a file to write needs a name")
    if len(path.name.encode()) > LONGEST_NAME_BYTES:
        raise ArgumentTypeError(f"the name of the file to write is longer than {LONGEST_NAME_BYTES} bytes")
    try:
        if path.is_dir() or not path.name:
            raise ArgumentTypeError(f"{text} is a folder: name a file in it")
        if not path.resolve().parent.is_dir():
            raise ArgumentTypeError(f"there is no folder {path.parent}")
    except OSError as error:
        raise ArgumentTypeError(f"{text[:80]}: {error.strerror}") from None
    return path


def folder_option(text: str) -> Path:
    """A folder, which is made if it is not there."""
    path = Path(text)
    try:
        if not text.strip() or (path.exists() and not path.is_dir()):
            raise ArgumentTypeError(f"{text or 'nothing'} is no folder")
    except OSError as error:
        raise ArgumentTypeError(f"{text[:80]}: {error.strerror}") from None
    return path
