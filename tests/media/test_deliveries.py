"""Every kind of export: the right frames at the right times, in colour, with sound and transparency where the kind has them."""

import io
import wave
import zipfile
from collections.abc import Callable
from fractions import Fraction
from itertools import accumulate, pairwise
from pathlib import Path

import av
import numpy as np
import pytest
from numpy.typing import NDArray
from PIL import Image

from oak_lens.core.delivery import KINDS, ExportSettings, Kind, kind_named, notes_on
from oak_lens.core.errors import ExportFailed
from oak_lens.media.deliveries import DELIVERIES, delivery_of
from oak_lens.media.sounds import wave_header

WIDTH, HEIGHT = 96, 64
LENGTHS = (5, 1, 6)
SECOND = 48_000
Pixels = NDArray[np.uint8]
FILMS = [k for k in KINDS if k.sound_bits and k.frames == "all"]


class Click:
    """Silence of the film's length with a click of a millisecond at half a second."""

    is_silent = False
    count = SECOND

    def read(self, first: int, last: int) -> NDArray[np.float32]:
        heard = np.zeros((self.count, 2), np.float32)
        heard[SECOND // 2 : SECOND // 2 + 48] = 0.8
        return heard[first:last]


def shade(index: int) -> tuple[int, int, int]:
    """A colour of its own for each frame; two in the first segment are alike."""
    index = 2 if index == 3 else index
    return 30 + index * 15, 220 - index * 12, 90


def painted(index: int, transparent: bool) -> Pixels:
    """A frame in its colour; if `transparent`, its left half is half there (premultiplied) and a corner not at all."""
    frame = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
    frame[..., :3] = shade(index)
    if transparent:
        frame[:, : WIDTH // 2] = frame[:, : WIDTH // 2] // 2
        frame[:16, :16] = 0
    return frame


def settings_of(kind: Kind, transparent: bool = False) -> ExportSettings:
    return ExportSettings(kind=kind.id, width=WIDTH, height=HEIGHT, rate="12", quality="best", transparent=transparent)


def delivered(folder: Path, settings: ExportSettings) -> Path:
    """Twelve frames in three segments and a click, as an export."""
    delivery, parts = delivery_of(settings), []
    starts = (0, *accumulate(LENGTHS))
    cuts = {"all": starts, "one": (0, 1), "none": ()}[settings.kind_spec.frames]
    for number, (first, last) in enumerate(pairwise(cuts)):
        parts.append((folder / str(number), last - first))
        delivery.write(folder / str(number), (painted(i, settings.transparent) for i in range(first, last)), settings)
    target = folder / f"export.{settings.kind_spec.ending}"
    delivery.join(parts, target, settings, "First light", lambda done: None, Click())  # type: ignore[arg-type]
    return target


def straight(frame: av.VideoFrame) -> Pixels:
    pixels = frame.reformat(format="rgba", src_colorspace="ITU709", dst_colorspace="ITU709").to_ndarray()
    if frame.format.name == "yuva444p10le":
        # The scaler loses the last step of alpha.
        plane = frame.planes[3]
        alpha = np.frombuffer(memoryview(plane), np.uint16).reshape(plane.height, -1)[:, : plane.width]
        pixels[..., 3] = np.rint(alpha * 255.0 / 1023.0)
    return np.asarray(pixels, np.uint8)


def shown(path: Path, kind: Kind, seconds: float = 1.0) -> list[tuple[float, Pixels]]:
    """(seconds since the start, (h, w, 4) straight) of each picture, by decoders that had no part in making them."""
    if kind.ending == "zip":
        with zipfile.ZipFile(path) as sequence:
            names = sequence.namelist()
            assert names == [f"First light {i + 1:05d}.png" for i in range(len(names))]
            return [(i / 12, np.asarray(Image.open(io.BytesIO(sequence.read(n))).convert("RGBA"))) for i, n in enumerate(names)]
    if kind.sound_bits:
        with av.open(str(path)) as film:
            frames = list(film.decode(video=0))
        return [(float(f.time or 0), straight(f)) for f in frames]
    with Image.open(path) as picture:
        found, at = [], 0.0
        for index in range(getattr(picture, "n_frames", 1)):
            picture.seek(index)
            picture.load()
            found.append((at, np.asarray(picture.convert("RGBA"))))
            at += float(picture.info.get("duration", 0)) / 1000
        assert kind.frames == "one" or at == pytest.approx(seconds, abs=0.006)
        return found


@pytest.mark.parametrize("kind", FILMS, ids=lambda k: k.id)
def test_every_frame_says_what_its_colours_are(tmp_path: Path, kind: Kind) -> None:
    with av.open(str(delivered(tmp_path, settings_of(kind)))) as film:
        stream = film.streams.video[0].codec_context
        assert (stream.color_primaries, stream.color_trc, stream.colorspace, stream.color_range) == (1, 1, 1, 1)
        for frame in film.decode(video=0):
            assert (int(frame.color_primaries), int(frame.color_trc), int(frame.colorspace)) == (1, 1, 1)
            # ProRes has no place for the range: its pictures are of limited range by definition.
            assert int(frame.color_range) == (0 if kind.id == "prores" else 1) or int(frame.color_range) == 1


def test_a_gif_shows_no_frame_for_less_than_viewers_can(tmp_path: Path) -> None:
    settings = ExportSettings(kind="gif", width=WIDTH, height=HEIGHT, rate="60")
    assert settings.frame_rate.label == "30" and "30 frames a second instead of 60" in notes_on(settings)[0]
    with Image.open(delivered(tmp_path, settings)) as film:
        for index in range(film.n_frames):  # type: ignore[attr-defined]
            film.seek(index)
            assert film.info["duration"] >= 20
    for rate in ("10", "24", "50"):
        kept = settings.model_copy(update={"rate": rate})
        assert kept.frame_rate.label == rate and notes_on(kept) == ()


def test_a_wave_of_two_channels_is_in_the_plain_format(tmp_path: Path) -> None:
    path = delivered(tmp_path, settings_of(kind_named("wav")))
    data = path.read_bytes()
    at = data.index(b"fmt ")
    assert data[at + 4 : at + 10] == bytes((16, 0, 0, 0, 1, 0)) and b"INAM\x0c\x00\x00\x00First light" in data
    with wave.open(str(path)) as heard:
        assert (heard.getnchannels(), heard.getsampwidth(), heard.getframerate(), heard.getnframes()) == (2, 3, SECOND, SECOND)
        samples = np.frombuffer(heard.readframes(SECOND), np.uint8).reshape(-1, 2, 3)
        assert np.flatnonzero(samples[:, 0].any(axis=1)).tolist() == list(range(SECOND // 2, SECOND // 2 + 48))
    with av.open(str(path)) as file:
        assert file.metadata["title"] == "First light" and sum(f.samples for f in file.decode(audio=0)) == SECOND
    # Beyond 4 GB sizes stand in a chunk of their own.
    large = wave_header(900_000_000, "Long")
    assert large[:4] == b"RF64" and large[12:16] == b"ds64" and int.from_bytes(large[28:36], "little") == 5_400_000_000


def test_every_kind_has_something_that_writes_it() -> None:
    assert set(DELIVERIES) == {k.id for k in KINDS}


@pytest.mark.parametrize("kind", [k for k in KINDS if k.frames != "none"], ids=lambda k: k.id)
def test_every_frame_is_shown_at_its_time_in_its_colours(tmp_path: Path, kind: Kind) -> None:
    pictures = shown(delivered(tmp_path, settings_of(kind)), kind)
    expected = range(12 if kind.frames == "all" else 1)
    # Formats may keep a run of like frames as one: whatever is shown at a frame's middle counts.
    for index in expected:
        middle = (index + 0.5) / 12
        _, pixels = [p for p in pictures if p[0] <= middle][-1]
        assert pixels.shape == (HEIGHT, WIDTH, 4)
        assert np.abs(pixels[32, 48, :3].astype(int) - shade(index)).max() <= 6, (index, pixels[32, 48])
        assert (pixels[..., 3] == 255).all()
    if kind.sound_bits or kind.ending == "zip":
        assert [round(t * 12, 1) for t, _ in pictures] == list(expected)


@pytest.mark.parametrize("kind", [k for k in KINDS if "transparent" in k.uses], ids=lambda k: k.id)
def test_what_is_empty_stays_see_through_and_colours_are_straight(tmp_path: Path, kind: Kind) -> None:
    for at, pixels in shown(delivered(tmp_path, settings_of(kind, transparent=True)), kind):
        colour = shade(round(at * 12))
        assert np.abs(pixels[40, 80].astype(int) - (*colour, 255)).max() <= 6
        assert pixels[4, 4, 3] == 0
        if kind.id != "gif":
            # A GIF's pixels are there or not.
            assert np.abs(pixels[40, 20].astype(int) - (*colour, 127)).max() <= 8


@pytest.mark.parametrize("kind", [k for k in KINDS if k.sound_bits], ids=lambda k: k.id)
def test_the_click_is_heard_where_it_is(tmp_path: Path, kind: Kind) -> None:
    path = delivered(tmp_path, settings_of(kind))
    with av.open(str(path)) as export:
        resampler = av.AudioResampler(format="flt", layout="stereo", rate=SECOND)
        parts: list[tuple[Fraction, NDArray[np.float32]]] = []
        for frame in export.decode(audio=0):
            at = frame.pts * frame.time_base
            parts += [(at, f.to_ndarray().reshape(-1, 2)) for f in resampler.resample(frame)]
        first = parts[0][0]
    heard = np.abs(np.concatenate([p for _, p in parts])).max(axis=1)
    click = float(first) + float(np.argmax(heard > 0.3 * heard.max())) / SECOND
    assert heard.max() > 0.4
    # Coders smear a click over some samples; uncompressed sound keeps it to the sample.
    assert abs(click - 0.5) < (1e-9 if kind.id in ("wav", "prores") else 0.005)


@pytest.mark.parametrize("kind", [k for k in KINDS if k.frames != "none"], ids=lambda k: k.id)
def test_a_torn_part_is_said_and_nothing_is_half_written(tmp_path: Path, kind: Kind) -> None:
    settings = settings_of(kind)
    torn = tmp_path / "torn"
    torn.write_bytes(b"torn")
    with pytest.raises(ExportFailed, match="could not be written"):
        delivery_of(settings).join([(torn, 5)], tmp_path / "export", settings, "x", lambda done: None, Click())  # type: ignore[arg-type]
    assert [p.name for p in tmp_path.iterdir()] == ["torn"]


def test_an_animation_runs_once_or_for_ever(tmp_path: Path) -> None:
    for kind, repeat in ((k, r) for k in KINDS if "repeat" in k.uses for r in (True, False)):
        once: Callable[[str], ExportSettings] = lambda id_: settings_of(kind).model_copy(update={"repeat": repeat})  # noqa: E731, B023
        folder = tmp_path / f"{kind.id}{repeat}"
        folder.mkdir()
        with Image.open(delivered(folder, once(kind.id))) as picture:
            # GIF states no repeats at all when it runs once; WebP says 1.
            assert (picture.info.get("loop", 1) == 0) is repeat


@pytest.mark.parametrize("kind", [k for k in KINDS if k.frames == "all"], ids=lambda k: k.id)
def test_what_changes_slowly_does_not_stand_still(tmp_path: Path, kind: Kind) -> None:
    """A picture that grows lighter by a level a frame: coders that leave out small changes would leave it behind."""
    settings = settings_of(kind).model_copy(update={"quality": "draft"})
    texture = np.random.default_rng(3).integers(0, 80, (HEIGHT // 8, WIDTH // 8)).repeat(8, 0).repeat(8, 1)
    frames = [np.dstack([*((texture + 40 + i),) * 3, np.full_like(texture, 255)]).astype(np.uint8) for i in range(40)]
    delivery = delivery_of(settings)
    delivery.write(tmp_path / "part", iter(frames), settings)
    target = tmp_path / f"export.{kind.ending}"
    delivery.join([(tmp_path / "part", 40)], target, settings, "First light", lambda done: None, Click())  # type: ignore[arg-type]
    _, last = [p for p in shown(target, kind, 40 / 12) if p[0] <= 39.5 / 12][-1]
    # Blocks of eight, away from their edges; a palette of 256 colours holds all of these greys.
    assert np.abs(last[4::8, 4::8, :3].astype(int) - frames[-1][4::8, 4::8, :3]).mean() < 4
