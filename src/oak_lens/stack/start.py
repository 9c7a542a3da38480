"""`./oak start`: database, workers and web server, until Ctrl-C."""

import argparse
import fcntl
import os
import secrets
import signal
import socket
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import TextIO

from ..storage.database import NewerDatabase, engine_for, ensure_account, migrate
from .cluster import Cluster, ClusterFailed, free_port
from .nursery import ROOT, Child, NurseryFailed, nursery

PREFERRED_PORT = 8470
WORKERS = ("worker0", "worker1")
ANSWER_SECONDS = 40
TIDYING_SECONDS = 120
WATCH_SECONDS = 0.3
RETRY_SECONDS = 2.0
LEFTOVER_SECONDS = 10


class StartFailed(Exception):
    """The message says which step failed and what to do."""


class Stack:
    """Everything that runs for one home folder."""

    def __init__(self, home: Path, port: int | None, durable: bool = True, web: Path | None = ROOT / "web" / "dist"):
        self.home, self._wanted_port, self._durable, self._web = home, port, durable, web
        self.port = 0
        self._key, self._instance = secrets.token_urlsafe(24), secrets.token_hex(8)
        self.processes: dict[str, Child] = {}
        self._lock: TextIO | None = None
        self._umask: int | None = None
        self._tries = 0

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}/?key={self._key}"

    def start(self, demo: bool) -> None:
        """Raises StartFailed, ClusterFailed, NurseryFailed or NewerDatabase."""
        nursery.begin()
        self.home.parent.mkdir(parents=True, exist_ok=True)
        # What is kept here is its owner's alone.
        self._umask = os.umask(0o077)
        self.home.mkdir(parents=True, exist_ok=True)
        self.home.chmod(0o700)
        self._lock = (self.home / "running.lock").open("a+")
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise StartFailed(
                f"Oak Lens is already running from this folder. Its address is in {self.home}/address; stop it with Ctrl-C in its window."
            ) from None
        ended = self._end_leftovers()
        self.port = self._free_port(LEFTOVER_SECONDS if ended else 0.0)
        self.cluster = Cluster(self.home, self._durable)
        self.url = self.cluster.start()
        engine = engine_for(self.url)
        migrate(engine)
        ensure_account(engine, "local", "You")
        engine.dispose()
        # The pages first: what nobody waits for begins when they answer.
        self._spawn("server")
        tidied = self.home / "tidied"
        tidying = self._forked("tidying", {"OAK_TIDIED": str(tidied), **({"OAK_DEMO": "1"} if demo else {})})
        self._wait_until_it_answers()
        for name in WORKERS:
            self._spawn(name)
        tidying.ended(TIDYING_SECONDS)
        if not tidied.exists() or tidied.read_text() != self._instance:
            raise StartFailed(f"The folder could not be tidied, or the demo not be put into it. {self._last_words('tidying')}")
        self._write("address", self.address + "\n")

    def watch(self, over: Callable[[], bool] = lambda: False) -> None:
        """Bring back what dies, the database first, until interrupted or `over` says so."""
        while not over():
            time.sleep(WATCH_SECONDS)
            try:
                self._bring_back()
            except (ClusterFailed, NurseryFailed, OSError) as error:
                # What the database waits for may pass, such as a full disk: everything else waits with it.
                print(f"{error} Trying again.", file=sys.stderr, flush=True)
                time.sleep(RETRY_SECONDS)

    def _bring_back(self) -> None:
        dead = [name for name, process in self.processes.items() if process.ended()]
        if not self.cluster.runs():
            print("the database stopped; starting it again", file=sys.stderr, flush=True)
            url = self.cluster.start()
            if url != self.url:
                # Another program has its port now: all that knew the old one begin anew.
                self.url = url
                for name, process in self.processes.items():
                    process.kill()
                    dead.append(name)
        for name in dict.fromkeys(dead):
            print(f"{name} stopped; starting it again", file=sys.stderr, flush=True)
            self._spawn(name)

    def stop(self) -> None:
        """End processes, then the database."""
        for process in self.processes.values():
            process.tell(signal.SIGTERM)
        deadline = time.monotonic() + 6
        for process in self.processes.values():
            if not process.ended(max(0.1, deadline - time.monotonic())):
                process.kill()
        if hasattr(self, "cluster"):
            # One that was begun, and whose number did not reach us.
            self._end_leftovers()
            self.cluster.stop()
        for name in ("address", "key", "pids"):
            # An address leads nowhere any more; the others were left by earlier versions.
            (self.home / name).unlink(missing_ok=True)
        if self._umask is not None:
            os.umask(self._umask)
        if self._lock is not None:
            self._lock.close()

    def _spawn(self, name: str) -> None:
        self.processes[name] = self._forked(name, {"OAK_WEB": str(self._web)} if self._web else {})

    def _forked(self, role: str, more: dict[str, str]) -> Child:
        environment = {
            "OAK_DATABASE_URL": self.url,
            "OAK_HOME": str(self.home),
            "OAK_SECRET": self._kept("secret"),
            "OAK_KEY": self._key,
            "OAK_INSTANCE": self._instance,
            "OAK_PORT": str(self.port),
            **more,
        }
        return nursery.fork(role, environment, self._log(role))

    def _log(self, role: str) -> Path:
        return self.home / f"{role}.log"

    def _last_words(self, role: str) -> str:
        return f"Its log {self._log(role)} ends:\n{self._log(role).read_text(errors='replace')[-500:]}"

    def _end_leftovers(self) -> bool:
        """Ends processes from this folder that nobody looks after, as those of an earlier run that was killed, and waits until they are gone; gives
        whether there were any."""
        logs = {str(self._log(name)) for name in ("server", "tidying", *WORKERS)}
        left = []
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                # Nobody else says what he does into a log of ours.
                if os.readlink(folder / "fd" / "1") in logs:
                    os.kill(int(folder.name), signal.SIGKILL)
                    left.append(folder)
            except OSError:
                continue
        deadline = time.monotonic() + LEFTOVER_SECONDS
        while any(_lives(folder) for folder in left):
            if time.monotonic() > deadline:
                raise StartFailed("Processes of an earlier run do not end. Wait a moment, then start again.")
            time.sleep(0.05)
        return bool(left)

    def _free_port(self, patience: float) -> int:
        """The port wanted; `patience`: seconds for which threads of ended processes may still hold it."""
        wanted, deadline = self._wanted_port or PREFERRED_PORT, time.monotonic() + patience
        while True:
            with socket.socket() as probe:
                probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
                try:
                    probe.bind(("127.0.0.1", wanted))
                    return wanted
                except OSError:
                    if time.monotonic() < deadline:
                        time.sleep(0.05)
                        continue
            if self._wanted_port:
                raise StartFailed(f"Port {wanted} is taken by another program. Choose another with ./oak start --port N.") from None
            return free_port()

    def _kept(self, name: str) -> str:
        """A random word kept beside the data, readable by its owner alone."""
        path = self.home / name
        if not path.exists():
            self._write(name, secrets.token_urlsafe(24))
        path.chmod(0o600)
        return path.read_text().strip()

    def _write(self, name: str, text: str) -> None:
        """A small file that its owner alone may read."""
        part = self.home / f".{name}.part"
        part.unlink(missing_ok=True)
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT, 0o600), "w") as file:
            file.write(text)
        part.replace(self.home / name)

    def _answers(self) -> bool:
        """Whether the server on our port is ours. It is asked for next to nothing, so that a busy machine answers in time."""
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/api/session", timeout=5) as answer:
                headers = answer.headers
        except urllib.error.HTTPError as refused:
            headers = refused.headers
        except OSError:
            return False
        return bool(headers["X-Oak-Instance"] == self._instance)

    def _wait_until_it_answers(self) -> None:
        deadline = time.monotonic() + ANSWER_SECONDS
        while time.monotonic() < deadline:
            if self.processes["server"].ended():
                if self._wanted_port or self._tries > 3:
                    break
                # Another program was quicker to take the port that was free a moment ago.
                self._tries += 1
                self.port = free_port()
                self._spawn("server")
            if self._answers():
                return
            time.sleep(0.05)
        raise StartFailed(f"The web server did not come up. {self._last_words('server')}")


def _lives(process: Path) -> bool:
    """Whether a folder of /proc is that of a process that has not ended."""
    try:
        return (process / "stat").read_text().rsplit(")", 1)[1].split()[0] not in ("Z", "X")
    except (OSError, IndexError):
        return False


def main() -> int:
    options = argparse.ArgumentParser(prog="oak start")
    options.add_argument("--port", type=int)
    options.add_argument("--no-demo", action="store_true")
    options.add_argument("--home", type=Path, default=ROOT / ".run")
    arguments = options.parse_args()
    stack = Stack(arguments.home.resolve(), arguments.port)

    def interrupted(*_: object) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, interrupted)
    try:
        stack.start(demo=not arguments.no_demo)
        print(
            f"\nOak Lens is ready. Open this address in a browser on this machine:\n\n    {stack.address}\n\nCtrl-C stops it.", flush=True
        )
        stack.watch()
        return 0
    except KeyboardInterrupt:
        print("\nStopping.", flush=True)
        return 0
    except (StartFailed, ClusterFailed, NurseryFailed, NewerDatabase) as error:
        print(f"oak start: {error}", file=sys.stderr)
        return 1
    finally:
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        stack.stop()

