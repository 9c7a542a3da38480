"""Templates: looked through with one's own pictures, put on many at once, zones swapped and filled, dials turned, freed; and the film shows it."""

import re
from pathlib import Path
from typing import Any

import av
import numpy as np
from playwright.sync_api import Locator, Page, expect

from .conftest import call, copy_of_demo, exported, found_command, give, numbered_row, part, project_id, until


def document(page: Page) -> Any:
    return call(page, "GET", f"/api/projects/{project_id(page)}")["document"]


def made(page: Page) -> list[dict[str, Any]]:
    """Scenes that a template is on, in order."""
    scenes = sorted(document(page)["scenes"].values(), key=lambda s: s["order"])
    return [s for s in scenes if s["template"]]


def held(scene: dict[str, Any], zone: str) -> str:
    return next(str(layer["media"]) for layer in scene["layers"].values() if layer.get("zone") == zone and layer["kind"] == "photo")


def test_a_template_is_put_on_scenes_filled_turned_and_exported(page: Page, tmp_path: Path) -> None:
    copy_of_demo(page)
    numbered_row(page, 2).click()
    numbered_row(page, 8).click(modifiers=["Shift"])
    before = document(page)["scenes"]
    found_command(page, "treat the chosen scenes")
    library = page.get_by_role("dialog", name="Treat with…")
    templates = library.get_by_role("list", name="Templates")
    until(lambda: templates.locator("img").count() >= 6, 30, "seen with one's own pictures")
    # Over what the scenes show; and taken back.
    library.get_by_label("Find a template").fill("veiled")
    templates.get_by_role("button", name="Veiled title").click()
    library.get_by_role("button", name="Lay it over").click()
    until(lambda: len(made(page)) == 7, 10, "laid over")
    for key, scene in before.items():
        now = document(page)["scenes"][key]
        assert {k: now["layers"][k] for k in scene["layers"]} == scene["layers"] and now["backdrop"] == scene["backdrop"]
    page.keyboard.press("Control+z")
    until(lambda: not made(page), 10, "taken back")
    found_command(page, "treat the chosen scenes")
    library.get_by_label("Find a template").fill("table fall")
    expect(templates.get_by_role("button")).to_have_count(1)
    templates.get_by_role("button", name="Dealt prints").click()
    expect(library.get_by_role("region", name="Dealt prints")).to_contain_text("4 dials")
    library.get_by_role("button", name="Put it on 7 scenes").click()
    until(lambda: made(page), 10, "put on")
    scenes = made(page)
    pictures = sorted(layer["media"] for s in before.values() for layer in s["layers"].values() if layer["kind"] == "photo")
    after = sorted(layer["media"] for s in document(page)["scenes"].values() for layer in s["layers"].values() if layer["kind"] == "photo")
    assert after == pictures, "every picture of them is in the film still"
    assert len(scenes) >= 2 and len({s["template"]["use"] for s in scenes}) == 1

    # Zones: swapped from the menu and by dragging, filled with another picture, emptied.
    template = part_template(page)
    zones = template.get_by_role("list", name="Zones")
    first, second = held(scenes[0], "a"), held(scenes[0], "b")
    template.get_by_role("button", name="More for First print").click()
    page.get_by_role("menuitem", name="Swap with Second print").click()
    until(lambda: held(made(page)[0], "a") == second, 5, "swapped")
    zones.get_by_role("listitem").nth(0).drag_to(zones.get_by_role("listitem").nth(1))
    until(lambda: held(made(page)[0], "a") == first, 5, "dragged back")
    template.get_by_role("button", name="First print: ").click()
    page.get_by_role("list", name="Pictures to choose").get_by_role("button").last.click()
    page.get_by_role("button", name="Fill it").click()
    until(lambda: held(made(page)[0], "a") not in (first, second), 5, "filled")
    template.get_by_role("button", name="More for Second print").click()
    page.get_by_role("menuitem", name="Empty it").click()
    until(lambda: document(page)["media"][held(made(page)[0], "b")]["placeholder"] == 2, 5, "emptied: its number is shown")
    expect(template.get_by_role("button", name="Second print: empty")).to_be_visible()

    # A dial reaches all scenes of the use, or this one alone; one undo step each.
    template.get_by_label("Table", exact=True).select_option("slate")
    until(lambda: {s["backdrop"]["surface"] for s in made(page)} == {"slate"}, 5, "all tables")
    template.get_by_label("Turn them for this scene alone").check()
    template.get_by_label("Border, number", exact=True).fill("100")
    template.get_by_label("Border, number", exact=True).press("Enter")
    border = lambda s: next(layer["mount"]["border"] for layer in s["layers"].values() if layer["kind"] == "photo")  # noqa: E731
    until(lambda: abs(border(made(page)[0]) - 0.045) < 1e-6 and border(made(page)[1]) < 0.03, 5, "this one alone")
    page.keyboard.press("Escape")
    film = exported(page, tmp_path, "chosen")
    with av.open(str(film)) as container:
        frames = [f.to_ndarray(format="rgb24") for f in container.decode(video=0)]
    # On slate: grey at the foot of the frame; and the paper of the empty zone is in it.
    lying = frames[round(len(frames) * 0.72)]
    foot = lying[-4:, -60:].reshape(-1, 3).astype(float)
    assert np.ptp(foot.mean(axis=0)) < 25 and foot.mean() < 140
    assert (np.abs(lying.astype(int) - (222, 213, 197)).max(axis=2) < 22).mean() > 0.03

    page.keyboard.press("Escape")
    template.get_by_role("button", name="free from it").click()
    until(lambda: len(made(page)) == len(scenes) - 1, 5, "freed")
    expect(part_template(page)).to_contain_text("Made by hand")


