"""Starting: a taken port, a folder in use, a killed database, closed parents; the demo as edits."""

import json
import os
import signal
import socket
import time
from pathlib import Path
from typing import Any

import psycopg
import pytest

from oak_lens.core.document import Document, in_order, photos_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import photo_findings, timeline_of
from oak_lens.core.time import seconds
from oak_lens.media.folders import picture_record
from oak_lens.stack.cluster import Cluster
from oak_lens.stack.start import ROOT, Stack, StartFailed


@pytest.fixture
def home() -> Any:
    import shutil

    path = ROOT / ".run" / f"start-{os.getpid()}"
    yield path
    shutil.rmtree(path, ignore_errors=True)


def test_a_taken_port_is_said_plainly(home: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        stack = Stack(home, port)
        with pytest.raises(StartFailed, match=f"Port {port} is taken"):
            stack.start(demo=False)
        stack.stop()


def test_one_folder_runs_once(home: Path) -> None:
    first = Stack(home, None)
    home.mkdir(parents=True)
    import fcntl

    with (home / "running.lock").open("a+") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        with pytest.raises(StartFailed, match="already running"):
            first.start(demo=False)
        first.stop()


def test_a_killed_database_comes_back_with_every_committed_row(home: Path) -> None:
    cluster = Cluster(home)
    url = cluster.start()
    try:
        with psycopg.connect(url) as connection:
            connection.execute("create table kept (n int)")
            connection.execute("insert into kept values (7)")
        pid = int((cluster._data / "postmaster.pid").read_text().split("\n")[0])
        os.kill(pid, signal.SIGKILL)
        assert cluster.start().split("@")[0] == url.split("@")[0]
        with psycopg.connect(cluster.url()) as connection:
            assert connection.execute("select n from kept").fetchall() == [(7,)]
            assert "127.0.0.1" in str(connection.execute("show listen_addresses").fetchone())
    finally:
        cluster.stop()


def test_a_killed_launcher_leaves_nothing_that_blocks_the_next_start(home: Path) -> None:
    first = Stack(home, None)
    first.start(demo=False)
    port, key = first.port, first.address
    assert (home.stat().st_mode & 0o007, (home / "address").stat().st_mode & 0o077) == (0, 0)
    assert not any(p.stat().st_mode & 0o007 for p in home.iterdir()), "nothing here is open to others"
    # What the launcher held is gone with it; what it started lives on.
    assert first._lock is not None
    first._lock.close()
    left = [process.pid for process in first.processes.values()]
    second = Stack(home, port)
    second.start(demo=False)
    try:
        assert second.port == port and second.address != key, "the key is new with every start"
        for process in first.processes.values():
            assert process.ended(10)
        assert not set(left) & {process.pid for process in second.processes.values()}
        lost = second._forked("worker0", {})
    finally:
        second.stop()
    assert lost.ended(), "nothing is left of what was begun, though its number was lost"
    assert not (home / "address").exists()


def test_a_database_that_recovers_is_waited_for_and_one_that_died_is_noticed(home: Path) -> None:
    cluster = Cluster(home)
    cluster.start()
    try:
        assert cluster.runs()
        connection = psycopg.connect(cluster.url())
        row = connection.execute("select pg_backend_pid()").fetchone()
        assert row is not None
        os.kill(row[0], signal.SIGKILL)
        connection.close()
        # Its children are gone with the killed one, and it recovers: no second server is launched beside it.
        before = (cluster._data / "postmaster.pid").read_text().split("\n")[0]
        cluster.start()
        assert (cluster._data / "postmaster.pid").read_text().split("\n")[0] == before
        os.kill(int(before), signal.SIGKILL)
        deadline = time.monotonic() + 10
        while cluster.runs() and time.monotonic() < deadline:
            time.sleep(0.05)
        assert not cluster.runs()
        cluster.start()
        # A number in its file that has passed to another program is not taken for it.
        cluster.stop()
        (cluster._data / "postmaster.pid").write_text(f"{os.getpid()}\n")
        assert not cluster.runs()
        cluster.start()
        assert cluster.runs()
    finally:
        cluster.stop()


def test_the_demo_is_a_minute_of_every_shape_and_stays_sharp() -> None:
    folder = ROOT / "demo"
    script = json.loads((folder / "first-light.json").read_text())
    records = [{**picture_record(folder / "photos" / p["file"], p["id"], p["file"], p["name"])} for p in script["pictures"]]
    document = apply_edits(Document(), parse_edits([{"edit": "add_pictures", "pictures": records}, *script["edits"]]))
    timeline = timeline_of(document)
    assert len(document.scenes) >= 16 and 55 <= seconds(timeline.length) <= 120
    shapes = {round(document.media[photo.media].aspect, 1) for scene in document.scenes.values() for _, photo in photos_of(scene)}
    assert {0.7, 1.0, 1.5, 2.9} <= shapes
    findings = photo_findings(document, timeline)
    # The scan is shown larger than its pixels on purpose: it is the one warning of the demo that a person can look at.
    assert sorted(f.scene for f in findings if f.soft) == ["s00"]
    for _, scene in in_order(document.scenes):
        if scene.layout is not None:
            continue
        for _, photo in photos_of(scene):
            if photo.window is not None:
                continue
            views = [key.value for key in photo.view.keys.values()]
            assert views[0] != views[1]
