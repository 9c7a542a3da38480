"""Many mixed pictures put in order, corrected, framed and composed, without doing anything many times; and it comes out in the film."""

import re
from pathlib import Path

import av
import numpy as np
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from oak_lens.stack.start import ROOT

from .conftest import Running, call, exported, give, open_projects, part, project_id, until

TICKS = 705_600_000

PHOTOS = ROOT / "demo" / "photos"


def mixed_pictures(folder: Path) -> list[Path]:
    """Fifty pictures: the demo's, and small, wide, tall, dark and scanned ones, one of 1 x 1 and one of 20,000 x 500 pixels."""
    made = sorted(p for p in PHOTOS.iterdir() if p.suffix in (".jpg", ".png", ".mp4"))
    rng = np.random.default_rng(4)
    for n in range(50 - len(made)):
        width, height = [(320, 200), (200, 320), (600, 160), (260, 260)][n % 4]
        y, x = np.mgrid[:height, :width]
        pixels = np.dstack([(127 + 90 * np.sin(x / width * 5 + p) * np.cos(y / height * 4 + n)) for p in rng.random(3) * 6])
        if n % 5 == 0:
            pixels = pixels * 0.3
        path = folder / f"made {n:02}.png"
        Image.fromarray(pixels.clip(0, 255).astype(np.uint8)).save(path, compress_level=1)
        made.append(path)
    Image.new("RGB", (1, 1), "#884422").save(folder / "speck.png")
    Image.new("RGB", (20_000, 500), "#223355").save(folder / "strip.png", compress_level=1)
    return [*made[:-2], folder / "speck.png", folder / "strip.png"]


def kept(page: Page) -> None:
    expect(page.get_by_role("banner").get_by_role("status")).to_have_text("kept")


def document(page: Page) -> dict:  # type: ignore[type-arg]
    return call(page, "GET", f"/api/projects/{project_id(page)}")["document"]  # type: ignore[no-any-return]


def order(page: Page) -> list[str]:
    media = document(page)["media"]
    return [media[k]["name"] for k in sorted(media, key=lambda k: media[k]["order"])]


def tiles(page: Page) -> Locator:
    return page.get_by_role("list", name="Pictures", exact=True).get_by_role("button")


def tile(page: Page, name: str) -> Locator:
    return tiles(page).filter(has_text=name)


def sets(page: Page, label: str, value: str) -> None:
    field = page.get_by_label(f"{label}, number", exact=True)
    field.fill(value)
    field.press("Enter")


