"""What goes through the live socket. The page sends JSON; each answer is one binary message: length of its header (4 bytes, big endian),
header (JSON), JPEG."""

import struct
from dataclasses import dataclass
from typing import Annotated, Literal

import orjson
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from ..core.edits import LayerRef
from ..services.watching import Geometry
from .models import Edits

Frames = Annotated[int, Field(ge=0, le=10**9)]
Sequence = Annotated[int, Field(ge=0, le=10**9)]
Ticks = Annotated[int, Field(ge=0, le=10**15)]
Width = Annotated[int, Field(ge=64, le=1920)]

class Message(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class FrameMessage(Message):
    """One picture, `width` pixels wide, in answer to which `sequence` comes back.

    `writing`: a text that is shown as it is written. `show`: the `film` at `at` ticks, the chosen `scene` alone at that moment, or its two `ends` in two answers; what is drawn over them comes last. `edits` are only tried, on
    the `revision` they were made on. `lanes`, `curves` of lanes (`container/layer/property`), `ghosts` of layers, the `plan`: what is to be
    drawn besides outlines.
    """

    kind: Literal["frame"] = "frame"
    sequence: Sequence = 0
    at: Ticks = 0
    scene: str | None = None
    show: Literal["film", "scene", "ends"] = "film"
    width: Width = 960
    edits: Edits | None = None
    revision: int | None = None
    below: Literal["black", "chequered"] = "black"
    lanes: bool = False
    curves: list[str] = []
    ghosts: list[LayerRef] = []
    plan: bool = False
    writing: LayerRef | None = None


class PlayMessage(Message):
    """Frames from `frame` up to `last`, sent ahead of the page's clock."""

    kind: Literal["play"]
    sequence: Sequence = 0
    frame: Frames
    last: Frames
    width: Width = 960


class ClockMessage(Message):
    """The frame that is heard now."""

    kind: Literal["clock"]
    frame: Frames


class StopMessage(Message):
    kind: Literal["stop"]


SocketMessage = Annotated[FrameMessage | PlayMessage | ClockMessage | StopMessage, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class FrameAnswer:
    """A picture."""

    sequence: int
    at: int
    scene: str | None
    show: Literal["film", "scene", "opening", "closing"]


@dataclass(frozen=True, slots=True)
class GeometryAnswer:
    """What is drawn over the picture, or both, that went before it."""

    sequence: int
    at: int
    scene: str | None
    geometry: Geometry


@dataclass(frozen=True, slots=True)
class PlayedFrame:
    """A picture of the film that plays: as wide as was asked for, or less so as to keep up."""

    sequence: int
    frame: int


@dataclass(frozen=True, slots=True)
class FaultAnswer:
    """Why there is no picture, in a sentence."""

    sequence: int
    fault: str


SocketAnswer = FrameAnswer | GeometryAnswer | PlayedFrame | FaultAnswer

_MESSAGES: TypeAdapter[SocketMessage] = TypeAdapter(SocketMessage)


class UnreadableMessage(ValueError):
    """The message says what cannot be read; `sequence` is that of the request, as far as it can be told."""

    def __init__(self, message: str, sequence: int):
        super().__init__(message)
        self.sequence = sequence


def message_of(text: str | bytes) -> SocketMessage:
    """Raises UnreadableMessage, which says what is wrong in the first place."""
    try:
        return _MESSAGES.validate_json(text)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        where = ".".join(str(p) for p in first["loc"][1:]) or "message"
        raise UnreadableMessage(f"{where}: {first['msg']}", _sequence_of(text)) from None


def _sequence_of(text: str | bytes) -> int:
    try:
        read = orjson.loads(text)
    except orjson.JSONDecodeError:
        return 0
    sequence = read.get("sequence") if isinstance(read, dict) else None
    return sequence if isinstance(sequence, int) else 0


def answer_bytes(answer: SocketAnswer, picture: bytes = b"") -> bytes:
    header = orjson.dumps(answer)
    return struct.pack(">I", len(header)) + header + picture
