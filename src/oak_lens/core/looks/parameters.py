"""Parameters declared once: name, range, unit and default serve validation, the catalogue, the controls, keyframes and tests."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any, TypeVar

from pydantic import BaseModel, ConfigDict, Field

from .colours import CHANNELS, FULL, colour_of, rgb_of

When = tuple[str, tuple[str | bool, ...]]
"""(other parameter, its values) under which a parameter has an effect and is shown."""


@dataclass(frozen=True, slots=True)
class ParameterSpec:
    """One parameter as the interface draws it. `scale` is what one shown unit is worth in the stored value; `usual`: the range that a
    slider goes through, where all that is allowed would be too wide; `whole`: it is a whole number."""

    id: str
    label: str
    kind: str
    default: Any
    help: str = ""
    minimum: float | None = None
    maximum: float | None = None
    step: float | None = None
    unit: str = ""
    scale: float = 1.0
    choices: tuple[tuple[str, str], ...] = ()
    when: When | None = None
    animated: bool = False
    factor: bool = False
    usual: tuple[float, float] | None = None
    whole: bool = False


COLOUR = r"^#[0-9a-f]{6}$"
"""What a colour is written like."""


class Parameters(BaseModel):
    """Base of all parameter models: frozen."""

    model_config = ConfigDict(frozen=True, extra="allow")


P = TypeVar("P", bound=Parameters)


def offset(parameters: P, offsets: Mapping[str, float]) -> P:
    """The parameters with some numbers changed by so much, each kept within its range; factors multiply. Of a colour, its channels."""
    if not offsets:
        return parameters
    update: dict[str, Any] = {}
    for spec in parameters_of(type(parameters)):
        if spec.kind == "colour":
            red, green, blue = (offsets.get(channel.id, 0.0) for channel in channels_of(spec))
            if red or green or blue:
                now = rgb_of(getattr(parameters, spec.id))
                update[spec.id] = colour_of((now[0] + red, now[1] + green, now[2] + blue))
            continue
        by = offsets.get(spec.id)
        if by is not None and spec.animated and spec.minimum is not None and spec.maximum is not None:
            value = getattr(parameters, spec.id)
            update[spec.id] = min(max(value * by if spec.factor else value + by, spec.minimum), spec.maximum)
    return parameters.model_copy(update=update) if update else parameters


def _field(default: Any, spec: dict[str, Any], **limits: Any) -> Any:
    return Field(default=default, json_schema_extra={"parameter": spec}, **limits)


def number(
    label: str,
    minimum: float,
    maximum: float,
    default: float,
    *,
    step: float,
    unit: str = "",
    scale: float = 1.0,
    help: str = "",
    when: When | None = None,
    animated: bool = True,
    factor: bool = False,
    usual: tuple[float, float] | None = None,
) -> Any:
    """A number in [minimum, maximum]; shown as value / scale with `unit`. `animated`: it may be keyframed; a `factor`'s keyframes multiply
    its value, those of other numbers are added."""
    spec = {
        "label": label,
        "kind": "number",
        "minimum": minimum,
        "maximum": maximum,
        "step": step,
        "unit": unit,
        "scale": scale,
        "help": help,
        "when": when,
        "animated": animated,
        "factor": factor,
        "usual": usual,
    }
    return _field(default, spec, ge=minimum, le=maximum, allow_inf_nan=False)


def percentage(label: str, minimum: float, maximum: float, default: float, **options: Any) -> Any:
    """A number shown in hundredths."""
    return number(label, minimum, maximum, default, **{"step": 1, "unit": "%", "scale": 0.01, **options})


def swatch(label: str, default: str, *, help: str = "", when: When | None = None, animated: bool = True) -> Any:
    """A colour `#rrggbb` in sRGB. `animated`: its channels may be keyframed."""
    return _field(default, {"label": label, "kind": "colour", "help": help, "when": when, "animated": animated}, pattern=COLOUR)


def channels_of(colour: ParameterSpec) -> tuple[ParameterSpec, ...]:
    """The three numbers by which a colour is keyframed: levels of sRGB, 0 to 255, named `ID_red`, `ID_green`, `ID_blue`."""
    known = _CHANNELS.get(colour)
    if known is None:
        known = _CHANNELS[colour] = tuple(
            ParameterSpec(
                f"{colour.id}_{channel}", f"{colour.label}, {channel}", "number", rgb_of(colour.default)[index],
                minimum=0.0, maximum=FULL, step=1, animated=True,
            )
            for index, channel in enumerate(CHANNELS)
        )  # fmt: skip
    return known


_CHANNELS: dict[ParameterSpec, tuple[ParameterSpec, ...]] = {}


def choice(label: str, choices: tuple[tuple[str, str], ...], default: str, *, help: str = "", when: When | None = None) -> Any:
    """One of `(value, label)` pairs; type the field as a Literal of the same values."""
    return _field(default, {"label": label, "kind": "choice", "choices": choices, "help": help, "when": when})


def switch(label: str, default: bool, *, help: str = "", when: When | None = None) -> Any:
    """On or off."""
    return _field(default, {"label": label, "kind": "switch", "help": help, "when": when})


def picture(label: str, *, help: str = "", when: When | None = None) -> Any:
    """A picture or clip of the project, by id; None for none."""
    return _field(None, {"label": label, "kind": "picture", "help": help, "when": when}, pattern=r"^[A-Za-z0-9_-]{1,64}$")


def typeface(label: str, default: str, *, help: str = "", when: When | None = None) -> Any:
    """A family of faces, by id: one that ships, or one of the project's own."""
    return _field(default, {"label": label, "kind": "typeface", "help": help, "when": when}, pattern=r"^[A-Za-z0-9_-]{1,64}$")


def parameters_of(model: type[BaseModel]) -> tuple[ParameterSpec, ...]:
    """Specs of every declared parameter of a model, in the order of its fields."""
    known = _SPECS.get(model)
    if known is None:
        found = []
        for name, field in model.model_fields.items():
            extra = field.json_schema_extra
            if isinstance(extra, dict) and isinstance(extra.get("parameter"), dict):
                found.append(ParameterSpec(id=name, default=field.default, **extra["parameter"]))  # type: ignore[arg-type]
        known = _SPECS[model] = tuple(found)
    return known


_SPECS: dict[type[BaseModel], tuple[ParameterSpec, ...]] = {}


def catalogue_entry(spec: ParameterSpec) -> dict[str, Any]:
    """The spec as plain data."""
    return asdict(spec)
