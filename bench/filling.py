"""Filling: the guided path's page, and thirty films of a table that differ in one title."""

import time
from pathlib import Path
from statistics import median
from typing import Any

from playwright.sync_api import Page, sync_playwright

from conftest import CHROMIUM, CHROMIUM_FLAGS
from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.letters import bring_faces
from oak_lens.core.templates import bring_templates
from oak_lens.core.treatments import BUILTIN, SHELF
from oak_lens.media.blobs import FolderBlobs
from oak_lens.media.faces import ShippedFaces
from oak_lens.services.exports import Exports
from oak_lens.services.film_tables import FilmTables
from oak_lens.services.pictures import Pictures
from oak_lens.services.placeholders import Placeholders
from oak_lens.services.sounds import Sounds
from oak_lens.stack.start import Stack
from oak_lens.storage.database import engine_for
from oak_lens.storage.exports import PostgresExports
from oak_lens.storage.film_tables import PostgresFilmTables
from oak_lens.storage.media import PostgresMedia
from oak_lens.storage.projects import PostgresProjects

from .desk import loaded_scripts, wait_prepared
from .films import PHOTOS
from .rows import Row

FILMS = 30
PICTURES = 20
KEYS = {s.id: s.content.key for s in BUILTIN}
FIRST = """() => new Promise(done => {
    const look = () => [...document.querySelectorAll('main img')].some(i => i.complete && i.naturalWidth > 0) ? done() : requestAnimationFrame(look);
    look();
})"""
SETTINGS = {"width": 640, "height": 360, "rate": "30", "quality": "good"}


def filling(scratch: Path) -> list[Row]:
    home = scratch / "home"
    stack = Stack(home, None)
    stack.start(demo=True)
    try:
        wait_prepared(stack)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            rows = _page(page, stack.address)
            browser.close()
        return [*rows, _thirty(stack, home)]
    finally:
        stack.stop()


def _page(page: Page, address: str) -> list[Row]:
    """What the guided path loads, and how soon it shows a picture: the second time, as for everybody but the first on a machine."""
    page.goto(address)
    page.get_by_role("link", name="Fill a template").wait_for()
    times = []
    for _ in range(4):
        page.goto("about:blank")
        started = time.perf_counter()
        page.goto(f"{address.split('/?')[0]}/fill")
        page.evaluate(FIRST)
        times.append(time.perf_counter() - started)
    page.wait_for_timeout(1500)
    return [
        Row("script of the guided path, gzipped", loaded_scripts(page), "kB", 140, 120, "less"),
        Row("guided path, opened to its first picture", median(times[1:]), "s", 1, 0.5, "less"),
    ]


def _thirty(stack: Stack, home: Path) -> Row:
    """By the running workers: one film whole, then thirty of the same with other titles."""
    bring_faces(ShippedFaces())
    bring_templates(SHELF)
    engine = engine_for(stack.url)
    media = PostgresMedia(engine, FolderBlobs(home))
    pictures = Pictures(media)
    exports = Exports(PostgresExports(engine, media.blobs), pictures, Sounds(media))
    tables = FilmTables(PostgresFilmTables(engine), exports, Placeholders(media).bring)
    records: list[dict[str, Any]] = []
    for number, path in enumerate(sorted(PHOTOS.glob("*.jpg"))[:PICTURES]):
        with path.open("rb") as stream:
            records.append({"id": f"p{number}", **pictures.take_in(Document(), path.name, stream)})
    names = [str(r["id"]) for r in records]
    edits = [
        {"edit": "set_frame", "width": 1280, "height": 720, "rate": "30"},
        {"edit": "add_pictures", "pictures": records},
        {"edit": "compose_film", "keys": [KEYS["half-and-half"], KEYS["quiet-frame"]], "id": "f", "pictures": names},
    ]
    document = apply_edits(Document(), parse_edits(edits))
    project = PostgresProjects(engine).create("local", document).id
    while any(s.state == "waiting" for s in pictures.states(document)):
        time.sleep(0.1)

    def seconds(titles: list[str]) -> float:
        tables.take(project, document, "titles.csv", "\n".join(["Title", *titles]).encode())
        started = time.perf_counter()
        batch = tables.start("local", project, document, SETTINGS)
        while True:
            films = tables.films("local", batch.id)
            assert all(f.state in ("waiting", "rendering", "joining", "done") for _, f in films), films
            if len(films) == len(titles) and all(f.state == "done" for _, f in films):
                return time.perf_counter() - started
            time.sleep(0.05)

    whole = seconds(["A first title"])
    thirty = seconds([f"Title number {n}" for n in range(FILMS)])
    engine.dispose()
    return Row("thirty films of a table that differ in one title, of thirty renders", thirty / (FILMS * whole), "", 0.35, 0.2, "less", f"{thirty:.0f} s; one takes {whole:.1f} s")
