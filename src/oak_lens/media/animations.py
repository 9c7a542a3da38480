"""Pictures that move: GIF and WebP, coded part by part and joined without coding again.

GIF after "Graphics Interchange Format, Version 89a" (1990); WebP after RFC 9649.
"""

import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import IO, Any, cast

import av
import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ..core.delivery import ExportSettings
from ..core.errors import ExportFailed, Fault
from .publishing import published

GIF_TICKS, WEBP_TICKS = 100, 1000
"""Units of time in a second."""

DITHERS = {"spread": "sierra2_4a", "even": "bayer:bayer_scale=3", "none": "none"}
WEBP_QUALITIES = (50, 75, 90)
SEE_THROUGH, ANIMATED, UNBLENDED = 0x10, 0x02, 0x02


def moments(frames: int, settings: ExportSettings, ticks: int) -> list[int]:
    """When each of `frames` frames is shown, and when the last is over, in whole units of 1/`ticks` s.

    >>> moments(3, ExportSettings(width=64, height=64, rate="30"), 100)
    [0, 3, 7, 10]
    """
    return [round(i * ticks / settings.frame_rate.fraction) for i in range(frames + 1)]


def write_gif(path: Path, frames: Iterable[NDArray[np.uint8]], settings: ExportSettings) -> None:
    """Frames (h, w, 4) uint8 as GIF with a palette of their own, found from all of them; published whole. Raises ExportFailed."""
    with published(path) as part, av.open(str(part), "w", format="gif") as container:
        _graph, source, sink = _palette_graph(settings)
        stream = cast(av.VideoStream, container.add_stream("gif", rate=GIF_TICKS))
        stream.width, stream.height, stream.pix_fmt = settings.width, settings.height, "pal8"
        # Every picture whole or a rectangle of what changed; with see-through parts it must be whole.
        stream.codec_context.options = {"gifflags": "-offsetting-transdiff" if settings.transparent else "+offsetting+transdiff"}
        for index, pixels in enumerate(frames):
            frame = av.VideoFrame.from_ndarray(_rgba(pixels, settings), format="rgba")
            frame.pts, frame.time_base = index, Fraction(1, GIF_TICKS)
            source.push(frame)
        source.push(None)
        for index, frame in enumerate(_pulled(sink)):
            frame.pts, frame.time_base = index, Fraction(1, GIF_TICKS)
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


def _palette_graph(settings: ExportSettings) -> tuple[Any, Any, Any]:
    graph = av.filter.Graph()
    source = graph.add_buffer(width=settings.width, height=settings.height, format=av.VideoFormat("rgba"), time_base=Fraction(1, GIF_TICKS))
    both = graph.add("split")
    found = graph.add("palettegen", f"stats_mode=full:reserve_transparent={int(settings.transparent)}")
    used = graph.add("paletteuse", f"dither={DITHERS[settings.dither]}")
    sink = graph.add("buffersink")
    source.link_to(both)
    both.link_to(found, 0, 0)
    both.link_to(used, 1, 0)
    found.link_to(used, 0, 1)
    used.link_to(sink)
    graph.configure()
    return graph, source, sink


def _pulled(sink: Any) -> Iterator[av.VideoFrame]:
    while True:
        try:
            yield sink.pull()
        except (av.BlockingIOError, av.EOFError):
            return


def _rgba(pixels: NDArray[np.uint8], settings: ExportSettings) -> NDArray[np.uint8]:
    return np.asarray(cv2.cvtColor(pixels, cv2.COLOR_mRGBA2RGBA), np.uint8) if settings.transparent else pixels


@dataclass(frozen=True, slots=True)
class GifPicture:
    """One picture of a GIF: disposal and see-through colour of its control, its descriptor, its palette, its coded pixels."""

    flags: int
    clear: int
    place: bytes
    palette: bytes
    pixels: bytes


def gif_pictures(data: bytes) -> list[GifPicture]:
    """The pictures of a GIF, each with its own palette. Raises ValueError for what is none."""
    if data[:6] != b"GIF89a":
        raise ValueError("not a GIF")
    shared, at = _palette(data, 13, data[10])
    pictures: list[GifPicture] = []
    flags = clear = 0
    while data[at : at + 1] != b";":
        if data[at : at + 2] == b"!\xf9":
            flags, clear = data[at + 3], data[at + 6]
            at += 8
        elif data[at : at + 1] == b"!":
            at = _after_blocks(data, at + 2)
        elif data[at : at + 1] == b",":
            place = data[at + 1 : at + 9]
            own, after = _palette(data, at + 10, data[at + 9])
            over = _after_blocks(data, after + 1)
            pictures.append(GifPicture(flags, clear, place, own or shared, data[after:over]))
            at = over
        else:
            raise ValueError("a torn GIF")
    return pictures


def _palette(data: bytes, at: int, flags: int) -> tuple[bytes, int]:
    """(the colour table that flags announce, where what follows begins)."""
    size = 3 * 2 ** ((flags & 7) + 1) if flags & 0x80 else 0
    return data[at : at + size], at + size


def _after_blocks(data: bytes, at: int) -> int:
    while data[at]:
        at += data[at] + 1
    return at + 1


