"""From pictures and two pieces of music to a film whose cuts fall on beats and which ends with the music."""

import re
import wave
from itertools import pairwise
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from oak_lens.stack.start import ROOT

from .conftest import call, demo, exported, give, open_desk, part, project_id, scene_row, until

TICKS = 705_600_000
PHOTOS = ROOT / "demo" / "photos"


def kept(page: Page) -> None:
    expect(page.get_by_role("status").filter(has_text=re.compile("^kept$"))).to_be_visible()


@pytest.fixture
def project(page: Page, tmp_path: Path) -> str:
    """A new project of eight scenes, made by the interface's own requests."""
    made = call(page, "POST", "/api/projects", {"copy_of": demo(page)})["id"]
    opened = call(page, "GET", f"/api/projects/{made}")
    spans = [s["scene"] for s in opened["timeline"]["spans"]]
    edits = [
        {"edit": "remove_scenes", "ids": spans[8:]},
        {"edit": "remove_songs", "ids": list(opened["document"]["songs"])},
        {"edit": "set_ends", "beginning": None, "ending": None},
        {"edit": "set_frame", "width": 320, "height": 180},
        {"edit": "set_title", "title": "Eight evenings"},
    ]
    call(page, "POST", f"/api/projects/{made}/edits", {"base": opened["revision"], "edits": edits})
    open_desk(page, made)
    return str(made)


def state(page: Page) -> tuple[Any, Any]:
    """(document and timeline, what is heard) as the server has them."""
    at = f"/api/projects/{project_id(page)}"
    return call(page, "GET", at), call(page, "GET", f"{at}/heard")


