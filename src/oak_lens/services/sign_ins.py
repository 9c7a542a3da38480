"""Who is asking: browsers are signed in once, by the address of this start, and known by a cookie from then on."""

import hashlib
import secrets
import threading
from dataclasses import dataclass
from time import monotonic

from .ports import SignInStore

ASKED_AGAIN_SECONDS = 20.0
"""For so long a browser is known without asking the database. Ended here, it is forgotten at once."""

MOST_REMEMBERED = 1000


@dataclass(frozen=True, slots=True)
class SignedIn:
    """A browser's account; `token` goes with whatever changes something."""

    key: str
    account: str
    token: str


class SignIns:
    """What browsers do to be known."""

    def __init__(self, store: SignInStore):
        self._store = store
        self._known: dict[str, tuple[float, SignedIn]] = {}
        self._lock = threading.Lock()

    def begin(self, account: str) -> str:
        """The word for a new browser's cookie."""
        word = secrets.token_urlsafe(32)
        self._store.add(_key(word), account, secrets.token_urlsafe(24))
        return word

    def find(self, word: str) -> SignedIn | None:
        key = _key(word)
        with self._lock:
            at, known = self._known.get(key, (0.0, None))
            if known is not None and monotonic() - at < ASKED_AGAIN_SECONDS:
                return known
        found = self._store.find(key)
        with self._lock:
            self._known.pop(key, None)
            if found is None:
                return None
            if len(self._known) >= MOST_REMEMBERED:
                self._known.clear()
            signed = SignedIn(key, *found)
            self._known[key] = monotonic(), signed
            return signed

    def end(self, signed: SignedIn, others: bool = False) -> None:
        """This browser is signed out, or all other browsers of its account."""
        self._store.end(signed.account, signed.key, others)
        with self._lock:
            for key, (_, known) in list(self._known.items()):
                if known.account == signed.account and (key != signed.key) == others:
                    del self._known[key]


def _key(word: str) -> str:
    return hashlib.sha256(word.encode()).hexdigest()
