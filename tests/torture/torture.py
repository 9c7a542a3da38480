"""Kills, seeded: every process at any moment, while edits, uploads and exports run; then what was acknowledged is compared with what is
there. `./oak torture --minutes N` runs it for long."""

import argparse
import hashlib
import http.client
import http.cookiejar
import io
import json
import os
import random
import shutil
import signal
import sys
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import av
import psycopg
from PIL import Image

from oak_lens.stack.nursery import nursery
from oak_lens.stack.start import ROOT, Stack

TARGETS = ("worker0", "worker1", "server", "nursery", "postmaster", "backend", "backend", "backend")
SETTLE_SECONDS = 120
TICKS = 705_600_000


@dataclass(slots=True)
class Report:
    """What was done and what was found; `lost` and `wrong` must be empty."""

    seed: int
    kills: Counter[str] = field(default_factory=Counter)
    edits: int = 0
    uploads: int = 0
    exports: Counter[str] = field(default_factory=Counter)
    slowest: float = 0.0
    lost: list[str] = field(default_factory=list)
    wrong: list[str] = field(default_factory=list)

    def __str__(self) -> str:
        kills = ", ".join(f"{n} {target}" for target, n in sorted(self.kills.items()))
        exports = ", ".join(f"{n} {state}" for state, n in sorted(self.exports.items()))
        return (
            f"seed {self.seed}: {sum(self.kills.values())} kills ({kills}); acknowledged {self.edits} edits, {self.uploads} uploads; "
            f"exports {exports}; longest out of service {self.slowest:.1f} s; lost {self.lost or 'nothing'}; wrong {self.wrong or 'nothing'}"
        )


class Browser:
    """One signed-in client that asks again, as the page does, until it is answered."""

    def __init__(self, stack: Stack, over: threading.Event):
        self._stack, self._over = stack, over
        jar = urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar(policy=http.cookiejar.DefaultCookiePolicy(allowed_domains=None)))
        self._opener = urllib.request.build_opener(jar)
        self._token = ""
        while not self._token:
            try:
                self._opener.open(stack.address, timeout=10).read()
                self._token = self._once("GET", "/api/session")["token"]
            except OSError:
                time.sleep(0.1)

    def _once(self, method: str, path: str, body: bytes | None = None, headers: dict[str, str] | None = None) -> Any:
        request = urllib.request.Request(f"http://127.0.0.1:{self._stack.port}{path}", body, headers or {}, method=method)
        request.add_header("X-Oak-Token", self._token)
        with self._opener.open(request, timeout=20) as answer:
            data = answer.read()
        return json.loads(data) if data and answer.headers.get_content_type() == "application/json" else data

    def once(self, method: str, path: str, body: Any) -> Any:
        """The answer to one request, however it turns out. Raises HTTPError."""
        return self._once(method, path, json.dumps(body).encode(), {"Content-Type": "application/json"})

    def ask(self, method: str, path: str, body: Any = None, headers: dict[str, str] | None = None) -> Any:
        """The answer; raises what is refused for good."""
        data = body if isinstance(body, bytes | None) else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", "X-Oak-Request": uuid.uuid4().hex, **(headers or {})}
        while True:
            try:
                return self._once(method, path, data, headers)
            except urllib.error.HTTPError as error:
                if error.code not in (500, 502, 503, 504):
                    raise AssertionError(f"{method} {path}: {error.code} {error.read()[:300]!r}") from None
            except (OSError, http.client.HTTPException):
                pass
            time.sleep(0.1)


