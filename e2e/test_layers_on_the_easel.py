"""Layers in the real interface: chosen, dragged, snapped, nudged, copied, grouped, shared, masked, locked; and what is drawn over them."""

import re
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, expect

from .conftest import call, copy_of_demo, part, project_id, scene_row, until

TABLE = "The table by the stove"


def scene(page: Page, name: str = TABLE) -> dict[str, Any]:
    document = call(page, "GET", f"/api/projects/{project_id(page)}")["document"]
    return next(s for s in document["scenes"].values() if s["name"] == name)


def document(page: Page) -> dict[str, Any]:
    return call(page, "GET", f"/api/projects/{project_id(page)}")["document"]  # type: ignore[no-any-return]


def layer(page: Page, name: str, of: str = TABLE) -> dict[str, Any]:
    return next(x for x in scene(page, of)["layers"].values() if x["name"] == name)


def open_scene(page: Page, name: str) -> None:
    copy_of_demo(page)
    scene_row(page, name).click()
    expect(page.get_by_role("list", name="Layers, topmost first")).to_be_visible()


def row(page: Page, name: str) -> Locator:
    return page.get_by_role("list", name="Layers, topmost first").get_by_role("button", name=name, exact=True)


def centre(locator: Locator) -> tuple[float, float]:
    box = locator.bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, start: tuple[float, float], dx: float, dy: float) -> None:
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + dx / 2, start[1] + dy / 2, steps=4)
    page.mouse.move(start[0] + dx, start[1] + dy, steps=4)
    page.mouse.up()


def menu(page: Page, trigger: str, entry: str) -> None:
    page.get_by_role("button", name=trigger, exact=True).click()
    page.get_by_role("menuitem", name=entry).click()


@pytest.fixture
def table(page: Page) -> Page:
    open_scene(page, TABLE)
    return page


def test_a_layer_is_taken_where_it_lies_and_several_move_together(table: Page) -> None:
    page = table
    # Pressed and dragged in one go, without choosing it before.
    start = layer(page, "Waiting for dark")["placement"]["x"]
    drag(page, centre(page.get_by_role("button", name="Move Waiting for dark")), 30, 12)
    until(lambda: layer(page, "Waiting for dark")["placement"]["x"] > start + 0.03, 5, "dragged at once")
    book = page.get_by_role("button", name="Move The observing book")
    page.mouse.click(*centre(book))
    expect(row(page, "The observing book")).to_have_attribute("aria-pressed", "true")
    before = {n: layer(page, n)["placement"] for n in ("The observing book", "Waiting for dark")}
    row(page, "Waiting for dark").click(modifiers=["Control"])
    expect(page.get_by_role("button", name=re.compile("^Turn "))).to_have_count(2)
    drag(page, centre(page.get_by_role("button", name="Move The observing book")), 64, 0)
    until(lambda: layer(page, "The observing book")["placement"]["x"] > before["The observing book"]["x"] + 0.08, 5, "dragged")
    moved = {n: layer(page, n)["placement"]["x"] - before[n]["x"] for n in before}
    assert moved["The observing book"] == pytest.approx(moved["Waiting for dark"], abs=1e-9)
    # The arrows nudge all that is chosen; Escape lets go.
    page.keyboard.press("Shift+ArrowRight")
    until(
        lambda: layer(page, "Waiting for dark")["placement"]["x"] - before["Waiting for dark"]["x"] > moved["Waiting for dark"] + 0.015,
        5,
        "nudged",
    )
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("^Turn "))).to_have_count(0)


def test_a_drag_snaps_to_a_guide_unless_ctrl_is_held(page: Page) -> None:
    open_scene(page, "The lantern under the stars")
    menu(page, "Guides", "Add an upright guide")
    guide = page.get_by_role("button", name=re.compile("^Upright guide at 50 %"))
    expect(guide).to_have_count(1)
    guide.focus()
    page.keyboard.press("ArrowRight")
    until(lambda: document(page)["guides"] == [{"axis": "x", "at": 0.505}], 5, "moved by a key")
    canvas = page.get_by_role("img", name="The film at the playhead").bounding_box()
    assert canvas
    drag(page, (canvas["x"] + 0.505 * canvas["width"], canvas["y"] + 30), 0.07 * canvas["width"], 0)
    until(lambda: document(page)["guides"][0]["at"] > 0.57, 5, "and by the pointer")
    at = document(page)["guides"][0]["at"]
    row(page, "The mark of the observatory").click()
    book = page.get_by_role("button", name="Move The mark of the observatory")
    box = book.bounding_box()
    assert box
    short = canvas["x"] + at * canvas["width"] - (box["x"] + box["width"]) - 3
    drag(page, centre(book), short, 0)

    def right_edge() -> float:
        moved = page.get_by_role("button", name="Move The mark of the observatory").bounding_box()
        assert moved
        return moved["x"] + moved["width"]

    until(lambda: abs(right_edge() - (canvas["x"] + at * canvas["width"])) < 0.8, 5, "on the guide")
    page.keyboard.press("Control+z")
    until(lambda: abs(right_edge() - (box["x"] + box["width"])) < 0.8, 5, "back")
    page.keyboard.down("Control")
    drag(page, centre(page.get_by_role("button", name="Move The mark of the observatory")), short, 0)
    page.keyboard.up("Control")
    until(lambda: abs(right_edge() - (canvas["x"] + at * canvas["width"] - 3)) < 0.8, 5, "free")
    guide = page.get_by_role("button", name=re.compile("^Upright guide"))
    guide.focus()
    page.keyboard.press("Delete")
    expect(guide).to_have_count(0)


