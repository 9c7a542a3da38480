"""Writing films: segments coded on their own, then joined without coding again."""

import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from ..core.delivery import ExportSettings
from ..core.errors import ExportFailed, Fault
from ..core.paint import Yuv420, yuv420
from .sounds import SoundCoder, Soundtrack

BT709 = 1
LIMITED = 1
KEYFRAME_SECONDS = 4
REORDERED_FRAMES = 2
"""How far the coder's order runs ahead of what is shown: two frames, with its pyramid of bidirectional ones."""


@contextmanager
def published(path: Path) -> Iterator[Path]:
    """A file beside `path` to write into, which takes its place when all went well; else nothing is left.

    Raises ExportFailed if the disk is full or the coder fails.
    """
    part = path.with_name(f".{path.name}.{os.getpid()}")
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        yield part
        part.replace(path)
    except (OSError, av.FFmpegError) as error:
        message = f"The film could not be written: {error}. What is done is kept; free some space and start the export again."
        raise ExportFailed([Fault("export.write", "", message)]) from error
    finally:
        part.unlink(missing_ok=True)


def write_segment(
    path: Path, frames: Iterable[NDArray[np.uint8]], settings: ExportSettings, threads: int = 1, preset: str = "veryfast"
) -> None:
    """H.264 of frames (h, w, 4) uint8 in an MP4 of their own, beginning with a key frame; published whole. Raises ExportFailed."""
    with published(path) as part, av.open(str(part), "w", format="mp4") as container:
        coder = VideoCoder(container, settings, threads, preset)
        planes: Yuv420 | None = None
        for pixels in frames:
            planes = yuv420(pixels, planes)
            coder.write(planes)
        coder.finish()


class VideoCoder:
    """Codes frames into an open container: yuv420p, BT.709, limited range, tagged as such."""

    def __init__(self, container: av.container.OutputContainer, settings: ExportSettings, threads: int, preset: str):
        self._container = container
        rate = Fraction(settings.frame_rate.num, settings.frame_rate.den)
        stream = container.add_stream("libx264", rate=rate)
        stream.width, stream.height, stream.pix_fmt = settings.width, settings.height, "yuv420p"
        context = stream.codec_context
        context.thread_count, context.thread_type = threads, "AUTO"
        context.color_primaries = context.color_trc = context.colorspace = BT709
        context.color_range = LIMITED
        context.gop_size = round(KEYFRAME_SECONDS * rate)
        context.options = {
            "preset": preset,
            "crf": str(settings.quality_spec.crf),
            "profile": "high",
            "x264-params": "open-gop=0:force-cfr=1",
        }
        self._stream, self._time_base, self._count = stream, 1 / rate, 0

    def write(self, planes: Yuv420) -> None:
        height, width = planes.luma.shape
        frame = av.VideoFrame(width, height, "yuv420p")
        for plane, data in zip(frame.planes, (planes.luma, planes.blue, planes.red), strict=True):
            target = np.frombuffer(memoryview(plane), np.uint8).reshape(plane.height, plane.line_size)
            target[:, : plane.width] = data
        frame.pts, frame.time_base = self._count, self._time_base
        frame.colorspace, frame.color_range = BT709, LIMITED
        self._count += 1
        self._container.mux(self._stream.encode(frame))

    def finish(self) -> None:
        self._container.mux(self._stream.encode(None))


def join_segments(
    parts: list[tuple[Path, int]],
    target: Path,
    settings: ExportSettings,
    title: str,
    on_part: Callable[[int], None] = lambda done: None,
    sound: Soundtrack | None = None,
) -> None:
    """One film of coded segments `(path, frames)`, streams copied, with its sound, its index at the front; published whole.

    Raises ExportFailed.
    """
    if not parts:
        raise ExportFailed([Fault("export.empty", "", "There is nothing to export: the range holds no frame.")])
    frame_time = 1 / settings.frame_rate.fraction
    with published(target) as part, av.open(str(part), "w", format="mp4", options={"movflags": "+faststart"}) as container:
        container.metadata["title"] = title
        stream = None
        start = 0
        heard: SoundCoder | None = None
        for number, (path, frames) in enumerate(parts):
            with av.open(str(path)) as source:
                incoming = source.streams.video[0]
                if stream is None:
                    stream = container.add_stream_from_template(incoming)
                    stream.time_base = frame_time
                    heard = None if sound is None else SoundCoder(container, sound)
                base = incoming.time_base or frame_time
                packets = ((p, p.pts) for p in source.demux(incoming) if p.pts is not None)
                for place, (packet, shown_at) in enumerate(packets):
                    packet.pts = start + round(shown_at * base / frame_time)
                    # Decoding times of our own: a segment too short to hold reordered frames counts from elsewhere than the others.
                    packet.dts = start + place - REORDERED_FRAMES
                    packet.duration = 1
                    packet.time_base = frame_time
                    packet.stream = stream
                    container.mux(packet)
            start += frames
            if heard is not None:
                heard.write_until(start * frame_time)
            on_part(number + 1)
        if heard is not None:
            heard.finish()