def edit_away(browser: Browser, report: Report, over: threading.Event, chance: random.Random) -> None:
    """One project, changed, undone and redone by one person; every answer must be what was asked for."""
    project = browser.ask("POST", "/api/projects", {"title": "0"})["id"]
    titles, at, revision = ["0"], 0, 1
    while not over.is_set():
        how = chance.choice(("edit", "edit", "edit", "undo", "redo"))
        if how == "undo" and at > 0:
            answer, at = browser.ask("POST", f"/api/projects/{project}/undo"), at - 1
        elif how == "redo" and at < len(titles) - 1:
            answer, at = browser.ask("POST", f"/api/projects/{project}/redo"), at + 1
        else:
            titles, at = [*titles[: at + 1], f"{len(titles)}-{chance.random()}"], at + 1
            edits = [{"edit": "set_title", "title": titles[at]}]
            answer = browser.ask("POST", f"/api/projects/{project}/edits", {"base": revision, "edits": edits})
        revision += 1
        report.edits += 1
        if answer["revision"] != revision or answer["title"] != titles[at]:
            report.wrong.append(f"edit {revision}: {answer['revision']} {answer['title']}")
            revision = answer["revision"]
    found = browser.ask("GET", f"/api/projects/{project}")
    if (found["revision"], found["document"]["title"]) != (revision, titles[at]):
        report.lost.append(f"edits of {project}: {found['revision']} of {revision}")
    for _ in range(at):
        at -= 1
        if browser.ask("POST", f"/api/projects/{project}/undo")["title"] != titles[at]:
            report.lost.append(f"history of {project} at {at}")


def card(chance: random.Random) -> bytes:
    """A PNG like no other."""
    made = io.BytesIO()
    Image.frombytes("RGB", (48, 27), chance.randbytes(48 * 27 * 3)).resize((320, 180)).save(made, "PNG")
    return made.getvalue()


def upload_away(browser: Browser, home: Path, report: Report, over: threading.Event, chance: random.Random) -> None:
    """Pictures sent one after another; each is there, whole and prepared, in the end."""
    project = browser.ask("POST", "/api/projects", {"title": "Uploads"})["id"]
    sent: dict[str, str] = {}
    revision = 1
    while not over.is_set() and len(sent) < 400:
        data = card(chance)
        record = browser.ask("POST", f"/api/projects/{project}/pictures", data, {"X-File-Name": f"{len(sent)}.png"})["record"]
        edits = [{"edit": "add_pictures", "pictures": [{"id": f"p{len(sent)}", **record}]}]
        revision = browser.ask("POST", f"/api/projects/{project}/edits", {"base": revision, "edits": edits})["revision"]
        sent[f"p{len(sent)}"] = hashlib.sha256(data).hexdigest()
        report.uploads += 1
    media = browser.ask("GET", f"/api/projects/{project}")["document"]["media"]
    for key, digest in sent.items():
        path = home / "media" / "originals" / digest[:2] / digest[2:4] / digest
        if media.get(key, {}).get("sha256") != digest or hashlib.sha256(path.read_bytes()).hexdigest() != digest:
            report.lost.append(f"upload {key}")
    deadline = time.monotonic() + SETTLE_SECONDS
    while waiting := [p for p in browser.ask("GET", f"/api/projects/{project}/state")["pictures"] if p["state"] != "ready"]:
        if time.monotonic() > deadline:
            report.wrong.append(f"{len(waiting)} pictures are not prepared: {waiting[0]}")
            break
        time.sleep(0.3)


