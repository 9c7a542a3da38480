"""Keyframes and lanes as frozen data."""

from typing import Annotated, Any, Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field, model_validator

V = TypeVar("V")

Anchor = Literal["start", "end", "fraction"]
"""What a key's time counts from: the start of the span, its end, or a fraction of it."""

Finite = Annotated[float, Field(allow_inf_nan=False)]
Handle = Annotated[
    tuple[Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)], Annotated[float, Field(ge=-10, le=10, allow_inf_nan=False)]],
    Field(description="(fraction of the interval, fraction of the change of value), measured from its key"),
]

NO_EASE = (1 / 3, 1 / 3)


class Keyframe(BaseModel, Generic[V]):
    """One key on a lane; its handles travel with it.

    `at` is ticks after the start (anchor `start`, >= 0), ticks from the end (anchor `end`, <= 0) or a
    fraction 0..1 of the span (anchor `fraction`). `ease_out` shapes the interval after the key, `ease_in` the one
    before it; `hold` keeps the value until the next key.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    anchor: Anchor = "start"
    at: Finite = 0
    value: V
    ease_out: Handle = NO_EASE
    ease_in: Handle = NO_EASE
    hold: bool = False

    @model_validator(mode="after")
    def _time_fits_anchor(self) -> "Keyframe[V]":
        if self.anchor == "fraction":
            if not 0 <= self.at <= 1:
                raise ValueError("a key anchored to a fraction stands between 0 and 1")
        elif self.at != int(self.at):
            raise ValueError("a key anchored to the start or the end stands on a whole tick")
        elif (self.at < 0) if self.anchor == "start" else (self.at > 0):
            raise ValueError("a key anchored to the start stands at 0 or later, to the end at 0 or earlier")
        return self


class Lane(BaseModel, Generic[V]):
    """Keys of one animated value, by id; never empty."""

    model_config = ConfigDict(frozen=True, extra="allow")

    keys: dict[str, Keyframe[V]] = Field(min_length=1)

    @classmethod
    def constant(cls, value: Any) -> "Lane[V]":
        return cls(keys={"k": Keyframe(value=value)})


class NumberLane(Lane[Finite]):
    """An animated number."""
