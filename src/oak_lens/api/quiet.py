"""How long the server has been left alone: what nobody waits for is done then."""

from time import monotonic

from flask import Flask


class Quiet:
    """`heard` at each request and message; safe to use from several threads."""

    def __init__(self) -> None:
        self._last = monotonic()

    def heard(self) -> None:
        self._last = monotonic()

    @property
    def seconds(self) -> float:
        return monotonic() - self._last


def quiet_of(app: Flask) -> Quiet:
    """The application's own; it hears of every request from then on."""
    if "quiet" not in app.extensions:
        quiet = app.extensions["quiet"] = Quiet()
        app.before_request(quiet.heard)
    found = app.extensions["quiet"]
    assert isinstance(found, Quiet)
    return found
