"""The desk's controls one by one: numbers, keys, commands, versions, defaults, order by hand, the easel's handles by keyboard."""

import re

from playwright.sync_api import Page, expect

from .conftest import call, copy_of_demo, demo, numbered_row, open_desk, part, project_id, scene_row, until


def scene(page: Page, name: str) -> dict[str, object]:
    document = call(page, "GET", f"/api/projects/{project_id(page)}")["document"]
    return next(s for s in document["scenes"].values() if s["name"] == name)


def placement(page: Page, name: str) -> dict[str, float]:
    return scene(page, name)["layers"]["photo"]["placement"]  # type: ignore[index,no-any-return]


def test_a_number_is_typed_summed_nudged_dragged_and_given_up(page: Page) -> None:
    copy_of_demo(page)
    numbered_row(page, 6).click()
    number = part(page, "Placement").get_by_label("Across, number")
    expect(number).to_have_value("0.00")
    number.fill("1/8")
    number.press("Enter")
    expect(number).to_have_value("0.13")
    until(lambda: placement(page, "Brass and glass")["x"] == 0.125, 5, "kept as typed")
    number.press("ArrowUp")
    until(lambda: abs(placement(page, "Brass and glass")["x"] - 0.135) < 1e-9, 5, "a nudge")
    number.press("Shift+ArrowDown")
    until(lambda: abs(placement(page, "Brass and glass")["x"] - 0.035) < 1e-9, 5, "ten nudges")
    number.fill("no number")
    number.press("Enter")
    expect(number).to_have_attribute("aria-invalid", "true")
    number.press("Escape")
    expect(number).to_have_value("0.04")
    number.blur()
    box = number.bounding_box()
    assert box
    page.mouse.move(box["x"] + 20, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 10, steps=5)
    drawn = page.get_by_role("img", name="The film at the playhead")
    page.wait_for_timeout(300)
    assert placement(page, "Brass and glass")["x"] < 0.04, "only tried while the pointer is down"
    page.mouse.up()
    until(lambda: placement(page, "Brass and glass")["x"] > 0.2, 5, "set when let go")
    expect(drawn).to_be_visible()
    page.get_by_role("button", name="Undo: Change layers").click()
    until(lambda: placement(page, "Brass and glass")["x"] < 0.04, 5, "one step back")
    # What it says changes while it waits to be typed into: what is typed still replaces it.
    number.focus()
    page.get_by_role("button", name="Redo: Change layers").evaluate("button => button.click()")
    expect(number).not_to_have_value("0.04")
    page.keyboard.insert_text("0.5")
    page.keyboard.press("Enter")
    until(lambda: placement(page, "Brass and glass")["x"] == 0.5, 5, "typed over what had just come")


def test_a_slider_and_a_reset(page: Page) -> None:
    copy_of_demo(page)
    numbered_row(page, 6).click()
    part(page, "Shadow").get_by_role("slider", name="Strength", exact=True).focus()
    page.keyboard.press("ArrowRight")
    until(lambda: scene(page, "Brass and glass")["layers"]["photo"]["shadow"]["opacity"] > 0.5, 5, "a stronger shadow")  # type: ignore[index]
    part(page, "Placement").get_by_role("button", name="reset").click()
    until(lambda: placement(page, "Brass and glass")["turn"] == 0, 5, "upright again")
    part(page, "Shadow").get_by_role("button", name="own · back to default").click()
    until(lambda: scene(page, "Brass and glass")["layers"]["photo"]["shadow"] is None, 5, "the default's shadow")  # type: ignore[index]


def test_handles_move_by_keyboard_and_views_are_swapped_and_made_equal(page: Page) -> None:
    copy_of_demo(page)
    numbered_row(page, 6).click()
    page.get_by_role("button", name="Move Brass and glass").focus()
    page.keyboard.press("ArrowRight")
    until(lambda: abs(placement(page, "Brass and glass")["x"] - 0.005) < 1e-9, 5, "moved by a key")
    page.get_by_role("button", name=re.compile("^Size Brass and glass, bottom right")).focus()
    page.keyboard.press("Shift+ArrowRight")
    until(lambda: placement(page, "Brass and glass")["size"] > 1.02, 5, "sized by a key")

    def views() -> tuple[dict[str, float], dict[str, float]]:
        keys = scene(page, "Brass and glass")["layers"]["photo"]["view"]["keys"]  # type: ignore[index]
        return keys["opening"]["value"], keys["closing"]["value"]

    before = views()
    part(page, "Views").get_by_role("button", name="Swap").click()
    until(lambda: views() == (before[1], before[0]), 5, "swapped")
    page.get_by_role("button", name="Make equal").click()
    until(lambda: views()[0] == views()[1] == before[1], 5, "made equal")
    page.get_by_role("button", name="Suggest").click()
    until(lambda: views()[0] != views()[1], 5, "suggested")
    page.get_by_label("Ease from the opening to the closing view").select_option("both")
    until(lambda: scene(page, "Brass and glass")["layers"]["photo"]["view"]["keys"]["opening"]["ease_out"] == [0.42, 0], 5, "eased")  # type: ignore[index]


def test_scenes_are_moved_by_the_mouse(page: Page) -> None:
    copy_of_demo(page)
    first, third = numbered_row(page, 1).bounding_box(), numbered_row(page, 3).bounding_box()
    assert first and third
    page.mouse.move(first["x"] + 60, first["y"] + 30)
    page.mouse.down()
    page.mouse.move(first["x"] + 60, first["y"] + 60, steps=4)
    page.mouse.move(third["x"] + 60, third["y"] + 70, steps=8)
    page.wait_for_timeout(250)
    page.mouse.up()
    expect(numbered_row(page, 3)).to_contain_text("Ridge behind ridge")
    page.keyboard.press("Control+z")
    expect(numbered_row(page, 1)).to_contain_text("Ridge behind ridge")