def export_away(browser: Browser, report: Report, over: threading.Event, chance: random.Random) -> None:
    """Exports one after another, each of a film of its own; all of them end, and what is done can be decoded to its last frame."""
    project = browser.ask("POST", "/api/projects", {"title": "Exports"})["id"]
    records = [browser.ask("POST", f"/api/projects/{project}/pictures", card(chance), {"X-File-Name": f"{i}.png"})["record"] for i in range(3)]
    edits: list[dict[str, Any]] = [
        {"edit": "set_defaults", "hold": TICKS, "join": {"kind": "dissolve", "length": TICKS // 5}},
        {"edit": "add_pictures", "pictures": [{"id": f"p{i}", **r} for i, r in enumerate(records)]},
        {"edit": "add_scenes", "scenes": [{"id": f"s{i}", "media": f"p{i}"} for i in range(3)]},
    ]
    revision = browser.ask("POST", f"/api/projects/{project}/edits", {"base": 1, "edits": edits})["revision"]
    while not over.is_set():
        view = {"edit": "set_views", "photos": [{"scene": "s1", "layer": "photo"}], "closing": {"zoom": 1.0 + chance.random()}}
        revision = browser.ask("POST", f"/api/projects/{project}/edits", {"base": revision, "edits": [view]})["revision"]
        settings = {"width": 320, "height": 180, "rate": "25", "quality": "draft"}
        job = browser.ask("POST", f"/api/projects/{project}/exports", settings)["id"]
        deadline = time.monotonic() + SETTLE_SECONDS
        while True:
            found = next(e for e in browser.ask("GET", f"/api/projects/{project}/exports")["exports"] if e["id"] == job)
            if found["state"] in ("done", "failed", "cancelled"):
                break
            if time.monotonic() > deadline:
                report.wrong.append(f"an export is still {found['state']}")
                break
            time.sleep(0.2)
        report.exports[found["state"]] += 1
        if found["state"] == "failed":
            report.lost.append(f"export: {found['message']}")
        elif found["state"] == "done":
            with av.open(io.BytesIO(browser.ask("GET", f"/api/exports/{job}/film"))) as film:
                frames = sum(1 for _ in film.decode(video=0))
            if frames != found["frames"]:
                report.wrong.append(f"a film of {frames} frames instead of {found['frames']}")


def kill(stack: Stack, target: str, chance: random.Random) -> bool:
    """One process ends as if its machine had died; False where there is none just now."""
    try:
        if target == "postmaster":
            os.kill(int((stack.cluster._data / "postmaster.pid").read_text().split("\n")[0]), signal.SIGKILL)
        elif target == "backend":
            with psycopg.connect(stack.url, connect_timeout=2) as connection:
                rows = connection.execute(
                    "select pid from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() order by pid"
                ).fetchall()
            os.kill(chance.choice(rows)[0], signal.SIGKILL)
        elif target == "nursery" and nursery.pid:
            os.kill(nursery.pid, signal.SIGKILL)
        elif target in stack.processes:
            os.killpg(stack.processes[target].pid, signal.SIGKILL)
        else:
            return False
    except (OSError, ValueError, IndexError, psycopg.Error):
        return False
    return True


def torture(home: Path, seconds: float, seed: int, kills: int = 10_000) -> Report:
    """Kills for so long, or so many times, then lets everything settle and compares."""
    report, over, stopped = Report(seed), threading.Event(), threading.Event()
    stack = Stack(home, None)
    stack.start(demo=False)
    watcher = threading.Thread(target=stack.watch, args=(stopped.is_set,), daemon=True)
    watcher.start()
    chance = random.Random(seed)
    failures: list[str] = []

    def guarded(what: Any, *arguments: Any) -> None:
        try:
            what(*arguments)
        except BaseException as error:
            failures.append(f"{what.__name__}: {error!r}")

    try:
        browser = Browser(stack, over)
        works = [
            (edit_away, browser, report, over, random.Random(seed + 1)),
            (edit_away, Browser(stack, over), report, over, random.Random(seed + 2)),
            (upload_away, Browser(stack, over), home, report, over, random.Random(seed + 3)),
            (export_away, Browser(stack, over), report, over, random.Random(seed + 4)),
        ]
        threads = [threading.Thread(target=guarded, args=work, daemon=True) for work in works]
        for thread in threads:
            thread.start()
        deadline = time.monotonic() + seconds
        left: list[str] = []
        while time.monotonic() < deadline and sum(report.kills.values()) < kills and not failures:
            time.sleep(chance.uniform(0.2, 1.6))
            # In rounds, each in an order of its own: a short run, too, kills everything.
            left = left or chance.sample(TARGETS, len(TARGETS))
            target = left.pop()
            if kill(stack, target, chance):
                report.kills[target] += 1
                began = time.monotonic()
                browser.ask("GET", "/api/projects")
                report.slowest = max(report.slowest, time.monotonic() - began)
        over.set()
        for thread in threads:
            thread.join(3 * SETTLE_SECONDS)
            if thread.is_alive():
                failures.append("something never ended")
    finally:
        stopped.set()
        watcher.join()
        stack.stop()
        report.wrong += failures
    return report


def main() -> int:
    options = argparse.ArgumentParser(prog="oak torture", description=__doc__)
    options.add_argument("--minutes", type=float, default=10.0)
    options.add_argument("--kills", type=int, default=10_000)
    options.add_argument("--seed", type=int, default=random.SystemRandom().randrange(10**6))
    arguments = options.parse_args()
    home = ROOT / ".run" / f"torture-{os.getpid()}"
    try:
        report = torture(home, arguments.minutes * 60, arguments.seed, arguments.kills)
    finally:
        shutil.rmtree(home, ignore_errors=True)
    print(report)
    return 1 if report.lost or report.wrong else 0


if __name__ == "__main__":
    sys.exit(main())