def test_fifty_pictures_gathered_corrected_framed_and_composed(page: Page, tmp_path: Path) -> None:
    open_projects(page)
    page.get_by_role("button", name="New project").first.click()
    page.get_by_role("dialog").get_by_label("Title", exact=True).fill("The whole season")
    page.get_by_label("Size", exact=True).select_option("720")
    page.get_by_label("Hold of a scene, s").fill("1")
    page.get_by_label("Its length, s").fill("0.5")
    page.get_by_role("button", name="Create the project").click()
    page.get_by_role("link", name="Contact sheet").click()
    give(page.get_by_role("button", name="Add pictures").first, mixed_pictures(tmp_path))
    until(lambda: len(document(page)["media"]) == 50, 150, "all fifty are in")

    # In order: by name, some dragged to the front with a mark where they will go, found by word.
    page.get_by_role("button", name="Order", exact=True).click()
    page.get_by_role("menuitem", name="By name").click()
    until(lambda: order(page)[0].startswith("00-scan"), 5, "sorted by name")
    tile(page, "03-weather").click()
    tile(page, "06-brass").click(modifiers=["Control"])
    tile(page, "08-dome").click(modifiers=["Control"])
    start, end = tile(page, "06-brass").bounding_box(), tile(page, "00-scan").bounding_box()
    assert start and end
    page.mouse.move(start["x"] + 40, start["y"] + 40)
    page.mouse.down()
    page.mouse.move(end["x"] + 60, end["y"] + 60, steps=6)
    page.mouse.move(end["x"] + 8, end["y"] + 60, steps=3)
    expect(page.get_by_test_id("insertion-mark")).to_be_visible()
    page.mouse.up()
    until(lambda: [n[:2] for n in order(page)[:4]] == ["03", "06", "08", "00"], 5, "three at once, in the order they had")
    page.get_by_label("Find by word").fill("made 1")
    expect(tiles(page)).to_have_count(10)
    page.get_by_label("Find by word").fill("")

    # Borders of scans, found and shown before they go; in one step for all chosen.
    tile(page, "00-scan").click()
    tile(page, "02-ridge").click(modifiers=["Control"])
    page.get_by_role("button", name="Trim borders").click()
    expect(page.get_by_role("dialog")).to_contain_text("1 of 2 have borders")
    page.get_by_role("button", name="Trim 1").click()
    scan = lambda: next(m for m in document(page)["media"].values() if m["name"].startswith("00-scan"))  # noqa: E731
    until(lambda: scan()["crop"], 5, "trimmed")
    assert abs(scan()["crop"]["x"] - 0.2333) < 0.01 and abs(scan()["crop"]["width"] - 0.5334) < 0.02

    # Dark ones corrected together from their own histograms; one turned, straightened by a line, cropped.
    names = [f"made {n:02}" for n in (0, 5, 10)]
    page.get_by_label("Find by word").fill("made")
    tile(page, names[0]).click()
    for name in names[1:]:
        tile(page, name).click(modifiers=["Control"])
    page.keyboard.press("Space")
    page.get_by_label("Change all 3 chosen pictures").check()
    page.get_by_role("button", name="Suggest", exact=True).click()
    until(
        lambda: all((m["correction"] or {}).get("exposure", 0) > 0.3 for m in document(page)["media"].values() if m["name"] in names),
        15,
        "brought up",
    )
    page.get_by_role("button", name="Split").click()
    expect(page.get_by_role("slider", name="Line between before and after")).to_be_visible()
    page.get_by_label("Change all 3 chosen pictures").uncheck()
    page.get_by_role("radio", name="Shape", exact=True).click()
    first = lambda: next(m for m in document(page)["media"].values() if m["name"] == names[-1])  # noqa: E731
    page.get_by_role("button", name="A quarter turn to the right").click()
    until(lambda: first()["turned"] == 1, 5, "turned")
    page.get_by_role("radio", name="Straighten").click()
    shown = page.get_by_role("dialog").get_by_role("img", name=names[-1])
    until(lambda: shown.evaluate("i => i.complete && i.naturalHeight > i.naturalWidth"), 5, "shown upright")
    stage = page.get_by_label("Draw a line along something level or upright").bounding_box()
    assert stage
    page.mouse.move(stage["x"] + 20, stage["y"] + stage["height"] * 0.5)
    page.mouse.down()
    page.mouse.move(stage["x"] + stage["width"] - 20, stage["y"] + stage["height"] * 0.5 + 20, steps=5)
    page.mouse.up()
    until(lambda: first()["straighten"] < -1 and first()["turned"] == 1, 5, "turned and straightened")
    corner = page.get_by_role("button", name="Crop, bottom right").bounding_box()
    assert corner
    page.mouse.move(corner["x"] + 6, corner["y"] + 6)
    page.mouse.down()
    page.mouse.move(corner["x"] - 60, corner["y"] - 40, steps=5)
    page.mouse.up()
    until(lambda: (first()["crop"] or {}).get("width", 1) < 0.9, 5, "cropped")
    page.keyboard.press("Escape")

    # Twelve scenes and one of six photos.
    page.get_by_label("Find by word").fill("")
    page.get_by_role("button", name="Order", exact=True).click()
    page.get_by_role("menuitem", name="By name").click()
    until(lambda: order(page)[0].startswith("00-scan"), 5, "sorted again")
    tiles(page).nth(1).click()
    tiles(page).nth(5).click(modifiers=["Shift"])
    page.get_by_role("button", name="Put 5 into the film").click()
    until(lambda: len(document(page)["scenes"]) == 5, 10, "five scenes")
    tiles(page).nth(6).click()
    tiles(page).nth(11).click(modifiers=["Shift"])
    page.get_by_role("button", name="Together in one scene").click()
    page.get_by_role("button", name="Go to the desk").last.click()
    rows = page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile("^Scene "))
    expect(rows).to_have_count(6)

    # One photo framed as one likes it, and carried to the rest.
    rows.nth(0).click()
    part(page, "Look").get_by_role("button", name="Looks…").click()
    page.get_by_role("list", name="Looks").get_by_role("button", name=re.compile("^Instant card")).click()
    page.get_by_role("button", name="Put it on this photo").click()
    part(page, "Fit").get_by_role("radio", name="Whole picture").click()
    kept(page)
    part(page, "Look").get_by_role("button", name="Carry to…").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("status")).to_have_text("5 scenes will change")
    dialog.get_by_role("checkbox", name=re.compile("and 5 more")).uncheck()
    expect(dialog.get_by_role("status")).to_have_text("4 scenes will change")
    dialog.get_by_role("button", name="Carry", exact=True).click()
    linked = lambda: sum(layer.get("look") == "instant-card" for s in document(page)["scenes"].values() for layer in s["layers"].values())  # noqa: E731
    until(lambda: linked() == 5, 5, "carried to four more")
    # The look itself changed: all linked photos follow.
    sets(page, "Border", "5")
    kept(page)
    page.get_by_role("button", name="Put it into the look").click()
    until(lambda: abs(document(page)["looks"]["instant-card"]["mount"]["border"] - 0.05) < 1e-9, 5, "into the look")

    # The scene of six, laid out by a picture of the layout; one print dragged, another photo put in its place.
    rows.nth(5).click()
    part(page, "Scene").get_by_role("button", name="Lay out the photos…").click()
    layouts = page.get_by_role("list", name="Layouts")
    until(lambda: layouts.locator("img").count() >= 6, 30, "painted with one's own photos")
    layouts.get_by_role("button", name=re.compile("^Pile")).click()
    page.get_by_role("button", name="Use this layout").click()
    composed = lambda: next(s for s in document(page)["scenes"].values() if s["layout"])  # noqa: E731
    until(lambda: composed()["layout"]["kind"] == "pile", 5, "piled")
    key = max(composed()["layers"], key=lambda k: composed()["layers"][k]["order"])
    name = composed()["layers"][key]["name"]
    page.get_by_role("list", name="Layers, topmost first").get_by_role("button", name=name, exact=True).click()
    # Its handles are there once the easel has painted the new layout.
    expect(page.get_by_role("button", name=f"Turn {name}", exact=True)).to_be_visible()
    page.wait_for_timeout(600)
    outline = page.get_by_role("button", name=f"Move {name}", exact=True).bounding_box()
    assert outline
    before = composed()["layers"][key]["placement"]
    page.mouse.move(outline["x"] + outline["width"] / 2, outline["y"] + outline["height"] / 2)
    page.mouse.down()
    page.mouse.move(outline["x"] + outline["width"] / 2 + 90, outline["y"] + outline["height"] / 2 - 30, steps=6)
    page.mouse.up()
    until(lambda: composed()["layers"][key]["placement"]["x"] > before["x"] + 0.08, 5, "dragged")
    moved = composed()["layers"][key]
    page.get_by_role("button", name="More for layers").click()
    page.get_by_role("menuitem", name="Replace the picture…").click()
    page.get_by_role("dialog").get_by_label("Find by word").fill("first-light")
    page.get_by_role("list", name="Pictures to choose").get_by_role("button").first.click()
    page.get_by_role("button", name="Replace", exact=True).click()
    until(lambda: composed()["layers"][key]["media"] != moved["media"], 5, "replaced")
    assert composed()["layers"][key]["placement"] == moved["placement"]
    # A surface, a shape with a blend mode, a group.
    part(page, "Backdrop").get_by_label("Kind", exact=True).select_option("surface")
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_role("menuitem", name="Sheet with a gradient").click()
    until(lambda: any(layer["kind"] == "shape" for layer in composed()["layers"].values()), 5, "a sheet")
    part(page, "Placement").get_by_label("Blend mode").select_option("multiply")
    until(lambda: any(layer["blend"] == "multiply" for layer in composed()["layers"].values()), 5, "multiplied")

    # The film's shape changed late, every scene seen before it is accepted.
    page.get_by_title("Frame and project defaults").click()
    page.get_by_role("button", name="Change the frame…").click()
    page.get_by_role("dialog").get_by_role("button", name="9:16").click()
    page.get_by_role("button", name="Accept the new frame").click()
    until(lambda: document(page)["frame"]["height"] == 1280, 10, "a tall film")

    # It comes out in the film.
    film = exported(page, tmp_path, rate="10")
    project = project_id(page)
    timeline = call(page, "GET", f"/api/projects/{project}")["timeline"]
    with av.open(str(film)) as container:
        frames = [f.to_ndarray(format="rgb24") for f in container.decode(video=0)]
    assert len(frames) == -(-timeline["length"] * 10 // TICKS) and frames[0].shape == (854, 480, 3)
    # Every scene shows a card or pile with colour, none is blank.
    for span in timeline["spans"]:
        middle = frames[(span["hold_start"] + span["hold_end"]) // 2 * 10 // TICKS]
        assert middle.std() > 12


def test_a_missing_file_is_said_and_replaced_with_all_else_kept(page: Page, tmp_path: Path, running: Running) -> None:
    open_projects(page)
    page.get_by_role("button", name="New project").first.click()
    page.get_by_role("dialog").get_by_label("Title", exact=True).fill("Lost and found")
    page.get_by_role("button", name="Create the project").click()
    page.get_by_role("link", name="Contact sheet").click()
    lost = tmp_path / "lost.png"
    Image.fromarray(np.random.default_rng(9).integers(0, 255, (90, 160, 3), np.uint8)).save(lost)
    give(page.get_by_role("button", name="Add pictures").first, lost)
    until(lambda: len(document(page)["media"]) == 1, 15, "one picture")
    tiles(page).first.click()
    page.keyboard.press("Enter")
    until(lambda: len(document(page)["scenes"]) == 1, 5, "one scene")
    (media,) = document(page)["media"].values()
    digest = media["sha256"]
    (running.home / "media" / "originals" / digest[:2] / digest[2:4] / digest).unlink()
    page.reload()
    expect(page.get_by_role("alert")).to_contain_text("“lost” is missing")
    tiles(page).first.click()
    found = tmp_path / "found.png"
    Image.new("RGB", (300, 200), "#aa7733").save(found)
    page.get_by_role("button", name="More for the chosen pictures").click()
    give(page.get_by_role("menuitem", name="Replace the file…"), found)
    until(lambda: next(iter(document(page)["media"].values()))["sha256"] != digest, 10, "another file")
    assert next(iter(document(page)["media"].values()))["name"] == "lost" and len(document(page)["scenes"]) == 1
    expect(page.get_by_role("alert")).to_have_count(0)
