"""The command line, run as a person does: documents as files, frames, films read back by another decoder."""

import contextlib
import io
import json
import os
import subprocess
import sys
import wave
from itertools import pairwise
from pathlib import Path

import av
import cv2
import numpy as np
import pytest
from PIL import Image

from oak_lens.cli.__main__ import main
from oak_lens.core.document import SCHEMA_VERSION, parse_json
from oak_lens.core.sound import composed
from tests.conftest import ROOT

ENVIRONMENT = {**os.environ, "PYTHONPATH": str(ROOT / "src")}


ALONE = ("--processes", "1")


def oak(folder: Path, *arguments: str, paints: bool = True) -> "subprocess.CompletedProcess[str]":
    """One verb; in this process, but for a render that `paints` over processes of its own."""
    if arguments[0] != "render" or not paints or "--processes" in arguments:
        said, complained = io.StringIO(), io.StringIO()
        with contextlib.chdir(folder), contextlib.redirect_stdout(said), contextlib.redirect_stderr(complained):
            try:
                code = main(arguments)
            except SystemExit as ended:
                code = int(ended.code or 0)
        return subprocess.CompletedProcess(arguments, code, said.getvalue(), complained.getvalue())
    return subprocess.run(
        [sys.executable, "-m", "oak_lens.cli", *arguments], cwd=folder, env=ENVIRONMENT, capture_output=True, text=True, check=False
    )


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Flat colour cards and one broken file, with a document of 30 frames a scene."""
    folder = tmp_path_factory.mktemp("film")
    (folder / "cards").mkdir()
    for name, colour in CARDS.items():
        Image.new("RGB", (480, 270), colour).save(folder / "cards" / f"{name}.png")
    (folder / "cards" / "broken.jpg").write_bytes(b"\xff\xd8 no")
    made = oak(
        folder,
        "new",
        "film.json",
        "--pictures",
        "cards",
        "--size",
        "320x180",
        "--rate",
        "25",
        "--hold",
        "1",
        "--join",
        "dissolve:0.4",
        "--title",
        "Colour cards",
    )
    assert made.returncode == 0 and "broken.jpg" in made.stderr and "[picture." in made.stderr, made.stderr
    return folder


CARDS = {"1-red": (200, 40, 30), "2-green": (30, 160, 60), "3-sky": (90, 150, 220), "4-grey": (128, 128, 128)}


def test_a_film_has_its_length_its_tags_and_its_colours(folder: Path) -> None:
    rendered = oak(folder, "render", "film.json", "--out", "film.mp4", "--keep", "kept", "--quality", "best")
    assert rendered.returncode == 0, rendered.stderr
    frames = 4 * 25 + 3 * 10
    data = (folder / "film.mp4").read_bytes()
    assert data.index(b"moov") < data.index(b"mdat"), "the index stands at the front"
    with av.open(str(folder / "film.mp4")) as film:
        stream = film.streams.video[0]
        context = stream.codec_context
        assert (context.name, context.pix_fmt, context.width, context.height) == ("h264", "yuv420p", 320, 180)
        assert (context.color_primaries, context.color_trc, context.colorspace, context.color_range) == (1, 1, 1, 1)
        assert stream.average_rate == 25 and film.metadata["title"] == "Colour cards"
        times = [f.pts * stream.time_base for f in film.decode(video=0)]
    assert len(times) == frames and all(b - a == times[1] - times[0] for a, b in pairwise(times))
    # Another decoder, with its own colour conversion.
    capture = cv2.VideoCapture(str(folder / "film.mp4"), cv2.CAP_FFMPEG)
    shots = []
    while (read := capture.read())[0]:
        shots.append(read[1])
    assert len(shots) == frames
    for frame, (name, colour) in zip((5, 40, 75, 110), CARDS.items(), strict=True):
        difference = np.abs(shots[frame][60:120, 100:220, ::-1].reshape(-1, 3).mean(axis=0) - colour).max()
        # OpenCV converts by BT.601 unless told; grey tells of range and gamma alone.
        assert difference <= (2 if name == "4-grey" else 45)
    with av.open(str(folder / "film.mp4")) as film:
        for frame, picture in enumerate(film.decode(video=0)):
            if frame in (5, 40, 75, 110):
                rgb = picture.reformat(format="rgb24", src_colorspace=1, src_color_range=1, dst_color_range=2).to_ndarray()
                assert np.abs(rgb[60:120, 100:220].reshape(-1, 3).mean(axis=0) - list(CARDS.values())[(frame - 5) // 35]).max() <= 3
    again = oak(folder, "render", "film.json", "--out", "again.mp4", "--keep", "kept", "--quality", "best", *ALONE)
    assert again.returncode == 0 and (folder / "again.mp4").read_bytes() == data
    part = oak(folder, "render", "film.json", "--out", "part.mp4", "--range", "0.5:1.1", "--size", "160x90", *ALONE)
    assert part.returncode == 0 and "15 frames" in part.stdout


def test_what_is_rendered_goes_by_the_files_ending(folder: Path) -> None:
    small = ("--size", "160x90", "--range", "0.5:1.5")
    for name, said in (("film.gif", "12 frames, 1.00 s"), ("film.zip", "12 frames"), ("film.webm", "12 frames"), ("still.png", "1 frames")):
        rendered = oak(folder, "render", "film.json", "--out", name, "--rate", "12", *small, *ALONE)
        assert rendered.returncode == 0 and said in rendered.stdout, (name, rendered.stderr)
    with Image.open(folder / "film.gif") as film, Image.open(folder / "still.png") as still:
        assert film.n_frames == 12  # type: ignore[attr-defined]
        assert (np.abs(np.asarray(still)[40, 80].astype(int) - CARDS["1-red"]) <= 1).all() and still.size == (160, 90)
        assert np.abs(np.asarray(film.convert("RGB"))[40, 80].astype(int) - CARDS["1-red"]).max() <= 3
    refused = oak(folder, "render", "film.json", "--out", "film.mp4", "--transparent", *small, paints=False)
    assert refused.returncode == 1 and "ransparency cannot be kept as MP4" in refused.stderr and "ProRes 4444" in refused.stderr
    silent = oak(folder, "render", "film.json", "--out", "film.wav", paints=False)
    assert silent.returncode == 1 and "nothing to hear" in silent.stderr and not (folder / "film.wav").exists()


def test_a_frame_is_what_the_painter_paints(folder: Path) -> None:
    assert oak(folder, "frame", "film.json", "--at", "1.2", "--out", "mid.png", "--size", "320x180").returncode == 0
    middle = np.asarray(Image.open(folder / "mid.png"))[90, 160]
    assert np.abs(middle.astype(int) - (np.array(CARDS["1-red"]) + CARDS["2-green"]) / 2).max() <= 1.5


def test_evaluating_tells_corners_in_frame_pixels(folder: Path) -> None:
    answer = json.loads(oak(folder, "evaluate", "film.json", "--at", "0").stdout)
    left, top = answer["layers"][0]["corners_px"][0]
    assert answer["frame_px"] == [320, 180] and left <= 0 and top <= 0
    assert [i["kind"] for i in answer["draw"]["items"]] == ["backdrop", "shadow", "layer"]


def test_edits_are_applied_or_refused_with_their_path(folder: Path) -> None:
    (folder / "edits.json").write_text(json.dumps([{"edit": "set_title", "title": "Cards"}, {"edit": "remove_scenes", "ids": ["s2"]}]))
    assert oak(folder, "edit", "film.json", "edits.json", "--out", "edited.json").returncode == 0
    edited = json.loads((folder / "edited.json").read_text())
    assert edited["title"] == "Cards" and set(edited["scenes"]) == {"s1", "s3", "s4"}
    (folder / "bad.json").write_text(json.dumps([{"edit": "set_title", "title": ""}]))
    refused = oak(folder, "edit", "film.json", "bad.json", "--out", "no.json")
    assert refused.returncode == 1 and refused.stderr.startswith("edits.0.title: ") and not (folder / "no.json").exists()


def test_exit_codes_tell_bad_input_from_bad_usage(folder: Path) -> None:
    (folder / "wrong.json").write_text('{"schema": 1, "title": "", "frame": {"rate": "7"}}')
    wrong = oak(folder, "validate", "wrong.json")
    assert wrong.returncode == 1 and {line.split(":")[0] for line in wrong.stderr.splitlines()} == {"title", "frame.rate"}
    assert oak(folder, "validate", "film.json").returncode == 0
    assert oak(folder, "validate", "nowhere.json").returncode == 1
    assert (
        oak(folder, "render", "film.json", paints=False).returncode == 2
        and oak(folder, "frame", "film.json", "--at", "0", "--out", "x.png", "--size", "big").returncode == 2
    )
    assert json.loads(oak(folder, "schema").stdout)["title"] == f"Oak Lens document, schema {SCHEMA_VERSION}"
    (folder / "cards" / "2-green.png").rename(folder / "away.png")
    missing = oak(folder, "render", "film.json", "--out", "no.mp4", paints=False)
    (folder / "away.png").rename(folder / "cards" / "2-green.png")
    assert missing.returncode == 1 and "media.p2" in missing.stderr and not (folder / "no.mp4").exists()


BAD = [
    ("frame", "film.json", "--at", "nan", "--out", "x.png"),
    ("frame", "film.json", "--at", "inf", "--out", "x.png"),
    ("frame", "film.json", "--at", "1e300", "--out", "x.png"),
    ("frame", "film.json", "--at", "-1", "--out", "x.png"),
    ("evaluate", "film.json", "--at", "1e300"),
    ("frame", "film.json", "--at", "0", "--out", "x.png", "--size", "0x0"),
    ("frame", "film.json", "--at", "0", "--out", "x.png", "--size", "99999x99999"),
    ("frame", "film.json", "--at", "0", "--out", "x.png", "--size", "321x180"),
    ("frame", "film.json", "--at", "0", "--out", ""),
    ("frame", "film.json", "--at", "0", "--out", "."),
    ("frame", "film.json", "--at", "0", "--out", "cards"),
    ("frame", "film.json", "--at", "0", "--out", "n" * 300 + ".png"),
    ("frame", "film.json", "--at", "0", "--out", "no/such/folder/x.png"),
    ("new", "x.json", "--pictures", "cards", "--hold", "nan"),
    ("new", "x.json", "--pictures", "cards", "--hold", "1e300"),
    ("new", "x.json", "--pictures", "cards", "--join", "dissolve:inf"),
    ("new", "x.json", "--pictures", "cards", "--join", "dissolve:1e300"),
    ("new", "x.json", "--pictures", "cards", "--join", "melt:1"),
    ("new", "x.json", "--pictures", "cards", "--rate", "nan"),
    ("new", "x.json", "--pictures", "nowhere"),
    ("edit", "film.json", "film.json", "--out", "cards"),
    ("hear", "cards/1-red.png", "--into", "film.json"),
    ("hear", "nowhere.wav", "--into", "film.json"),
]
BAD_RENDERS = [
    ("--range", "nan:2"), ("--range", "0:inf"), ("--range", "1e300:"), ("--range", "3:2"), ("--size", "0x0"), ("--size", "99999x99999"),
    ("--size", "321x180"), ("--keep", "film.json"), ("--out", "film.xyz"), ("--out", "film"), ("--out", ""), ("--out", "cards"),
]  # fmt: skip


@pytest.mark.parametrize("arguments", [*BAD, *(("render", "film.json", "--out", "x.mp4", *more) for more in BAD_RENDERS)], ids=" ".join)
def test_bad_options_are_said_in_a_sentence_and_leave_nothing(folder: Path, arguments: tuple[str, ...]) -> None:
    before = sorted(p.name for p in folder.iterdir())
    said = io.StringIO()
    with contextlib.chdir(folder), contextlib.redirect_stderr(said), contextlib.redirect_stdout(io.StringIO()):
        try:
            code = main(arguments)
        except SystemExit as ended:
            code = int(ended.code or 0)
    assert code in (1, 2) and len(said.getvalue().strip().splitlines()[-1]) > 15, said.getvalue()
    assert sorted(p.name for p in folder.iterdir()) == before


def test_a_name_that_no_file_can_have_is_a_missing_picture(folder: Path) -> None:
    document = json.loads((folder / "film.json").read_text())
    document["media"]["p1"]["file"] = "n" * 290
    (folder / "long.json").write_text(json.dumps(document))
    found = oak(folder, "frame", "long.json", "--at", "0", "--out", "x.png")
    (folder / "long.json").unlink()
    assert found.returncode == 1 and "media.p1" in found.stderr and "[picture.missing]" in found.stderr


def test_a_song_is_heard_into_a_document_without_a_server(tmp_path: Path) -> None:
    made = composed("bright", 104, 0.7, 12, 5)
    (tmp_path / "music").mkdir()
    with wave.open(str(tmp_path / "music" / "Ridge.wav"), "wb") as file:
        file.setnchannels(2)
        file.setsampwidth(2)
        file.setframerate(48_000)
        file.writeframes(np.rint(made.samples * 32767).astype("<i2").tobytes())
    (tmp_path / "cards").mkdir()
    Image.new("RGB", (64, 64), (90, 90, 90)).save(tmp_path / "cards" / "grey.png")
    assert oak(tmp_path, "new", "film.json", "--pictures", "cards", "--hold", "9").returncode == 0
    heard = oak(tmp_path, "hear", "music/Ridge.wav", "--into", "film.json")
    assert heard.returncode == 0 and "beats at 100." in heard.stdout, heard.stderr
    document = parse_json((tmp_path / "film.json").read_bytes())
    (sound,) = document.sounds.values()
    (song,) = document.songs.values()
    assert sound.file == "music/Ridge.wav" and song.sound in document.sounds and sound.beats and sound.loudness is not None
    assert oak(tmp_path, "hear", "music/Ridge.wav", "--into", "film.json", "--out", "more.json").returncode == 0
    assert len(parse_json((tmp_path / "more.json").read_bytes()).songs) == 2 and len(document.songs) == 1
    rendered = oak(tmp_path, "render", "more.json", "--out", "sound.wav", paints=False)
    assert rendered.returncode == 0 and (tmp_path / "sound.wav").stat().st_size > 2_000_000, rendered.stderr


def test_a_template_is_packed_checked_opened_and_refused_when_cut(tmp_path: Path) -> None:
    (tmp_path / "cards").mkdir()
    Image.new("RGB", (64, 48), (90, 120, 90)).save(tmp_path / "cards" / "green.png")
    assert oak(tmp_path, "new", "film.json", "--pictures", "cards").returncode == 0
    edits = [
        {"edit": "set_scenes", "ids": ["s1"], "backdrop": {"kind": "picture", "media": "p1"}},
        {"edit": "make_template", "id": "mine", "name": "Ours", "scenes": ["s1"]},
    ]
    (tmp_path / "edits.json").write_text(json.dumps(edits))
    assert oak(tmp_path, "edit", "film.json", "edits.json", "--out", "film.json").returncode == 0
    packed = oak(tmp_path, "template", "pack", "film.json", "mine", "--out", "ours.oaktemplate")
    assert packed.returncode == 0 and "“Ours” 1.0.0, 3 parts" in packed.stdout, packed.stderr
    checked = oak(tmp_path, "template", "check", "ours.oaktemplate")
    assert checked.returncode == 0 and "1 scenes, 1 zones, 0 dials" in checked.stdout
    assert oak(tmp_path, "template", "open", "ours.oaktemplate", "--out", "opened").returncode == 0
    document = parse_json((tmp_path / "opened" / "document.json").read_bytes())
    assert (tmp_path / "opened" / document.media["p1"].file).read_bytes() == (tmp_path / "cards" / "green.png").read_bytes()
    (tmp_path / "cut.oaktemplate").write_bytes((tmp_path / "ours.oaktemplate").read_bytes()[:-30])
    refused = oak(tmp_path, "template", "check", "cut.oaktemplate")
    assert refused.returncode == 1 and "[package.damaged]" in refused.stderr
    assert oak(tmp_path, "template", "pack", "film.json", "gone", "--out", "x.oaktemplate").returncode == 1 and not (tmp_path / "x.oaktemplate").exists()


def test_a_document_is_checked_without_loading_what_paints() -> None:
    loaded = "import sys, oak_lens.cli.__main__; print([m for m in ('numba', 'cv2', 'av', 'PIL', 'flask', 'sqlalchemy') if m in sys.modules])"
    found = subprocess.run([sys.executable, "-c", loaded], env=ENVIRONMENT, capture_output=True, text=True, check=True)
    assert found.stdout.strip() == "[]"


def test_sheets_show_every_look_layout_and_surface(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    # Cells of half the size, and the films of all joins and templates from a few moments.
    monkeypatch.setattr("oak_lens.cli.sheets.FILM_MOMENTS", (0.0, 0.5, 0.5, 1.0))
    monkeypatch.setattr("oak_lens.cli.sheets.TEMPLATE_FRAMES", 4)
    monkeypatch.setattr("oak_lens.cli.sheets.CELL", (200, 112))
    (tmp_path / "cards").mkdir()
    for name, colour in CARDS.items():
        Image.new("RGB", (96, 64), colour).save(tmp_path / "cards" / f"{name}.png")
    made = oak(tmp_path, "sheets", "--pictures", "cards", "--out", "sheets")
    assert made.returncode == 0, made.stderr
    for name, least in (("looks", 10), ("layouts", 10), ("surfaces", 8), ("joins", 18)):
        with Image.open(tmp_path / "sheets" / f"{name}.jpg") as sheet:
            rows = (sheet.height - 14) // (112 + 26 + 14)
            assert rows >= -(-least // 4)
            cells = [
                np.asarray(sheet.crop((14 + 214 * (i % 4), 14 + 152 * (i // 4), 214 + 214 * (i % 4), 126 + 152 * (i // 4))))
                for i in range(least)
            ]
        assert all(cell.std() > 1.5 for cell in cells), "nothing is blank"


def test_a_film_with_a_clip_is_heard(tmp_path: Path) -> None:
    wave = (0.3 * np.sin(2 * np.pi * 330 * np.arange(48_000) / 48_000)).astype(np.float32)
    (tmp_path / "clips").mkdir()
    with av.open(str(tmp_path / "clips" / "hum.mp4"), "w") as container:
        video, audio = container.add_stream("libx264", rate=25), container.add_stream("aac", rate=48_000, layout="stereo")
        video.width, video.height, video.pix_fmt = 64, 64, "yuv420p"
        for _ in range(25):
            container.mux(video.encode(av.VideoFrame.from_ndarray(np.full((64, 64, 3), 90, np.uint8), format="rgb24")))
        container.mux(video.encode(None))
        for start in range(0, 48_000, 1024):
            frame = av.AudioFrame.from_ndarray(np.tile(wave[start : start + 1024], (2, 1)), format="fltp", layout="stereo")
            frame.sample_rate, frame.pts = 48_000, start
            container.mux(audio.encode(frame))
        container.mux(audio.encode(None))
    made = oak(tmp_path, "new", "film.json", "--pictures", "clips", "--size", "64x64", "--rate", "25", "--hold", "2", "--join", "cut")
    assert made.returncode == 0, made.stderr
    assert oak(tmp_path, "render", "film.json", "--out", "film.mp4", *ALONE).returncode == 0
    with av.open(str(tmp_path / "film.mp4")) as film:
        assert film.streams.audio and film.streams.video[0].frames == 50
        heard = np.concatenate([f.to_ndarray()[0] for f in film.decode(audio=0)])
    # The clip of a second begins again in a scene of two.
    assert np.sqrt((heard[60_000:90_000] ** 2).mean()) > 0.1
