"""`./oak start`: database, workers and web server, until Ctrl-C."""

import argparse
import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TextIO

from sqlalchemy import Engine

from ..storage.database import NewerDatabase, engine_for, ensure_account, migrate
from .cluster import Cluster, ClusterFailed, free_port

ROOT = Path(__file__).resolve().parents[3]
PREFERRED_PORT = 8470
WORKERS = 2
THREADS = 64
ANSWER_SECONDS = 40
KEEP_DELETED_DAYS = 30
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
        self.processes: dict[str, subprocess.Popen[bytes]] = {}
        self._lock: TextIO | None = None
        self._umask: int | None = None
        self._tries = 0

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}/?key={self._key}"

    def start(self, demo: bool) -> None:
        """Raises StartFailed, ClusterFailed or NewerDatabase."""
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
        # The pages first: what nobody waits for begins when they answer.
        self._spawn("server")
        self._tidy(engine, demo)
        engine.dispose()
        self._wait_until_it_answers()
        for number in range(WORKERS):
            self._spawn(f"worker{number}")
        self._write("address", self.address + "\n")

    def _tidy(self, engine: Engine, demo: bool) -> None:
        """What was deleted long ago goes, the demo comes. It is loaded late: all that the core needs, the pages need at once."""
        from ..services import keys
        from ..storage.composition import Services
        from ..storage.projects import purge_deleted
        from .demo import load_demo

        purge_deleted(engine, datetime.now(UTC) - timedelta(days=KEEP_DELETED_DAYS))
        shutil.rmtree(self.home / keys.OLD_LEVELS, ignore_errors=True)
        if demo:
            load_demo(Services(engine, self.home), self.home, ROOT / "demo")

    def watch(self, over: Callable[[], bool] = lambda: False) -> None:
        """Bring back what dies, the database first, until interrupted or `over` says so."""
        while not over():
            time.sleep(WATCH_SECONDS)
            try:
                self._bring_back()
            except (ClusterFailed, OSError) as error:
                # What the database waits for may pass, such as a full disk: everything else waits with it.
                print(f"{error} Trying again.", file=sys.stderr, flush=True)
                time.sleep(RETRY_SECONDS)

    def _bring_back(self) -> None:
        dead = [name for name, process in self.processes.items() if process.poll() is not None]
        if not self.cluster.runs():
            print("the database stopped; starting it again", file=sys.stderr, flush=True)
            url = self.cluster.start()
            if url != self.url:
                # Another program has its port now: all that knew the old one begin anew.
                self.url = url
                for name, process in self.processes.items():
                    process.kill()
                    process.wait()
                    dead.append(name)
        for name in dict.fromkeys(dead):
            print(f"{name} stopped (exit code {self.processes[name].returncode}); starting it again", file=sys.stderr, flush=True)
            self._spawn(name)

    def stop(self) -> None:
        """End processes, then the database."""
        for process in self.processes.values():
            if process.poll() is None:
                process.send_signal(signal.SIGTERM)
        deadline = time.monotonic() + 6
        for process in self.processes.values():
            try:
                process.wait(max(0.1, deadline - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        if hasattr(self, "cluster"):
            self.cluster.stop()
        for name in ("address", "key", "pids"):
            # An address leads nowhere any more; the others were left by earlier versions.
            (self.home / name).unlink(missing_ok=True)
        if self._umask is not None:
            os.umask(self._umask)
        if self._lock is not None:
            self._lock.close()

    def _spawn(self, name: str) -> None:
        environment = {
            **os.environ,
            "OAK_DATABASE_URL": self.url,
            "OAK_HOME": str(self.home),
            "OAK_SECRET": self._kept("secret"),
            "OAK_KEY": self._key,
            "OAK_INSTANCE": self._instance,
            "PYTHONPATH": str(ROOT / "src"),
            "OPENCV_LOG_LEVEL": "ERROR",
        }
        if self._web is not None:
            environment["OAK_WEB"] = str(self._web)
        command = (
            [sys.executable, "-m", "oak_lens.worker"]
            if name.startswith("worker")
            else [
                sys.executable,
                "-m",
                "gunicorn",
                "-k",
                "gthread",
                "-w",
                "1",
                "--threads",
                str(THREADS),
                "--keep-alive",
                "75",
                "--graceful-timeout",
                "2",
                "--timeout",
                "120",
                "-b",
                f"127.0.0.1:{self.port}",
                "--log-level",
                "warning",
                "oak_lens.api.server:app",
            ]
        )
        # Their own session: Ctrl-C reaches this process alone, which ends them in order.
        with os.fdopen(os.open(self.home / f"{name}.log", os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600), "ab") as log:
            self.processes[name] = subprocess.Popen(
                command, cwd=ROOT, env=environment, stdin=subprocess.DEVNULL, stdout=log, stderr=subprocess.STDOUT, start_new_session=True
            )

    def _end_leftovers(self) -> bool:
        """Ends processes of an earlier run from this folder that was killed, and waits until they are gone; gives whether there were any."""
        mark = f"OAK_HOME={self.home}".encode()
        left = []
        for folder in Path("/proc").glob("[0-9]*"):
            try:
                if int(folder.name) != os.getpid() and mark in (folder / "environ").read_bytes().split(b"\0"):
                    os.kill(int(folder.name), signal.SIGKILL)
                    left.append(folder)
            except (OSError, ValueError):
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
            if self.processes["server"].poll() is not None:
                if self._wanted_port or self._tries > 3:
                    break
                # Another program was quicker to take the port that was free a moment ago.
                self._tries += 1
                self.port = free_port()
                self._spawn("server")
            if self._answers():
                return
            time.sleep(0.05)
        tail = (self.home / "server.log").read_text(errors="replace")[-500:]
        raise StartFailed(f"The web server did not come up. Its log {self.home}/server.log ends:\n{tail}")


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
    except (StartFailed, ClusterFailed, NewerDatabase) as error:
        print(f"oak start: {error}", file=sys.stderr)
        return 1
    finally:
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        stack.stop()


if __name__ == "__main__":
    sys.exit(main())
