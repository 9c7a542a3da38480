"""Numbers that a person sets and that no parameter model declares: how each is shown. What is allowed is what its field allows, so that a
control can reach nothing that is refused, and all else."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from math import inf
from typing import Any, get_args

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from ..time import TICKS_PER_SECOND
from .parameters import ParameterSpec

LEAST = 0.01
"""What lies right beyond a bound that is left out."""


@dataclass(frozen=True, slots=True)
class Control:
    """`id` names it for the page. Of `model`'s `field`: label, help, step in shown units; `scale`: stored value of one shown unit;
    `usual`: what a slider goes through, in stored units. `whole`: it is stored as a whole number."""

    id: str
    model: type[BaseModel]
    field: str
    label: str
    step: float
    unit: str = ""
    scale: float = 1.0
    usual: tuple[float, float] | None = None
    help: str = ""
    whole: bool = False


def time_control(id: str, model: type[BaseModel], field: str, label: str, usual: tuple[float, float], help: str = "", step: float = 0.1) -> Control:
    """A time, stored in ticks; `usual` in seconds."""
    span = (usual[0] * TICKS_PER_SECOND, usual[1] * TICKS_PER_SECOND)
    return Control(id, model, field, label, step, "s", TICKS_PER_SECOND, span, help, whole=True)


def seed_control(id: str, model: type[BaseModel]) -> Control:
    return Control(id, model, "seed", "Seed", 1, help="Another number, another choice; the same number, the same", whole=True)


@cache
def control_specs(controls: tuple[Control, ...]) -> tuple[ParameterSpec, ...]:
    """The controls with what their fields allow."""
    return tuple(_spec(control) for control in controls)


def _spec(control: Control) -> ParameterSpec:
    low, high = allowed(control.model, control.field)
    return ParameterSpec(
        control.id, control.label, "number", _default(control.model, control.field), control.help,
        low, high, control.step, control.unit, control.scale, usual=control.usual, whole=control.whole,
    )  # fmt: skip


def _default(model: type[BaseModel], field: str) -> Any:
    default = model.model_fields[field].default
    return default if isinstance(default, int | float) else None


def allowed(model: type[BaseModel], field: str) -> tuple[float, float]:
    """(least, most) of what a number of a model may be. Raises ValueError where one of them is missing."""
    low, high = -inf, inf
    for bound in _bounds(model.model_fields[field]):
        low = max(low, getattr(bound, "ge", -inf), getattr(bound, "gt", -inf) + LEAST)
        high = min(high, getattr(bound, "le", inf), getattr(bound, "lt", inf) - LEAST)
    if not (low > -inf and high < inf):
        raise ValueError(f"{model.__name__}.{field} has no bounds: a control needs them")
    return low, high


def _bounds(field: FieldInfo) -> Iterator[Any]:
    """What limits a field: said of it, or of the type it has where it may be None, too."""
    yield from field.metadata
    for entry in (field.annotation, *get_args(field.annotation)):
        for said in getattr(entry, "__metadata__", ()):
            yield from said.metadata if isinstance(said, FieldInfo) else (said,)
