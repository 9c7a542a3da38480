"""Killed at any moment: no accepted edit is lost, an export goes on where it was."""

import itertools
import os
import re
import signal
import time
from collections.abc import Iterator
from pathlib import Path

import av
import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, Route, expect

from oak_lens.stack.start import ROOT, Stack

from .conftest import call, context_on, give, heard, open_projects, until, watched


@pytest.fixture(scope="module")
def stack() -> Iterator[Stack]:
    """One of its own, whose processes may be killed."""
    with watched(ROOT / ".run" / f"killed-{os.getpid()}", demo=False) as started:
        yield started


@pytest.fixture
def killed(stack: Stack, browser: Browser) -> Iterator[Page]:
    """A page of that stack."""
    context = context_on(browser, stack.address)
    yield from heard(context.new_page())
    context.close()


def test_a_killed_worker_does_not_spoil_an_export(killed: Page, stack: Stack) -> None:
    page = killed
    project = call(page, "POST", "/api/projects", {"title": "Killed"})["id"]
    page.goto(f"/projects/{project}/contact-sheet")
    give(page.get_by_role("button", name="Add pictures").first, sorted((ROOT / "demo" / "photos").glob("*.jpg"))[:4])
    media = until(lambda: len(m := call(page, "GET", f"/api/projects/{project}")["document"]["media"]) == 4 and m, 30, "four pictures")
    opened = call(page, "GET", f"/api/projects/{project}")
    scenes = [{"id": f"s{i}", "media": key} for i, key in enumerate([*media, *media])]
    call(page, "POST", f"/api/projects/{project}/edits", {"base": opened["revision"], "edits": [{"edit": "set_defaults", "hold": 705_600_000 * 3 // 2}, {"edit": "add_scenes", "scenes": scenes}]})
    job = call(page, "POST", f"/api/projects/{project}/exports", {"width": 320, "height": 180, "rate": "24", "quality": "draft"})

    def state() -> dict[str, object]:
        return next(e for e in call(page, "GET", f"/api/projects/{project}/exports")["exports"] if e["id"] == job["id"])

    for name, frames in (("worker0", 0), ("worker1", 150)):
        until(lambda reached=frames: state()["done_frames"] > reached, 60, "progress")  # type: ignore[misc,operator]
        os.kill(stack.processes[name].pid, signal.SIGKILL)
    assert state()["state"] == "rendering", "killed while it was worked on"
    done = until(lambda: state()["state"] == "done" and state(), 120, "the export")
    with page.expect_download() as downloading:
        page.evaluate("id => { const a = document.createElement('a'); a.href = `/api/exports/${id}/film`; a.click() }", job["id"])
    with av.open(str(downloading.value.path())) as film:
        times = [f.pts for f in film.decode(video=0)]
    assert len(times) == done["frames"] and len({b - a for a, b in itertools.pairwise(times)}) == 1


def test_a_killed_server_loses_no_accepted_edit(killed: Page, stack: Stack) -> None:
    page = killed
    open_projects(page)
    project = call(page, "POST", "/api/projects", {"title": "Start"})["id"]
    accepted = 1
    for kill in range(2):
        for _ in range(5):
            accepted = call(
                page,
                "POST",
                f"/api/projects/{project}/edits",
                {"base": accepted, "edits": [{"edit": "set_title", "title": f"Title {accepted}"}]},
            )["revision"]
        # One edit is under way while the server dies: it is there whole or not at all.
        page.evaluate(
            "([p, base]) => { fetch('/api/session').then(r => r.json()).then(s => fetch(`/api/projects/${p}/edits`, {method: 'POST', headers: {'Content-Type': 'application/json', 'X-Oak-Token': s.token}, body: JSON.stringify({base, edits: [{edit: 'set_title', title: 'Under way'}]})})).catch(() => {}) }",
            [project, accepted],
        )
        time.sleep(0.004 * kill)
        group = os.getpgid(stack.processes["server"].pid)
        os.killpg(group, signal.SIGKILL)

        def answered() -> dict[str, object] | None:
            try:
                return call(page, "GET", f"/api/projects/{project}")
            except Exception:
                return None

        after = until(answered, 30, "the server to come back")
        assert after["revision"] in (accepted, accepted + 1)
        assert after["document"]["title"] == ("Under way" if after["revision"] > accepted else f"Title {accepted - 1}")
        accepted = after["revision"]
    page.goto(stack.address)
    page.get_by_role("heading", name="Projects").wait_for()


def test_changes_and_pictures_wait_while_the_server_is_away_also_over_a_reload(page: Page, tmp_path: Path) -> None:
    project = call(page, "POST", "/api/projects", {"title": "Start"})["id"]
    page.goto(f"/projects/{project}/contact-sheet")
    page.get_by_role("heading", name="Contact sheet").wait_for()
    files = []
    for number in range(10):
        files.append(tmp_path / f"card{number}.png")
        Image.new("RGB", (64, 48), (20 * number, 90, 120)).save(files[-1])
    changing = re.compile(r"/api/projects/\w+/(edits|undo|pictures)$")
    seen: list[str] = []

    def away(route: Route) -> None:
        seen.append(route.request.method)
        # Sometimes the step is done, and only its answer does not arrive.
        if route.request.url.endswith("edits") and len(seen) % 2:
            route.fetch()
        route.abort()

    page.route(changing, away)
    title = page.get_by_label("Project title")
    for name in ("One", "Two"):
        title.fill(name)
        title.press("Enter")
    expect(page.get_by_role("button", name=re.compile("2 changes wait"))).to_be_visible()
    page.get_by_role("button", name=re.compile("2 changes wait")).click()
    expect(page.get_by_role("list", name="Changes that wait").get_by_role("listitem")).to_have_count(2)
    page.keyboard.press("Escape")
    page.reload()
    expect(page.get_by_role("button", name=re.compile("changes? waits?"))).to_be_visible()
    give(page.get_by_role("button", name="Add pictures").first, files)
    expect(page.get_by_text("this is sent again by itself").first).to_be_visible()
    page.unroute_all(behavior="wait")
    until(lambda: len(call(page, "GET", f"/api/projects/{project}")["document"]["media"]) == 10, 20, "all pictures")
    expect(page.get_by_text("kept", exact=True)).to_be_visible()
    kept = call(page, "GET", f"/api/projects/{project}")["document"]
    in_order = sorted(kept["media"].values(), key=lambda m: m["order"])
    assert kept["title"] == "Two" and [m["name"] for m in in_order] == [f.stem for f in files]
    # Done once each, however often they were asked for: undone one by one, they lead back to the start.
    states = []
    while True:
        document = call(page, "GET", f"/api/projects/{project}")["document"]
        states.append((document["title"], len(document["media"])))
        if not call(page, "GET", f"/api/projects/{project}")["undo"]:
            break
        call(page, "POST", f"/api/projects/{project}/undo")
    assert [s for s in states if s[1] in (0, 10)] == [("Two", 10), ("Two", 0), ("One", 0), ("Start", 0)]
