"""The real application: database, workers, server, and a browser on it."""

import fcntl
import json
import re
import shutil
import threading
import time
import warnings
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Locator, Page, ViewportSize, expect

from oak_lens.stack.start import ROOT, Stack

PATIENCE = 4
DEMO = "First Light at Ossel Ridge"
expect.set_options(timeout=PATIENCE * 5000)


@dataclass(frozen=True)
class Running:
    """A stack that is there: where its files and its pages are."""

    home: Path
    address: str

    @property
    def origin(self) -> str:
        return self.address.split("/?")[0]


@contextmanager
def watched(home: Path, demo: bool) -> Iterator[Stack]:
    """A started stack, with a thread that brings back what dies, as `./oak start` does."""
    stack, over = Stack(home, None, durable=True), threading.Event()
    try:
        stack.start(demo=demo)
        thread = threading.Thread(target=stack.watch, args=(over.is_set,), daemon=True)
        thread.start()
        yield stack
        over.set()
        thread.join()
    finally:
        stack.stop()
        shutil.rmtree(home, ignore_errors=True)


@contextmanager
def locked(path: Path, how: int) -> Iterator[None]:
    with path.open("a") as file:
        fcntl.flock(file, how)
        yield


@pytest.fixture(scope="session")
def running(testrun_uid: str) -> Iterator[Running]:
    """One stack with the demo for all processes of this run: the first that needs it starts it, and ends it when nobody uses it."""
    home = ROOT / ".run" / f"e2e-{testrun_uid[:12]}"
    home.parent.mkdir(exist_ok=True)
    changing, used = home.with_suffix(".changing"), home.with_suffix(".used")
    with ExitStack() as mine, ExitStack() as others:
        with locked(changing, fcntl.LOCK_EX):
            if (home / "address").exists():
                others.enter_context(locked(used, fcntl.LOCK_SH))
            else:
                mine.enter_context(watched(home, demo=True))
        yield Running(home, (home / "address").read_text().strip())
        others.close()
        with locked(changing, fcntl.LOCK_EX), locked(used, fcntl.LOCK_EX):
            log = home / "server.log"
            said = log.read_text() if log.exists() else ""
            mine.close()
            for lock in (changing, used):
                lock.unlink(missing_ok=True)
        assert "Traceback" not in said and "away" not in said, f"the server complained:\n{said[-4000:]}"


SIZE: ViewportSize = {"width": 1280, "height": 800}


def context_on(browser: Browser, address: str) -> BrowserContext:
    """A context that is signed in; addresses in it may be given from the root on."""
    made = browser.new_context(
        viewport=SIZE, accept_downloads=True, reduced_motion="reduce", base_url=address.split("/?")[0]
    )
    made.request.get(address)
    return made


NOTHING = "/icon.svg"
"""An address of the application's where nothing goes on."""


@pytest.fixture(scope="session")
def shared_page(running: Running, browser: Browser) -> Iterator[Page]:
    """One page for all tests of a process: what it has fetched and made ready, scripts and pictures that never change, is there for the next."""
    context = context_on(browser, running.address)
    yield context.new_page()
    context.close()


@pytest.fixture
def page(shared_page: Page, running: Running) -> Iterator[Page]:
    """A page where nothing goes on, signed in, with nothing kept in the browser; errors on its console fail the test."""
    shared_page.request.get(running.address)
    shared_page.set_viewport_size(SIZE)
    shared_page.goto(NOTHING)
    shared_page.evaluate("() => { localStorage.clear(); sessionStorage.clear() }")
    yield from heard(shared_page)
    # What it still asks for as it is left is no fault of the next test, and no other page stays.
    shared_page.unroute_all()
    shared_page.goto(NOTHING)
    for left in shared_page.context.pages[1:]:
        left.close()


@pytest.fixture
def context(page: Page) -> BrowserContext:
    return page.context


def heard(made: Page) -> Iterator[Page]:
    faults: list[str] = []

    def thrown(error: Any) -> None:
        faults.append(str(error))

    def written(message: ConsoleMessage) -> None:
        if message.type == "error" and "Failed to load resource" not in message.text:
            faults.append(message.text)

    made.on("pageerror", thrown)
    made.on("console", written)
    yield made
    made.remove_listener("pageerror", thrown)
    made.remove_listener("console", written)
    assert not faults


def open_projects(page: Page) -> None:
    page.goto("/")
    page.get_by_role("heading", name="Projects").wait_for()


def until(check: Callable[[], Any], seconds: float = 30, what: str = "") -> Any:
    """The first truthy answer of `check`, asked again and again; a machine with other things to do gets more time."""
    deadline = time.monotonic() + PATIENCE * seconds
    while time.monotonic() < deadline:
        try:
            answer = check()
        except (TypeError, KeyError, IndexError):
            # What it looks into is not there yet.
            answer = None
        if answer:
            return answer
        time.sleep(0.15)
    raise AssertionError(f"not within {seconds} s: {what}")


