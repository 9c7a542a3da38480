"""The live socket: frames while scrubbing, dragging and playing; its messages are in `messages.py`."""

import threading
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import suppress
from math import ceil
from time import perf_counter
from typing import Any, Literal

from flask import Flask, request
from flask_sock import Sock
from simple_websocket import ConnectionClosed, Server
from wsproto.utilities import LocalProtocolError

from ..core.document import Document
from ..core.draw import Picturing
from ..core.edits import LayerRef, apply_edits, parse_edits
from ..core.errors import OakError
from ..core.evaluate import Timeline, as_written, film_at, scene_at, timeline_of
from ..core.time import TICKS_PER_SECOND, frame_start
from ..services.watching import NOTHING_DRAWN, Wanted, geometry_of, scene_ends
from ..storage.database import AWAY
from .messages import (
    ClockMessage,
    FaultAnswer,
    FrameAnswer,
    FrameMessage,
    GeometryAnswer,
    PlayedFrame,
    PlayMessage,
    SocketAnswer,
    StopMessage,
    UnreadableMessage,
    answer_bytes,
    message_of,
)
from .played_size import PlayedSize
from .quiet import Quiet, quiet_of
from .state import Services, services, who

AHEAD = 30
"""Frames sent ahead of the browser's clock: a second of them outlasts a join that takes long to paint."""

POLICY_VIOLATION = 1008
PAINT_THREADS = 3

MOST_DRAWN = 40
"""Curves of lanes, and ghosts of layers, that are sent with a frame; a scene may have more, and is shown all the same."""

BURST_SECONDS = 0.15
"""What the database was asked this long ago is not asked again, unless the page knows of something newer."""

RESTED_SECONDS = 1.5
"""When nothing has been asked for so long, scenes are prepared for what will be."""

ANSWER_SECONDS = 1.0
"""What a page says is answered after this at the latest, though something is being sent."""

REST_WIDTH = 480
"""Pixels across that are asked for while a pointer moves."""

KNOWN_REVISIONS = 2
"""Revisions of the document, besides the newest, on which edits may still be tried."""

GONE = (OSError, LocalProtocolError)
"""What sending says, besides `ConnectionClosed`, when the page is gone or going: its thread may have shut the socket at that moment."""


def add_live_socket(app: Flask) -> None:
    """`/api/projects/<project>/live`."""
    sock = Sock(app)
    app.config["SOCK_SERVER_OPTIONS"] = {"ping_interval": 20, "max_message_size": 1 << 20}
    pool, quiet = ThreadPoolExecutor(PAINT_THREADS, "paint"), quiet_of(app)

    @sock.route("/api/projects/<project>/live")
    def live(socket: Server, project: str) -> None:
        try:
            account = who()
            services().projects.read(account, project)
        except OakError:
            # The handshake is over: an error page would be sent into an open socket.
            refuse(socket)
            return
        if request.headers.get("Origin", "").partition("://")[2] != request.host:
            refuse(socket)
            return
        Live(socket, services(), pool, quiet, account, project).run()


def refuse(socket: Server) -> None:
    """Closes it, and takes it as well if the page closed first."""
    with suppress(ConnectionClosed, *GONE):
        socket.close(POLICY_VIOLATION)


def sent_in_order(socket: Server) -> threading.Lock:
    """The lock to send under. The socket's own thread, which answers a page that says goodbye, takes it too: a frame that is being sent at that
    moment goes before the answer, not after it, which browsers call a fault."""
    sending, answer = threading.Lock(), socket._handle_events

    def in_order() -> bool:
        # Not for ever: where a page does not take what is sent to it, what it says is heard all the same.
        mine = sending.acquire(timeout=ANSWER_SECONDS)
        try:
            going_on: bool = answer()
            return going_on
        finally:
            if mine:
                sending.release()

    socket._handle_events = in_order
    return sending