def test_alt_copies_a_dragged_layer(table: Page) -> None:
    page = table
    row(page, "Tonight's plan").click()
    start = centre(page.get_by_role("button", name="Move Tonight's plan"))
    page.keyboard.down("Alt")
    drag(page, start, 70, 20)
    page.keyboard.up("Alt")
    until(lambda: len(scene(page)["layers"]) == 8, 5, "one more")
    copies = [x["placement"]["x"] for x in scene(page)["layers"].values() if x["name"] == "Tonight's plan"]
    assert len(copies) == 2 and abs(copies[0] - copies[1]) > 0.05
    page.keyboard.press("Control+z")
    until(lambda: len(scene(page)["layers"]) == 7, 5, "one step of undo")


def test_window_and_picture_are_moved_apart(table: Page) -> None:
    page = table
    row(page, "Brass and glass").click()
    edge = page.get_by_role("button", name="Widen Brass and glass, bottom")
    before = layer(page, "Brass and glass")
    drag(page, centre(edge), 0, -30)
    until(lambda: (layer(page, "Brass and glass")["window"]["aspect"] or 0) > 1.6, 5, "a lower window")
    page.get_by_role("radio", name="Picture in it").click()
    picture = page.get_by_role("button", name="Move the picture in Brass and glass")
    size = page.get_by_role("button", name="Size the picture in Brass and glass, bottom right")
    drag(page, centre(size), 40, 30)
    until(lambda: layer(page, "Brass and glass")["view"]["keys"]["opening"]["value"]["zoom"] > 1.05, 5, "closer in")
    placement = layer(page, "Brass and glass")["placement"]
    drag(page, centre(picture), -20, 0)
    until(lambda: layer(page, "Brass and glass")["view"]["keys"]["opening"]["value"]["x"] > 0.005, 5, "slid")
    assert layer(page, "Brass and glass")["placement"] == placement != before["placement"]
    page.get_by_role("button", name="Reset the picture").click()
    until(lambda: layer(page, "Brass and glass")["view"]["keys"]["closing"]["value"]["zoom"] == 1, 5, "as it fits")


def test_layers_are_hidden_locked_named_ordered_and_deleted(table: Page) -> None:
    page = table
    page.get_by_role("button", name="Hide Brass and glass").click()
    until(lambda: layer(page, "Brass and glass")["hidden"], 5, "hidden")
    expect(page.get_by_role("button", name="Move Brass and glass")).to_have_count(0)
    page.get_by_role("button", name="Lock The weather mast").click()
    until(lambda: layer(page, "The weather mast")["locked"], 5, "locked")
    expect(page.get_by_role("button", name="Move The weather mast")).to_have_count(0)
    page.get_by_role("button", name="Solo Waiting for dark").click()
    until(lambda: layer(page, "Waiting for dark")["solo"], 5, "alone")
    page.get_by_role("button", name="Solo Waiting for dark").click()
    row(page, "Tonight's plan").dblclick()
    page.get_by_label("Name of the layer").fill("The plan")
    page.get_by_label("Name of the layer").press("Enter")
    until(lambda: any(x["name"] == "The plan" for x in scene(page)["layers"].values()), 5, "named")

    def place(name: str) -> int:
        found = scene(page)["layers"]
        return [found[k]["name"] for k in sorted(found, key=lambda k: found[k]["order"])].index(name)

    before = place("The plan")
    row(page, "The plan").click()
    page.keyboard.press("Alt+ArrowUp")
    until(lambda: place("The plan") == before + 1, 5, "one higher")
    page.keyboard.press("Delete")
    until(lambda: len(scene(page)["layers"]) == 6, 5, "deleted")
    page.keyboard.press("Control+z")
    until(lambda: len(scene(page)["layers"]) == 7, 5, "and back")


