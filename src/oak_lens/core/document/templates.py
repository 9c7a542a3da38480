"""Templates: what others may change in scenes that were made once. Drop zones are filled with pictures, texts and songs; dials drive values."""

import re
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..looks.parameters import COLOUR
from .records import ID_PATTERN, HoldTicks, Id, IdKey, Name, OrderKey, Record
from .sounds import Played

ZoneTakes = Literal["picture", "clip", "cutout", "logo", "text", "song"]
Fitting = Literal["fill", "whole", "shape"]
DialKind = Literal["amount", "colour", "choice", "switch", "text", "face", "seed"]
TemplateKind = Literal["treatment", "opening", "body", "closing", "film"]
Mood = Literal["calm", "warm", "lively", "grand"]

DialValue = bool | Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] | Annotated[str, Field(max_length=2000)]
"""What a dial stands at: an amount, `#rrggbb`, the value of a choice, on or off, a text, the id of a family of faces."""


class Zone(Record):
    """A drop zone. Zones are numbered from 1 in their order.

    `shape`: width / height that suits it best, None any. `least`: pixels that the longer side of a picture should have, `most`: characters of a
    text, 0 any. `played`, of a song: how. `fitting`, of a picture of another shape: it fills the zone and keeps its subject, is shown whole, or the zone takes its shape.
    One that is not `required` shows nothing while it is empty, and so do zones `empty` says so of.
    """

    order: OrderKey
    name: Name = ""
    takes: ZoneTakes = "picture"
    shape: Annotated[float, Field(ge=0.02, le=50, allow_inf_nan=False)] | None = None
    least: int = Field(0, ge=0, le=100_000)
    most: int = Field(0, ge=0, le=10_000)
    required: bool = True
    empty: Literal["placeholder", "nothing"] = "placeholder"
    fitting: Fitting = "fill"
    played: Played = Played()
    help: Annotated[str, Field(max_length=500)] = ""


class DialChoice(Record):
    """One of what a dial may stand at."""

    value: Annotated[str, Field(min_length=1, max_length=100)]
    label: Annotated[str, Field(min_length=1, max_length=100)]


class Dial(Record):
    """A value that whoever uses a template may change: many values of its scenes follow it, each by a mapping of its own.

    `minimum`, `maximum`, `step`, `unit`, `scale` (what one shown unit is worth) of an amount; `choices` of a choice; a seed is a whole number by which
    chance is chosen.
    """

    order: OrderKey
    name: Annotated[str, Field(min_length=1, max_length=100)]
    kind: DialKind = "amount"
    default: DialValue = 0.0
    minimum: Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] = 0.0
    maximum: Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] = 1.0
    step: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)] = 0.01
    unit: Annotated[str, Field(max_length=10)] = ""
    scale: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)] = 1.0
    choices: tuple[DialChoice, ...] = ()
    help: Annotated[str, Field(max_length=500)] = ""
    group: Annotated[str, Field(max_length=100)] = ""

    @model_validator(mode="after")
    def _stands_at_something_it_may(self) -> "Dial":
        if self.minimum >= self.maximum:
            raise ValueError("a dial's least amount is below its greatest")
        if self.kind == "choice" and len({c.value for c in self.choices}) != max(len(self.choices), 1):
            raise ValueError("a dial of choices has some, each once")
        if not self.takes(self.default):
            raise ValueError("a dial stands at something of its kind, within its range")
        return self

    def takes(self, value: DialValue) -> bool:
        """Whether it may stand at a value."""
        if self.kind == "seed":
            return not isinstance(value, bool | str) and value == int(value) and self.minimum <= value <= self.maximum
        if self.kind == "amount":
            return not isinstance(value, bool | str) and self.minimum <= value <= self.maximum
        if self.kind == "switch":
            return isinstance(value, bool)
        if not isinstance(value, str):
            return False
        if self.kind == "choice":
            return any(value == c.value for c in self.choices)
        pattern = {"colour": COLOUR, "face": ID_PATTERN}.get(self.kind)
        return pattern is None or re.fullmatch(pattern, value) is not None


class SceneRule(Record):
    """What a scene of a template may come to. `least`, `most`: ticks it stands, None any. One that `repeats` is a variation of the stretch that is
    gone through again and again while there are pictures; one that is `optional` is left out where there are too few for it, and among those that
    repeat is taken only for what the others leave over. `shape`: width / height of the frames it is made for, None the template's own: a film takes
    those of the shape nearest to its frame."""

    least: HoldTicks | None = None
    most: HoldTicks | None = None
    repeats: bool = False
    optional: bool = False
    shape: Annotated[float, Field(ge=0.1, le=10, allow_inf_nan=False)] | None = None

    @model_validator(mode="after")
    def _in_order(self) -> "SceneRule":
        if self.least is not None and self.most is not None and self.least > self.most:
            raise ValueError("the least hold of a scene is no longer than its longest")
        return self


class Origin(Record):
    """Where a template came from: which (`id`), which `version` of it, and the SHA-256 of what is in it."""

    id: Id
    version: Annotated[str, Field(pattern=r"^\d{1,4}\.\d{1,4}\.\d{1,4}$")]
    key: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class Template(Record):
    """What may be changed in scenes that use it. `scenes`: what each of them may come to, by the name it has in the template.

    `words`: what else it is found by; `moods`: how it feels. `origin` None: it is made in this project. `varies`: variations of a stretch that repeats are taken in turn, or by chance.
    """

    name: Name = ""
    kind: TemplateKind = "treatment"
    about: Annotated[str, Field(max_length=2000)] = ""
    words: Annotated[str, Field(max_length=300)] = ""
    moods: tuple[Mood, ...] = ()
    zones: dict[IdKey, Zone] = Field(default_factory=dict)
    dials: dict[IdKey, Dial] = Field(default_factory=dict)
    scenes: dict[IdKey, SceneRule] = Field(default_factory=dict)
    varies: Literal["turn", "seed"] = "turn"
    origin: Origin | None = None


class TemplateUse(Record):
    """That a scene is made by a template: by which of its scenes (`part`), in which use of it (scenes of one use share where dials stand), in which
    turn of what repeats (`round`, 0 where it comes once; scenes of one turn share pictures), and where dials stand: those it does not name stand
    at their default."""

    template: Id
    part: Id
    use: Id
    round: int = Field(0, ge=0, le=100_000)
    dials: dict[IdKey, DialValue] = Field(default_factory=dict)
