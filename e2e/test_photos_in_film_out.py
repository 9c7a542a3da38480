"""The whole job, as a newcomer does it: pictures in, views chosen, framed, joined, a film out; then the film against `./oak frame`."""

import json
import re
from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from oak_lens.cli.__main__ import main as verb
from oak_lens.stack.start import ROOT

from .conftest import call, give, open_projects, part, project_id

PHOTOS = ROOT / "demo" / "photos"
CHOSEN = ["04-observatory-late-afternoon.jpg", "03-weather-mast.jpg", "20-spiral-galaxy.jpg"]


def drag(page: Page, x: float, y: float, dx: float, dy: float) -> None:
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx / 2, y + dy / 2, steps=3)
    page.mouse.move(x + dx, y + dy, steps=3)
    page.mouse.up()


def kept(page: Page) -> None:
    expect(page.get_by_role("banner").get_by_role("status")).to_have_text("kept")


def test_photos_in_film_out(page: Page, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    open_projects(page)
    # A new project with three photographs and one file that is no picture.
    page.get_by_role("button", name="New project").first.click()
    page.get_by_role("dialog").get_by_label("Title", exact=True).fill("Three evenings")
    page.get_by_label("Size", exact=True).select_option("720")
    page.get_by_label("Frames a second").select_option("25")
    page.get_by_label("Hold of a scene, s").fill("1.2")
    page.get_by_label("Its length, s").fill("0.6")
    broken = tmp_path / "broken.jpg"
    broken.write_bytes(b"\xff\xd8\xff not a picture")
    give(page.get_by_role("button", name="Choose pictures"), [*(PHOTOS / n for n in CHOSEN), broken])
    page.get_by_role("button", name="Create the project").click()
    # Straight to the desk, where they become scenes; of what did not go in it says where to see why.
    expect(page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile("^Scene "))).to_have_count(3)
    page.get_by_role("alert").get_by_role("link", name="See why on the contact sheet").click()
    expect(page.get_by_role("list", name="Pictures").get_by_role("button")).to_have_count(3)
    expect(page.get_by_role("alert")).to_contain_text("broken.jpg")
    expect(page.get_by_role("list", name="Pictures").get_by_role("button", name=re.compile(r" in scene \d+$"))).to_have_count(3)
    # Enlarged, and on with the arrows.
    page.get_by_role("list", name="Pictures").get_by_role("button").first.click()
    page.keyboard.press("Space")
    expect(page.get_by_role("dialog")).to_contain_text("3000 × 2000")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("dialog")).to_contain_text("2000 × 3000")
    page.keyboard.press("Escape")

    page.get_by_role("link", name="Desk").click()
    rows = page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile("^Scene "))
    expect(rows).to_have_count(3)

    # Views: drag the closing view on the picture; the frame it gives follows.
    rows.nth(0).click()
    part(page, "Views").get_by_role("button", name="set them on the picture").click()
    closing = page.get_by_role("button", name="Move the closing view")
    expect(closing).to_be_visible()
    project = project_id(page)

    def view(which: str) -> dict[str, float]:
        document = call(page, "GET", f"/api/projects/{project}")["document"]
        scene = min(document["scenes"].values(), key=lambda s: s["order"])
        return scene["layers"]["photo"]["view"]["keys"][which]["value"]

    before = view("closing")
    corner = page.get_by_role("button", name="Size the closing view, bottom right").bounding_box()
    assert corner
    drag(page, corner["x"] + 5, corner["y"] + 5, -90, -50)
    kept(page)
    zoomed = view("closing")
    assert zoomed["zoom"] > before["zoom"] * 1.2
    box = closing.bounding_box()
    assert box
    drag(page, box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.6, 40, 20)
    kept(page)
    assert view("closing")["x"] > zoomed["x"] and view("closing")["zoom"] == zoomed["zoom"]
    # A drag given up leaves nothing; a drag is one step of undo.
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.6)
    page.mouse.down()
    page.mouse.move(box["x"] + 10, box["y"] + 10, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    moved = view("closing")
    page.keyboard.press("Control+z")
    page.wait_for_timeout(200)
    kept(page)
    assert view("closing") == zoomed
    page.keyboard.press("Control+Shift+z")
    page.wait_for_timeout(200)
    kept(page)
    assert view("closing") == moved

    # The third photo: framed, turned by hand on the easel, a border and a shadow by numbers.
    page.get_by_role("radio", name="Live").click()
    rows.nth(2).click()
    photo = page.get_by_role("button", name=re.compile("^Move "))
    expect(photo).to_be_visible()
    turn = page.get_by_role("button", name=re.compile("^Turn ")).bounding_box()
    assert turn
    drag(page, turn["x"] + 5, turn["y"] + 5, 40, 6)
    kept(page)
    details = page.get_by_role("complementary", name="Details")
    border = part(page, "Mount").get_by_label("Border, number")
    border.fill("9/3")
    border.press("Enter")
    expect(border).to_have_value("3.0%")
    light = details.get_by_label("Light from, number")
    light.fill("45")
    light.press("Enter")
    kept(page)
    expect(details.get_by_text("own · back to default")).to_have_count(2)

    # A default reaches the scenes that did not differ; the join before the third scene becomes a cut.
    page.get_by_role("button", name=re.compile("^Join: dissolve")).nth(1).click()
    picker = page.get_by_role("dialog", name="Join")
    picker.get_by_label("Find a join").fill("hard")
    picker.get_by_role("button", name="Cut").click()
    picker.get_by_role("button", name="Use it").click()
    kept(page)
    page.get_by_title("Frame and project defaults").click()
    hold = page.get_by_role("dialog").get_by_label("Hold, number")
    hold.fill("1.6")
    hold.press("Enter")
    expect(hold).to_have_value("1.6s")
    page.get_by_role("button", name="Close", exact=True).click()
    kept(page)
    # By keyboard: the first scene goes to the end and back.
    rows.nth(0).focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Alt+ArrowDown")
    kept(page)
    expect(rows.nth(1)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Alt+ArrowUp")
    kept(page)
    expect(rows.nth(0)).to_have_attribute("aria-pressed", "true")

    # Playing moves the playhead.
    page.keyboard.press("Home")
    page.keyboard.press("Space")
    expect(page.get_by_role("timer")).to_have_text(re.compile(r"^0:01\."), timeout=15000)
    page.keyboard.press("Space")

    # Export, with the estimate beforehand; closed and opened again it is still there.
    page.get_by_role("button", name="Export…").click()
    frames = round((3 * 1.6 + 0.6) * 25)
    expect(page.get_by_test_id("estimate")).to_contain_text("Three evenings.mp4")
    expect(page.get_by_test_id("estimate")).to_contain_text(f"{frames} frames")
    page.get_by_role("button", name="Export the film").click()
    expect(page.get_by_role("progressbar", name="Export of Three evenings.mp4")).to_be_visible()
    page.reload()
    page.get_by_role("button", name="Export…").click()
    with page.expect_download(timeout=90000) as downloading:
        page.get_by_role("link", name="Download").click(timeout=90000)
    assert downloading.value.suggested_filename == "Three evenings.mp4"
    film = tmp_path / "film.mp4"
    downloading.value.save_as(film)

    # The film, frame by frame, against the command line's frames of the same document.
    document = call(page, "GET", f"/api/projects/{project}")["document"]
    for media in document["media"].values():
        (tmp_path / media["file"]).write_bytes((PHOTOS / media["file"]).read_bytes())
    (tmp_path / "film.json").write_text(json.dumps(document))
    monkeypatch.chdir(tmp_path)
    with av.open(str(film)) as container:
        decoded = [
            f.reformat(format="rgb24", src_colorspace=1, src_color_range=1, dst_color_range=2).to_ndarray()
            for f in container.decode(video=0)
        ]
    assert len(decoded) == frames and decoded[0].shape == (720, 1280, 3)
    for index in (0, 30, 46, 70, 100, frames - 1):
        assert verb(["frame", "film.json", "--at", str(index / 25 + 1e-6), "--out", f"{index}.png"]) == 0
        painted = np.asarray(Image.open(tmp_path / f"{index}.png")).astype(float)
        error = ((painted - decoded[index]) ** 2).mean()
        assert 10 * np.log10(255**2 / error) > 33, f"frame {index}"
