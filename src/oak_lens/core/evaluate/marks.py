"""Marks of scenes: short texts that change with whatever a scene shows. Nothing is evaluated for them."""

import hashlib

from pydantic import BaseModel

from ..document import Document
from .dependence import NOT_SEEN, seen_in


class _Digests:
    """What records say, as short digests, remembered for the records themselves: an edit shares all it does not touch."""

    def __init__(self, most: int) -> None:
        self._known: dict[int, tuple[BaseModel, bytes]] = {}
        self._most = most

    def of(self, record: BaseModel) -> bytes:
        # The record is held beside its digest, so its number cannot have passed to another.
        known = self._known.get(id(record))
        if known is not None and known[0] is record:
            return known[1]
        kind = type(record).__name__
        text = record.model_dump_json(exclude=set(NOT_SEEN.get(kind, ())))
        digest = hashlib.sha256(f"{kind} {text}".encode()).digest()
        if len(self._known) >= self._most:
            self._known.clear()
        self._known[id(record)] = record, digest
        return digest


_digests = _Digests(20_000)


def scene_mark(document: Document, scene: str, own_length: int) -> str:
    """The mark of a scene that is on screen for `own_length` ticks of its own time."""
    records, run = seen_in(document, scene)
    parts = [str(own_length).encode(), *(_digests.of(record) for record in records)]
    if run is not None:
        parts += [_digests.of(run.root), f"{run.x} {run.y} {run.runs}".encode()]
    return hashlib.sha256(b" ".join(parts)).hexdigest()[:16]
