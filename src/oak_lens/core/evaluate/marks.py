"""Marks of scenes: short texts that change with whatever a scene shows. Nothing is evaluated for them."""

import hashlib
from collections.abc import Callable

from pydantic import BaseModel

from ..document import Document
from .dependence import NOT_SEEN, seen_in


def record_digest(record: BaseModel) -> bytes:
    """What a record says of how a scene looks, as a digest."""
    kind = type(record).__name__
    text = record.model_dump_json(exclude=set(NOT_SEEN.get(kind, ())))
    return hashlib.sha256(f"{kind} {text}".encode()).digest()


def scene_mark(document: Document, scene: str, own_length: int, digest: Callable[[BaseModel], bytes] = record_digest) -> str:
    """The mark of a scene that is on screen for `own_length` ticks of its own time. `digest`: `record_digest`, or one that remembers."""
    records, run = seen_in(document, scene)
    parts = [str(own_length).encode(), *(digest(record) for record in records)]
    if run is not None:
        parts += [digest(run.root), f"{run.x} {run.y} {run.runs}".encode()]
    return hashlib.sha256(b" ".join(parts)).hexdigest()[:16]
