"""Motion in the real interface: prints that fall, keyframes recorded, lanes and curves by pointer and by keyboard, camera, plan, light."""

import io
import re
from typing import Any

import av
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from .conftest import copy_of_demo, exported, part, project_id, scene_row, until
from .test_layers_on_the_easel import centre, document, drag, layer, open_scene, row, scene

TABLE = "The table by the stove"
BOOK = "The observing book"
SECOND = 705_600_000


@pytest.fixture
def table(page: Page) -> Page:
    open_scene(page, TABLE)
    row(page, BOOK).click()
    return page


def keys(page: Page, lane: str, of: str = BOOK) -> Locator:
    return page.get_by_role("button", name=re.compile(rf"^Keyframe of {of}, {lane}, "))


def lanes_of(page: Page, of: str = BOOK, where: str = TABLE) -> dict[str, Any]:
    return layer(page, of, where)["animation"]  # type: ignore[no-any-return]


def typed(field: Locator, text: str) -> None:
    field.click()
    field.fill(text)
    field.press("Enter")


def scrub(page: Page, share: float) -> None:
    """The playhead to a share of the scene's time, by the ruler of the lanes."""
    ruler = page.get_by_role("slider", name="Time in the scene")
    box = ruler.bounding_box()
    assert box
    page.mouse.click(box["x"] + 12 + (box["width"] - 24) * share, box["y"] + 8)
    length = float(ruler.get_attribute("aria-valuemax") or 0)
    until(lambda: abs(float(ruler.get_attribute("aria-valuenow") or -1) - share * length) < 0.08, 5, "scrubbed")


def choose_move(page: Page, slot: str, name: str, button: str) -> None:
    part(page, "Motion").get_by_text(slot, exact=True).locator("..").get_by_role("button", name=re.compile("none, choose|several")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name=re.compile(f"^{name}")).click()
    expect(dialog.locator("img").first).to_be_visible()
    dialog.get_by_role("button", name=button).click()


def frame(page: Page, name: str, share: float, width: int = 240) -> np.ndarray[Any, Any]:
    """A frame of a scene as the server paints it."""
    found = next(k for k, s in document(page)["scenes"].items() if s["name"] == name)
    data = page.evaluate(
        """async ([path, body]) => {
          const token = (await (await fetch('/api/session')).json()).token;
          const answer = await fetch(path, {method: 'POST', headers: {'Content-Type': 'application/json', 'X-Oak-Token': token}, body: JSON.stringify(body)});
          return [...new Uint8Array(await answer.arrayBuffer())];
        }""",
        [f"/api/projects/{project_id(page)}/tried-frame", {"scene": found, "share": share, "width": width}],
    )
    return np.asarray(Image.open(io.BytesIO(bytes(data)))).astype(int)


def test_a_print_falls_onto_the_table_and_others_follow_in_two_gestures(table: Page) -> None:
    page = table
    choose_move(page, "Entrance", "Falls onto the table", "Put it on this layer")
    until(lambda: layer(page, BOOK)["entrance"] == {**layer(page, BOOK)["entrance"], "move": "fall"}, 5, "put on")
    expect(part(page, "Motion").get_by_role("button", name="Falls onto the table")).to_be_visible()
    falling, landed, still = frame(page, TABLE, 0.06), frame(page, TABLE, 0.5), frame(page, TABLE, 0.6)
    assert np.abs(falling - landed).mean() > 3 * np.abs(still - landed).mean() + 1
    # Its length is its own: a longer scene keeps it.
    length = part(page, "Motion").get_by_label("Length, number")
    typed(length, "0.8")
    typed(part(page, "Scene").get_by_label("Hold, number"), "6")
    until(lambda: layer(page, BOOK)["entrance"]["length"] == round(0.8 * SECOND), 5, "length")
    # All photos of two scenes at once, from sides in turn, one by one.
    page.keyboard.press("Escape")
    scene_row(page, "Three evenings").click(modifiers=["Control"])
    part(page, "Motion").get_by_role("button", name=re.compile("none, choose|several")).nth(1).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("radio", name="Sides in turn").click()
    dialog.get_by_role("button", name=re.compile("^Tossed in")).click()
    one_by_one = dialog.get_by_label("One by one, number")
    typed(one_by_one, "0.2")
    dialog.get_by_role("button", name="Put it on 10 layers").click()

    def entrances() -> list[Any]:
        return [x["entrance"] for s in (TABLE, "Three evenings") for x in scene(page, s)["layers"].values()]

    until(lambda: all(e and e["move"] == "toss" for e in entrances()), 8, "all tossed in")
    assert {e["side"] for e in entrances()} == {"left", "right", "top", "bottom"}
    assert sorted(e["delay"] for e in entrances()) == [round(0.2 * SECOND) * i for i in range(10)]
    expect(dialog).to_have_count(0)
    page.keyboard.press("Control+z")
    until(lambda: layer(page, BOOK)["entrance"]["move"] == "fall", 5, "one step of undo")