def call(page: Page, method: str, path: str, body: Any = None) -> Any:
    """A request with the page's own sign-in; its JSON.

    Seen now and then, and not understood: what is read is refused once, with another browser busy beside. It is asked for again, and what
    was said is listed among the warnings of the run.
    """
    token = page.request.get("/api/session").json()["token"] if method != "GET" else ""
    for last in (method != "GET", True):
        answer = page.request.fetch(path, method=method, headers={"X-Oak-Token": token}, data=body)
        text = answer.text()
        if last or answer.status < 400:
            break
        cookies = [c["name"] for c in page.context.cookies()]
        warnings.warn(f"odd answer: {method} {path}: {answer.status} {text[:300]} {cookies}", stacklevel=2)
        time.sleep(0.5)
    assert answer.status < (400 if method == "GET" else 500), f"{method} {path}: {answer.status} {text[:500]}"
    return json.loads(text) if text else None


def demo(page: Page) -> str:
    """Id of the demo project, which no test changes."""
    return str(next(p["id"] for p in call(page, "GET", "/api/projects")["projects"] if p["title"] == DEMO))


def open_desk(page: Page, project: str) -> None:
    page.goto(f"/projects/{project}")
    page.get_by_role("heading", name="Run sheet").wait_for()


def copy_of_demo(page: Page) -> None:
    """A copy to change at will."""
    open_desk(page, call(page, "POST", "/api/projects", {"title": "x", "edits": [], "copy_of": demo(page)})["id"])


def scene_row(page: Page, name: str) -> Locator:
    """The run sheet's row of a scene, brought into view: rows far away are not there."""
    row = page.get_by_role("list", name="Scenes").get_by_role("button", name=re.compile(f"^Scene .*{re.escape(name)}"))
    for step in range(40):
        if row.count():
            break
        page.get_by_role("list", name="Scenes").evaluate("(list, y) => { list.parentElement.scrollTop = y }", 500 * step)
        page.wait_for_timeout(150)
    return row.first


def numbered_row(page: Page, number: int) -> Locator:
    """The run sheet's row of scene `number`, from 1: whichever rows are in the page, as it is scrolled now."""
    row = page.get_by_role("list", name="Scenes").locator(f'[aria-posinset="{number}"] button[data-scene]')
    if not row.count():
        page.get_by_role("list", name="Scenes").evaluate("(list, y) => { list.parentElement.scrollTop = y }", 133 * (number - 2))
    return row


CHAPTERS = {
    "Place": ("Placement", "Fit", "Window", "Mask"),
    "Motion": ("Views", "Motion"),
    "Look": ("Text", "Text style", "Letters", "Ink", "Panel", "Look", "Shape", "Mount", "Shadow", "Correction"),
    "Scene": ("Template", "Scene", "Backdrop"),
    "Camera": ("Camera", "Light"),
}


def give(button: Locator, files: Any) -> None:
    """Presses what asks for files, and gives it some."""
    with button.page.expect_file_chooser() as asked:
        button.click()
    asked.value.set_files(files)


def found_command(page: Page, words: str) -> None:
    """Does the first command that words find."""
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name="Find a command").fill(words)
    page.get_by_role("option").first.wait_for()
    page.keyboard.press("Enter")


def part(page: Page, name: str) -> Locator:
    """A part of the details, its chapter opened."""
    details = page.get_by_role("complementary", name="Details")
    details.get_by_role("tab", name=next(chapter for chapter, parts in CHAPTERS.items() if name in parts)).click()
    return details.get_by_role("region", name=name, exact=True)


def exported(page: Page, folder: Path, what: str = "film", size: str | None = "480", rate: str | None = None) -> Path:
    """The film, or (`what` chosen) that of the chosen scenes, exported small (`size` None: as it is), with so many frames a second (None: the
    project's), and downloaded by the interface."""
    page.get_by_role("button", name="Export…").click()
    panel = page.get_by_role("dialog", name="Export")
    panel.get_by_label("What").select_option(what)
    if size:
        panel.get_by_label("Size").select_option(size)
    if rate:
        panel.get_by_label("Frames a second").select_option(rate)
    panel.get_by_role("button", name="Export the film").click()
    with page.expect_download(timeout=180_000) as downloading:
        panel.get_by_role("link", name="Download").first.click(timeout=180_000)
    film = folder / "film.mp4"
    downloading.value.save_as(film)
    return film


def project_id(page: Page) -> str:
    return page.url.split("/projects/")[1].split("/")[0].split("?")[0]
