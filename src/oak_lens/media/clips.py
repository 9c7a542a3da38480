"""Reading clips: checked, measured, decoded frame by frame."""

import threading
from bisect import bisect_right
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from ..core.errors import Fault, InvalidPicture
from ..core.time import TICKS_PER_SECOND

LONGEST_SECONDS = 3600
LARGEST_SIDE_PX = 4096
BT601, BT709 = 5, 1
FULL, LIMITED = 2, 1
READ_ON_FRAMES = 40
"""How far ahead a clip is read on rather than sought anew."""


@dataclass(frozen=True, slots=True)
class ClipFacts:
    """Size in pixels as displayed; `length` in ticks; whether the file has sound."""

    width: int
    height: int
    length: int
    frames: int
    sound: bool


BEGINNINGS = ((4, b"ftyp"), (4, b"moov"), (4, b"mdat"), (4, b"wide"), (0, b"\x1a\x45\xdf\xa3"), (0, b"RIFF"))
"""(offset, bytes) that files of MP4, MOV, WebM, MKV and AVI begin with."""


@contextmanager
def _opened(path: Path) -> Iterator[av.container.InputContainer]:
    """The container; raises InvalidPicture for what is no clip, and for damage met while it is read."""
    with path.open("rb") as stream:
        head = stream.read(16)
    if not any(head[at : at + len(mark)] == mark for at, mark in BEGINNINGS):
        message = (
            "This is neither a picture nor a clip we can read. JPEG, PNG, WebP, TIFF, HEIC, AVIF, MP4, MOV, WebM, MKV and AVI are welcome."
        )
        raise InvalidPicture([Fault("picture.format", "", message)])
    try:
        with av.open(str(path), "r", metadata_errors="ignore") as container:
            yield container
    except (av.FFmpegError, ValueError, IndexError) as error:
        raise InvalidPicture(
            [Fault("picture.damaged", "", f"The clip is damaged or cut off and cannot be read ({str(error)[:80]}).")]
        ) from None


def clip_facts(path: Path) -> ClipFacts:
    """Facts of a clip, after a check that it has frames that can be decoded. Raises InvalidPicture."""
    with _opened(path) as container:
        times = _frame_times(container)
        stream = container.streams.video[0]
        width, height = stream.codec_context.width, stream.codec_context.height
        if max(width, height) > LARGEST_SIDE_PX:
            raise InvalidPicture(
                [Fault("picture.pixels", "", f"The clip is {width} x {height} pixels; at most {LARGEST_SIDE_PX} on a side can be used.")]
            )
        length = _length(container, times)
        if length > LONGEST_SECONDS * TICKS_PER_SECOND:
            raise InvalidPicture([Fault("picture.length", "", "The clip is longer than an hour. Cut it first.")])
        sound = bool(container.streams.audio)
    pixels = ClipReader(path).frame(0)
    return ClipFacts(pixels.shape[1], pixels.shape[0], length, len(times), sound)


def _frame_times(container: av.container.InputContainer) -> list[int]:
    """When each frame is shown, in ticks from the first; whatever the file says of its rate. Raises InvalidPicture."""
    if not container.streams.video:
        raise InvalidPicture([Fault("picture.no_frames", "", "The file has no picture in it, only sound or data.")])
    stream = container.streams.video[0]
    shown = sorted({p.pts for p in container.demux(stream) if p.pts is not None and p.size})
    if not shown or stream.time_base is None:
        raise InvalidPicture([Fault("picture.no_frames", "", "The clip has no frames.")])
    return [round((pts - shown[0]) * stream.time_base * TICKS_PER_SECOND) for pts in shown]


def _length(container: av.container.InputContainer, times: list[int]) -> int:
    """Ticks from the first frame to the end of the last."""
    stream = container.streams.video[0]
    rate = stream.average_rate
    last = TICKS_PER_SECOND // 25 if not rate else round(TICKS_PER_SECOND / rate)
    if len(times) > 1:
        last = max(times[-1] - times[-2], 1)
    return times[-1] + last


