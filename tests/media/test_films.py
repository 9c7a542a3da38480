"""Films: even times at every rate, segments that join without a seam, nothing half-written."""

from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import av
import numpy as np
import pytest

from oak_lens.core.delivery import ExportSettings
from oak_lens.core.errors import ExportFailed
from oak_lens.core.time import RATES
from oak_lens.media.films import join_segments, write_segment


def shades(first: int, count: int) -> Iterator[np.ndarray]:
    """Frames whose grey counts up."""
    for i in range(count):
        frame = np.full((96, 160, 4), 255, np.uint8)
        frame[..., :3] = 20 + (first + i) * 4
        yield frame


@pytest.mark.parametrize("rate", [r.label for r in RATES])
def test_joined_segments_play_at_even_times_with_every_frame_in_its_place(tmp_path: Path, rate: str) -> None:
    settings = ExportSettings(width=160, height=96, rate=rate, quality="best")
    lengths = (7, 1, 12, 20)
    parts, first = [], 0
    for i, length in enumerate(lengths):
        path = tmp_path / f"{i}.mp4"
        write_segment(path, shades(first, length), settings)
        parts.append((path, length))
        first += length
    join_segments(parts, tmp_path / "film.mp4", settings, "Shades")
    with av.open(str(tmp_path / "film.mp4")) as film:
        stream = film.streams.video[0]
        frames = list(film.decode(video=0))
        assert stream.average_rate == settings.frame_rate.fraction and stream.frames == sum(lengths)
    assert len(frames) == sum(lengths) and frames[0].pts == 0
    assert {(b.pts - a.pts) * stream.time_base for a, b in pairwise(frames)} == {1 / settings.frame_rate.fraction}
    greys = [f.to_ndarray()[40, 80] for f in frames]
    expected = [16 + (20 + i * 4) * 219 / 255 for i in range(len(frames))]
    assert max(abs(int(a) - b) for a, b in zip(greys, expected, strict=True)) <= 3


MARKS = [(x, y) for x in range(50, 600, 55) for y in range(40, 330, 55)]
PACE_PX = 0.08


def glowing(count: int) -> Iterator[np.ndarray]:
    """Frames with soft marks that go slowly to the right."""
    x, y = np.arange(640) + 0.5, np.arange(360) + 0.5
    bell = lambda away: np.exp(-(away**2) / (2 * 6.0**2))  # noqa: E731
    down = np.array([bell(y - v) for _, v in MARKS])
    for i in range(count):
        glow = 20.0 + 200 * down.T @ np.array([bell(x - u - i * PACE_PX) for u, _ in MARKS])
        frame = np.full((360, 640, 4), 255, np.uint8)
        frame[..., :3] = np.rint(glow)[..., None]
        yield frame


def seen_at(luma: np.ndarray) -> float:
    """How far, on the whole, the marks have come: by their centres of gravity."""
    found = []
    for u, v in MARKS:
        part = np.maximum(luma[v - 24 : v + 24, u - 22 : u + 26].astype(float) - 50.0, 0.0)
        found.append(float((part.sum(axis=0) * (np.arange(-22, 26) + 0.5)).sum() / part.sum()))
    return float(np.mean(found))


@pytest.mark.parametrize(("quality", "off_px"), [("good", 0.015), ("best", 0.008)])
def test_a_slow_move_goes_on_in_every_frame_of_the_coded_film(tmp_path: Path, quality: str, off_px: float) -> None:
    write_segment(tmp_path / "slow.mp4", glowing(48), ExportSettings(width=640, height=360, quality=quality))
    with av.open(str(tmp_path / "slow.mp4")) as film:
        places = np.array([seen_at(f.to_ndarray()[:360, :640]) for f in film.decode(video=0)])
    drift = places - np.arange(48) * PACE_PX
    assert drift.std() < off_px and np.abs(drift - drift.mean()).max() < 0.08


def test_a_stopped_segment_leaves_nothing(tmp_path: Path) -> None:
    class Stop(Exception):
        pass

    def stopping() -> Iterator[np.ndarray]:
        yield from shades(0, 5)
        raise Stop

    with pytest.raises(Stop):
        write_segment(tmp_path / "a.mp4", stopping(), ExportSettings(width=160, height=96))
    assert not list(tmp_path.iterdir())


def test_what_cannot_be_written_or_joined_is_said(tmp_path: Path) -> None:
    settings = ExportSettings(width=160, height=96)
    (tmp_path / "torn.mp4").write_bytes(b"torn")
    for parts in ([(tmp_path / "torn.mp4", 5)], [(tmp_path / "gone.mp4", 5)]):
        with pytest.raises(ExportFailed, match="could not be written"):
            join_segments(parts, tmp_path / "film.mp4", settings, "x")
    with pytest.raises(ExportFailed, match="nothing to export"):
        join_segments([], tmp_path / "film.mp4", settings, "x")
    assert [p.name for p in tmp_path.iterdir()] == ["torn.mp4"]
