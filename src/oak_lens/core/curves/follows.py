"""What may run between two keys instead of a timing curve: a bounce, a spring."""

from math import cos, exp, sin, sqrt
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field


class Bounce(BaseModel):
    """Falls onto the next value and bounces off it, each time with `keeps` of the speed before, `times` times."""

    model_config = ConfigDict(frozen=True, extra="allow")

    kind: Literal["bounce"] = "bounce"
    keeps: float = Field(0.4, ge=0.05, le=0.9, allow_inf_nan=False)
    times: int = Field(3, ge=1, le=8)


class Spring(BaseModel):
    """Swings about the next value: unit mass, `stiffness` and `damping` with the interval as the unit of time."""

    model_config = ConfigDict(frozen=True, extra="allow")

    kind: Literal["spring"] = "spring"
    stiffness: float = Field(220.0, ge=4, le=4000, allow_inf_nan=False)
    damping: float = Field(12.0, ge=0.5, le=200, allow_inf_nan=False)


Follow = Annotated[Bounce | Spring, Field(discriminator="kind")]


def followed(follow: Bounce | Spring, x: float) -> float:
    """Fraction of the change of value made after a fraction `x` of the interval; 0 at 0, 1 at 1."""
    if x <= 0.0:
        return 0.0
    if x >= 1.0:
        return 1.0
    return _bounced(follow, x) if isinstance(follow, Bounce) else _sprung(follow, x)


def _bounced(bounce: Bounce, x: float) -> float:
    """Uniform acceleration: the first fall takes `fall`, the i-th bounce 2 · keeps^i · fall and rises by keeps^(2i).

    Newton's law of restitution, each impact keeping the same share of the speed.
    """
    fall = 1.0 / (1.0 + 2.0 * sum(bounce.keeps**i for i in range(1, bounce.times + 1)))
    if x < fall:
        return (x / fall) ** 2
    start = fall
    for i in range(1, bounce.times + 1):
        half = bounce.keeps**i * fall
        if x < start + 2.0 * half:
            rise = (half / fall) ** 2
            return 1.0 - rise * (1.0 - ((x - start - half) / half) ** 2)
        start += 2.0 * half
    return 1.0


def _sprung(spring: Spring, x: float) -> float:
    """The damped oscillator's step response; what is left of the swing at the end is taken off evenly, so that it ends at 1."""
    return _step_response(spring.stiffness, spring.damping, x) + (1.0 - _step_response(spring.stiffness, spring.damping, 1.0)) * x


def _step_response(stiffness: float, damping: float, x: float) -> float:
    """Solution of s'' = -stiffness (s - 1) - damping s' with s(0) = s'(0) = 0."""
    omega = sqrt(stiffness)
    ratio = damping / (2.0 * omega)
    if abs(ratio - 1.0) < 1e-6:
        return 1.0 - exp(-omega * x) * (1.0 + omega * x)
    if ratio < 1.0:
        swing = omega * sqrt(1.0 - ratio * ratio)
        return 1.0 - exp(-ratio * omega * x) * (cos(swing * x) + ratio * omega / swing * sin(swing * x))
    root = omega * sqrt(ratio * ratio - 1.0)
    slow, fast = -ratio * omega + root, -ratio * omega - root
    return 1.0 - (fast * exp(slow * x) - slow * exp(fast * x)) / (fast - slow)
