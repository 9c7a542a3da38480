"""The live socket: frames while scrubbing, dragging and playing.

The browser sends JSON: `frame` (one picture, perhaps with edits that are only tried), `play`, `clock`, `stop`. Each answer is one
binary message: length of the header (4 bytes, big endian), header (JSON), JPEG.
"""

import json
import struct
import threading
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from math import ceil
from time import perf_counter
from typing import Any

from flask import Flask, request
from flask_sock import Sock
from simple_websocket import ConnectionClosed, Server

from ..core.document import Document
from ..core.draw import Picturing
from ..core.edits import LayerRef, apply_edits, parse_edits
from ..core.errors import OakError
from ..core.evaluate import Timeline, film_at, scene_at, timeline_of
from ..core.paint.painter import Below
from ..core.time import TICKS_PER_SECOND, frame_start
from ..services.watching import EMPTY_GEOMETRY, Wanted, geometry_of, scene_ends
from .state import Services, services, who

AHEAD = 30
"""Frames sent ahead of the browser's clock: a second of them outlasts a join that takes long to paint."""

POLICY_VIOLATION = 1008
PAINT_THREADS = 3
KNOWN_REVISIONS = 2
"""Revisions of the document, besides the newest, on which edits may still be tried."""

NARROWEST_PX, WIDEST_PX = 64, 1920
MOST_CURVES = 40


def add_live_socket(app: Flask) -> None:
    """`/api/projects/<project>/live`."""
    sock = Sock(app)
    app.config["SOCK_SERVER_OPTIONS"] = {"ping_interval": 20, "max_message_size": 1 << 20}
    pool = ThreadPoolExecutor(PAINT_THREADS, "paint")

    @sock.route("/api/projects/<project>/live")
    def live(socket: Server, project: str) -> None:
        try:
            account = who()
            services().projects.read(account, project)
        except OakError:
            # The handshake is over: an error page would be sent into an open socket.
            socket.close(POLICY_VIOLATION)
            return
        if request.headers.get("Origin", "").partition("://")[2] != request.host:
            socket.close(POLICY_VIOLATION)
            return
        Live(socket, services(), pool, account, project).run()


class Live:
    """One socket's conversation. A single thread reads; playing has a thread of its own; sending is locked."""

    def __init__(self, socket: Server, all_services: Services, pool: ThreadPoolExecutor, account: str, project: str):
        self._socket, self._services, self._pool = socket, all_services, pool
        self._account, self._project = account, project
        self._send_lock = threading.Lock()
        self._playing: Playing | None = None
        self._known: dict[int, Document] = {}

    def run(self) -> None:
        try:
            while True:
                message = json.loads(self._socket.receive())
                self._handle(message if isinstance(message, dict) else {})
        except (ConnectionClosed, ValueError, TypeError):
            pass
        finally:
            self._stop()

    def _handle(self, message: dict[str, Any]) -> None:
        kind = message.get("kind")
        if kind == "clock" and self._playing:
            self._playing.clock(int(message.get("frame", 0)))
            return
        if kind in ("frame", "play", "stop"):
            self._stop()
        sequence = message.get("sequence", 0)
        try:
            if kind == "frame":
                self._pool.submit(self._answer_frame, message).result()
            elif kind == "play":
                document = self._document(message)
                width = _width(message)
                self._playing = Playing(
                    self._services,
                    self._pool,
                    self._project,
                    document,
                    width,
                    int(message["frame"]),
                    int(message["last"]),
                    lambda header, data: self._send({"sequence": sequence, **header}, data),
                )
        except OakError as error:
            self._send({"sequence": sequence, "fault": error.faults[0].message}, b"")
        except (KeyError, ValueError, TypeError) as error:
            self._send({"sequence": sequence, "fault": f"The request cannot be read: {error}."}, b"")

    def _stop(self) -> None:
        if self._playing:
            self._playing.stop()
            self._playing = None

    def _document(self, message: dict[str, Any]) -> Document:
        head, document = self._services.projects.read(self._account, self._project)
        self._known = {**dict(list(self._known.items())[-KNOWN_REVISIONS:]), head.revision: document}
        tried = message.get("edits")
        if not tried:
            return document
        # Tried on the revision they were made on: a drag that has just been stored must not be done to its own outcome once more.
        return apply_edits(self._known.get(message.get("revision", head.revision), document), parse_edits(tried))

    def _answer_frame(self, message: dict[str, Any]) -> None:
        """`show`: `film` at `at` ticks, `opening` or `closing` of `scene`, or both ends side by side in two answers."""
        document = self._document(message)
        timeline = timeline_of(document)
        below: Below = "chequered" if message.get("below") == "chequered" else "black"
        scene = message.get("scene") if message.get("scene") in document.scenes else None
        at = int(message.get("at", 0))
        base = {"sequence": message.get("sequence", 0), "at": at, "scene": scene}
        geometry = geometry_of(document, timeline, scene, at, _wanted(message)) if scene else EMPTY_GEOMETRY
        for show, picturing in _pictured(document, timeline, message.get("show", "film"), scene, at):
            data = self._services.watching.jpeg(self._project, document, picturing, _width(message), below)
            self._send({**base, "show": show, "geometry": geometry}, data)

    def _send(self, header: dict[str, Any], data: bytes) -> None:
        encoded = json.dumps(header).encode()
        with self._send_lock:
            self._socket.send(struct.pack(">I", len(encoded)) + encoded + data)


