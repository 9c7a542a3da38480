"""The desk in the browser: start, scripts, scrubbing, playing."""

import gzip
import re
import subprocess
import time
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from conftest import CHROMIUM, CHROMIUM_FLAGS
from oak_lens.stack.start import ROOT, Stack

from .rows import Row, percentile

SCRUBS = 60

SCRUB = """async ([moves, rest]) => {
  const bar = document.querySelector('[aria-label="Place in the film"]');
  const canvas = document.querySelector('canvas');
  const box = bar.getBoundingClientRect();
  const at = share => ({clientX: box.left + share * box.width, clientY: box.top + 12, button: 0, pointerId: 7, bubbles: true});
  const frame = () => new Promise(done => requestAnimationFrame(done));
  bar.setPointerCapture = () => {};
  bar.dispatchEvent(new PointerEvent('pointerdown', at(0.02)));
  const times = [];
  for (let i = 0; i < moves; i += 1) {
    const drawn = canvas.dataset.drawn, start = performance.now();
    bar.dispatchEvent(new PointerEvent('pointermove', at(0.02 + i * 0.9 / moves)));
    while (canvas.dataset.drawn === drawn && performance.now() - start < 2000) await frame();
    times.push(performance.now() - start);
    await new Promise(done => setTimeout(done, rest));
  }
  bar.dispatchEvent(new PointerEvent('pointerup', at(0.92)));
  return times;
}"""

LISTEN = """
  // Remembers when the sound of the film was begun, by its own clock.
  const start = AudioBufferSourceNode.prototype.start;
  AudioBufferSourceNode.prototype.start = function (when, offset) {
    window.oakHeard ??= {context: this.context, from: when - (offset ?? 0)};
    return start.call(this, when, offset);
  };
"""

DRIFT = """async seconds => {
  // Milliseconds by which frames that are on time come to lie off the sound that is heard, in the worst five seconds: the least late frame
  // of each tells how the two clocks stand, however long painting takes.
  const {context, from} = window.oakHeard, began = performance.now();
  const rate = 30;
  const apart = [];
  if (context.state !== 'running') return Infinity;
  while (performance.now() - began < seconds * 1000) {
    await new Promise(done => requestAnimationFrame(done));
    const [minutes, rest] = document.querySelector('[role=timer]').textContent.split(':');
    const [whole, frames] = rest.split('.').map(Number);
    const shown = Number(minutes) * 60 + whole + frames / rate, heard = context.currentTime - (context.outputLatency || 0) - from;
    // A frame stands for its own time.
    const window = Math.floor((performance.now() - began) / 5000);
    apart[window] = Math.min(apart[window] ?? Infinity, Math.max(0, shown - heard, heard - shown - 1 / rate));
  }
  return Math.max(...apart) * 1000;
}"""

PLAY = """async seconds => {
  const canvas = document.querySelector('canvas');
  const begin = Number(canvas.dataset.drawn), start = performance.now();
  await new Promise(done => setTimeout(done, seconds * 1000));
  return (Number(canvas.dataset.drawn) - begin) / ((performance.now() - start) / 1000 * 30);
}"""


DRAG = """async ([name, moves]) => {
  const taken = document.querySelector(`[aria-label="${name}"]`);
  const box = taken.getBoundingClientRect();
  const middle = [box.left + box.width / 2, box.top + box.height / 2];
  const at = (i) => ({clientX: middle[0] + 60 * Math.sin(i / 9), clientY: middle[1] + 30 * Math.cos(i / 9), button: 0, buttons: 1, pointerId: 9, bubbles: true, cancelable: true});
  taken.setPointerCapture = () => {};
  taken.dispatchEvent(new PointerEvent('pointerdown', at(0)));
  const frame = () => new Promise(done => requestAnimationFrame(done));
  const times = [];
  let before = await frame();
  for (let i = 1; i <= moves; i += 1) {
    taken.dispatchEvent(new PointerEvent('pointermove', at(i)));
    const now = await frame();
    times.push(now - before);
    before = now;
  }
  window.dispatchEvent(new KeyboardEvent('keydown', {key: 'Escape', bubbles: true}));
  return times;
}"""
"""A layer dragged to and fro, a step a frame of the page, then given up: ms between frames."""

