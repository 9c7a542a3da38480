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

from .conftest import call, project_id, until

TICKS = 705_600_000
PHOTOS = ROOT / "demo" / "photos"


def kept(page: Page) -> None:
    expect(page.get_by_role("status").filter(has_text=re.compile("^kept$"))).to_be_visible()


@pytest.fixture
def project(page: Page, tmp_path: Path) -> str:
    """A new project of eight scenes, made by the interface's own requests."""
    demo = next(p for p in call(page, "GET", "/api/projects")["projects"] if p["title"].startswith("First Light"))
    made = call(page, "POST", "/api/projects", {"copy_of": demo["id"]})["id"]
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
    page.goto(re.sub(r"/(\?.*)?$", f"/projects/{made}", page.url))
    page.get_by_role("heading", name="Run sheet").wait_for()
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
    page.get_by_role("button", name="Export…").click()
    page.get_by_role("button", name="Export the film").click()
    with page.expect_download(timeout=90000) as downloading:
        page.get_by_role("link", name="Download").click(timeout=90000)
    film = tmp_path / "film.mp4"
    downloading.value.save_as(film)
    with av.open(str(film)) as container:
        samples = np.concatenate([f.to_ndarray()[0] for f in container.decode(container.streams.audio[0])])
        frames = container.streams.video[0].frames
    length = opened["timeline"]["length"] / TICKS
    assert frames == opened["timeline"]["frames"] and len(samples) / 48_000 == pytest.approx(length, abs=0.06)
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
    page.get_by_label("Sound files").set_input_files(tmp_path / "click.wav")
    page.get_by_role("list", name="Songs").get_by_role("button", name=re.compile("^click")).wait_for()
    kept(page)
    page.get_by_role("button", name="Export…").click()
    page.get_by_role("button", name="Export the film").click()
    with page.expect_download(timeout=90000) as downloading:
        page.get_by_role("link", name="Download").click(timeout=90000)
    film = tmp_path / "film.mp4"
    downloading.value.save_as(film)
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
