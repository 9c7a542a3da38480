"""The live socket: what is tried is shown and never stored; bad requests are answered; strangers are not."""

import json
import struct
import urllib.request
from collections.abc import Iterator
from typing import Any

import pytest
from simple_websocket import Client, ConnectionClosed, ConnectionError

from .conftest import Running

TICKS = 705_600_000


class Visitor:
    """A signed-in program without a browser."""

    def __init__(self, running: Running):
        self.origin = f"http://127.0.0.1:{running.stack.port}"
        opener = urllib.request.build_opener(NoRedirect)
        with opener.open(running.stack.address) as answer:
            self.cookie = answer.headers["Set-Cookie"].split(";")[0]
        self.project = next(p["id"] for p in self.get("/api/projects")["projects"] if p["scenes"] == 17)

    def get(self, path: str) -> Any:
        request = urllib.request.Request(self.origin + path, headers={"Cookie": self.cookie})
        with urllib.request.urlopen(request) as answer:
            return json.load(answer)

    def socket(self, origin: str | None = None) -> Client:
        return Client(
            f"{self.origin.replace('http', 'ws')}/api/projects/{self.project}/live",
            headers={"Cookie": self.cookie, "Origin": origin or self.origin},
        )


class NoRedirect(urllib.request.HTTPRedirectHandler):
    def http_error_302(self, req: Any, fp: Any, code: int, msg: str, headers: Any) -> Any:
        return fp


def receive(socket: Client) -> tuple[dict[str, Any], bytes]:
    data = socket.receive(timeout=20)
    assert isinstance(data, bytes)
    (length,) = struct.unpack(">I", data[:4])
    return json.loads(data[4 : 4 + length]), data[4 + length :]


@pytest.fixture(scope="module")
def visitor(running: Running) -> Visitor:
    return Visitor(running)


@pytest.fixture
def socket(visitor: Visitor) -> Iterator[Client]:
    made = visitor.socket()
    yield made
    made.close()


def ask(socket: Client, **message: Any) -> tuple[dict[str, Any], bytes]:
    socket.send(json.dumps({"kind": "frame", "sequence": 1, "at": 0, "width": 320, "show": "film", **message}))
    return receive(socket)


def test_a_frame_comes_with_the_geometry_to_draw_over_it(socket: Client) -> None:
    header, picture = ask(socket, scene="s06", at=20 * TICKS)
    assert picture[:2] == b"\xff\xd8" and header["scene"] == "s06" and header["at"] == 20 * TICKS
    assert len(header["geometry"]["layers"][0]["corners"]) == 4 and len(header["geometry"]["views"][0]["closing"]) == 4


def test_what_is_tried_is_shown_and_never_stored(socket: Client, visitor: Visitor) -> None:
    before = visitor.get(f"/api/projects/{visitor.project}")
    tried = [{"edit": "set_photos", "photos": [{"scene": "s06", "layer": "photo"}], "placement": {"x": 0.3}}]
    plain, tried_picture = ask(socket, scene="s06", at=20 * TICKS), ask(socket, scene="s06", at=20 * TICKS, edits=tried)
    moved = [
        b[0] - a[0]
        for a, b in zip(plain[0]["geometry"]["layers"][0]["corners"], tried_picture[0]["geometry"]["layers"][0]["corners"], strict=True)
    ]
    assert moved == pytest.approx([0.3] * 4) and plain[1] != tried_picture[1]
    assert visitor.get(f"/api/projects/{visitor.project}") == before


def test_both_ends_of_a_scene_come_together(socket: Client) -> None:
    first = ask(socket, scene="s06", show="ends")
    second = receive(socket)
    assert (first[0]["show"], second[0]["show"]) == ("opening", "closing") and first[1] != second[1]


@pytest.mark.parametrize("message", [{"edits": [{"edit": "fly"}]}, {"at": "soon"}, {"width": None}, {"edits": "none"}])
def test_bad_requests_are_answered_and_the_talk_goes_on(socket: Client, message: dict[str, Any]) -> None:
    header, picture = ask(socket, **message)
    assert header["fault"].endswith(".") and not picture
    assert ask(socket)[1]


def test_playing_sends_frames_in_order_and_skips_what_is_late(socket: Client) -> None:
    socket.send(json.dumps({"kind": "play", "sequence": 5, "frame": 10, "last": 60, "width": 160}))
    frames = [receive(socket)[0]["frame"] for _ in range(6)]
    assert frames == list(range(10, 16))
    socket.send(json.dumps({"kind": "clock", "frame": 45}))
    later = [receive(socket)[0]["frame"] for _ in range(15)]
    assert later == sorted(later) and any(b - a > 1 for a, b in zip([frames[-1], *later], later, strict=False)) and later[-1] > 45
    socket.send(json.dumps({"kind": "stop"}))


def test_other_pages_and_strangers_get_nothing(visitor: Visitor, running: Running) -> None:
    with pytest.raises((ConnectionClosed, ConnectionError)):
        visitor.socket("http://elsewhere.example").receive(timeout=5)
    stranger = Visitor(running)
    stranger.cookie = "none=1"
    with pytest.raises((ConnectionClosed, ConnectionError)):
        stranger.socket().receive(timeout=5)
