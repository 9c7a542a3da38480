"""Somebody who has never seen the application fills a template, step by step, and takes a film along; and a table makes many."""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Browser, Locator, Page, expect

from oak_lens.stack.start import ROOT

from .conftest import Running, call, give, heard, open_projects, project_id, until

PHOTOS = sorted((ROOT / "demo" / "photos").glob("*.jpg"))
TICKS = 705_600_000


def filling(page: Page) -> Any:
    return call(page, "GET", f"/api/projects/{project_id(page)}/filling")


def document(page: Page) -> Any:
    return call(page, "GET", f"/api/projects/{project_id(page)}")["document"]


def held(page: Page) -> list[str]:
    media = document(page)["media"]
    return [media[z["held"]]["name"] for z in filling(page)["zones"] if z["takes"] == "picture" and z["held"]]


@pytest.fixture
def package(page: Page, tmp_path: Path) -> Path:
    """The file of a template that was made here: a title over a picture, then one picture after another, a second each, with a dial."""
    project = call(page, "POST", "/api/projects", {"title": "x", "edits": [{"edit": "set_frame", "width": 320, "height": 180}, {"edit": "set_defaults", "hold": TICKS}]})["id"]
    records = []
    token = page.request.get("/api/session").json()["token"]
    for n, photo in enumerate(PHOTOS[:2]):
        answer = page.request.post(f"/api/projects/{project}/pictures", headers={"X-Oak-Token": token, "X-File-Name": photo.name}, data=photo.read_bytes())
        records.append({"id": f"p{n}", **answer.json()["record"]})
    mounted = {"scene": "b", "layer": "photo", "property": "mount.border"}
    edits: list[dict[str, Any]] = [
        {"edit": "add_pictures", "pictures": records},
        {"edit": "add_scenes", "scenes": [{"id": "a", "media": "p0"}, {"id": "b", "media": "p1"}]},
        {"edit": "add_text", "scene": "a", "id": "words", "text": "The title", "name": "Title"},
        {"edit": "make_template", "id": "ours", "name": "Ours to fill", "scenes": ["a", "b"], "zones": True},
        {"edit": "set_template", "id": "ours", "kind": "film", "scenes": {"b": {"repeats": True}}},
        {"edit": "set_layers", "layers": [{"scene": "b", "layer": "photo"}], "fit": "whole"},
        {"edit": "make_dial", "template": "ours", "id": "border", "values": [mounted]},
        {"edit": "set_dial", "template": "ours", "dial": "border", "name": "Border"},
    ]
    call(page, "POST", f"/api/projects/{project}/edits", {"base": 1, "edits": edits})
    kept = call(page, "POST", f"/api/projects/{project}/templates", {"template": "ours"})["kept"]
    path = tmp_path / "ours.oaktemplate"
    path.write_bytes(page.request.get(f"/api/templates/{kept}/file").body())
    call(page, "DELETE", f"/api/templates/{kept}")
    return path


def steps(page: Page, name: str) -> Locator:
    return page.get_by_role("navigation", name="Steps").get_by_role("button", name=name)


def downloaded(page: Page, folder: Path) -> list[np.ndarray[Any, Any]]:
    """The frames of the film, once it is there."""
    with page.expect_download(timeout=120_000) as downloading:
        page.get_by_role("link", name="Download").first.click(timeout=120_000)
    path = folder / downloading.value.suggested_filename
    downloading.value.save_as(path)
    with av.open(str(path)) as film:
        return [f.to_ndarray(format="rgb24") for f in film.decode(video=0)]