def bounds(opened: Any) -> list[int]:
    return [(s["join_start"] + s["hold_start"]) // 2 for s in opened["timeline"]["spans"][1:]]


def make(page: Page, mood: str, seconds: str) -> None:
    page.get_by_role("button", name="Make music…").click()
    dialog = page.get_by_role("dialog", name="Make music")
    dialog.get_by_role("radio", name=mood).click()
    dialog.get_by_label("Length, number").fill(seconds)
    dialog.get_by_label("Length, number").press("Enter")
    dialog.get_by_role("button", name="Make it").click()
    expect(dialog).to_be_hidden(timeout=60000)
    kept(page)


def test_two_songs_cuts_on_beats_varied_joins_and_a_film_that_ends_with_the_music(page: Page, project: str, tmp_path: Path) -> None:
    # Two pieces are made; the second begins as the first dies away. Nothing has been there before, and the page said what to do.
    page.get_by_role("link", name="Sound").click()
    expect(page.get_by_role("heading", name="The film has no music yet")).to_be_visible()
    make(page, "Bright", "12")
    make(page, "Calm", "16")
    page.get_by_role("list", name="Songs").get_by_role("button", name=re.compile("^Calm")).click()
    page.get_by_label("Crossfade, number").fill("2")
    page.get_by_label("Crossfade, number").press("Enter")
    kept(page)
    # Cuts on beats, and the music trimmed to the film.
    page.get_by_role("button", name="Cut on beats…").click()
    page.get_by_role("dialog").get_by_role("button", name="Cut on beats").click()
    kept(page)
    opened, heard = state(page)
    assert set(bounds(opened)) <= set(heard["beats"]) and len(heard["bars"]) > 5
    # The film is fitted to the music, to the tick; undone, it is as before.
    page.get_by_role("button", name="Film to music").click()
    kept(page)
    expect(page.get_by_text("The film ends with the music.")).to_be_visible()
    fitted, heard = state(page)
    assert fitted["timeline"]["length"] == max(s["end"] for s in heard["songs"])
    page.keyboard.press("Control+z")
    kept(page)
    until(lambda: bounds(state(page)[0]) == bounds(opened), what="undone")
    page.get_by_role("button", name="Music to film").click()
    kept(page)
    expect(page.get_by_text("The film ends with the music.")).to_be_visible()

    # Joins drawn by rule, seen on one's own scenes; no two alike in a row.
    page.get_by_role("link", name="Desk").click()
    page.get_by_role("button", name=re.compile("^Join: ")).nth(1).click()
    picker = page.get_by_role("dialog", name="Join")
    picker.get_by_role("radio", name="Varied").click()
    for name in ("Push", "Iris", "Turn"):
        picker.get_by_role("button", name=name, exact=True).click()
    until(lambda: picker.locator("img").count() > 3, what="joins are seen running")
    picker.get_by_role("button", name=re.compile("Use for 7 joins")).click()
    kept(page)
    opened, heard = state(page)
    scenes = opened["document"]["scenes"]
    kinds = [scenes[s["scene"]]["join"]["kind"] for s in opened["timeline"]["spans"][1:]]
    assert set(kinds) == {"push", "iris", "turn"} and all(a != b for a, b in pairwise(kinds))

    # A boundary dragged against the waveform lands on a beat; with Shift the scene after it gives way.
    page.get_by_role("radio", name="To time").click()
    boundary = page.get_by_role("slider", name="Boundary between scenes 2 and 3")
    box = boundary.bounding_box()
    assert box
    before = bounds(opened)
    target = next(b for b in heard["beats"] if b > before[1] + TICKS // 5)
    # A second is 26 pixels high at first; a pixel or two beside the beat is near enough.
    far = (target - before[1]) / TICKS * 26 + 2
    page.keyboard.down("Shift")
    page.mouse.move(box["x"] + 90, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(box["x"] + 90, box["y"] + 5 + far, steps=4)
    page.mouse.up()
    page.keyboard.up("Shift")
    kept(page)
    until(lambda: bounds(state(page)[0])[1] != before[1], what="the boundary moved")
    opened, heard = state(page)
    after = bounds(opened)
    assert after[1] == target and after[2:] == before[2:] and after[0] == before[0]

    # Sound and picture play by one clock.
    page.keyboard.press("Home")
    page.get_by_role("button", name="Play", exact=True).click()
    timer = page.get_by_role("timer", name="Playhead")
    until(lambda: timer.text_content() >= "0:02", 20, "playing")  # type: ignore[operator]
    page.get_by_role("button", name="Pause").click()

    # The film: as long as the music, heard to its end, at the loudness asked for.
    film = exported(page, tmp_path, size=None, rate="12")
    with av.open(str(film)) as container:
        samples = np.concatenate([f.to_ndarray()[0] for f in container.decode(container.streams.audio[0])])
        frames = container.streams.video[0].frames
    length = opened["timeline"]["length"] / TICKS
    assert frames == -(-opened["timeline"]["length"] * 12 // TICKS) and len(samples) / 48_000 == pytest.approx(length, abs=0.06)
    parts = [np.sqrt((p**2).mean()) for p in np.array_split(samples, 12)]
    assert min(parts[:-1]) > 0.01 and parts[-1] < max(parts), "the music is heard to the end, where it fades"


def test_a_flash_and_a_click_come_out_together(page: Page, project: str, tmp_path: Path) -> None:
    """A click lies in the file where a scene begins; in the film both are within a frame of each other."""
    opened, _ = state(page)
    spans = opened["timeline"]["spans"]
    call(page, "POST", f"/api/projects/{project}/edits", {"base": opened["revision"], "edits": [
        {"edit": "set_scenes", "ids": [s["scene"] for s in spans], "join": {"kind": "cut"}, "fade_in": {"length": TICKS // 4, "colour": "#ffffff"}}
    ]})  # fmt: skip
    flash = state(page)[0]["timeline"]["spans"][3]["join_start"] / TICKS
    click = np.zeros((30 * 48_000, 2), np.int16)
    first = round(flash * 48_000)
    click[first : first + 480] = 12_000
    with wave.open(str(tmp_path / "click.wav"), "wb") as file:
        file.setnchannels(2)
        file.setsampwidth(2)
        file.setframerate(48_000)
        file.writeframes(click.tobytes())
    page.reload()
    page.get_by_role("link", name="Sound").click()
    give(page.get_by_role("button", name="Add music…"), tmp_path / "click.wav")
    page.get_by_role("list", name="Songs").get_by_role("button", name=re.compile("^click")).wait_for()
    kept(page)
    film = exported(page, tmp_path, size=None)
    with av.open(str(film)) as container:
        light = [f.reformat(format="gray").to_ndarray().mean() for f in container.decode(video=0)]
        rate = float(container.streams.video[0].average_rate or 30)
    with av.open(str(film)) as container:
        samples = np.concatenate([f.to_ndarray()[0] for f in container.decode(audio=0)])
    # The flash: the brightest frame near where the scene begins.
    near = range(round(flash * rate) - 8, round(flash * rate) + 9)
    seen = max(near, key=lambda i: light[i]) / rate
    heard = float(np.abs(samples).argmax()) / 48_000
    assert abs(seen - heard) <= 1 / rate + 0.01


def song_of(page: Page) -> dict[str, Any]:
    """The only song, as the server has it."""
    (song,) = state(page)[0]["document"]["songs"].values()
    return dict(song)


def pull(page: Page, x: float, y: float, by_x: float, by_y: float = 0.0) -> None:
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + by_x / 2, y + by_y / 2)
    page.mouse.move(x + by_x, y + by_y, steps=3)
    page.mouse.up()
    kept(page)


def test_a_song_is_moved_trimmed_faded_and_shaped_where_it_lies(page: Page, project: str) -> None:
    page.get_by_role("link", name="Sound").click()
    make(page, "Driving", "20")
    length = song_length = max(s["end"] for s in state(page)[1]["songs"])
    block = page.get_by_role("list", name="Songs").get_by_role("button", name=re.compile("^Driving"))
    box = block.bounding_box()
    assert box
    per_second = box["width"] / (length / TICKS)
    middle, high = box["x"] + box["width"] / 2, box["y"] + 40
    # Its body moves it; a drag given up leaves it where it was.
    page.mouse.move(middle, high)
    page.mouse.down()
    page.mouse.move(middle + 60, high, steps=3)
    page.keyboard.press("Escape")
    page.mouse.up()
    assert song_of(page)["at"] is None
    pull(page, middle, high, 2 * per_second)
    until(lambda: song_of(page)["at"] is not None, what="moved")
    assert song_of(page)["at"] / TICKS == pytest.approx(2.0, abs=0.15)
    # Its end trims it, its upper corner fades it.
    box = block.bounding_box()
    assert box
    pull(page, box["x"] + box["width"] - 4, box["y"] + 50, -3 * per_second)
    until(lambda: song_of(page)["length"] is not None, what="trimmed")
    assert song_of(page)["length"] / TICKS == pytest.approx(song_length / TICKS - 3, abs=0.2)
    page.get_by_label("Fade in, number").fill("2.5")
    page.get_by_label("Fade in, number").press("Enter")
    kept(page)
    assert song_of(page)["fade_in"] == pytest.approx(2.5 * TICKS)
    # A point of its level: set by a double click, dragged, taken away by keyboard.
    box = block.bounding_box()
    assert box
    page.mouse.dblclick(box["x"] + box["width"] / 2, box["y"] + 30)
    point = page.get_by_role("button", name=re.compile("^Level point 1"))
    point.wait_for()
    before = next(iter(song_of(page)["points"].values()))["level"]
    place = point.bounding_box()
    assert place
    pull(page, place["x"] + 6, place["y"] + 6, 0, 25)
    until(lambda: next(iter(song_of(page)["points"].values()))["level"] < before - 5, what="the level was dragged down")
    point.focus()
    page.keyboard.press("Delete")
    kept(page)
    until(lambda: not song_of(page)["points"], what="the point is gone")
    # Beats by hand.
    count = len(state(page)[0]["document"]["sounds"][song_of(page)["sound"]]["beats"]["times"])
    page.get_by_role("button", name="Double", exact=True).click()
    kept(page)
    expect(page.get_by_text(f"{2 * count - 1} beats")).to_be_visible()
    for _ in range(7):
        page.keyboard.press("Control+z")
    until(lambda: song_of(page)["at"] is None and song_of(page)["length"] is None, what="undone")


def test_times_of_all_scenes_by_keyboard_and_numbers(page: Page, project: str) -> None:
    sheet = page.get_by_role("region", name="Run sheet")
    page.get_by_role("button", name="Times…").click()
    dialog = page.get_by_role("dialog", name="Times")
    dialog.get_by_label("Film, number").fill("40")
    dialog.get_by_label("Film, number").press("Enter")
    dialog.get_by_role("button", name="Spread evenly").click()
    kept(page)
    expect(sheet).to_contain_text("0:40.0")
    opened, _ = state(page)
    assert opened["timeline"]["length"] == 40 * TICKS
    # A boundary by the arrows: a frame, ten with Shift.
    page.get_by_role("radio", name="To time").click()
    boundary = page.get_by_role("slider", name="Boundary between scenes 3 and 4")
    boundary.focus()
    page.keyboard.press("ArrowDown")
    kept(page)
    page.keyboard.press("Shift+ArrowDown")
    kept(page)
    frame = opened["timeline"]["frame_ticks"]
    until(lambda: bounds(state(page)[0])[2] - bounds(opened)[2] == 11 * frame, what="eleven frames later")
    page.get_by_role("button", name=re.compile("^Scene 1")).press("End")
    end = page.get_by_role("slider", name="End of the film")
    end.focus()
    page.keyboard.press("Shift+ArrowUp")
    kept(page)
    until(lambda: state(page)[0]["timeline"]["length"] == 40 * TICKS + frame, what="ten frames shorter")
    # A length that cannot be: a sentence, and nothing has changed.
    page.get_by_role("button", name="Times…").click()
    dialog.get_by_label("Film, number").fill("3")
    dialog.get_by_label("Film, number").press("Enter")
    dialog.get_by_role("button", name="Fit, each its share").click()
    expect(page.get_by_text(re.compile("too short: with joins"))).to_be_visible()
    assert state(page)[0]["timeline"]["length"] == 40 * TICKS + frame


def test_how_the_film_begins_and_ends_and_a_version_beside_it(page: Page, project: str) -> None:
    page.get_by_role("button", name="Named versions").click()
    page.get_by_label("Name of this version").fill("Plain")
    page.get_by_role("button", name="Name it").click()
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Join: begins at once")).click()
    picker = page.get_by_role("dialog", name="How the film begins")
    picker.get_by_label("Find a join").fill("circle")
    picker.get_by_role("button", name="Iris").click()
    picker.get_by_role("button", name="Use it").click()
    kept(page)
    assert state(page)[0]["document"]["ends"]["beginning"]["kind"] == "iris"
    expect(page.get_by_role("button", name=re.compile("^Join: begins iris 1.0s"))).to_be_visible()
    turn = part(page, "Placement").get_by_label("Turn, number")
    turn.fill("9")
    turn.press("Enter")
    kept(page)
    # The version lies over the film, up to a line that is moved by keyboard.
    page.get_by_role("button", name="Named versions").click()
    page.get_by_role("button", name="Compare").click()
    compared = page.get_by_role("group", name="Compared with “Plain”")
    picture = compared.get_by_role("img", name="The same moment in “Plain”")
    picture.wait_for()
    until(lambda: picture.evaluate("e => e.naturalWidth") == 960, what="its picture has come")
    line = compared.get_by_role("slider")
    line.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(line).to_have_attribute("aria-valuenow", "60")
    compared.get_by_role("button", name="End comparing").click()
    expect(compared).to_be_hidden()
    fade = part(page, "Scene").get_by_label("Fade out, number")
    fade.fill("0.5")
    fade.press("Enter")
    kept(page)
    first = state(page)[0]["timeline"]["spans"][0]["scene"]
    assert state(page)[0]["document"]["scenes"][first]["fade_out"] == {"length": TICKS // 2, "colour": "#000000"}


def tone(path: Path, seconds: int) -> Path:
    """A file with a click every half second."""
    at = np.arange(seconds * 48_000)
    sound = 0.5 * np.sin(at / 6) * np.exp(-(at % 24_000) / 300)
    with wave.open(str(path), "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(48_000)
        file.writeframes(np.rint(sound * 32767).astype("<i2").tobytes())
    return path


def test_a_long_file_is_listened_to_while_one_goes_on_and_outlives_the_page(page: Page, project: str, tmp_path: Path) -> None:
    page.get_by_role("link", name="Sound").click()
    coming = page.get_by_role("list", name="Music on its way")
    give(page.get_by_role("button", name="Add music…"), tone(tmp_path / "An evening.wav", 300))
    expect(coming).to_contain_text("An evening.wav is being listened to", timeout=20000)
    page.reload()
    expect(coming).to_contain_text("An evening.wav is being listened to")
    expect(page.get_by_role("list", name="Songs").get_by_role("button", name=re.compile("^An evening"))).to_be_visible(timeout=60000)
    expect(coming).to_be_hidden()
    kept(page)
    opened, _ = state(page)
    (sound,) = opened["document"]["sounds"].values()
    assert sound["length"] == 300 * TICKS and sound["beats"]["tempo"] == pytest.approx(120, rel=0.02)
    # Another is called off; nothing of it stays.
    give(page.get_by_role("button", name="Add music…"), tone(tmp_path / "A night.wav", 420))
    expect(coming).to_contain_text("A night.wav is being listened to", timeout=20000)
    page.get_by_role("button", name="Cancel A night.wav").click()
    expect(coming).to_be_hidden(timeout=10000)
    assert len(state(page)[0]["document"]["sounds"]) == 1


def test_a_scene_at_another_speed_keeps_its_keys_and_what_follows_moves_along(page: Page, project: str) -> None:
    row = scene_row(page, "Ridge behind ridge")
    row.click()
    before, _ = state(page)
    speed = part(page, "Scene").get_by_label("Speed, number")
    speed.fill("2")
    speed.press("Enter")
    kept(page)
    expect(row).to_contain_text("2×")
    after, _ = state(page)
    (was, follows), (now, moved) = before["timeline"]["spans"][:2], after["timeline"]["spans"][:2]
    assert now["hold_end"] - now["hold_start"] == (was["hold_end"] - was["hold_start"]) // 2
    assert moved["hold_end"] - moved["hold_start"] == follows["hold_end"] - follows["hold_start"]
    # The lanes count in the scene's own time: a key set at the playhead lies under it.
    ruler = page.get_by_role("slider", name="Time in the scene")
    page.get_by_role("button", name="One frame on").click()
    own = float(ruler.get_attribute("aria-valuenow") or 0)
    playhead = page.get_by_role("timer", name="Playhead").text_content() or ""
    seconds, frames = (int(n) for n in playhead.split(":")[1].split("."))
    assert own == pytest.approx(2 * (seconds + frames / 30), abs=0.08)
