"""Keyframes and lanes as frozen data."""

from typing import Annotated, Any, Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field, model_validator

from .follows import Follow

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
    before it; `hold` keeps the value until the next key; `follow` puts a bounce or a spring in place of the handles.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    anchor: Anchor = "start"
    at: Finite = 0
    value: V
    ease_out: Handle = NO_EASE
    ease_in: Handle = NO_EASE
    hold: bool = False
    follow: Follow | None = None

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

    kind: Literal["number"] = "number"


Point = tuple[Finite, Finite, Finite]
ORIGIN = (0.0, 0.0, 0.0)


class PathKeyframe(Keyframe[Point]):
    """A point on a path: x and y in fractions of the frame's width and height, z in frame heights.

    `tangent_in` and `tangent_out` lead from it to the control points of the stretches before and after it; both zero: a corner between
    straight stretches. `smooth`: they stay in one line when one of them is dragged.
    """

    tangent_in: Point = ORIGIN
    tangent_out: Point = ORIGIN
    smooth: bool = False


class PathLane(BaseModel):
    """An animated place. `even`: one pace from the first key to the last, whatever the times between; `turn_along`: turned with the path."""

    model_config = ConfigDict(frozen=True, extra="allow")

    kind: Literal["path"] = "path"
    keys: dict[str, PathKeyframe] = Field(min_length=1)
    even: bool = False
    turn_along: bool = False


AnyLane = Annotated[NumberLane | PathLane, Field(discriminator="kind")]
