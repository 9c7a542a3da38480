"""The live socket: what is tried is shown and never stored; bad requests are answered; strangers are not."""

import http.client
import itertools
from typing import Any

import pytest
from playwright.sync_api import Page

from .conftest import Running, call, demo

TICKS = 705_600_000

TALK = """async ([project, steps]) => {
  const socket = new WebSocket(`${location.origin.replace('http', 'ws')}/api/projects/${project}/live`);
  socket.binaryType = 'arraybuffer';
  const inbox = [], waiting = [];
  socket.onmessage = e => { const w = waiting.shift(); w ? w(e.data) : inbox.push(e.data) };
  await new Promise((done, fail) => { socket.onopen = done; socket.onclose = () => fail(new Error('closed')) });
  const heard = [];
  for (const step of steps) {
    if (step.edits && step.base) {
      const token = (await (await fetch('/api/session')).json()).token;
      await fetch(`/api/projects/${project}/edits`, {method: 'POST', headers: {'Content-Type': 'application/json', 'X-Oak-Token': token}, body: JSON.stringify(step)});
      continue;
    }
    if (typeof step === 'object') { socket.send(JSON.stringify(step)); continue }
    for (let i = 0; i < step; i += 1) {
      const data = inbox.length ? inbox.shift() : await new Promise((done, fail) => { waiting.push(done); setTimeout(() => fail(new Error('no answer')), 60000) });
      const length = new DataView(data).getUint32(0);
      const bytes = new Uint8Array(data, 4 + length);
      heard.push([JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length))), Array.from(bytes)]);
    }
  }
  socket.close();
  return heard;
}"""


class Desk:
    """The demo's live socket, opened by the page."""

    def __init__(self, page: Page):
        self.page = page
        self.project = demo(page)
        page.goto("/")

    def talk(self, *steps: dict[str, Any] | int) -> list[tuple[dict[str, Any], list[int]]]:
        """Messages are sent, edits with their base stored, numbers are how many answers to wait for."""
        return [(header, data) for header, data in self.page.evaluate(TALK, [self.project, list(steps)])]


def frame(**message: Any) -> dict[str, Any]:
    return {"kind": "frame", "sequence": 1, "at": 0, "width": 320, "show": "film", **message}


@pytest.fixture
def desk(page: Page) -> Desk:
    return Desk(page)


def test_a_frame_comes_with_the_geometry_to_draw_over_it(desk: Desk) -> None:
    (header, picture), (drawn, nothing) = desk.talk(frame(scene="s06", at=20 * TICKS), 2)
    assert picture[:2] == [0xFF, 0xD8] and header["scene"] == "s06" and header["at"] == 20 * TICKS
    assert (drawn["scene"], drawn["at"], nothing) == ("s06", 20 * TICKS, [])
    assert len(drawn["geometry"]["layers"][0]["corners"]) == 4 and len(drawn["geometry"]["views"][0]["closing"]) == 4


def test_what_is_tried_is_shown_and_never_stored(desk: Desk) -> None:
    before = call(desk.page, "GET", f"/api/projects/{desk.project}")
    tried = [{"edit": "set_layers", "layers": [{"scene": "s06", "layer": "photo"}], "placement": {"x": 0.3}}]
    plain, one, moved, other = desk.talk(frame(scene="s06", at=20 * TICKS), frame(scene="s06", at=20 * TICKS, edits=tried), 4)
    corners = [answer[0]["geometry"]["layers"][0]["corners"] for answer in (one, other)]
    assert [b[0] - a[0] for a, b in zip(*corners, strict=True)] == pytest.approx([0.3] * 4) and plain[1] != moved[1]
    assert call(desk.page, "GET", f"/api/projects/{desk.project}") == before


def test_a_drag_that_has_been_stored_is_not_done_to_its_own_outcome_again(desk: Desk) -> None:
    """The last request of a drag may reach the server after the drag was stored."""
    desk.project = call(desk.page, "POST", "/api/projects", {"copy_of": desk.project})["id"]
    base = call(desk.page, "GET", f"/api/projects/{desk.project}")["revision"]
    nudge = [{"edit": "nudge_layers", "layers": [{"scene": "s06", "layer": "photo"}], "by": [0.1, 0.0], "at": 20 * TICKS}]
    trial = frame(scene="s06", at=20 * TICKS, edits=nudge, revision=base)
    told = desk.talk(trial, 2, {"base": base, "edits": nudge}, trial, frame(scene="s06", at=20 * TICKS, revision=base + 1), 4)
    corners = [header["geometry"]["layers"][0]["corners"] for header, _ in told if "geometry" in header]
    assert corners[0] == corners[1] == corners[2]


def test_both_ends_of_a_scene_come_together(desk: Desk) -> None:
    first, second, _ = desk.talk(frame(scene="s06", show="ends"), 3)
    assert (first[0]["show"], second[0]["show"]) == ("opening", "closing") and first[1] != second[1]


@pytest.mark.parametrize("message", [{"edits": [{"edit": "fly"}]}, {"at": "soon"}, {"width": None}, {"edits": "none"}])
def test_bad_requests_are_answered_and_the_talk_goes_on(desk: Desk, message: dict[str, Any]) -> None:
    (header, picture), (_, good), _ = desk.talk(frame(**message), 1, frame(), 2)
    assert header["fault"].endswith(".") and not picture and good


def test_playing_sends_frames_in_order_and_skips_what_is_late(desk: Desk) -> None:
    # A second ahead may be on its way before the clock is heard; on a slow machine half a second after it is passed over, so it goes on.
    play, clocks = {"kind": "play", "sequence": 5, "frame": 10, "last": 400, "width": 160}, [{"kind": "clock", "frame": n} for n in (300, 320)]
    heard = desk.talk(play, 6, clocks[0], 12, clocks[1], 13, {"kind": "stop"})
    frames = [header["frame"] for header, _ in heard]
    assert frames[:6] == list(range(10, 16)) and frames == sorted(set(frames)) and frames[-1] > 300
    assert max(b - a for a, b in itertools.pairwise(frames)) > 1


def test_other_pages_and_strangers_get_nothing(desk: Desk, running: Running) -> None:
    cookies = {c["name"]: c["value"] for c in desk.page.context.cookies()}
    host = running.origin.removeprefix("http://")

    def knock(origin: str, cookie: str) -> bytes:
        connection = http.client.HTTPConnection(host, timeout=10)
        upgrade = {
            "Connection": "Upgrade",
            "Upgrade": "websocket",
            "Sec-WebSocket-Key": "AAAAAAAAAAAAAAAAAAAAAA==",
            "Sec-WebSocket-Version": "13",
        }
        connection.request("GET", f"/api/projects/{desk.project}/live", headers={**upgrade, "Origin": origin, "Cookie": cookie})
        assert connection.sock
        connection.sock.settimeout(3)
        received = b""
        try:
            while chunk := connection.sock.recv(4096):
                received += chunk
        except TimeoutError:
            received += b"<open>"
        connection.close()
        return received

    signed = "; ".join(f"{name}={value}" for name, value in cookies.items() if name.startswith("oak_"))
    assert knock(f"http://{host}", signed).endswith(b"<open>"), "the page itself stays connected"
    assert not knock("http://elsewhere.example", signed).endswith(b"<open>")
    assert not knock(f"http://{host}", "oak_session=forged").endswith(b"<open>")