def test_a_group_moves_as_one_is_opened_and_shared_with_another_scene(table: Page) -> None:
    page = table
    row(page, "The observing book").click()
    row(page, "Waiting for dark").click(modifiers=["Control"])
    page.keyboard.press("Control+g")
    until(lambda: any(x["kind"] == "group" for x in scene(page)["layers"].values()), 5, "a group")
    group = row(page, "Group")
    expect(group).to_have_attribute("aria-pressed", "true")
    expect(row(page, "Waiting for dark")).to_have_count(0)
    page.get_by_role("button", name="Open Group").click()
    expect(row(page, "Waiting for dark")).to_be_visible()
    turn = page.get_by_role("button", name="Turn Group")
    drag(page, centre(turn), 30, 0)
    until(lambda: layer(page, "Group")["placement"]["turn"] > 1, 5, "turned as one")
    # A press on a photo in the group takes the group.
    page.keyboard.press("Escape")
    page.mouse.click(*centre(page.get_by_role("button", name="Move Waiting for dark")))
    expect(group).to_have_attribute("aria-pressed", "true")
    menu(page, "More for layers", "Share the group with other scenes")
    until(lambda: document(page)["groups"], 5, "shared")
    scene_row(page, "The season, piled up").click()
    menu(page, "Add a layer", "Shared group: Group")
    until(lambda: any(x["kind"] == "group" for x in scene(page, "The season, piled up")["layers"].values()), 5, "seen in another scene")


def test_a_shape_is_drawn_masked_blended_and_placed(table: Page) -> None:
    page = table
    menu(page, "Add a layer", "Ellipse")
    until(lambda: any(x["kind"] == "shape" for x in scene(page)["layers"].values()), 5, "drawn")
    shape = lambda: next(x for x in scene(page)["layers"].values() if x["kind"] == "shape")  # noqa: E731
    part(page, "Shape").get_by_label("Fill", exact=True).get_by_role("radio", name="Gradient", exact=True).click()
    until(lambda: shape()["form"]["fill"] == "linear", 5, "a gradient")
    part(page, "Mask").get_by_role("button", name="Mask by a shape").click()
    until(lambda: (shape()["mask"] or {}).get("outline") == "ellipse", 5, "masked")
    part(page, "Mask").get_by_label("Feather, number").fill("20")
    part(page, "Mask").get_by_label("Feather, number").press("Enter")
    until(lambda: shape()["mask"]["feather"] == 0.2, 5, "soft")
    page.get_by_role("button", name="Place", exact=True).click()
    expect(page.get_by_role("button", name="Middle", exact=True)).to_be_focused()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    until(lambda: shape()["placement"]["x"] > 0.2 and shape()["placement"]["y"] > 0.2, 5, "in its corner")
    row(page, "Brass and glass").click(modifiers=["Control"])
    page.get_by_role("button", name="Align", exact=True).click()
    page.get_by_role("menuitem", name="Upper edges together").click()
    until(lambda: shape()["placement"]["y"] < 0.1, 5, "aligned with another")


def test_looks_are_saved_made_the_default_changed_and_taken_out(table: Page) -> None:
    page = table
    scene_row(page, "Brass and glass").click()
    part(page, "Look").get_by_role("button", name="Looks…").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name of a new look").fill("Stove side")
    dialog.get_by_role("button", name="Save the look").click()
    own = dialog.get_by_role("button", name=re.compile("^Stove side"))
    expect(own).to_have_attribute("aria-pressed", "true")
    dialog.get_by_role("button", name="Make it the project’s default").click()
    expect(dialog.get_by_text("project default")).to_be_visible()
    until(lambda: document(page)["looks"][document(page)["defaults"]["look"]]["name"] == "Stove side", 5, "the default")
    dialog.get_by_label("Find a look").fill("zzz")
    expect(own).to_have_count(0)
    dialog.get_by_label("Find a look").fill("")
    page.keyboard.press("Escape")
    # In the project's settings a change of a part changes the look that all follow.
    page.get_by_title("Frame and project defaults").click()
    border = page.get_by_role("dialog").get_by_label("Border, number")
    border.fill("4")
    border.press("Enter")
    until(
        lambda: (
            next(iter(document(page)["looks"][k]["mount"]["border"] for k in document(page)["looks"] if k.startswith("look-")))
            == pytest.approx(0.04)
        ),
        5,
        "the look changed",
    )
    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_role("button", name="Stove side", exact=True).click()
    page.get_by_role("button", name="Take Stove side out of the project; photos keep how they look").click()
    until(
        lambda: document(page)["defaults"]["look"] is None and document(page)["defaults"]["mount"]["border"] == pytest.approx(0.04),
        5,
        "kept as the defaults",
    )


