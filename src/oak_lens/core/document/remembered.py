"""What was found of documents and records, remembered: neither ever changes, and an edit shares all that it does not touch."""

from collections.abc import Callable
from functools import wraps
from typing import TYPE_CHECKING, Generic, TypeVar
from weakref import ReferenceType, ref

from pydantic import BaseModel

if TYPE_CHECKING:
    from .models import Document

RECENT = 8
"""Documents of which a thing is remembered: what came out of one edit goes into the next."""

T = TypeVar("T")
R = TypeVar("R", bound=BaseModel)


def remembered(find: "Callable[[Document], T]") -> "Callable[[Document], T]":
    """`find`, which for a document that was asked about lately gives what it found then: nobody may change that."""
    recent: tuple[tuple[ReferenceType[Document], T], ...] = ()

    @wraps(find)
    def found_of(document: "Document") -> T:
        nonlocal recent
        for known, found in recent:
            if known() is document:
                return found
        found = find(document)
        recent = ((ref(document), found), *recent[: RECENT - 1])
        return found

    return found_of


class ByRecord(Generic[R, T]):
    """What `find` finds of records, of up to `most` of them."""

    def __init__(self, find: Callable[[R], T], most: int):
        self._find, self._most = find, most
        self._known: dict[int, tuple[R, T]] = {}

    def of(self, record: R) -> T:
        # The record is held beside what was found of it, so its number cannot have passed to another.
        known = self._known.get(id(record))
        if known is not None and known[0] is record:
            return known[1]
        found = self._find(record)
        if len(self._known) >= self._most:
            self._known.clear()
        self._known[id(record)] = record, found
        return found