LAYERS = 40


def loaded_scripts(page: Page) -> float:
    """What the scripts that a page has loaded take on their way, gzipped, in kB of 1000 bytes."""
    names = page.evaluate("[...new Set(performance.getEntriesByType('resource').map(r => r.name.split('/').pop()).filter(n => n.endsWith('.js')))]")
    return sum(len(gzip.compress((ROOT / "web" / "dist" / "assets" / name).read_bytes(), 9)) / 1000 for name in names)


def scripts(scratch: Path) -> list[Row]:
    """The projects page, the desk opened by its address, and how smoothly it drags among many layers."""
    stack = Stack(scratch / "home", None)
    stack.start(demo=True)
    try:
        wait_prepared(stack)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(stack.address)
            link = page.get_by_role("link", name=re.compile("^Open First Light"))
            link.wait_for()
            projects = loaded_scripts(page)
            project = page.evaluate(CROWDED, LAYERS)
            page.goto(f"{stack.address.split('/?')[0]}/projects/{project}")
            page.locator("canvas[data-drawn]").first.wait_for(timeout=60_000)
            page.wait_for_timeout(2500)
            desk = loaded_scripts(page)
            name = page.get_by_role("button", name=re.compile("^Move ")).last.get_attribute("aria-label")
            page.evaluate(DRAG, [name, 30])
            page.wait_for_timeout(500)
            times = page.evaluate(DRAG, [name, 180])
            browser.close()
    finally:
        stack.stop()
    return [
        Row("script of the projects page, gzipped", projects, "kB", 110, 100, "less"),
        Row("script of the desk, gzipped", desk, "kB", 190, 170, "less"),
        Row(f"dragging one of {LAYERS} layers, frames of the page", 1000 * len(times) / sum(times), "1/s", 55, 60, "more", f"longest {max(times):.0f} ms"),
    ]


CROWDED = """async (count) => {
  const token = (await (await fetch('/api/session')).json()).token;
  const send = async (path, body) => (await fetch(path, {method: 'POST', headers: {'Content-Type': 'application/json', 'X-Oak-Token': token}, body: JSON.stringify(body)})).json();
  const demo = (await (await fetch('/api/projects')).json()).projects[0].id;
  const {id} = await send('/api/projects', {title: 'Crowded', edits: [], copy_of: demo});
  const {document, revision} = await (await fetch(`/api/projects/${id}`)).json();
  const [scene] = Object.entries(document.scenes).sort((a, b) => (a[1].order < b[1].order ? -1 : 1))[0];
  const media = Object.entries(document.media).filter(([, m]) => m.kind === 'picture').map(([k]) => k);
  const photos = Array.from({length: count - 1}, (_, i) => ({id: `crowd${i}`, media: media[i % media.length]}));
  await send(`/api/projects/${id}/edits`, {base: revision, edits: [{edit: 'add_photos', scene, photos}, {edit: 'apply_layout', scenes: [scene], layout: {kind: 'pile'}}]});
  return id;
}"""
"""A copy of the demo, with so many photos in its first scene; its id."""


def desk(scratch: Path) -> list[Row]:
    home = scratch / "home"
    first = Stack(home, None)
    first.start(demo=True)
    wait_prepared(first)
    first.stop()
    seconds = _started(home)
    stack = Stack(home, None)
    stack.start(demo=True)
    rows = [Row("./oak start, everything installed, to a page that answers", seconds, "s", 7, 4, "less"), _first_frame(scratch / "fresh")]
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.add_init_script(LISTEN)
            rows += in_browser(page, stack.address)
            browser.close()
    finally:
        stack.stop()
    return rows