def test_before_is_seen_while_a_key_is_held(table: Page) -> None:
    page = table
    scene_row(page, "Three evenings").click()
    row(page, "The storm lantern").click()
    canvas = page.get_by_role("img", name="The film at the playhead")

    def drawn() -> int:
        return int(canvas.get_attribute("data-drawn") or 0)

    page.wait_for_timeout(500)
    count = drawn()
    page.keyboard.down("b")
    until(lambda: drawn() > count, 5, "painted without correction")
    count = drawn()
    page.keyboard.up("b")
    until(lambda: drawn() > count, 5, "and with it again")
    assert scene(page, "Three evenings")["layers"]["l2"]["correction"] is None


def test_a_clip_is_trimmed_and_seen_as_backdrop(page: Page) -> None:
    copy_of_demo(page)
    page.get_by_role("link", name="Contact sheet").click()
    page.get_by_label("Which pictures to show").select_option("clips")
    tiles = page.get_by_role("list", name="Pictures", exact=True).get_by_role("button")
    expect(tiles).to_have_count(2)
    expect(tiles.first).to_contain_text("7.0 s")
    tiles.first.dblclick()
    page.get_by_role("radio", name="Shape & times").click()
    for label, value in (("From", "1.5"), ("To", "4")):
        page.get_by_label(f"{label}, number", exact=True).fill(value)
        page.get_by_label(f"{label}, number", exact=True).press("Enter")
    clip = lambda: next(m["clip"] for m in document(page)["media"].values() if m["name"] == "Stars over the dome")  # noqa: E731
    until(lambda: (clip()["start"], clip()["end"]) == (1_058_400_000, 2_822_400_000), 5, "trimmed")
    page.get_by_label("Begins again at its end").click()
    until(lambda: clip()["loop"] is False, 5, "holds its last moment")
    page.keyboard.press("Escape")
    expect(tiles.first).to_contain_text("2.5 s")
    page.get_by_role("link", name="Desk").click()
    scene_row(page, "Brass and glass").click()
    backdrop = part(page, "Backdrop")
    backdrop.get_by_label("Kind", exact=True).select_option("picture")
    backdrop.get_by_role("button", name="Choose…").click()
    page.get_by_role("dialog").get_by_label("Find by word").fill("fog")
    page.get_by_role("list", name="Pictures to choose").get_by_role("button").first.dblclick()
    until(lambda: scene(page, "Brass and glass")["backdrop"]["media"] == "k2", 5, "a clip behind the photo")


def test_a_value_becomes_a_field_that_others_follow_and_a_change_ends_the_link_or_leads_to_it(table: Page) -> None:
    mount = part(table, "Mount")
    border = mount.get_by_label("Border, number")
    first, second = [layer["name"] for layer in scene(table)["layers"].values() if layer["kind"] == "photo"][:2]
    row(table, first).click()
    border.fill("3")
    border.press("Enter")
    menu(table, "Border: what it follows", "Make a field of it")
    expect(mount.get_by_role("button", name="Border follows field “Mount border”")).to_be_visible()
    row(table, second).click()
    # By keyboard: from the number to what it follows.
    border.focus()
    border.press("Alt+ArrowDown")
    table.get_by_role("menuitem", name="Follow field “Mount border”").press("Enter")
    until(lambda: (layer(table, second)["mount"] or {}).get("border") == pytest.approx(0.03), what="it follows")
    table.get_by_role("button", name=re.compile("1080p")).click()
    field = table.get_by_role("dialog").get_by_role("region", name="Fields")
    expect(field.get_by_text("2 follow")).to_be_visible()
    field.get_by_label("Border, number").fill("5")
    field.get_by_label("Border, number").press("Enter")
    until(lambda: {layer(table, n)["mount"]["border"] for n in (first, second)} == {0.05}, what="both changed")
    table.keyboard.press("Escape")
    # Changed where it follows: the source changes, if so chosen; else the link ends.
    menu(table, "Border follows field “Mount border”", "Changing it changes field “Mount border”")
    border.fill("4")
    border.press("Enter")
    until(lambda: layer(table, first)["mount"]["border"] == pytest.approx(0.04), what="through the field")
    menu(table, "Border follows field “Mount border”", "Changing it changes field “Mount border”")
    border.fill("1")
    border.press("Enter")
    until(lambda: not layer(table, second)["links"], what="the link ended")
    assert layer(table, first)["mount"]["border"] == pytest.approx(0.04)