def test_a_template_is_made_of_a_scene_saved_opened_from_its_file_and_put_on(page: Page, tmp_path: Path) -> None:
    copy_of_demo(page)
    numbered_row(page, 4).click()
    part_template(page).get_by_role("button", name="Make a template of it").click()
    making = part_template(page)
    making.get_by_label("Name", exact=True).fill("Mast and sky")
    making.get_by_label("Name", exact=True).press("Enter")
    switch = making.get_by_label("The weather mast is a drop zone")
    switch.click()
    expect(switch).not_to_be_checked()
    switch.click()
    expect(switch).to_be_checked()
    part(page, "Mount").get_by_role("button", name="Border: what it follows").click()
    page.get_by_role("menuitem", name="Make a dial of it").click()
    expect(part(page, "Mount").get_by_role("button", name="Border follows dial “Border”")).to_be_visible()
    making = part_template(page)
    making.get_by_label("Name of the dial Border").fill("Paper edge")
    making.get_by_label("Name of the dial Border").press("Enter")
    making.get_by_label("Paper edge, number", exact=True).fill("4")
    making.get_by_label("Paper edge, number", exact=True).press("Enter")
    until(lambda: abs(next(iter(made(page)[0]["template"]["dials"].values()), 0) - 0.04) < 1e-9, 5, "turned")
    part(page, "Mount").get_by_role("button", name="Paper grain: what it follows").click()
    page.get_by_role("menuitem", name="Make a dial of it").click()
    until(lambda: len(next(t for t in document(page)["templates"].values() if not t["origin"])["dials"]) == 2, 5, "a dial of a choice")

    # The workshop: the zone is chosen on the picture, rules and words said, awkward pictures tried.
    part_template(page).get_by_role("button", name="Go on in the workshop").click()
    page.get_by_label("Drop zones on the picture").get_by_role("button", name="Zone 1: The weather mast").click()
    zone = workshop(page, "Drop zone 1")
    zone.get_by_label("Zone’s name").fill("Tall picture")
    zone.get_by_label("Zone’s name").press("Enter")
    workshop(page, "Rules of the scene").get_by_label("Repeats while there are pictures").click()
    workshop(page, "Template").get_by_label("Warm").click()
    dials = workshop(page, "Dials")
    dials.get_by_role("button", name="More of the dial Paper edge").click()
    dials.get_by_role("button", name="The other way round: The weather mast: Mount border").click()
    made_here = lambda: next(t for t in document(page)["templates"].values() if not t["origin"])  # noqa: E731
    until(lambda: made_here()["moods"] == ["warm"] and any(s["repeats"] for s in made_here()["scenes"].values()), 5, "said")
    assert [z["name"] for z in made_here()["zones"].values()] == ["Tall picture"]
    page.get_by_role("radio", name="Try it").click()
    wall = page.get_by_role("region", name="The template")
    wall.get_by_role("button", name="“Tiny” is spread").click()
    expect(wall.get_by_role("img", name="“Tiny” is spread")).to_be_visible()
    wall.get_by_role("button", name="Back to the wall").click()
    expect(wall.get_by_role("list", name="Trials").get_by_role("heading")).to_have_count(16)
    page.get_by_role("button", name="Save to the library").click()
    expect(page.get_by_text("“Mast and sky” 1.0.0 is in the library.")).to_be_visible()
    page.get_by_role("link", name="Desk").click()

    # Its file is saved; taken out of the library, it comes back from there.
    numbered_row(page, 2).click()
    part_template(page).get_by_role("button", name="Treat with…").click()
    library = page.get_by_role("dialog", name="Treat with…")
    library.get_by_label("Find a template").fill("mast")
    library.get_by_role("button", name="Mast and sky").click()
    with page.expect_download() as downloading:
        library.get_by_role("link", name="Save its file").click()
    file = tmp_path / downloading.value.suggested_filename
    downloading.value.save_as(file)
    library.get_by_role("button", name="Remove from the library").click()
    expect(library.get_by_text("No template goes by these words.")).to_be_visible()
    (tmp_path / "broken.oaktemplate").write_bytes(file.read_bytes()[:-40])
    give(library.get_by_role("button", name="Open a template’s file…"), tmp_path / "broken.oaktemplate")
    expect(page.get_by_text(re.compile("cannot be opened.*Nothing was kept"))).to_be_visible()
    give(library.get_by_role("button", name="Open a template’s file…"), file)
    expect(library.get_by_role("region", name="Mast and sky")).to_contain_text("From a file, version 1.0.0")
    library.get_by_role("button", name="Put it on 1 scene").click()
    until(lambda: len(made(page)) == 2, 10, "put on")

    scene = made(page)[0]
    (photo,) = scene["layers"].values()
    assert abs(photo["mount"]["border"] - 0.16) < 1e-9, "the other way round: 4 of 20 hundredths"
    assert document(page)["media"][photo["media"]]["name"] == "The marked path"

    # A newer version is offered where it is used, seen before and after, and taken over.
    numbered_row(page, 4).click()
    part(page, "Mount").get_by_label("Border, number", exact=True).fill("0.5")
    part(page, "Mount").get_by_label("Border, number", exact=True).press("Enter")
    page.get_by_role("link", name="Workshop").click()
    page.get_by_role("button", name="Save to the library").click()
    expect(page.get_by_text(re.compile("“Mast and sky” 1.0.1 is in the library"))).to_be_visible()
    page.get_by_role("link", name="Desk").click()
    numbered_row(page, 2).click()
    part_template(page).get_by_role("button", name="See what changes…").click()
    offered = page.get_by_role("dialog", name="“Mast and sky” 1.0.1")
    expect(offered.get_by_role("list", name="Before and after").get_by_role("img")).to_have_count(2)
    offered.get_by_role("button", name="Take it over here").click()
    until(lambda: "1.0.1" in [t["origin"]["version"] for t in document(page)["templates"].values() if t["origin"]], 5, "taken over")