def join_gif(parts: list[tuple[Path, int]], target: Path, settings: ExportSettings, title: str) -> None:
    """One GIF of coded parts, at the moments of the film; published whole. Raises ExportFailed."""
    width, height = (n.to_bytes(2, "little") for n in (settings.width, settings.height))
    at = moments(sum(n for _, n in parts), settings, GIF_TICKS)
    shown = 0
    with published(target) as path, path.open("wb") as film:
        film.write(b"GIF89a" + width + height + b"\x70\x00\x00")
        if settings.repeat:
            film.write(b"!\xff\x0bNETSCAPE2.0\x03\x01\x00\x00\x00")
        for source, frames in parts:
            pictures = _read(gif_pictures, source)
            if len(pictures) != frames:
                raise ExportFailed([Fault("export.write", "", "A part of the film is damaged. Take it off the list and export again.")])
            for picture in pictures:
                delay = (at[shown + 1] - at[shown]).to_bytes(2, "little")
                film.write(b"!\xf9\x04" + bytes([picture.flags]) + delay + bytes([picture.clear, 0]))
                size = (len(picture.palette) // 3).bit_length() - 2
                film.write(b"," + picture.place + bytes([0x80 | size]) + picture.palette + picture.pixels)
                shown += 1
        film.write(b";")


def write_webp(path: Path, frames: Iterable[NDArray[np.uint8]], settings: ExportSettings) -> None:
    """Frames (h, w, 4) uint8 as animated WebP; published whole. Raises ExportFailed.

    Every picture is whole: the library's own animations leave out what differs little from the picture before, and in slow moves and
    dissolves what is left out adds up to blocks that stand still.
    """
    shown: list[tuple[int, bytes]] = []
    count = 0
    for count, pixels in enumerate(frames, 1):
        still = io.BytesIO()
        picture = Image.fromarray(np.ascontiguousarray(_rgba(pixels, settings) if settings.transparent else pixels[..., :3]))
        picture.save(still, "WEBP", quality=WEBP_QUALITIES[settings.quality_index], method=4)
        coded = still.getvalue()
        if not shown or coded != shown[-1][1]:
            shown.append((count - 1, coded))
    at = moments(count, settings, WEBP_TICKS)
    ends = [*(first for first, _ in shown[1:]), count]
    pictures = [(at[end] - at[first], _picture(coded, settings)) for (first, coded), end in zip(shown, ends, strict=True)]
    with published(path) as part, part.open("w+b") as film:
        _write_webp(film, pictures, settings)


def _picture(still: bytes, settings: ExportSettings) -> bytes:
    """A WebP that does not move, as a picture of one that does."""
    sides = (settings.width - 1).to_bytes(3, "little") + (settings.height - 1).to_bytes(3, "little")
    kept = [(n, c) for n, c in webp_chunks(still) if n in (b"ALPH", b"VP8 ", b"VP8L")]
    body = b"".join(n + len(c).to_bytes(4, "little") + c + bytes(len(c) & 1) for n, c in kept)
    return bytes(6) + sides + bytes(3) + bytes([UNBLENDED]) + body


def _write_webp(film: IO[bytes], pictures: Iterable[tuple[int, bytes]], settings: ExportSettings) -> None:
    """`pictures`: (milliseconds, content of the chunk), in order."""
    sides = (settings.width - 1).to_bytes(3, "little") + (settings.height - 1).to_bytes(3, "little")
    flags = ANIMATED | (SEE_THROUGH if settings.transparent else 0)
    film.write(bytes(12) + b"VP8X" + (10).to_bytes(4, "little") + bytes([flags, 0, 0, 0]) + sides)
    film.write(b"ANIM" + (6).to_bytes(4, "little") + bytes(4) + (0 if settings.repeat else 1).to_bytes(2, "little"))
    for lasts, picture in pictures:
        content = picture[:12] + lasts.to_bytes(3, "little") + picture[15:]
        film.write(b"ANMF" + len(content).to_bytes(4, "little") + content + bytes(len(content) & 1))
    size = film.tell()
    film.seek(0)
    film.write(b"RIFF" + (size - 8).to_bytes(4, "little") + b"WEBP")


def webp_chunks(data: bytes) -> list[tuple[bytes, bytes]]:
    """(name, content) of the chunks of a WebP, in order. Raises ValueError for what is none."""
    if data[:4] != b"RIFF" or data[8:12] != b"WEBP":
        raise ValueError("not a WebP")
    chunks, at = [], 12
    while at < len(data):
        size = int.from_bytes(data[at + 4 : at + 8], "little")
        if at + 8 + size > len(data):
            raise ValueError("a torn WebP")
        chunks.append((data[at : at + 4], data[at + 8 : at + 8 + size]))
        at += 8 + size + (size & 1)
    return chunks


def join_webp(parts: list[tuple[Path, int]], target: Path, settings: ExportSettings, title: str) -> None:
    """One WebP of coded parts, at the moments of the film; published whole. Raises ExportFailed."""
    at = moments(sum(n for _, n in parts), settings, WEBP_TICKS)

    def pictures() -> Iterator[tuple[int, bytes]]:
        first = 0
        for source, frames in parts:
            found = [content for name, content in _read(webp_chunks, source) if name == b"ANMF"]
            left = at[first + frames] - at[first]
            for number, picture in enumerate(found):
                # What rounding takes or gives goes to the last one.
                lasts = left if number == len(found) - 1 else int.from_bytes(picture[12:15], "little")
                left -= lasts
                yield lasts, picture
            first += frames

    with published(target) as path, path.open("w+b") as film:
        _write_webp(film, pictures(), settings)


def _read(parse: Any, path: Path) -> Any:
    try:
        return parse(path.read_bytes())
    except (OSError, ValueError, IndexError) as error:
        message = f"The film could not be written: {error}. What is done is kept; start the export again."
        raise ExportFailed([Fault("export.write", "", message)]) from error
