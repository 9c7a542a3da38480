"""The reference film as a plain filter graph of the FFmpeg libraries makes it: what an export is measured against.

Per scene a still backdrop, blurred beforehand, and a still card (photo, border and shadow in one) that grows, is turned and laid over it;
crossfades between scenes; the same coder with the same settings, one thread each. The libraries that ship here have no filter for
perspective, so the card is turned in the plane: the graph has less to do than the export.
"""

import sys
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
from av.filter import Graph
from numpy.typing import NDArray

from oak_lens.core.delivery import ExportSettings
from oak_lens.media.films import coding_of
from oak_lens.media.pictures import read_picture

WIDTH, HEIGHT, RATE = 1920, 1080, 30
HOLD, JOIN = 3.2, 1.0
CARD_HEIGHT = 0.78
BORDER_PX, SHADOW_PX = 22, 48


def stills(path: Path) -> tuple[NDArray[np.uint8], NDArray[np.uint8]]:
    """(backdrop (1080, 1920, 3), card (h, w, 4)): as a scripter bakes them once."""
    photo = read_picture(path)[..., :3]
    height = round(HEIGHT * CARD_HEIGHT)
    small = cv2.resize(photo, (round(photo.shape[1] * height / photo.shape[0]) // 2 * 2, height), interpolation=cv2.INTER_AREA)
    backdrop = cv2.GaussianBlur(cv2.resize(photo, (WIDTH // 4, HEIGHT // 4), interpolation=cv2.INTER_AREA), (0, 0), 12)
    backdrop = cv2.resize(backdrop, (WIDTH, HEIGHT), interpolation=cv2.INTER_LINEAR) // 4 * 3
    mounted = cv2.copyMakeBorder(small, *(BORDER_PX,) * 4, cv2.BORDER_CONSTANT, value=(248, 244, 234))
    card = np.zeros((mounted.shape[0] + 4 * SHADOW_PX, mounted.shape[1] + 4 * SHADOW_PX, 4), np.uint8)
    inside = (slice(2 * SHADOW_PX, -2 * SHADOW_PX),) * 2
    card[(*inside, 3)] = 128
    card = cv2.GaussianBlur(card, (0, 0), SHADOW_PX / 2)
    card[(*inside, slice(0, 3))], card[(*inside, 3)] = mounted, 255
    return np.ascontiguousarray(backdrop), np.ascontiguousarray(card)


def made(paths: list[Path], target: Path) -> int:
    """The film in `target`; gives how many frames it has."""
    graph = Graph()
    graph.threads = 1
    feeds, scenes = [], []
    for number, path in enumerate(paths):
        # The first has no join before it, the last none after it.
        frames = round((HOLD + JOIN * (1 if number in (0, len(paths) - 1) else 2)) * RATE)
        backdrop, card = stills(path)
        still = []
        for pixels, layout in ((backdrop, "rgb24"), (card, "rgba")):
            frame = av.VideoFrame.from_ndarray(pixels, format=layout)
            frame.pts, frame.time_base = 0, Fraction(1, RATE)
            source = graph.add_buffer(width=frame.width, height=frame.height, format=frame.format, time_base=frame.time_base)
            as_coded = graph.add("format", "yuv420p" if layout == "rgb24" else "yuva420p")
            again, paced = graph.add("loop", f"loop={frames - 1}:size=1"), graph.add("setpts", f"N/{RATE}/TB")
            source.link_to(as_coded)
            as_coded.link_to(again)
            again.link_to(paced)
            still.append(paced)
            feeds.append((source, frame))
        grown = graph.add("scale", f"w='2*trunc(iw*(0.9+0.15*n/{frames})/2)':h=-2:eval=frame:flags=bilinear")
        turned = graph.add("rotate", "a=-0.05:c=none:ow=iw*1.06:oh=ih*1.06")
        laid = graph.add("overlay", "x=(W-w)/2:y=(H-h)/2:shortest=1")
        paced = graph.add("fps", str(RATE))
        still[1].link_to(grown)
        grown.link_to(turned)
        still[0].link_to(laid, 0, 0)
        turned.link_to(laid, 0, 1)
        laid.link_to(paced)
        scenes.append(paced)
    film = scenes[0]
    for number, scene in enumerate(scenes[1:], start=1):
        fade = graph.add("xfade", f"transition=fade:duration={JOIN}:offset={number * (HOLD + JOIN) - JOIN}")
        film.link_to(fade, 0, 0)
        scene.link_to(fade, 0, 1)
        film = fade
    planes, sink = graph.add("format", "yuv420p"), graph.add("buffersink")
    film.link_to(planes)
    planes.link_to(sink)
    graph.configure()
    for source, frame in feeds:
        source.push(frame)
        source.push(None)
    return _coded(graph, target)


def _coded(graph: Graph, target: Path) -> int:
    settings = ExportSettings(width=WIDTH, height=HEIGHT)
    coding = coding_of(settings)
    count = 0
    with av.open(str(target), "w", format=coding.container) as container:
        stream = container.add_stream(coding.codec, rate=RATE)
        stream.width, stream.height, stream.pix_fmt = WIDTH, HEIGHT, "yuv420p"
        stream.codec_context.thread_count = 1
        stream.codec_context.options = dict(coding.options[settings.quality_index])
        while True:
            try:
                frame = graph.vpull()
            except av.EOFError:
                break
            frame.pts, frame.time_base, frame.pict_type = count, Fraction(1, RATE), 0
            container.mux(stream.encode(frame))
            count += 1
        container.mux(stream.encode(None))
    return count


if __name__ == "__main__":
    print(made([Path(p) for p in sys.argv[2:]], Path(sys.argv[1])))
