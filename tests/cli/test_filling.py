"""`./oak fill`: a template and a table make films; what is there already is not made again."""

from pathlib import Path

import av
import pytest
from PIL import Image

from .test_verbs import oak

GUESTS = ("Ada", "Cy", "Dunn", "Eli", "Fenn", "Gia", "Hale", "Ivo")
ROWS = "".join(f"{who};A night for {('one', 'two')[n % 2]};{'dome | mirror.png' if who == 'Cy' else 'dome'}\n" for n, who in enumerate(GUESTS))


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "pictures").mkdir()
    for name, colour in (("dome", "#604020"), ("mirror", "#204060")):
        Image.new("RGB", (320, 200), colour).save(tmp_path / "pictures" / f"{name}.png")
    (tmp_path / "people.csv").write_text(f"Who;Title;Pictures\n{ROWS}Bo;=A1;dome\n")
    return tmp_path


def fill(folder: Path, *more: str):  # type: ignore[no-untyped-def]
    return oak(folder, "fill", "veiled-title", "--table", "people.csv", "--pictures", "pictures", "--out", "films", "--size", "192x108", "--processes", "1", *more)


def test_each_row_is_a_film_and_a_second_run_makes_none_anew(folder: Path) -> None:
    checked = fill(folder, "--check")
    assert checked.returncode == 1 and "Row 9 (line 10), Title: It holds a formula" in checked.stderr and "8 of 9 rows" in checked.stdout
    assert not list((folder / "films").glob("*.mp4"))
    made = fill(folder)
    assert made.returncode == 1, "one row could not be made"
    films = sorted(p.name for p in (folder / "films").glob("*.mp4"))
    assert films == [f"{who}.mp4" for who in GUESTS], made.stderr
    # Only what differs is rendered: the parts of two titles, and those of the one film with another picture.
    rendered = len(list((folder / "films" / ".kept" / "segments").glob("[0-9a-f]*")))
    assert rendered < 2 * len(GUESTS)
    lengths = {}
    for name in films:
        with av.open(str(folder / "films" / name)) as film:
            lengths[name] = film.streams.video[0].frames
    # Two pictures stand in a scene each.
    assert lengths["Cy.mp4"] > lengths["Ada.mp4"] > 20
    before = {p: p.stat().st_mtime_ns for p in (folder / "films").rglob("*") if p.is_file() and p.suffix == ".mp4"}
    again = fill(folder)
    assert again.stdout.count("as it is") == 8 and {p: p.stat().st_mtime_ns for p in before} == before
    # A file that was cut short is made once more, from what was rendered.
    (folder / "films" / "Ada.mp4").write_bytes(b"cut")
    assert "frames" in fill(folder).stdout and (folder / "films" / "Ada.mp4").stat().st_size > 1000


def test_what_is_wrong_is_said_before_anything_is_rendered(folder: Path) -> None:
    (folder / "empty.csv").write_text("Who\n")
    for arguments, said in (
        (("--match", "Who=Shoe size"), "Columns are Who, Title, Pictures"),
        (("--table", "empty.csv"), "no such row"),
    ):
        done = fill(folder, *arguments)
        assert done.returncode == 1 and said in done.stderr
    unknown = oak(folder, "fill", "no-such", "--table", "people.csv", "--out", "films")
    assert unknown.returncode == 1 and "veiled-title" in unknown.stderr