def _pictured(document: Document, timeline: Timeline, show: str, scene: str | None, at: int) -> list[tuple[str, Picturing]]:
    if show == "ends" and scene:
        opening, closing = scene_ends(document, timeline, scene)
        return [("opening", opening), ("closing", closing)]
    if show == "scene" and scene and (span := timeline.span_of(scene)):
        # The chosen scene alone, even where a join mixes it with its neighbour.
        return [("scene", scene_at(document, scene, span.own(at), span.own_length))]
    return [("film", film_at(document, timeline, at))]


def _dragged(message: dict[str, Any]) -> LayerRef | None:
    """The layer that tried edits drag."""
    for tried in message.get("edits") or ():
        if isinstance(tried, dict) and tried.get("edit") == "drag_layer":
            return LayerRef(scene=str(tried.get("scene")), layer=str(tried.get("layer")))
    return None


def _wanted(message: dict[str, Any]) -> Wanted:
    """What else is to be sent with a frame."""
    curves = message.get("curves") or ()
    ghosts = message.get("ghosts") or ()
    return Wanted(
        _dragged(message),
        bool(message.get("lanes")),
        frozenset(str(c) for c in list(curves)[:MOST_CURVES]),
        frozenset((str(g["scene"]), str(g["layer"])) for g in list(ghosts)[:MOST_CURVES]),
        bool(message.get("plan")),
    )


def _width(message: dict[str, Any]) -> int:
    return min(max(int(message.get("width", 960)), NARROWEST_PX), WIDEST_PX)


class Playing:
    """Frames from one to another, painted a little ahead of the browser's clock, sent in order."""

    def __init__(
        self,
        all_services: Services,
        pool: ThreadPoolExecutor,
        project: str,
        document: Document,
        width: int,
        first: int,
        last: int,
        send: Callable[[dict[str, Any], bytes], None],
    ):
        self._services, self._pool, self._project, self._document, self._width = all_services, pool, project, document, width
        self._timeline = timeline_of(document)
        self._next, self._last, self._send = max(first, 0), min(last, self._timeline.frames), send
        self._clock, self._wake, self._stopped = first, threading.Condition(), False
        self._spent = 0.0
        threading.Thread(target=self._run, daemon=True).start()

    def clock(self, frame: int) -> None:
        with self._wake:
            self._clock = frame
            self._wake.notify()

    def stop(self) -> None:
        with self._wake:
            self._stopped = True
            self._wake.notify()

    def _run(self) -> None:
        waiting: list[tuple[int, Future[tuple[bytes, float]]]] = []
        try:
            while not self._stopped and (waiting or self._next < self._last):
                with self._wake:
                    if self._next < self._clock:
                        # Late: pass over what could not be shown in time any more, and over what would be too late when it is painted.
                        self._next = self._clock + ceil(self._spent / self._timeline.rate.frame_ticks * TICKS_PER_SECOND)
                    while len(waiting) < PAINT_THREADS and self._next < min(self._last, self._clock + AHEAD):
                        waiting.append((self._next, self._pool.submit(self._paint, self._next)))
                        self._next += 1
                    if not waiting:
                        self._wake.wait(0.05)
                        continue
                frame, future = waiting.pop(0)
                data, self._spent = future.result()
                if not self._stopped:
                    self._send({"frame": frame}, data)
        except OakError as error:
            self._send({"fault": error.faults[0].message}, b"")
        except ConnectionClosed:
            pass

    def _paint(self, frame: int) -> tuple[bytes, float]:
        """(JPEG, seconds it took)."""
        began = perf_counter()
        picturing = film_at(self._document, self._timeline, frame_start(frame, self._timeline.rate))
        return self._services.watching.jpeg(self._project, self._document, picturing, self._width), perf_counter() - began