def test_a_stranger_fills_a_template_s_file_in_eight_gestures_and_it_looks_as_on_the_desk(page: Page, package: Path, tmp_path: Path) -> None:
    gestures = 0

    def does(deed: Any) -> None:
        nonlocal gestures
        gestures += 1
        deed()

    open_projects(page)
    does(page.get_by_role("link", name="Fill a template").click)
    does(lambda: give(page.get_by_role("button", name="Open a template’s file…"), package))
    expect(page.get_by_role("heading", name="Drop your pictures here")).to_be_visible()
    does(lambda: give(page.get_by_role("button", name="Choose pictures"), PHOTOS[2:5]))
    until(lambda: held(page) == [p.stem for p in PHOTOS[2:5]], 30, "each in its place, in order")
    does(page.get_by_role("contentinfo").get_by_role("button", name="Adjust").click)
    name = page.get_by_role("textbox", name="Name of the film")
    expect(name).to_be_focused()
    does(lambda: (page.keyboard.type("Night at the ridge"), page.keyboard.press("Enter")))
    until(lambda: document(page)["title"] == "Night at the ridge", 10, "named")
    # The one dial: it is asked about next, and seen before it is kept.
    slider = page.get_by_role("slider", name="Border")
    expect(slider).to_be_visible()
    box = slider.bounding_box()
    assert box
    does(lambda: page.mouse.click(box["x"] + box["width"] * 0.8, box["y"] + box["height"] / 2))
    until(lambda: filling(page)["dials"][0]["value"] != filling(page)["dials"][0]["dial"]["default"], 10, "turned")
    does(page.get_by_role("contentinfo").get_by_role("button", name="Watch and export").click)
    # Smaller than a film is, so that the test is done sooner.
    base = call(page, "GET", f"/api/projects/{project_id(page)}")["revision"]
    assert "revision" in call(page, "POST", f"/api/projects/{project_id(page)}/edits", {"base": base, "edits": [{"edit": "set_frame", "width": 640, "height": 360}]})
    page.reload()
    does(page.get_by_role("button", name="Export the film").click)
    assert gestures == 8
    call_frame(page)
    frames = downloaded(page, tmp_path)
    # What came out is what the desk shows; and the desk has all of it.
    project = project_id(page)
    opened = call(page, "GET", f"/api/projects/{project}")
    assert len(frames) == opened["timeline"]["frames"] and frames[0].shape == (360, 640, 3)
    page.get_by_role("link", name="Open on the desk").click()
    page.get_by_role("heading", name="Run sheet").wait_for()
    expect(page.get_by_label("Project title")).to_have_value("Night at the ridge")
    expect(page.get_by_role("region", name="Run sheet")).to_contain_text("3 scenes")
    token = page.request.get("/api/session").json()["token"]
    for span in opened["timeline"]["spans"]:
        middle = (span["hold_start"] + span["hold_end"]) // 2
        share = (middle - span["join_start"]) / (span["end"] - span["join_start"])
        body = {"edits": [], "scene": span["scene"], "which": "hold", "width": 480, "share": share}
        jpeg = page.request.post(f"/api/projects/{project}/tried-frame", headers={"X-Oak-Token": token}, data=body).body()
        (tmp_path / "desk.jpg").write_bytes(jpeg)
        film = Image.fromarray(frames[middle // opened["timeline"]["frame_ticks"]])
        shown, came = (np.asarray(i.convert("RGB").resize((120, 68), Image.Resampling.BOX), float) for i in (Image.open(tmp_path / "desk.jpg"), film))
        assert np.abs(came - shown).mean() < 4, f"scene {span['scene']}"


def call_frame(page: Page) -> None:
    """The film can be watched while it is being exported."""
    page.get_by_role("img", name="The film at the playhead").wait_for()
    page.locator("canvas[data-drawn]").first.wait_for()


def test_all_of_it_is_done_by_keyboard(page: Page, package: Path, tmp_path: Path) -> None:
    page.goto("/fill")
    page.get_by_role("radio", name="Put one together").press("Enter")
    page.get_by_role("region", name="It opens with").get_by_role("button", name="Half and half").press("Enter")
    page.get_by_role("region", name="The pictures are shown").get_by_role("button", name="Dealt prints").press("Enter")
    page.get_by_role("button", name="Make it of these").press("Enter")
    page.get_by_role("heading", name="Drop your pictures here").wait_for()
    with page.expect_file_chooser() as asked:
        page.get_by_role("button", name="Choose pictures").press("Enter")
    asked.value.set_files(PHOTOS[:4])
    names = [p.stem for p in PHOTOS[:4]]
    until(lambda: held(page) == names, 30, "in order")
    tiles = page.get_by_role("list", name="Places in the film").get_by_role("button")
    expect(tiles.nth(2)).to_have_accessible_name(re.compile(re.escape(names[2])))
    tiles.nth(0).focus()
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    until(lambda: held(page) == [names[2], names[1], names[0], names[3]], 10, "two changed places")
    page.keyboard.press("Control+z")
    until(lambda: held(page) == names, 10, "taken back")
    page.get_by_role("button", name="Shuffled").press("Enter")
    until(lambda: sorted(held(page)) == sorted(names) and held(page) != names, 10, "dealt anew")
    # One is taken out: it is said, and put back by a press.
    tiles.nth(1).press("Enter")
    page.get_by_role("button", name="Take it out").press("Enter")
    expect(page.get_by_text("One picture is not in the film.")).to_be_visible()
    page.get_by_role("button", name="Make room for it").press("Enter")
    until(lambda: sorted(held(page)) == sorted(names), 10, "in again")
    # Another body: what went in goes over, and nothing is lost.
    steps(page, "Choose").press("Enter")
    page.get_by_role("radio", name="A whole film").press("Enter")
    page.get_by_role("list", name="Templates").get_by_role("button", name=re.compile("^Plain album")).press("Enter")
    until(lambda: sorted(held(page)) == sorted(names) and len(filling(page)["templates"]) == 1, 15, "another template")
    steps(page, "Choose").press("Enter")
    with page.expect_file_chooser() as asked:
        page.get_by_role("button", name="Open a template’s file…").press("Enter")
    asked.value.set_files(package)
    until(lambda: sorted(held(page)) == sorted(names) and [t["name"] for t in filling(page)["templates"]] == ["Ours to fill"], 15, "one from its file")
    # Words, order and music; the film ends with the music.
    steps(page, "Adjust").press("Enter")
    expect(page.get_by_role("textbox", name="Name of the film")).to_be_focused()
    page.keyboard.type("By keys alone")
    page.keyboard.press("Enter")
    until(lambda: document(page)["title"] == "By keys alone", 10, "named")
    page.get_by_role("button", name="Scene 2", exact=True).press("Enter")
    second = held(page)[1]
    page.get_by_role("button", name="Show this scene later").press("Enter")
    until(lambda: held(page)[2] == second, 10, "later")
    page.get_by_role("button", name="Music", exact=True).press("Enter")
    page.get_by_role("button", name="Calm", exact=True).press("Enter")
    until(lambda: len(document(page)["songs"]) == 1, 60, "composed")
    page.get_by_role("button", name="The film ends with it").press("Enter")
    heard = call(page, "GET", f"/api/projects/{project_id(page)}/heard")
    until(lambda: call(page, "GET", f"/api/projects/{project_id(page)}")["timeline"]["length"] == max(s["end"] for s in heard["songs"]), 10, "as long as the music")
    steps(page, "Watch and export").press("Enter")
    page.get_by_role("radio", name="Small, to send").press("Enter")
    page.get_by_role("button", name="Export the film").press("Enter")
    frames = downloaded(page, tmp_path)
    assert len(frames) == call(page, "GET", f"/api/projects/{project_id(page)}")["timeline"]["frames"] and frames[0].shape == (480, 854, 3)


@pytest.fixture
def phone(running: Running, browser: Browser) -> Iterator[Page]:
    """A page as narrow as a phone, which is touched."""
    context = browser.new_context(viewport={"width": 390, "height": 800}, has_touch=True, is_mobile=True, reduced_motion="reduce", base_url=running.origin, accept_downloads=True)
    context.request.get(running.address)
    yield from heard(context.new_page())
    context.close()


def test_a_template_is_filled_with_the_fingers_on_a_narrow_screen(phone: Page, package: Path, tmp_path: Path) -> None:
    page = phone
    page.goto("/fill")
    with page.expect_file_chooser() as asked:
        page.get_by_role("button", name="Open a template’s file…").tap()
    asked.value.set_files(package)
    with page.expect_file_chooser() as asked:
        page.get_by_role("button", name="Choose pictures").tap()
    asked.value.set_files(PHOTOS[:3])
    until(lambda: len(held(page)) == 3, 30, "three in the film")
    before = held(page)
    tiles = page.get_by_role("list", name="Places in the film").get_by_role("button")
    expect(tiles.nth(1)).to_have_accessible_name(re.compile(re.escape(before[1])))
    tiles.nth(0).tap()
    tiles.nth(1).tap()
    until(lambda: held(page)[:2] == before[1::-1], 10, "two changed places")
    page.get_by_role("contentinfo").get_by_role("button", name="Adjust").tap()
    page.get_by_role("textbox", name="Name of the film").fill("By hand")
    page.get_by_role("button", name="Next", exact=True).tap()
    page.get_by_role("button", name="Length", exact=True).tap()
    length = call(page, "GET", f"/api/projects/{project_id(page)}")["timeline"]["length"]
    page.get_by_role("button", name="Shorter").tap()
    until(lambda: call(page, "GET", f"/api/projects/{project_id(page)}")["timeline"]["length"] < length, 10, "shorter")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390, "nothing reaches out of the screen"
    page.get_by_role("contentinfo").get_by_role("button", name="Watch and export").tap()
    page.get_by_role("radio", name="Small, to send").tap()
    page.get_by_role("button", name="Export the film").tap()
    with page.expect_download(timeout=120_000) as downloading:
        page.get_by_role("link", name="Download").first.tap(timeout=120_000)
    assert downloading.value.suggested_filename == "By hand.mp4"
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_table_of_eight_rows_makes_eight_films(page: Page, tmp_path: Path) -> None:
    page.goto("/fill")
    page.get_by_role("radio", name="Upright").click()
    page.get_by_role("list", name="Templates").get_by_role("button", name=re.compile("^Veiled title")).click()
    give(page.get_by_role("button", name="Choose pictures"), PHOTOS[:2])
    until(lambda: len(held(page)) == 2, 30, "two scenes")
    opened = call(page, "GET", f"/api/projects/{project_id(page)}")
    edits = [{"edit": "set_frame", "width": 108, "height": 192, "rate": "12"}, {"edit": "scale_holds", "ids": list(opened["document"]["scenes"]), "factor": 0.2}]
    answer = call(page, "POST", f"/api/projects/{project_id(page)}/edits", {"base": opened["revision"], "edits": edits})
    assert "revision" in answer, answer
    page.reload()
    steps(page, "Watch and export").click()
    page.get_by_role("link", name=re.compile("^Many at once")).click()
    expect(page.get_by_role("heading", name="A film of each row")).to_be_visible()
    rows = [f"Guest {n};A night for guest {n};{PHOTOS[n % 2].stem}" for n in range(8)]
    page.get_by_label("Or paste cells of a spreadsheet here:").fill("\n".join(["Who;Title;Picture", *rows[:7], "Guest 7;=B7;nobody"]))
    page.get_by_role("button", name="Use these cells").click()
    # What is wrong is listed before anything is made; any row is looked at.
    expect(page.get_by_role("alert")).to_contain_text("One row cannot be made into a film yet")
    expect(page.get_by_role("button", name="Make 7 films")).to_be_visible()
    page.get_by_role("alert").get_by_role("button", name="Row 8").click()
    expect(page.get_by_role("region", name="The film of a row")).to_contain_text("There is no picture called “nobody”")
    give(page.get_by_role("button", name="Another file"), table(tmp_path, rows))
    expect(page.get_by_role("heading", name="guests.csv")).to_be_visible()
    page.get_by_label("Pattern of the names").fill("{Who} of the season")
    page.get_by_label("Pattern of the names").press("Enter")
    expect(page.get_by_role("region", name="Names of the films")).to_contain_text("Guest 0 of the season, Guest 1 of the season")
    page.get_by_role("button", name="Make 8 films").click()
    films = page.get_by_role("list", name="Films that were asked for").locator("> li")
    expect(films.first).to_contain_text("8 of 8 films done", timeout=120_000)
    expect(films.first).to_contain_text("Guest 3 of the season.mp4")
    kept = call(page, "GET", f"/api/projects/{project_id(page)}/table/films")["batches"][0]
    assert len({f["file_name"] for f in kept["films"]}) == 8 and all(f["state"] == "done" and f["frames"] > 10 for f in kept["films"])
    with page.expect_download() as downloading:
        films.first.get_by_role("link", name="All as one file").click()
    downloading.value.save_as(tmp_path / "films.zip")
    assert (tmp_path / "films.zip").stat().st_size > sum(f["bytes"] for f in kept["films"])


def table(folder: Path, rows: list[str]) -> Path:
    """The same as a spreadsheet program writes it."""
    path = folder / "guests.csv"
    path.write_bytes("\r\n".join(["Who;Title;Picture", *rows]).encode("utf-16"))
    return path


def test_an_address_in_the_middle_of_the_path_of_no_project_says_so(page: Page) -> None:
    page.goto("/projects/none/fill?step=adjust")
    expect(page.get_by_text("There is no such project.")).to_be_visible()
