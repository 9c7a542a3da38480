"""Order keys for a place in a list."""

from collections.abc import Mapping
from typing import TypeVar

from ..document import in_order, order_keys_between
from ..document.ordering import Ordered
from ..errors import Fault, InvalidEdit

T = TypeVar("T", bound=Ordered)


def orders_before(records: Mapping[str, T], before: str | None, count: int) -> list[str]:
    """`count` order keys just before record `before`, or after the last; raises InvalidEdit if it is not there."""
    listed = in_order(records)
    if before is None:
        return order_keys_between(listed[-1][1].order if listed else None, None, count)
    index = next((i for i, (k, _) in enumerate(listed) if k == before), None)
    if index is None:
        raise InvalidEdit([Fault("edit.no_position", "before", "The place to put this before is not there any more.")])
    return order_keys_between(listed[index - 1][1].order if index else None, listed[index][1].order, count)
