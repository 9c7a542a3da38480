"""Templates: one put on fifty scenes of a large film, a library of two hundred opened, previews with one's own pictures."""

import itertools
import json
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright
from sqlmodel import Session

from conftest import CHROMIUM, CHROMIUM_FLAGS
from oak_lens.core.treatments import BUILTIN
from oak_lens.services.templates import facts_of
from oak_lens.stack.start import Stack
from oak_lens.storage.database import engine_for
from oak_lens.storage.tables import TemplateRow

from .desk import wait_prepared
from .large import SEND
from .rows import Row, percentile

SCENES = 500
PUT_ON = 50
LIBRARY = 200
PREVIEW_PX = 240


def templates(scratch: Path) -> list[Row]:
    stack = Stack(scratch / "home", None)
    stack.start(demo=True)
    wait_prepared(stack)
    try:
        _fill_library(stack.url)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            rows = in_browser(page, stack.address)
            browser.close()
    finally:
        stack.stop()
    return rows


def _fill_library(url: str) -> None:
    """Own templates in the database, as many as it takes; their files are not asked for."""
    engine = engine_for(url)
    with Session(engine) as session:
        for number in range(LIBRARY - len(BUILTIN)):
            content = BUILTIN[number % len(BUILTIN)].content
            facts: dict[str, Any] = json.loads(json.dumps({f: getattr(facts_of(content), f) for f in facts_of(content).__dataclass_fields__}))
            name = f"own-{number}"
            session.add(
                TemplateRow(id=name, account="local", template=name, version="1.0.0", key=content.key, source="made", facts={**facts, "id": name, "name": f"Own {number}"})
            )
        session.commit()
    engine.dispose()


def in_browser(page: Page, address: str) -> list[Row]:
    page.goto(address)
    page.get_by_role("heading", name="Projects").wait_for()

    def send(method: str, path: str, body: Any = None) -> tuple[Any, float]:
        answer = page.evaluate(SEND, [method, path, body])
        return answer["read"], answer["ms"]

    demo = send("GET", "/api/projects")[0]["projects"][0]["id"]
    path = f"/api/projects/{send('POST', '/api/projects', {'copy_of': demo})[0]['id']}"
    pictures = [k for k, m in send("GET", path)[0]["document"]["media"].items() if m["kind"] == "picture"]
    new = [{"id": f"n{i}", "media": m} for i, m in zip(range(SCENES), itertools.cycle(pictures), strict=False)]
    base = send("POST", f"{path}/edits", {"base": send("GET", path)[0]["revision"], "edits": [{"edit": "add_scenes", "scenes": new}]})[0]["revision"]
    # As a person comes to it: the library is opened, looked through, and one is put on.
    listed = min(send("GET", "/api/templates")[1] for _ in range(3))
    seen = []
    for shipped in BUILTIN:
        edits = [{"edit": "put_on", "key": shipped.content.key, "id": "tried", "scenes": [f"n{i}" for i in range(6)]}]
        seen.append(page.evaluate(PAINT, [f"{path}/tried-frame", {"edits": edits, "scene": "n0", "share": 0.6, "width": PREVIEW_PX}]))
    times = []
    for number, shipped in enumerate(BUILTIN):
        scenes = [f"n{i}" for i in range(PUT_ON * (number % 8), PUT_ON * (number % 8 + 1))]
        _, ms = send("POST", f"{path}/edits", {"base": base, "edits": [{"edit": "put_on", "key": shipped.content.key, "id": f"u{number}", "scenes": scenes}]})
        base = send("POST", f"{path}/undo")[0]["revision"]
        times.append(ms)
    count = len(send("GET", "/api/templates")[0]["templates"])
    return [
        Row("a treatment put on 50 of 500 scenes, kept and answered, p95", percentile(times, 0.95), "ms", 300, 150, "less", f"{len(times)} templates"),
        Row("the library's list, answered", listed / 1000, "s", 1, 0.3, "less", f"{count} templates"),
        Row("a template with one's own pictures, painted, p95", percentile(seen, 0.95), "ms", 300, 150, "less", f"{PREVIEW_PX} px wide, a film of 500 scenes"),
    ]


PAINT = """async ([path, body]) => {
  const started = performance.now();
  const answer = await fetch(path, {method: 'POST', headers: {'Content-Type': 'application/json', 'X-Oak-Token': window.oakToken}, body: JSON.stringify(body)});
  if (!answer.ok) throw new Error(await answer.text());
  await answer.blob();
  return performance.now() - started;
}"""
