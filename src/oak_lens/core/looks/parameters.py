"""Parameters declared once: name, range, unit and default serve validation, the catalogue, the controls and tests."""

from dataclasses import asdict, dataclass
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationInfo, field_validator

from ..curves import Lane, NumberLane, sample_value

When = tuple[str, tuple[str | bool, ...]]
"""(other parameter, its values) under which a parameter has an effect and is shown."""

Animated = Annotated[float, Field(allow_inf_nan=False)] | NumberLane
"""A number that may be keyframed."""


@dataclass(frozen=True, slots=True)
class ParameterSpec:
    """One parameter as the interface draws it. `scale` is what one shown unit is worth in the stored value."""

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


class Parameters(BaseModel):
    """Base of all parameter models: frozen; keyframed numbers keep within their range, too."""

    model_config = ConfigDict(frozen=True, extra="allow")

    @field_validator("*")
    @classmethod
    def _keyframes_in_range(cls, value: Any, info: ValidationInfo) -> Any:
        spec = next((s for s in parameters_of(cls) if s.id == info.field_name), None)
        if spec is not None and spec.animated and spec.minimum is not None and spec.maximum is not None:
            for number in (key.value for key in value.keys.values()) if isinstance(value, Lane) else (value,):
                if not spec.minimum <= number <= spec.maximum:
                    raise ValueError(f"must lie between {spec.minimum:g} and {spec.maximum:g}")
        return value

    def at(self, moment: int, length: int) -> "Any":
        """The same parameters with every keyframed number as it stands `moment` ticks into a span of `length`."""
        moving = {s.id: v for s in parameters_of(type(self)) if s.animated and isinstance(v := getattr(self, s.id), Lane)}
        return self.model_copy(update={k: sample_value(v, moment, length) for k, v in moving.items()}) if moving else self


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
    animated: bool = False,
) -> Any:
    """A number in [minimum, maximum]; shown as value / scale with `unit`. Type an `animated` one as `Animated`."""
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
    }
    return _field(default, spec) if animated else _field(default, spec, ge=minimum, le=maximum, allow_inf_nan=False)


def percentage(label: str, minimum: float, maximum: float, default: float, **options: Any) -> Any:
    """A number shown in hundredths."""
    return number(label, minimum, maximum, default, **{"step": 1, "unit": "%", "scale": 0.01, **options})


def swatch(label: str, default: str, *, help: str = "", when: When | None = None) -> Any:
    """A colour `#rrggbb` in sRGB."""
    return _field(default, {"label": label, "kind": "colour", "help": help, "when": when}, pattern=r"^#[0-9a-f]{6}$")


def choice(label: str, choices: tuple[tuple[str, str], ...], default: str, *, help: str = "", when: When | None = None) -> Any:
    """One of `(value, label)` pairs; type the field as a Literal of the same values."""
    return _field(default, {"label": label, "kind": "choice", "choices": choices, "help": help, "when": when})


def switch(label: str, default: bool, *, help: str = "", when: When | None = None) -> Any:
    """On or off."""
    return _field(default, {"label": label, "kind": "switch", "help": help, "when": when})


def picture(label: str, *, help: str = "", when: When | None = None) -> Any:
    """A picture or clip of the project, by id; None for none."""
    return _field(None, {"label": label, "kind": "picture", "help": help, "when": when}, pattern=r"^[A-Za-z0-9_-]{1,64}$")


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