def test_what_is_dragged_while_recording_becomes_a_path_that_is_bent_retimed_and_eased(table: Page) -> None:
    page = table
    page.get_by_role("button", name="Record changes").click()
    scrub(page, 0.7)
    handle = page.get_by_role("button", name=f"Move {BOOK}")
    before = layer(page, BOOK)["placement"]
    # The end first, then the start.
    drag(page, centre(handle), 90, -60)
    expect(keys(page, "Place")).to_have_count(1)
    until(lambda: "placement.path" in lanes_of(page), 5, "kept")
    scrub(page, 0.2)
    drag(page, centre(page.get_by_role("button", name=f"Move {BOOK}")), -200, 40)
    expect(keys(page, "Place")).to_have_count(2)
    typed(part(page, "Placement").get_by_label("Turn, number"), "-20")
    expect(keys(page, "Turn")).to_have_count(1)
    page.get_by_role("button", name="Recording changes").click()
    assert layer(page, BOOK)["placement"] == before and set(lanes_of(page)) == {"placement.path", "placement.turn"}
    # Without recording, a drag moves the whole path.
    path = lanes_of(page)["placement.path"]
    x, y = centre(page.get_by_role("button", name=f"Move {BOOK}"))
    drag(page, (x + 25, y + 25), 40, 0)
    until(lambda: layer(page, BOOK)["placement"]["x"] > before["x"] + 0.02, 5, "moved as a whole")
    assert lanes_of(page)["placement.path"] == path
    # A key is dragged in time, and snaps to a whole frame.
    first = keys(page, "Place").first
    drag(page, centre(first), 60, 0)
    frames = SECOND // 30
    until(lambda: lanes_of(page)["placement.path"]["keys"] != path["keys"], 5, "retimed")
    assert all(k["at"] % frames in (0, 1, frames - 1) or k["anchor"] == "end" for k in lanes_of(page)["placement.path"]["keys"].values())
    # A box around both, their bracket stretched.
    track = page.get_by_test_id("tracks").bounding_box()
    assert track
    y = centre(keys(page, "Place").first)[1]
    drag(page, (track["x"] + 4, y - 9), track["width"] - 10, 18)
    expect(page.get_by_text("2 keys")).to_be_visible()
    spans = [k["at"] for k in lanes_of(page)["placement.path"]["keys"].values()]
    drag(page, centre(page.get_by_role("button", name="Stretch the chosen keyframes from their end")), -70, 0)
    until(lambda: [k["at"] for k in lanes_of(page)["placement.path"]["keys"].values()] != spans, 5, "stretched")
    page.get_by_label("Ease of the chosen keyframes").select_option("spring")
    until(lambda: any(k["follow"] for k in lanes_of(page)["placement.path"]["keys"].values()), 5, "a spring")
    stiffness = page.get_by_role("textbox", name="Stiffness")
    typed(stiffness, "400")
    until(lambda: any((k["follow"] or {}).get("stiffness") == 400 for k in lanes_of(page)["placement.path"]["keys"].values()), 5, "stiffer")
    page.get_by_label("Ease of the chosen keyframes").select_option("both")
    until(lambda: not any(k["follow"] for k in lanes_of(page)["placement.path"]["keys"].values()), 5, "an ease of handles")
    # The curve: its handle is dragged.
    page.get_by_role("button", name=f"Curve of {BOOK}, Place").click()
    handles = [k["ease_out"] for k in lanes_of(page)["placement.path"]["keys"].values()]
    # The curve comes with a picture; a pull before it is there would choose other keys, and the handles with them.
    page.wait_for_timeout(1500)

    def pulled() -> bool:
        # The handle is there once the curve has come with a picture, and the keys are at its height.
        first, second = sorted((centre(keys(page, "Place").nth(i)) for i in range(2)), key=lambda p: p[0])
        drag(page, (first[0] + 0.42 * (second[0] - first[0]), first[1]), 25, -20)
        page.wait_for_timeout(300)
        return [k["ease_out"] for k in lanes_of(page)["placement.path"]["keys"].values()] != handles

    until(pulled, 5, "an own curve")

    def handle_seen() -> bool:
        # Where it can be taken, it is drawn.
        first, second = sorted((centre(keys(page, "Place").nth(i)) for i in range(2)), key=lambda p: p[0])
        along, up = next(k["ease_out"] for k in lanes_of(page)["placement.path"]["keys"].values() if k["ease_out"] not in handles)
        x, y = first[0] + along * (second[0] - first[0]), first[1] + up * (second[1] - first[1])
        dot = Image.open(io.BytesIO(page.screenshot(clip={"x": x - 2, "y": y - 2, "width": 4, "height": 4})))
        return all(low > 200 for low, _ in dot.convert("RGB").getextrema())

    until(handle_seen, 5, "the handle on the lane")
    # On the easel: bent, and a point dragged. A pull that came before the curve chose other keys.
    page.mouse.click(*centre(keys(page, "Place").nth(0)))
    page.get_by_role("button", name="Turn", exact=True).click()
    page.get_by_role("menuitem", name="Path: bent through its points").click()
    tangent = page.get_by_role("button", name=re.compile("^Tangent out of point 1"))
    expect(tangent).to_be_visible()
    drag(page, centre(tangent), 0, -60)
    until(lambda: any(abs(k["tangent_out"][1]) > 0.05 for k in lanes_of(page)["placement.path"]["keys"].values()), 5, "bent by hand")
    point = page.get_by_role("button", name=re.compile("^Point 2 of the path"))
    values = [k["value"] for k in lanes_of(page)["placement.path"]["keys"].values()]
    drag(page, centre(point), 30, 30)
    until(lambda: [k["value"] for k in lanes_of(page)["placement.path"]["keys"].values()] != values, 5, "point dragged")
    # Escape gives a drag up.
    present = lanes_of(page)
    page.mouse.move(*centre(point))
    page.mouse.down()
    page.mouse.move(400, 300, steps=4)
    page.keyboard.press("Escape")
    page.mouse.up()
    assert lanes_of(page) == present


