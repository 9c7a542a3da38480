"""A project of 500 scenes and 5,000 keyframes: opened, edited, its run sheet and lanes scrolled."""

import random
import re
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

from conftest import CHROMIUM, CHROMIUM_FLAGS
from oak_lens.core.time import ticks
from oak_lens.stack.start import Stack

from .desk import wait_prepared
from .rows import Row, percentile

SCENES = 500
KEYS = 5000
KEYS_OF_ONE_SCENE = 1000
LANES = ("placement.x", "placement.y", "placement.turn", "placement.z", "layer.opacity")
EDITS = 40

SEND = """async ([method, path, body]) => {
  window.oakToken ??= (await (await fetch('/api/session')).json()).token;
  const started = performance.now();
  const answer = await fetch(path, {method, headers: {'Content-Type': 'application/json', 'X-Oak-Token': window.oakToken},
                                    body: body ? JSON.stringify(body) : undefined});
  const read = await answer.json();
  if (!answer.ok) throw new Error(JSON.stringify(read).slice(0, 400));
  return {read, ms: performance.now() - started};
}"""

CANCEL = "path => fetch(path, {method: 'POST', headers: {'X-Oak-Token': window.oakToken}})"

SCROLL = """async ([selector, ms]) => {
  const found = document.querySelector(selector);
  const box = [found, ...found.querySelectorAll('*')].find(e => e.scrollHeight > e.clientHeight + 20 && /auto|scroll/.test(getComputedStyle(e).overflowY)) ?? found;
  const far = Math.min(box.scrollHeight - box.clientHeight, 20000);
  let frames = 0, start = 0;
  await new Promise(done => {
    const step = now => {
      start ||= now;
      box.scrollTop = far * Math.abs(Math.sin((now - start) / ms * Math.PI));
      frames += 1;
      if (now - start < ms) requestAnimationFrame(step); else done();
    };
    requestAnimationFrame(step);
  });
  return (frames - 1) * 1000 / ms;
}"""


def large(scratch: Path) -> list[Row]:
    stack = Stack(scratch / "home", None)
    stack.start(demo=True)
    wait_prepared(stack)
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            rows = in_browser(page, stack.address)
            browser.close()
    finally:
        stack.stop()
    return rows


def in_browser(page: Page, address: str) -> list[Row]:
    page.goto(address)
    page.get_by_role("heading", name="Projects").wait_for()

    def send(method: str, path: str, body: Any = None) -> tuple[Any, float]:
        answer = page.evaluate(SEND, [method, path, body])
        return answer["read"], answer["ms"]

    demo = send("GET", "/api/projects")[0]["projects"][0]["id"]
    project = send("POST", "/api/projects", {"copy_of": demo})[0]["id"]
    path = f"/api/projects/{project}"
    busiest, count = _grow(path, send)
    # A fresh page: what people wait for is the whole of it.
    page.goto(address)
    page.get_by_role("heading", name="Projects").wait_for()
    started = time.perf_counter()
    page.goto(re.sub(r"/\?.*", f"/projects/{project}", address))
    page.get_by_role("heading", name="Run sheet").wait_for()
    page.locator("canvas[data-drawn]").first.wait_for()
    seconds = time.perf_counter() - started
    # From elsewhere: a page that has the project open would fetch it anew whenever it hears of another's edit.
    page.goto(address)
    page.get_by_role("heading", name="Projects").wait_for()
    page.wait_for_timeout(2500)
    base = send("GET", path)[0]["revision"]
    times = []
    chance = random.Random(4)
    scenes = sorted(send("GET", path)[0]["document"]["scenes"])
    for number in range(EDITS):
        answer, ms = send(
            "POST",
            f"{path}/edits",
            {"base": base, "edits": [{"edit": "set_scenes", "ids": [chance.choice(scenes)], "hold": ticks(3 + number % 3)}]},
        )
        base = answer["revision"]
        times.append(ms)
    started_export, answered = send("POST", f"{path}/exports", {"width": 1920, "height": 1080, "rate": "30", "quality": "good"})
    page.evaluate(CANCEL, f"/api/exports/{started_export['id']}/cancel")
    page.goto(re.sub(r"/\?.*", f"/projects/{project}", address))
    page.locator(f'[data-scene="{busiest}"]').wait_for()
    page.wait_for_timeout(2500)
    page.locator(f'[data-scene="{busiest}"]').click()
    page.wait_for_timeout(1500)
    lanes = page.evaluate(SCROLL, ["[aria-label='Lanes']", 2500])
    sheet = page.evaluate(SCROLL, ["[aria-label='Run sheet']", 3000])
    note = f"{len(scenes)} scenes, {count} keyframes"
    return [
        Row("large project, page opened to picture", seconds, "s", 1.7, 1, "less", note),
        Row("large project, one edit stored and answered, p95", percentile(times, 0.95), "ms", 80, 35, "less"),
        Row("large project, starting its export, answer", answered / 1000, "s", 0.2, 0.1, "less"),
        Row("large project, run sheet scrolling", sheet, "fps", 55, 60, "more"),
        Row(f"large project, lanes of {KEYS_OF_ONE_SCENE} keyframes scrolling", lanes, "fps", 55, 60, "more"),
    ]


def _grow(path: str, send: Callable[..., tuple[Any, float]]) -> tuple[str, int]:
    """The project's scenes again and again, keys on all that have a photo; (the scene with most, how many keys in all)."""

    def edit(edits: list[Any]) -> None:
        send("POST", f"{path}/edits", {"base": send("GET", path)[0]["revision"], "edits": edits})

    scenes = list(send("GET", path)[0]["document"]["scenes"])
    made = len(scenes)
    while made < SCENES:
        edit(
            [{"edit": "duplicate_scenes", "copies": [{"id": s, "copy_id": f"n{made}x{i}"} for i, s in enumerate(scenes[: SCENES - made])]}]
        )
        made = min(made + len(scenes), SCENES)
    document = send("GET", path)[0]["document"]
    photos = {
        scene: next((k for k, layer in body["layers"].items() if layer["kind"] == "photo" and not layer.get("parent")), None)
        for scene, body in document["scenes"].items()
    }
    # In the film's order: the map's own says nothing.
    bearing = [span["scene"] for span in send("GET", path)[0]["timeline"]["spans"] if photos[span["scene"]]]
    busiest = bearing[0]
    edit([{"edit": "set_scenes", "ids": [busiest], "hold": ticks(10)}])
    starts = {s["scene"]: s["hold_start"] for s in send("GET", path)[0]["timeline"]["spans"]}
    moments = -(-(KEYS - KEYS_OF_ONE_SCENE) // ((len(bearing) - 1) * len(LANES)))
    steps = []
    for scene in bearing:
        lanes = [{"scene": scene, "layer": photos[scene], "property": lane} for lane in LANES]
        count, over = (KEYS_OF_ONE_SCENE // len(LANES), ticks(9.8)) if scene == busiest else (moments, ticks(2))
        steps += [{"edit": "add_keys", "lanes": lanes, "at": starts[scene] + over * number // count} for number in range(count)]
    edit(steps)
    return busiest, len(steps) * len(LANES)
