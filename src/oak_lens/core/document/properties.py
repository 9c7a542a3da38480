"""Numbers that can be keyframed, by name: `part.name`, such as `placement.x`; of a colour, its channels: `mount.colour_red`."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..curves import AnyLane, NumberLane, PathLane
from ..looks.parameters import ParameterSpec, channels_of
from ..moves import FACTORS, PATHS


@dataclass(frozen=True, slots=True)
class Property:
    """One number of a layer or scene. `spec` gives its range, unit and name within its part; `declared`: the parameter it is, or the colour
    it is a channel of (`channel` 0 red, 1 green, 2 blue)."""

    id: str
    part: str
    spec: ParameterSpec
    declared: ParameterSpec
    channel: int = 0

    @property
    def colour(self) -> str | None:
        """The colour of the part that it is a channel of."""
        return self.declared.id if self.declared.kind == "colour" else None


def properties_of(part: str, specs: tuple[ParameterSpec, ...]) -> dict[str, Property]:
    """The numbers of a part that can be keyframed."""
    found = {}
    for spec in specs:
        if spec.animated and spec.kind == "number":
            found[f"{part}.{spec.id}"] = Property(f"{part}.{spec.id}", part, spec, spec)
        elif spec.animated and spec.kind == "colour":
            for index, channel in enumerate(channels_of(spec)):
                found[f"{part}.{channel.id}"] = Property(f"{part}.{channel.id}", part, channel, spec, index)
    if any(p.spec.factor != (name in FACTORS) for name, p in found.items()):
        raise ValueError("what multiplies must be listed as a factor")
    return found


def known_lanes(lanes: Mapping[str, AnyLane], properties: Mapping[str, Property]) -> dict[str, AnyLane]:
    """The lanes, if each moves a known property with a lane of its kind; else ValueError."""
    parts = {p.part for p in properties.values()}
    for name, lane in lanes.items():
        if name in PATHS and name.partition(".")[0] in parts:
            if not isinstance(lane, PathLane):
                raise ValueError(f"{name} is a path: its lane must be one")
        elif name not in properties:
            raise ValueError(f"there is no number called {name} that can be keyframed here")
        elif not isinstance(lane, NumberLane):
            raise ValueError(f"{name} is a number: its lane must be one of numbers")
    return dict(lanes)