class ClipReader:
    """Frames of one clip by moment; keeps its place, so that reading on costs one frame. Threads may share it."""

    def __init__(self, path: Path):
        self._path = path
        self._lock = threading.Lock()
        with _opened(path) as container:
            self._times = _frame_times(container)
            stream = container.streams.video[0]
            base = stream.time_base
            assert base is not None

            self._base = base
        self._container: av.container.InputContainer | None = None
        self._frames: Iterator[av.VideoFrame] | None = None
        self._next = 0

    def index_at(self, moment: int) -> int:
        """Number of the frame shown `moment` ticks after the first."""
        return max(bisect_right(self._times, moment) - 1, 0)

    def frame(self, index: int) -> NDArray[np.uint8]:
        """(h, w, 4) uint8 premultiplied sRGB of a frame, upright. Raises InvalidPicture."""
        index = min(max(index, 0), len(self._times) - 1)
        with self._lock:
            try:
                return self._read(index)
            except (av.FFmpegError, StopIteration, ValueError) as error:
                self._shut()
                raise InvalidPicture(
                    [
                        Fault(
                            "picture.damaged",
                            "",
                            f"Frame {index} of the clip cannot be read ({str(error)[:80] or 'the file ends before it'}).",
                        )
                    ]
                ) from None

    def close(self) -> None:
        """Let go of the file, once nobody reads from it; it is opened again when a frame is asked for."""
        with self._lock:
            self._shut()

    def _shut(self) -> None:
        if self._container is not None:
            self._container.close()
        self._container, self._frames, self._next = None, None, 0

    def _read(self, index: int) -> NDArray[np.uint8]:
        wanted = self._times[index]
        back = 0
        if self._container is None or index < self._next or index > self._next + READ_ON_FRAMES:
            self._seek(wanted)
        while True:
            assert self._frames is not None
            frame = next(self._frames)
            at = self._moment_of(frame)
            if at > wanted and self._next == 0 and wanted - back > 0:
                # Files seek by the order of coding: the key frame found may already lie after what is wanted.
                back = 2 * back + TICKS_PER_SECOND // 2
                self._seek(max(wanted - back, 0))
                continue
            self._next = self.index_at(at) + 1
            if self._next > index:
                return _pixels(frame)

    def _moment_of(self, frame: av.VideoFrame) -> int:
        """Ticks from the clip's first frame."""
        assert self._container is not None
        start = self._container.streams.video[0].start_time or 0
        return round(((frame.pts or 0) - start) * self._base * TICKS_PER_SECOND)

    def _seek(self, moment: int) -> None:
        if self._container is None:
            self._container = av.open(str(self._path), "r", metadata_errors="ignore")
            self._container.streams.video[0].thread_type = "AUTO"
        stream = self._container.streams.video[0]
        start = stream.start_time or 0
        self._container.seek(start + round(moment / TICKS_PER_SECOND / self._base), backward=True, stream=stream)
        self._frames = self._container.decode(stream)
        self._next = 0


def _pixels(frame: av.VideoFrame) -> NDArray[np.uint8]:
    """sRGB of a decoded frame: by the matrix and range it is tagged with, or those usual for its size."""
    matrix = int(frame.colorspace)
    if matrix not in (1, 5, 6, 7):
        matrix = BT709 if frame.height >= 720 else BT601
    full_range = int(frame.color_range) == FULL or frame.format.name.startswith("yuvj")
    converted = frame.reformat(format="rgba", src_colorspace=matrix, src_color_range=FULL if full_range else LIMITED, dst_color_range=FULL)
    pixels = np.asarray(converted.to_ndarray(), np.uint8)
    turn = round(frame.rotation / 90) % 4 if frame.rotation else 0
    if turn:
        pixels = np.rot90(pixels, turn)
    alpha = pixels[..., 3:]
    if not (alpha == 255).all():
        pixels = np.concatenate([(pixels[..., :3].astype(np.uint16) * alpha // 255).astype(np.uint8), alpha], axis=2)
    return np.ascontiguousarray(pixels)