def test_a_film_is_begun_from_a_template_filled_and_exported(page: Page, tmp_path: Path) -> None:
    page.goto("/")
    page.get_by_role("button", name="New project").click()
    new = page.get_by_role("dialog", name="New project")
    new.get_by_label("Title").fill("Begun from a template")
    new.get_by_role("button", name="Plain album").click()
    give(new.get_by_role("button", name="Choose pictures"), sorted((Path(__file__).parents[1] / "demo" / "photos").glob("1[0-2]*.jpg")))
    new.get_by_role("button", name="Create the project").click()
    page.locator("canvas[data-drawn]").first.wait_for()
    until(lambda: [s["name"] for s in made(page)] == ["Opening", "Pictures", "Pictures", "Closing"], 30, "the pictures found their places")
    assert not any(m["placeholder"] for s in made(page) for x in s["layers"].values() if x["kind"] == "photo" and not x["hidden"] for m in [document(page)["media"][x["media"]]])
    # Words of its zones are typed, and it is laid out anew for another frame.
    part_template(page).get_by_label("2. Opening: title").fill("Three evenings")
    part_template(page).get_by_label("2. Opening: title").press("Tab")
    until(lambda: "Three evenings" in str(made(page)[0]["layers"]["title"]["text"]), 5, "typed")
    base = call(page, "GET", f"/api/projects/{project_id(page)}")["revision"]
    call(page, "POST", f"/api/projects/{project_id(page)}/edits", {"base": base, "edits": [{"edit": "set_frame", "width": 270, "height": 480}]})
    expect(page.get_by_text("Taken over what was changed in another window.")).to_be_visible(timeout=15_000)
    until(lambda: made(page)[0]["template"]["part"].startswith("plain-album-upright"), 5, "laid out for an upright frame")
    film = exported(page, tmp_path, size=None, rate="12")
    with av.open(str(film)) as container:
        stream = container.streams.video[0]
        assert (stream.width, stream.height) == (270, 480)
        lights = [float(f.to_ndarray(format="gray").mean()) for f in container.decode(video=0)]
    assert lights[0] < 2 and lights[-1] < 4 and max(lights) > 30, "from black and to black"