def _started(home: Path) -> float:
    """By a launcher of its own, as people start it: until it says its address."""
    started = time.perf_counter()
    with subprocess.Popen([ROOT / "oak", "start", "--home", home], stdout=subprocess.PIPE, text=True) as launcher:
        assert launcher.stdout
        next(line for line in launcher.stdout if "http" in line)
        seconds = time.perf_counter() - started
        launcher.terminate()
        launcher.communicate()
    return seconds


def _first_frame(home: Path) -> Row:
    """On a home that was never there: from a page that answers to the demo's first frame on the easel."""
    stack = Stack(home, None)
    stack.start(demo=True)
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            started = time.perf_counter()
            page.goto(stack.address)
            page.get_by_role("link", name=re.compile("^Open First Light")).click()
            page.locator("canvas[data-drawn]").first.wait_for(timeout=60_000)
            seconds = time.perf_counter() - started
            browser.close()
    finally:
        stack.stop()
    return Row("first frame of a fresh installation, after its page answers", seconds, "s", 3, 1, "less", "with a word on what is done")


def wait_prepared(stack: Stack) -> None:
    import psycopg

    with psycopg.connect(stack.url, autocommit=True) as connection:
        for _ in range(600):
            row = connection.execute("select count(*) from media_file where state in ('waiting', 'working')").fetchone()
            if row and row[0] == 0:
                return
            time.sleep(0.2)


TYPED = """
async () => {
  const field = document.querySelector('textarea[aria-label="Text on the picture"]'), canvas = document.querySelector('canvas[data-drawn]');
  const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set, times = [];
  for (const letter of 'First light over the ridge, and the dome') {
    const before = canvas.dataset.drawn, began = performance.now();
    set.call(field, field.value + letter);
    field.dispatchEvent(new Event('input', {bubbles: true}));
    while (canvas.dataset.drawn === before && performance.now() - began < 3000) await new Promise(requestAnimationFrame);
    times.push(performance.now() - began);
    await new Promise(done => setTimeout(done, 120));
  }
  return times;
}"""


def typing(page: Page) -> list[float]:
    """Milliseconds from a key to the picture that shows its letter, for each letter of a line on the picture."""
    page.keyboard.press("Home")
    page.wait_for_timeout(1500)
    page.keyboard.press("t")
    page.get_by_label("Text on the picture").wait_for()
    page.wait_for_timeout(1500)
    times: list[float] = page.evaluate(TYPED)
    page.wait_for_timeout(1200)
    page.keyboard.press("Escape")
    page.keyboard.press("Control+z")
    return times[2:]


def in_browser(page: Page, address: str) -> list[Row]:
    page.goto(address)
    page.get_by_role("link", name=re.compile("^Open First Light")).click()
    page.get_by_role("heading", name="Run sheet").wait_for()
    page.wait_for_timeout(2500)
    page.evaluate(SCRUB, [SCRUBS, 30])
    times = page.evaluate(SCRUB, [SCRUBS, 30])
    page.keyboard.press("Home")
    page.keyboard.press("Space")
    # It says that it waits until there is enough to play; then it counts.
    timer = page.get_by_role("timer", name="Playhead")
    while (timer.text_content() or "") < "0:01":
        page.wait_for_timeout(50)
    on_time = page.evaluate(PLAY, 12)
    drift = page.evaluate(DRIFT, 60)
    page.keyboard.press("Space")
    typed = typing(page)
    note = f"p50 {percentile(times, 0.5):.0f} ms"
    return [
        Row("scrub, pointer to pixels in the browser, p95", percentile(times, 0.95), "ms", 90, 40, "less", note),
        Row("typing on the picture, key to pixels in the browser, p95", percentile(typed, 0.95), "ms", 100, 50, "less", f"p50 {percentile(typed, 0.5):.0f} ms"),
        Row("playing the demo at 960x540, frames drawn on time", 100 * on_time, "%", 97, 100, "more", "with sound"),
        Row("playing for a minute, the picture's clock off the sound's", drift, "ms", 20, 1, "less", "by the page's audio clock"),
    ]
