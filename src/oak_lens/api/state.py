"""The services of one application, and who is asking."""

from typing import cast

from flask import current_app, g

from ..core.errors import Fault, NotFound
from ..services.sign_ins import SignedIn
from ..storage.composition import Services

LOCAL_ACCOUNT = "local"


class NoSession(NotFound):
    """Nobody is signed in."""


def services() -> Services:
    return cast(Services, current_app.extensions["oak"])


def signed_in() -> SignedIn:
    """The browser that is asking. Raises NoSession."""
    found = g.get("signed_in")
    if not isinstance(found, SignedIn):
        raise NoSession([Fault("session.none", "", "This browser is not signed in. Open the address that ./oak start printed.")])
    return found


def who() -> str:
    """The account of this session. Raises NoSession."""
    return signed_in().account