class Live:
    """One socket's conversation. A single thread reads; playing has a thread of its own; sending is locked."""

    def __init__(self, socket: Server, all_services: Services, pool: ThreadPoolExecutor, quiet: Quiet, account: str, project: str):
        self._socket, self._services, self._pool, self._quiet = socket, all_services, pool, quiet
        self._account, self._project = account, project
        self._sending = sent_in_order(socket)
        self._playing: Playing | None = None
        self._known: dict[int, Document] = {}
        self._read_at, self._revision, self._at = -BURST_SECONDS, -1, 0

    def run(self) -> None:
        try:
            while True:
                message = self._heard(RESTED_SECONDS)
                if message is None and self._playing is None:
                    message = self._rest()
                if message is not None:
                    self._handle(message)
        except ConnectionClosed:
            # The page is gone, perhaps while something was being sent to it.
            pass
        finally:
            self._stop()

    def _rest(self) -> str | bytes | None:
        """Nothing is asked for: scene by scene is prepared, until there is something to do again. Gives what came."""
        # Where the database is away nothing is prepared: whoever asks for something is told.
        with suppress(OakError, *AWAY):
            document = self._document(None, None)
            for prepare in self._services.watching.cold(document, self._at, REST_WIDTH):
                # Other pages and other requests go first, and two thirds of the time are left to what the page does by itself.
                while self._quiet.seconds < RESTED_SECONDS:
                    if (message := self._heard(RESTED_SECONDS)) is not None:
                        return message
                began = perf_counter()
                self._pool.submit(prepare).result()
                if (message := self._heard(2.0 * (perf_counter() - began))) is not None:
                    return message
        return self._heard(None)

    def _heard(self, seconds: float | None) -> str | bytes | None:
        """The next message; None if there is none within so many seconds."""
        message: str | bytes | None = self._socket.receive(timeout=seconds)
        return message

    def _handle(self, text: str | bytes) -> None:
        self._quiet.heard()
        try:
            message = message_of(text)
        except UnreadableMessage as error:
            self._send(FaultAnswer(error.sequence, f"The request cannot be read: {error}."))
            return
        if isinstance(message, ClockMessage):
            if self._playing:
                self._playing.clock(message.frame)
            return
        self._stop()
        if isinstance(message, StopMessage):
            return
        try:
            if isinstance(message, FrameMessage):
                self._pool.submit(self._answer_frame, message).result()
            else:
                self._playing = Playing(self._services, self._pool, self._project, self._document(None, None), message, self._send)
        except OakError as error:
            self._send(FaultAnswer(message.sequence, error.faults[0].message))

    def _stop(self) -> None:
        if self._playing:
            self._playing.stop()
            self._playing = None

    def _document(self, tried: list[dict[str, Any]] | None, revision: int | None) -> Document:
        now = perf_counter()
        if now - self._read_at > BURST_SECONDS or revision is None or revision > self._revision:
            head, document = self._services.projects.read(self._account, self._project)
            self._known = {**dict(list(self._known.items())[-KNOWN_REVISIONS:]), head.revision: document}
            self._read_at, self._revision = now, head.revision
        document = self._known[self._revision]
        if not tried:
            return document
        # Tried on the revision they were made on: a drag that has just been stored must not be done to its own outcome once more.
        document = apply_edits(self._known.get(self._revision if revision is None else revision, document), parse_edits(tried))
        self._services.placeholders.bring(document)
        return document

    def _answer_frame(self, message: FrameMessage) -> None:
        self._at = message.at
        document = self._document(message.edits, message.revision)
        if message.writing is not None:
            document = as_written(document, message.writing.scene, message.writing.layer)
        timeline = timeline_of(document)
        scene = message.scene if message.scene in document.scenes else None
        for show, picturing in _pictured(document, timeline, message.show, scene, message.at):
            data = self._services.watching.jpeg(document, picturing, message.width, message.below)
            self._send(FrameAnswer(message.sequence, message.at, scene, show), data)
        geometry = geometry_of(document, timeline, scene, message.at, _wanted(message)) if scene else NOTHING_DRAWN
        self._send(GeometryAnswer(message.sequence, message.at, scene, geometry))

    def _send(self, answer: SocketAnswer, picture: bytes = b"") -> None:
        encoded = answer_bytes(answer, picture)
        try:
            with self._sending:
                self._socket.send(encoded)
        except GONE as error:
            raise ConnectionClosed from error


