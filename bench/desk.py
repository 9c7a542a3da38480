"""The desk in the browser: start, scripts, scrubbing, playing."""

import gzip
import re
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
    const shown = Number(minutes) * 60 + whole + frames / rate, heard = context.currentTime - from;
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


def script_sizes() -> list[Row]:
    assets = ROOT / "web" / "dist" / "assets"
    entry = re.search(r'src="/assets/([^"]+\.js)"', (ROOT / "web" / "dist" / "index.html").read_text())
    assert entry
    sizes = {p.name: len(gzip.compress(p.read_bytes(), 9)) / 1000 for p in assets.glob("*.js")}
    return [
        Row("script of the projects page, gzipped", sizes[entry[1]], "kB", 110, 100, "less"),
        Row("script of the desk, gzipped", sum(sizes.values()), "kB", 190, 170, "less"),
    ]


def desk(scratch: Path) -> list[Row]:
    home = scratch / "home"
    first = Stack(home, None)
    first.start(demo=True)
    wait_prepared(first)
    first.stop()
    started = time.perf_counter()
    stack = Stack(home, None)
    stack.start(demo=True)
    seconds = time.perf_counter() - started
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
            row = connection.execute("select count(*) from media_file where state = 'waiting'").fetchone()
            if row and row[0] == 0:
                return
            time.sleep(0.2)


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
    note = f"p50 {percentile(times, 0.5):.0f} ms"
    return [
        Row("scrub, pointer to pixels in the browser, p95", percentile(times, 0.95), "ms", 90, 40, "less", note),
        Row("playing the demo at 960x540, frames drawn on time", 100 * on_time, "%", 97, 100, "more", "with sound"),
        Row("playing for a minute, the picture's clock off the sound's", drift, "ms", 20, 1, "less", "by the page's audio clock"),
    ]