def test_frames_are_stepped_scrubbed_looped_and_shown_full_screen(page: Page) -> None:
    open_desk(page, demo(page))
    timer = page.get_by_role("timer")
    numbered_row(page, 2).click()
    start = timer.inner_text()
    page.get_by_role("button", name="One frame on").click()
    expect(timer).not_to_have_text(start)
    page.get_by_role("button", name="One frame back").click()
    expect(timer).to_have_text(start)
    bar = page.get_by_role("slider", name="Place in the film")
    bar.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(bar).to_have_attribute("aria-valuenow", re.compile(r"\d+"))
    box = bar.bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + 12)
    expect(timer).to_have_text(re.compile(r"^0:5[5-8]\."))
    # A looped scene begins again: the playhead comes back below where it was.
    numbered_row(page, 2).click()
    page.get_by_role("button", name="Loop scene").click()
    page.keyboard.press("Space")
    seen: list[int] = []

    def wrapped() -> bool:
        seen.append(int(bar.get_attribute("aria-valuenow") or 0))
        return len(seen) > 3 and seen[-1] < max(seen) - 30

    until(wrapped, 20, "the loop's beginning")
    page.keyboard.press("Space")
    page.keyboard.press("f")
    until(lambda: page.evaluate("document.fullscreenElement?.id") == "easel", 5, "full screen")
    page.keyboard.press("f")
    until(lambda: page.evaluate("document.fullscreenElement === null"), 5, "back")


def test_keys_are_listed_and_commands_found(page: Page) -> None:
    open_desk(page, demo(page))
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("Give up a drag")
    page.keyboard.press("Escape")
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find a command").wait_for()
    page.keyboard.type("look at closing view")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Move the closing view")).to_be_visible()
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find a command").fill("zzz")
    expect(page.get_by_text("No command has these words.")).to_be_visible()
    # To any scene by its name, with a slip, wherever it is in the run sheet.
    page.get_by_role("combobox", name="Find a command").fill("go to scene bras glass")
    page.keyboard.press("Enter")
    row = page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile("^Scene .*Brass and glass"))
    expect(row).to_have_attribute("aria-pressed", "true")


def test_versions_are_named_and_returned_to(page: Page) -> None:
    copy_of_demo(page)
    page.get_by_role("button", name="Named versions").click()
    page.get_by_label("Name of this version").fill("All of them")
    page.get_by_role("button", name="Name it").click()
    expect(page.get_by_role("dialog")).to_contain_text("All of them")
    page.keyboard.press("Escape")
    numbered_row(page, 1).click()
    numbered_row(page, 5).click(modifiers=["Shift"])
    page.get_by_role("button", name="Delete the chosen scenes").click()
    expect(page.get_by_role("region", name="Run sheet")).to_contain_text("20 scenes")
    page.get_by_role("button", name="Named versions").click()
    page.get_by_role("button", name="Return", exact=True).click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name="Run sheet")).to_contain_text("25 scenes")


def test_the_theme_and_the_list_view_stay(page: Page) -> None:
    open_desk(page, demo(page))
    page.get_by_role("button", name="All dark, for night work").click()
    page.reload()
    page.get_by_role("heading", name="Run sheet").wait_for()
    assert page.evaluate("document.documentElement.dataset.theme") == "dark"
    page.get_by_role("button", name="Light paper").click()
    page.get_by_role("link", name="Contact sheet").click()
    page.get_by_role("button", name="Show as a list").click()
    expect(page.get_by_role("list", name="Pictures")).to_contain_text("2031-09-19 20:05")


def test_an_export_is_cancelled_and_taken_off_the_list(page: Page) -> None:
    copy_of_demo(page)
    page.get_by_role("button", name="Export…").click()
    dialog = page.get_by_role("dialog", name="Export")
    dialog.get_by_label("What").select_option("chosen")
    timeline = call(page, "GET", f"/api/projects/{project_id(page)}")["timeline"]
    expect(dialog.get_by_test_id("estimate")).to_contain_text(f"{-(-timeline['spans'][0]['end'] // timeline['frame_ticks'])} frames")
    dialog.get_by_label("What").select_option("film")
    dialog.get_by_role("button", name="Export the film").click()
    dialog.get_by_role("button", name=re.compile("^Cancel the export")).click()
    expect(dialog.get_by_role("list", name="Exports")).to_contain_text("cancelled")
    dialog.get_by_role("button", name=re.compile("off the list$")).click()
    expect(dialog).to_contain_text("None yet.")


def test_one_key_chooses_all_of_what_is_chosen(page: Page) -> None:
    copy_of_demo(page)
    page.keyboard.press("Control+a")
    expect(page.get_by_text("25 scenes chosen")).to_be_visible()
    assert page.evaluate("getSelection().toString()") == "", "no text of the page is marked"
    scene_row(page, "The table by the stove").click()
    layers = page.get_by_role("list", name="Layers, topmost first")
    layers.get_by_role("button", name="The observing book", exact=True).click()
    layers.get_by_role("button", name="The observing book", exact=True).blur()
    page.keyboard.press("Control+a")
    expect(layers.locator("[aria-pressed=true]").filter(has_text="")).to_have_count(7)
    # The contact sheet's keys work before anything was clicked.
    page.get_by_role("link", name="Contact sheet").click()
    page.get_by_role("list", name="Pictures").get_by_role("button").first.wait_for()
    page.keyboard.press("Control+a")
    chosen = page.get_by_role("list", name="Pictures").locator("[aria-pressed=true]")
    expect(chosen.first).to_be_visible()
    assert chosen.count() > 10
    page.keyboard.press("Escape")
    expect(chosen).to_have_count(0)
