"""Parameters declared once: name, range, unit and default serve validation, the catalogue, the controls and tests."""

from dataclasses import asdict, dataclass
from typing import Any

from pydantic import BaseModel, Field


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
    when: tuple[str, str] | None = None


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
    when: tuple[str, str] | None = None,
) -> Any:
    """A number in [minimum, maximum]; shown as value / scale with `unit`. `when` = (other parameter, its value)."""
    return _field(
        default,
        {
            "label": label,
            "kind": "number",
            "minimum": minimum,
            "maximum": maximum,
            "step": step,
            "unit": unit,
            "scale": scale,
            "help": help,
            "when": when,
        },
        ge=minimum,
        le=maximum,
        allow_inf_nan=False,
    )


def colour(label: str, default: str, *, help: str = "", when: tuple[str, str] | None = None) -> Any:
    """A colour `#rrggbb` in sRGB."""
    return _field(default, {"label": label, "kind": "colour", "help": help, "when": when}, pattern=r"^#[0-9a-f]{6}$")


def choice(label: str, choices: tuple[tuple[str, str], ...], default: str, *, help: str = "") -> Any:
    """One of `(value, label)` pairs; type the field as a Literal of the same values."""
    return _field(default, {"label": label, "kind": "choice", "choices": choices, "help": help})


def switch(label: str, default: bool, *, help: str = "") -> Any:
    """On or off."""
    return _field(default, {"label": label, "kind": "switch", "help": help})


def parameters_of(model: type[BaseModel]) -> tuple[ParameterSpec, ...]:
    """Specs of every declared parameter of a model, in the order of its fields."""
    specs = []
    for name, field in model.model_fields.items():
        extra = field.json_schema_extra
        if isinstance(extra, dict) and isinstance(extra.get("parameter"), dict):
            specs.append(ParameterSpec(id=name, default=field.default, **extra["parameter"]))  # type: ignore[arg-type]
    return tuple(specs)


def catalogue_entry(spec: ParameterSpec) -> dict[str, Any]:
    """The spec as plain data."""
    return asdict(spec)
