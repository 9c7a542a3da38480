"""Order keys: strings that sort, with room between any two of them."""

from collections.abc import Mapping
from typing import Protocol, TypeVar

DIGITS = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"
_LOW, _HIGH = 0, len(DIGITS)


class Ordered(Protocol):
    @property
    def order(self) -> str: ...


T = TypeVar("T", bound=Ordered)


def in_order(records: Mapping[str, T]) -> list[tuple[str, T]]:
    """(id, record) sorted by order key; equal keys by id."""
    return sorted(records.items(), key=lambda item: (item[1].order, item[0]))


def order_keys_between(before: str | None, after: str | None, count: int) -> list[str]:
    """`count` rising keys strictly between two keys (None: no bound on that side).

    >>> order_keys_between(None, None, 3)
    ['F', 'V', 'k']
    """
    if count <= 0:
        return []
    middle = _between(before or "", after)
    left = (count - 1) // 2
    return (
        [*order_keys_between(before, middle, left), middle, *order_keys_between(middle, after, count - 1 - left)] if count > 1 else [middle]
    )


def _between(low: str, high: str | None) -> str:
    """A key between two keys read as base-62 fractions; never ends in the digit 0, so room is always left."""
    if high is not None and low >= high:
        raise ValueError(f"no key fits between {low!r} and {high!r}")
    prefix = ""
    position = 0
    while True:
        a = DIGITS.index(low[position]) if position < len(low) else _LOW
        b = DIGITS.index(high[position]) if high is not None and position < len(high) else _HIGH
        if high is not None and position >= len(high):
            b = _HIGH
        if a == b:
            prefix += DIGITS[a]
            position += 1
            continue
        middle = (a + b) // 2
        if middle > a:
            return prefix + DIGITS[middle]
        # Neighbouring digits: keep the lower one; below it every longer key is still under `high`.
        prefix += DIGITS[a]
        position += 1
        high = None
