"""Writing films: segments coded on their own, then joined without coding again."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import cast

import av
import cv2
import numpy as np
from av.video.reformatter import ColorRange, Colorspace
from numpy.typing import NDArray

from ..core.delivery import ExportSettings
from ..core.errors import ExportFailed, Fault
from ..core.paint import Yuv420, yuv420
from .publishing import published
from .sounds import AAC, OPUS, PCM, SoundCoder, SoundCoding, Soundtrack

Part = tuple[Path, int]
"""A coded segment and its frames."""

BT709 = 1
LIMITED = 1
KEYFRAME_SECONDS = 4


@dataclass(frozen=True, slots=True)
class VideoCoding:
    """How the pictures of a film are coded. `options` of the coder by index of quality.

    `reordered`: how many frames the coder's order runs ahead of what is shown.
    """

    container: str
    codec: str
    options: tuple[dict[str, str], ...]
    sound: SoundCoding
    reordered: int = 0
    see_through: bool = False


def _h264(crf: int) -> dict[str, str]:
    return {"preset": "veryfast", "crf": str(crf), "profile": "high", "x264-params": f"open-gop=0:force-cfr=1:{STEADY}:{CUT}"}


STEADY = "mbtree=0:no-dct-decimate=1:deadzone-inter=8:deadzone-intra=6:aq-strength=0.5"
"""Small differences from frame to frame are coded, not saved up: slow moves are made of nothing else. As coders usually do it, they stand
still for some frames and then jump by a tenth of a pixel (`./oak bench --only smooth`)."""

CUT = "bframes=2:b-pyramid=none:b-adapt=0:scenecut=0"
"""Nothing is searched for that is known: holds and joins are segments of their own, and each begins with a key frame. Two bidirectional
frames between others keep slow moves steadier than three; that none of them is looked back to saves a tenth of the work and a fortieth of the
bytes for a twelfth of a decibel, and 24 MB."""


def _vp9(crf: int) -> dict[str, str]:
    return {"crf": str(crf), "b": "0", "deadline": "good", "cpu-used": "5", "row-mt": "0"}


def _av1(crf: int) -> dict[str, str]:
    return {"crf": str(crf), "preset": "9", "svtav1-params": "lp=1"}


CODINGS = {
    # Two frames reordered: the pyramid of bidirectional ones.
    "mp4": VideoCoding("mp4", "libx264", (_h264(29), _h264(23), _h264(18)), AAC, reordered=2),
    "webm": VideoCoding("webm", "libvpx-vp9", (_vp9(42), _vp9(31), _vp9(20)), OPUS),
    "webm-av1": VideoCoding("webm", "libsvtav1", (_av1(48), _av1(35), _av1(22)), OPUS),
    "prores": VideoCoding("mov", "prores_ks", ({"profile": "4444", "vendor": "apl0", "alpha_bits": "16"},), PCM, see_through=True),
}


def coding_of(settings: ExportSettings) -> VideoCoding:
    return CODINGS[settings.kind]


def write_segment(path: Path, frames: Iterable[NDArray[np.uint8]], settings: ExportSettings) -> None:
    """Frames (h, w, 4) uint8 coded in a file of their own, beginning with a key frame; published whole. Raises ExportFailed."""
    with published(path) as part, av.open(str(part), "w", format=coding_of(settings).container) as container:
        coder = VideoCoder(container, settings)
        for pixels in frames:
            coder.write(pixels)
        coder.finish()


class VideoCoder:
    """Codes frames into an open container: BT.709, limited range, tagged as such; with transparency straight."""

    def __init__(self, container: av.container.OutputContainer, settings: ExportSettings):
        self._container, self._coding = container, coding_of(settings)
        rate = Fraction(settings.frame_rate.num, settings.frame_rate.den)
        stream = cast(av.VideoStream, container.add_stream(self._coding.codec, rate=rate))
        stream.width, stream.height = settings.width, settings.height
        stream.pix_fmt = "yuva444p10le" if self._coding.see_through else "yuv420p"
        context = stream.codec_context
        context.thread_count, context.thread_type = 1, "AUTO"
        context.color_primaries = context.color_trc = context.colorspace = BT709
        context.color_range = LIMITED
        context.gop_size = round(KEYFRAME_SECONDS * rate)
        context.options = dict(self._coding.options[min(settings.quality_index, len(self._coding.options) - 1)])
        self._stream, self._time_base, self._count = stream, 1 / rate, 0
        self._planes: Yuv420 | None = None

    def write(self, pixels: NDArray[np.uint8]) -> None:
        """(h, w, 4) uint8 sRGB: opaque, or premultiplied where the coding keeps transparency."""
        frame = self._straight(pixels) if self._coding.see_through else self._opaque(pixels)
        frame.pts, frame.time_base = self._count, self._time_base
        # Coders that write their own headers take these from the frame, not from the stream.
        frame.color_primaries = frame.color_trc = frame.colorspace = BT709
        frame.color_range = LIMITED
        self._count += 1
        self._container.mux(self._stream.encode(frame))

    def _opaque(self, pixels: NDArray[np.uint8]) -> av.VideoFrame:
        self._planes = planes = yuv420(pixels, self._planes)
        height, width = planes.luma.shape
        frame = av.VideoFrame(width, height, "yuv420p")
        for plane, data in zip(frame.planes, (planes.luma, planes.blue, planes.red), strict=True):
            target = np.frombuffer(memoryview(plane), np.uint8).reshape(plane.height, plane.line_size)
            target[:, : plane.width] = data
        return frame

    def _straight(self, pixels: NDArray[np.uint8]) -> av.VideoFrame:
        frame = av.VideoFrame.from_ndarray(np.asarray(cv2.cvtColor(pixels, cv2.COLOR_mRGBA2RGBA), np.uint8), format="rgba")
        deep = frame.reformat(
            format="yuva444p10le",
            src_colorspace=Colorspace.ITU709,
            dst_colorspace=Colorspace.ITU709,
            src_color_range=ColorRange.JPEG,
            dst_color_range=ColorRange.MPEG,
        )
        # The scaler shifts alpha to 10 bits, which leaves what is opaque a little see-through.
        alpha = deep.planes[3]
        target = np.frombuffer(memoryview(alpha), np.uint16).reshape(alpha.height, alpha.line_size // 2)
        target[:, : alpha.width] = (pixels[..., 3].astype(np.uint32) * 1023 + 127) // 255
        return deep

    def finish(self) -> None:
        self._container.mux(self._stream.encode(None))


def join_segments(
    parts: list[Part],
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
    coding = coding_of(settings)
    frame_time = 1 / settings.frame_rate.fraction
    options = {} if coding.container == "webm" else {"movflags": "+faststart"}
    with published(target) as part, av.open(str(part), "w", format=coding.container, options=options) as container:
        container.metadata["title"] = title
        stream = None
        start = 0
        heard: SoundCoder | None = None
        for number, (path, frames) in enumerate(parts):
            # Opened plainly, a file's first frames are decoded to guess what it says of itself: only of the first part is that asked.
            with av.open(str(path), options={"skip_frame": "all"} if number else {}) as source:
                incoming = source.streams.video[0]
                if stream is None:
                    stream = container.add_stream_from_template(incoming, opaque=True)
                    stream.time_base = frame_time
                    heard = None if sound is None else SoundCoder(container, sound, coding.sound)
                base = incoming.time_base or frame_time
                packets = ((p, p.pts) for p in source.demux(incoming) if p.pts is not None)
                for place, (packet, shown_at) in enumerate(packets):
                    packet.pts = start + round(shown_at * base / frame_time)
                    # Decoding times of our own: a segment too short to hold reordered frames counts from elsewhere than the others.
                    packet.dts = start + place - coding.reordered
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
