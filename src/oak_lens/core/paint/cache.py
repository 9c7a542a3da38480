"""A cache bounded by bytes, least recently used first out; many threads may ask at once."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, TypeVar

T = TypeVar("T")


class ByteCache:
    """Keeps what was built, by key, up to `limit` bytes. A value larger than the limit is returned but not kept."""

    def __init__(self, limit: int):
        self.limit = limit
        self._entries: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()
        self._building: dict[Hashable, threading.Lock] = {}

    @property
    def bytes(self) -> int:
        return self._bytes

    def get(self, key: Hashable, build: Callable[[], T], size: Callable[[T], int]) -> T:
        """The value of `key`, built by at most one thread at a time."""
        with self._lock:
            if key in self._entries:
                self._entries.move_to_end(key)
                return self._entries[key][0]  # type: ignore[no-any-return]
            building = self._building.setdefault(key, threading.Lock())
        with building:
            with self._lock:
                if key in self._entries:
                    return self._entries[key][0]  # type: ignore[no-any-return]
            value = build()
            self._keep(key, value, size(value))
            return value

    def _keep(self, key: Hashable, value: Any, size: int) -> None:
        with self._lock:
            self._building.pop(key, None)
            if size > self.limit:
                return
            self._entries[key] = (value, size)
            self._bytes += size
            while self._bytes > self.limit:
                _, (_, freed) = self._entries.popitem(last=False)
                self._bytes -= freed