def test_keyframes_by_keyboard_alone(table: Page) -> None:
    page = table
    mark = part(page, "Placement").get_by_role("button", name="Swing: not keyframed")
    page.get_by_role("slider", name="Time in the scene").focus()
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    mark.focus()
    page.keyboard.press("Enter")
    expect(keys(page, "Swing")).to_have_count(1)
    expect(part(page, "Placement").get_by_role("button", name="Swing: keyframe here")).to_be_visible()
    page.get_by_role("slider", name="Time in the scene").focus()
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("r")
    swing = part(page, "Placement").get_by_label("Swing, number")
    swing.focus()
    swing.fill("40")
    page.keyboard.press("Enter")
    expect(keys(page, "Swing")).to_have_count(2)
    swing.blur()
    page.keyboard.press("r")
    # Along the keys, more of them chosen, moved in time, raised, eased, copied, deleted.
    keys(page, "Swing").first.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_text("2 keys")).to_be_visible()
    before = [k["at"] for k in lanes_of(page)["placement.swing"]["keys"].values()]
    page.keyboard.press("Alt+Shift+ArrowRight")
    until(
        lambda: [k["at"] for k in lanes_of(page)["placement.swing"]["keys"].values()] == [b + SECOND // 3 for b in before],
        5,
        "ten frames on",
    )
    page.keyboard.press("Alt+ArrowUp")
    until(
        lambda: sorted(k["value"] for k in lanes_of(page)["placement.swing"]["keys"].values()) == pytest.approx([1, 41]), 5, "a degree up"
    )
    ease = page.get_by_label("Ease of the chosen keyframes")
    ease.focus()
    ease.select_option("bounce")
    until(lambda: any(k["follow"] for k in lanes_of(page)["placement.swing"]["keys"].values()), 5, "a bounce")
    keys(page, "Swing").first.focus()
    page.keyboard.press("Control+c")
    row(page, "Waiting for dark").focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Control+v")
    until(lambda: "placement.swing" in lanes_of(page, "Waiting for dark"), 5, "pasted onto another layer")
    # From key to key, and away with them.
    row(page, BOOK).focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Shift+<")
    keys(page, "Swing").first.focus()
    page.keyboard.press("Shift+End")
    page.keyboard.press("Delete")
    until(lambda: "placement.swing" not in lanes_of(page), 5, "deleted")
    page.keyboard.press("Control+z")
    until(lambda: "placement.swing" in lanes_of(page), 5, "back")


def test_a_colour_is_keyframed_and_keys_land_on_beats(table: Page) -> None:
    page = table
    scrub(page, 0.3)
    mount = part(page, "Mount")
    mount.get_by_role("button", name="Colour: not keyframed", exact=True).click()
    expect(mount.get_by_role("button", name="Colour: keyframe here", exact=True)).to_be_visible()
    white = mount.get_by_label("Colour, six digits", exact=True).input_value()
    page.get_by_role("button", name="Record changes").click()
    scrub(page, 0.8)
    typed(mount.get_by_label("Colour, six digits", exact=True), "d02010")
    until(lambda: all(len(lanes_of(page)[f"mount.colour_{c}"]["keys"]) == 2 for c in ("red", "green", "blue")), 5, "both colours are keys")
    page.get_by_role("button", name="Recording changes").click()
    early, late = (frame(page, TABLE, share, 480) for share in (0.3, 0.8))
    assert ((late - early)[..., 0] - (late - early)[..., 1] > 60).sum() > 200, "the border turns red"
    scrub(page, 0.3)
    expect(mount.get_by_label("Colour, six digits", exact=True)).to_have_value(white)
    # All keys at once, then one of them dragged near a beat: it comes to lie on it.
    key = keys(page, "Mount colour, red").first
    page.mouse.click(*centre(key))
    page.keyboard.press("Control+a")
    expect(page.get_by_text(re.compile(r"^[6-9] keys$"))).to_be_visible()
    x, y = centre(keys(page, "Mount colour, green").last)
    page.mouse.click(x, y)
    beats = [b for b in (centre(m)[0] for m in page.locator("[data-beat]").all()) if abs(b - x) > 25]
    beat = min(beats, key=lambda b: abs(b - x))
    before = lanes_of(page)["mount.colour_green"]["keys"]
    drag(page, (x, y), beat - x + 3, 0)
    until(lambda: lanes_of(page)["mount.colour_green"]["keys"] != before, 5, "dragged")
    # The lanes are drawn anew with the next picture.
    until(lambda: abs(centre(keys(page, "Mount colour, green").last)[0] - beat) < 1.0, 5, "it lies on the beat")


def test_a_camera_is_moved_in_the_plan_and_focus_is_pulled(page: Page) -> None:
    open_scene(page, "Through the night")
    name = "Through the night"
    page.get_by_role("radio", name="Plan").click()
    camera = page.get_by_role("button", name="Move the camera, from above")
    expect(camera).to_be_visible()
    rig = scene(page, name)["camera"]
    drag(page, centre(camera), 30, -20)
    until(lambda: scene(page, name)["camera"]["x"] > rig["x"] + 0.05 and scene(page, name)["camera"]["dolly"] > 0.03, 5, "camera dragged")
    aim = page.get_by_role("button", name="Turn the camera, from above")
    drag(page, centre(aim), -40, 0)
    until(lambda: scene(page, name)["camera"]["pan"] < -2, 5, "panned to the left")
    lantern = page.get_by_role("button", name="Move The lantern alone, from the side")
    depth = layer(page, "The lantern alone", name)["placement"]["z"]
    lantern.focus()
    page.keyboard.press("Shift+ArrowLeft")
    until(lambda: layer(page, "The lantern alone", name)["placement"]["z"] == pytest.approx(depth - 0.2), 5, "deeper by keys")
    focus = page.get_by_role("button", name="Move the focus, from above")
    focus.focus()
    at = scene(page, name)["camera"]["focus"]
    page.keyboard.press("ArrowUp")
    until(lambda: scene(page, name)["camera"]["focus"] == pytest.approx(at - 0.02), 5, "focus moved, its keyframes with it")
    early, late = frame(page, name, 0.1, 480), frame(page, name, 0.9, 480)

    def sharpness(pixels: np.ndarray[Any, Any]) -> float:
        grey = pixels.mean(axis=2)
        return float(np.abs(np.diff(grey, axis=1)).max())

    half = early.shape[1] // 2
    assert sharpness(early[:, :half]) > sharpness(late[:, : half // 2])
    assert np.abs(early - late).mean() > 4


def test_the_camera_travels_moves_on_the_easel_and_a_lamp_lights_the_scene(table: Page) -> None:
    page = table
    page.keyboard.press("Escape")
    part(page, "Camera").get_by_role("button", name="Travel over the 7 photos").click()
    expect(page.get_by_role("list", name="Stops of the camera").get_by_role("listitem")).to_have_count(7)
    stay = page.get_by_label("Stay at stop 2")
    typed(stay, "0.3")
    page.get_by_role("button", name="Stop 3 earlier").click()
    until(lambda: len(scene(page)["travel"]["stops"]) == 7, 5, "stops")
    assert np.abs(frame(page, TABLE, 0.0) - frame(page, TABLE, 1.0)).mean() > 20
    part(page, "Camera").get_by_role("button", name="end it").click()
    until(lambda: scene(page)["travel"] is None, 5, "ended")
    part(page, "Camera").get_by_role("button", name="Move it on the easel").click()
    inside = page.get_by_role("button", name="Move the camera")
    drag(page, centre(inside), 60, 30)
    until(lambda: scene(page)["camera"]["x"] < -0.05, 5, "tracked")
    page.get_by_role("button", name="Moving the camera · done").click()
    part(page, "Camera").get_by_role("button", name="none, choose…").click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^Orbit")).click()
    page.get_by_role("dialog").get_by_role("button", name="Put it on this camera").click()
    until(lambda: (scene(page)["camera_move"] or {}).get("move") == "orbit", 5, "orbit")
    part(page, "Light").get_by_role("button", name="Switch a lamp on").click()
    lamp = page.get_by_role("button", name="Move the lamp", exact=True)
    expect(lamp).to_be_visible()
    dark = frame(page, TABLE, 0.5)
    x = scene(page)["light"]["x"]
    drag(page, centre(lamp), 120, 60)
    until(lambda: scene(page)["light"]["x"] > x + 0.1, 5, "lamp dragged")
    assert np.abs(frame(page, TABLE, 0.5) - dark).mean() > 1


def test_keyframes_are_saved_as_a_move_and_the_exported_film_shows_them(page: Page, tmp_path: Any) -> None:
    copy_of_demo(page)
    scene_row(page, "Brass and glass").click()
    name = "Brass and glass"
    page.get_by_role("button", name="Record changes").click()
    for share, across in ((0.1, "-0.25"), (0.9, "0.25")):
        scrub(page, share)
        typed(part(page, "Placement").get_by_label("Across, number"), across)
    page.get_by_role("button", name="Recording changes").click()
    expect(keys(page, "Place", name)).to_have_count(2)
    part(page, "Motion").get_by_role("button", name="Save its keyframes as a move…").click()
    page.get_by_label("Name of the new move").fill("Across the frame")
    page.get_by_label("Name of the new move").press("Enter")
    until(lambda: len(document(page)["moves"]) == 1 and scene(page, name)["layers"]["photo"]["move"], 5, "saved")
    # Carried to other scenes, seen before.
    part(page, "Look").get_by_role("button", name="Carry to…").click()
    dialog = page.get_by_role("dialog")
    for box in dialog.get_by_role("group").get_by_role("checkbox").all():
        box.uncheck()
    dialog.get_by_role("checkbox", name="Motion").check()
    dialog.get_by_role("button", name="Tick none").click()
    dialog.get_by_role("checkbox", name="Frost on the roof").check()
    expect(dialog.get_by_role("status")).to_contain_text("1 scene will change")
    dialog.get_by_role("button", name="Carry", exact=True).click()
    frost = "Frost on the roof"
    until(lambda: scene(page, frost)["layers"]["photo"]["move"] == scene(page, name)["layers"]["photo"]["move"], 5, "carried")
    # The film of that scene alone.
    scene_row(page, name).click()
    path = exported(page, tmp_path, "chosen")
    with av.open(str(path)) as film:
        frames = [f.to_ndarray(format="gray").astype(int) for f in film.decode(video=0)]
    assert len(frames) > 30

    def brightest(pixels: np.ndarray[Any, Any]) -> float:
        """Where the print's pale mount stands, across."""
        columns = (pixels > 200).sum(axis=0)
        return float((columns * np.arange(len(columns))).sum() / max(columns.sum(), 1)) / len(columns)

    early, late = (brightest(frames[round(len(frames) * share)]) for share in (0.2, 0.8))
    assert late > early + 0.15
