"""One finds one’s way: chapters of the details, numbers and actions by their names, columns as one wants them."""

from typing import Any

import pytest
from playwright.sync_api import Locator, Page, expect

from .conftest import call, copy_of_demo, demo, numbered_row, open_desk, part, project_id, until


def photo(page: Page, scene: str) -> dict[str, Any]:
    """The only photo of a scene, as it is kept."""
    document = call(page, "GET", f"/api/projects/{project_id(page)}")["document"]
    return next(s["layers"]["photo"] for s in document["scenes"].values() if s["name"] == scene)  # type: ignore[no-any-return]


def test_chapters_stay_in_reach_fold_tell_what_differs_and_a_number_is_found_by_its_name(page: Page) -> None:
    copy_of_demo(page)
    details = page.get_by_role("complementary", name="Details")
    tabs = details.get_by_role("tablist")
    # By keyboard from one chapter to the next; it stays open from scene to scene, and over a reload.
    part(page, "Placement")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(tabs.get_by_role("tab", name="Look")).to_have_attribute("aria-selected", "true")
    expect(tabs.get_by_role("tab", name="Look")).to_be_focused()
    numbered_row(page, 6).click()
    expect(details.get_by_role("region", name="Mount")).to_be_visible()
    details.get_by_role("button", name="Mount").first.click()
    expect(details.get_by_label("Border, number")).to_be_hidden()
    page.reload()
    expect(details.get_by_role("region", name="Mount")).to_be_visible()
    expect(details.get_by_label("Border, number")).to_be_hidden()
    details.get_by_role("button", name="Mount").first.click()
    # What differs from the default says so, at its chapter too.
    numbered_row(page, 1).click()
    light = part(page, "Light")
    expect(light.get_by_role("button", name="Light", exact=True)).to_be_visible()
    light.get_by_role("button", name="Switch a lamp on").click()
    expect(light.get_by_role("button", name="Light (differs from the default)")).to_be_visible()
    expect(tabs.get_by_role("tab", name="Camera (something in it differs")).to_be_visible()
    # Found by typing, with a slip, whichever chapter it is in; Enter goes to it.
    page.keyboard.press("/")
    page.keyboard.type("opacty")
    expect(details.get_by_role("region")).to_have_count(2)
    expect(details.get_by_role("region", name="Placement").get_by_label("Across, number")).to_have_count(0)
    page.keyboard.press("Enter")
    page.keyboard.press("ArrowDown")
    until(lambda: photo(page, "Ridge behind ridge")["opacity"] == pytest.approx(0.99), 5, "less opaque")
    details.get_by_label("Find a number").fill("nothing of this name")
    expect(details).to_contain_text("No number of what is chosen is called")
    # By its part: all of it. Found by the pointer, and back to the chapters.
    details.get_by_label("Find a number").fill("backdrop")
    expect(details.get_by_role("region", name="Backdrop").get_by_label("Kind", exact=True)).to_be_visible()
    details.get_by_role("button", name="Back to the chapters").click()
    details.get_by_role("button", name="Find a number (/)").click()
    expect(details.get_by_label("Find a number")).to_be_focused()
    page.keyboard.press("Escape")
    expect(tabs).to_be_visible()


def test_columns_and_lanes_are_resized_by_pointer_and_keyboard_and_stay_so(page: Page) -> None:
    open_desk(page, demo(page))
    sheet, lanes = page.get_by_role("region", name="Run sheet"), page.get_by_role("region", name="Lanes")
    wide, high = width(sheet), height(lanes)
    edge = page.get_by_role("separator", name="Width of the run sheet")
    box = edge.bounding_box()
    assert box
    page.mouse.move(box["x"] + 3, 300)
    page.mouse.down()
    page.mouse.move(box["x"] + 63, 300, steps=4)
    page.mouse.up()
    assert width(sheet) == pytest.approx(wide + 60, abs=2)
    # Escape gives a drag up, as it does everywhere.
    page.mouse.move(box["x"] + 63, 300)
    page.mouse.down()
    page.mouse.move(box["x"] + 23, 300, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    assert width(sheet) == pytest.approx(wide + 60, abs=2)
    page.get_by_role("separator", name="Height of the lanes").focus()
    page.keyboard.press("Shift+ArrowUp")
    page.keyboard.press("ArrowDown")
    assert height(lanes) == pytest.approx(high + 64, abs=2)
    page.reload()
    expect(edge).to_be_visible()
    assert (width(sheet), height(lanes)) == (pytest.approx(wide + 60, abs=2), pytest.approx(high + 64, abs=2))
    # However small the window, each keeps its room; the usual sizes come back with a key.
    page.set_viewport_size({"width": 1024, "height": 700})
    assert width(page.get_by_role("region", name="Easel")) > 380
    edge.focus()
    page.keyboard.press("Home")
    page.set_viewport_size({"width": 1280, "height": 800})
    assert width(sheet) == pytest.approx(wide, abs=1)


def width(locator: Locator) -> float:
    box = locator.bounding_box()
    assert box
    return box["width"]


def height(locator: Locator) -> float:
    box = locator.bounding_box()
    assert box
    return box["height"]
