"""Pages that leave while something is on its way to them."""

from threading import Thread
from typing import Any, cast

import pytest
from simple_websocket import ConnectionClosed, Server
from wsproto.utilities import LocalProtocolError

from oak_lens.api.live import Live, refuse
from oak_lens.api.quiet import Quiet


class Leaving:
    """A socket that asks for nonsense, and shuts while it is answered."""

    def __init__(self, error: Exception):
        self.error, self.sent = error, 0

    def receive(self, timeout: float | None = None) -> str:
        return "{}"

    def _handle_events(self) -> bool:
        return False

    def send(self, data: Any) -> None:
        self.sent += 1
        raise self.error

    def close(self, reason: int) -> None:
        raise self.error


@pytest.mark.parametrize("error", [ConnectionClosed(), OSError(9, "Bad file descriptor"), LocalProtocolError("closed")])
def test_a_page_that_leaves_is_no_failure_of_the_server(error: Exception) -> None:
    socket = Leaving(error)
    Live(cast(Server, socket), cast(Any, None), cast(Any, None), Quiet(), "local", "p").run()
    assert socket.sent == 1
    refuse(cast(Server, socket))


class Parting(Leaving):
    """A socket whose page says goodbye while something is being sent to it."""

    def __init__(self) -> None:
        super().__init__(ConnectionClosed())
        self.order: list[str] = []
        self.goodbye = Thread(target=lambda: self._handle_events())

    def receive(self, timeout: float | None = None) -> str:
        if self.goodbye.is_alive() or self.order:
            raise ConnectionClosed
        return "{}"

    def send(self, data: Any) -> None:
        self.goodbye.start()
        self.goodbye.join(0.2)
        self.order.append("sent")

    def _handle_events(self) -> bool:
        self.order.append("answered")
        return False


def test_what_is_being_sent_goes_before_the_answer_to_a_goodbye() -> None:
    socket = Parting()
    Live(cast(Server, socket), cast(Any, None), cast(Any, None), Quiet(), "local", "p").run()
    socket.goodbye.join()
    assert socket.order == ["sent", "answered"]
