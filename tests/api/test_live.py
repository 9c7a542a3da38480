"""Pages that leave while something is on its way to them."""

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