def workshop(page: Page, name: str) -> Locator:
    """A part of what is said of a template."""
    return page.get_by_role("complementary", name="What others may change").get_by_role("region", name=name, exact=True)


def part_template(page: Page):  # type: ignore[no-untyped-def]
    return part(page, "Template")


def test_chosen_pictures_become_scenes_of_a_template(page: Page) -> None:
    copy_of_demo(page)
    page.get_by_role("link", name="Contact sheet").click()
    tiles = page.get_by_role("list", name="Pictures", exact=True).get_by_role("button")
    tiles.nth(0).click()
    tiles.nth(6).click(modifiers=["Shift"])
    count = len(document(page)["media"])
    page.get_by_role("button", name="Treat with…").click()
    library = page.get_by_role("dialog", name="Treat with…")
    library.get_by_label("Pictures", exact=True).select_option("few")
    library.get_by_role("button", name="Tall windows").dblclick()
    until(lambda: len(made(page)) == 3, 10, "three, two and two")
    assert [sum(layer.get("zone") is not None for layer in s["layers"].values()) for s in made(page)] == [3, 2, 2]
    page.get_by_role("button", name="Go to the desk").last.click()
    expect(part_template(page).get_by_role("list", name="Zones").get_by_role("listitem")).to_have_count(3)
    # Nothing that stands in for empty zones is taken for a picture of one's own.
    part_template(page).get_by_role("button", name="More for First").click()
    page.get_by_role("menuitem", name="Empty it").click()
    until(lambda: len(document(page)["media"]) == count + 1, 5, "a placeholder")
    page.get_by_role("link", name="Contact sheet").click()
    expect(tiles).to_have_count(count)
