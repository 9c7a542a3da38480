"""One process that has read every module and loaded the painter: servers and workers are forked from it, in milliseconds.

What it has read they share: each costs a tenth of the memory it would take by itself. It has one thread, and no connection of any kind.
"""

import atexit
import contextlib
import gc
import json
import os
import select
import signal
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NoReturn

ROOT = Path(__file__).resolve().parents[3]
LONGEST_ORDER = 1 << 14
"""Bytes."""

BEGIN_SECONDS = 60
"""For all to be read, on a machine that is busy with other things."""


class NurseryFailed(Exception):
    """It does not answer. The message says what its last words are found in."""


class Child:
    """A process that was forked for us: it is not ours, so it is told by a descriptor and not waited for."""

    def __init__(self, pid: int):
        self.pid = pid
        self._descriptor: int | None = None
        with contextlib.suppress(ProcessLookupError):  # it has ended already
            self._descriptor = os.pidfd_open(pid)

    def ended(self, seconds: float = 0.0) -> bool:
        """Whether it has ended, or does so within `seconds`."""
        if self._descriptor is None:
            return True
        if not select.select([self._descriptor], [], [], seconds)[0]:
            return False
        os.close(self._descriptor)
        self._descriptor = None
        return True

    def tell(self, number: signal.Signals) -> None:
        """Sends a signal; one that has ended hears nothing."""
        if self._descriptor is not None:
            with contextlib.suppress(ProcessLookupError):
                signal.pidfd_send_signal(self._descriptor, number)

    def kill(self) -> None:
        """Ends it at once."""
        self.tell(signal.SIGKILL)
        self.ended(BEGIN_SECONDS)


class Nursery:
    """Ours, begun when it is first asked for and again when it was killed. It goes when this process goes; what it has begun stays."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._line: socket.socket | None = None

    @property
    def pid(self) -> int | None:
        return self._process.pid if self._process else None

    def begin(self) -> None:
        """Lets it read, while we do something else."""
        with self._lock:
            self._ready()

    def fork(self, role: str, environment: dict[str, str], log: Path) -> Child:
        """Begins a process: `role` "server", "tidying" or "worker…"; its output is appended to `log`, `environment` is what it has beyond ours.

        Raises NurseryFailed.
        """
        order = json.dumps([role, environment, str(log)]).encode()
        for _ in range(2):
            with self._lock:
                line = self._ready()
                try:
                    line.send(order)
                    answer = line.recv(64)
                except OSError:
                    answer = b""
            if answer:
                return Child(int(answer))
            self.end()
        raise NurseryFailed("Processes cannot be begun: what they are begun from ended twice. Its last words stand above.")

    def end(self) -> None:
        """Closes the line, on which it goes."""
        with self._lock:
            if self._process is None or self._line is None:
                return
            self._line.close()
            self._process.kill()
            self._process.wait()
            self._process = self._line = None

    def _ready(self) -> socket.socket:
        if self._process is not None and self._process.poll() is not None and self._line is not None:
            self._line.close()
            self._process = self._line = None
        if self._line is None:
            # Messages keep their bounds.
            self._line, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
            self._line.settimeout(BEGIN_SECONDS)
            environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "OPENCV_LOG_LEVEL": "ERROR"}
            # Its own session: Ctrl-C reaches this process alone, which ends all in order.
            self._process = subprocess.Popen(
                [sys.executable, "-m", "oak_lens.stack.nursery", str(theirs.fileno())],
                cwd=ROOT, env=environment, stdin=subprocess.DEVNULL, start_new_session=True, pass_fds=[theirs.fileno()],
            )  # fmt: skip
            theirs.close()
        return self._line


nursery = Nursery()
"""One for all that this process starts."""
atexit.register(nursery.end)


def read_everything() -> None:
    """Every module of servers and workers, and the compiled painter; no thread is begun."""
    import cv2
    import procrastinate  # noqa: F401
    from gunicorn.workers import gthread  # noqa: F401

    from ..api import server  # noqa: F401
    from ..core.paint.warming import warm_up
    from ..media import rendering  # noqa: F401
    from ..storage import composition, queue  # noqa: F401
    from . import tidying  # noqa: F401

    threads = cv2.getNumThreads()
    # Threads do not survive a fork: none may be begun here.
    cv2.setNumThreads(1)
    warm_up()
    cv2.setNumThreads(threads)


def _become(role: str, environment: dict[str, str]) -> NoReturn:
    """The forked process, from here to its end."""
    try:
        os.setsid()
        os.umask(0o077)
        os.environ.update(environment)
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        Path("/proc/self/comm").write_text(f"oak-{role}"[:15])
        if role == "server":
            from ..api.server import serve

            serve()
        elif role == "tidying":
            from .tidying import tidy

            tidy()
        else:
            from ..worker.__main__ import main as work

            work()
    except SystemExit as left:
        os._exit(left.code if isinstance(left.code, int) else 1)
    except BaseException:
        sys.excepthook(*sys.exc_info())
        os._exit(1)
    os._exit(0)


def main() -> None:
    """Reads, then forks whenever it is told to on the line whose descriptor is its argument, until that is closed."""
    line = socket.socket(fileno=int(sys.argv[1]))
    names: dict[int, str] = {}

    def reap(*_: Any) -> None:
        with contextlib.suppress(ChildProcessError):
            while (found := os.waitpid(-1, os.WNOHANG))[0]:
                name, code = names.pop(found[0]), os.waitstatus_to_exitcode(found[1])
                if code not in (0, -signal.SIGTERM):  # as they are told to
                    print(f"{name} ended with exit code {code}", file=sys.stderr, flush=True)

    gc.disable()
    read_everything()
    # What is shared is not looked through by the collector, which would make it each process's own.
    gc.collect()
    gc.freeze()
    signal.signal(signal.SIGCHLD, reap)
    while order := line.recv(LONGEST_ORDER):
        role, environment, log = json.loads(order)
        signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGCHLD})
        with _said_into(log) as ours:
            pid = os.fork()
            if not pid:
                line.close()
                for number in ours:
                    os.close(number)
                signal.pthread_sigmask(signal.SIG_UNBLOCK, {signal.SIGCHLD})
                _become(role, environment)
        names[pid] = role
        signal.pthread_sigmask(signal.SIG_UNBLOCK, {signal.SIGCHLD})
        line.send(str(pid).encode())


@contextlib.contextmanager
def _said_into(log: str) -> Iterator[list[int]]:
    """What is forked meanwhile says into its log all that it says: by that it is known, from its first moment on, as one of this home folder.
    Gives where we say what we say."""
    kept = [os.dup(1), os.dup(2)]
    out = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
    for number in (1, 2):
        os.dup2(out, number)
    os.close(out)
    yield kept
    for number, was in zip((1, 2), kept, strict=True):
        os.dup2(was, number)
        os.close(was)


if __name__ == "__main__":
    main()