Shown = Literal["film", "scene", "opening", "closing"]


def _pictured(document: Document, timeline: Timeline, show: str, scene: str | None, at: int) -> list[tuple[Shown, Picturing]]:
    if show == "ends" and scene:
        opening, closing = scene_ends(document, timeline, scene)
        return [("opening", opening), ("closing", closing)]
    if show == "scene" and scene and (span := timeline.span_of(scene)):
        # The chosen scene alone, even where a join mixes it with its neighbour.
        return [("scene", scene_at(document, scene, span.own(at), span.own_length))]
    return [("film", film_at(document, timeline, at))]


def _dragged(edits: list[dict[str, Any]] | None) -> LayerRef | None:
    """The layer that tried edits drag."""
    for tried in edits or ():
        if tried.get("edit") == "drag_layer":
            return LayerRef(scene=str(tried.get("scene")), layer=str(tried.get("layer")))
    return None


def _wanted(message: FrameMessage) -> Wanted:
    """What else is to be sent with a frame."""
    ghosts = frozenset((g.scene, g.layer) for g in message.ghosts[:MOST_DRAWN])
    return Wanted(_dragged(message.edits), message.lanes, frozenset(message.curves[:MOST_DRAWN]), ghosts, message.plan, message.writing)


class Playing:
    """Frames from one to another, painted a little ahead of the browser's clock, sent in order."""

    def __init__(
        self,
        all_services: Services,
        pool: ThreadPoolExecutor,
        project: str,
        document: Document,
        message: PlayMessage,
        send: Callable[[SocketAnswer, bytes], None],
    ):
        self._services, self._pool, self._project, self._document = all_services, pool, project, document
        self._sequence, self._send = message.sequence, send
        self._size = PlayedSize(message.width, timeline_of(document).rate.frame_ticks / TICKS_PER_SECOND)
        self._timeline = timeline_of(document)
        self._next, self._last = message.frame, min(message.last, self._timeline.frames)
        self._clock, self._wake, self._stopped = message.frame, threading.Condition(), False
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
        waiting: list[tuple[int, int, Future[tuple[bytes, float]]]] = []
        try:
            while not self._stopped and (waiting or self._next < self._last):
                with self._wake:
                    if self._next < self._clock:
                        # Late: pass over what could not be shown in time any more, and over what would be too late when it is painted.
                        # No farther than is sent ahead, or after one frame that took long nothing would come until the clock is there.
                        late = ceil(self._spent / self._timeline.rate.frame_ticks * TICKS_PER_SECOND)
                        self._next = self._clock + min(late, AHEAD // 2)
                    while len(waiting) < PAINT_THREADS and self._next < min(self._last, self._clock + AHEAD):
                        width = self._size.width
                        waiting.append((self._next, width, self._pool.submit(self._paint, self._next, width)))
                        self._next += 1
                    if not waiting:
                        self._wake.wait(0.05)
                        continue
                frame, width, future = waiting.pop(0)
                data, self._spent = future.result()
                self._size.heed(width, self._spent, frame - self._clock)
                if not self._stopped:
                    self._send(PlayedFrame(self._sequence, frame), data)
        except OakError as error:
            self._send(FaultAnswer(self._sequence, error.faults[0].message), b"")
        except ConnectionClosed:
            pass

    def _paint(self, frame: int, width: int) -> tuple[bytes, float]:
        """(JPEG, seconds it took)."""
        began = perf_counter()
        picturing = film_at(self._document, self._timeline, frame_start(frame, self._timeline.rate))
        return self._services.watching.jpeg(self._document, picturing, width), perf_counter() - began
