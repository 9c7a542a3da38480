"""Scenes: rows of the run sheet, with their joins, fades and layouts."""

from collections.abc import Mapping
from typing import Annotated, ClassVar

from pydantic import Field, field_validator

from ..curves import AnyLane
from ..joins import JOINS, JoinSettings
from ..looks import Backdrop
from ..looks.links import Link
from ..looks.parameters import parameters_of
from ..moves import MoveUse
from ..stage import CameraRig, Light, Travel
from ..time import TICKS_PER_SECOND
from .layers import Layer
from .properties import Property, known_lanes, properties_of
from .records import HoldTicks, Id, IdKey, Name, OrderKey, Record, Speed, Ticks
from .templates import TemplateUse

SCENE_PROPERTIES = {
    **properties_of("camera", parameters_of(CameraRig)),
    **properties_of("light", parameters_of(Light)),
    **properties_of("backdrop", parameters_of(Backdrop)),
}
"""Every number of a scene that can be keyframed, by `part.name`."""

Shutter = Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)]
"""Degrees of motion blur: 360 is as long as a frame, 0 none."""


class Join(JoinSettings):
    """What happens from the scene before into this one; `length` in ticks (0 where the kind is instant)."""

    kind: str = "dissolve"
    length: Ticks = TICKS_PER_SECOND

    @field_validator("kind")
    @classmethod
    def _known_kind(cls, value: str) -> str:
        if value not in JOINS:
            raise ValueError("must be one of " + ", ".join(JOINS))
        return value

    @property
    def wished_length(self) -> int:
        """Ticks the join lasts where the scenes it joins leave it so much."""
        return 0 if JOINS[self.kind].instant else self.length


class Fade(Record):
    """From (or to) a colour over so many ticks."""

    length: Ticks = TICKS_PER_SECOND
    colour: Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")] = "#000000"


class Layout(Record):
    """How the photos of a scene were laid out: with the same seed and frame it gives the same places again. `gap` in frame heights."""

    kind: str
    seed: int = Field(1, ge=0, le=9999)
    gap: float = Field(0.02, ge=0, le=0.2, allow_inf_nan=False)


class Scene(Record):
    """One row of the run sheet. `join` leads from the scene before into this one.

    `light` None: it is evenly lit. `animation`: lanes of the camera, the light and the backdrop, relative to their own numbers.
    `links`: what some of its own values follow. `shutter` None: as the project's defaults say. `speed`: how fast everything in it runs
    against the film; its hold is film time. `template`: what it is made by; `backdrop_zone`: the zone of that whose picture its backdrop shows.
    """

    numbers: ClassVar[Mapping[str, Property]] = SCENE_PROPERTIES

    order: OrderKey
    name: Name = ""
    hold: HoldTicks | None = None
    speed: Speed = 1.0
    join: Join | None = None
    backdrop: Backdrop | None = None
    layout: Layout | None = None
    camera: CameraRig = CameraRig()
    light: Light | None = None
    shutter: Shutter | None = None
    fade_in: Fade | None = None
    fade_out: Fade | None = None
    travel: Travel | None = None
    animation: dict[str, AnyLane] = Field(default_factory=dict)
    links: dict[str, Link] = Field(default_factory=dict)
    camera_move: MoveUse | None = None
    template: TemplateUse | None = None
    backdrop_zone: Id | None = None
    layers: dict[IdKey, Layer] = Field(default_factory=dict)

    @field_validator("animation")
    @classmethod
    def _lanes_are_known(cls, value: dict[str, AnyLane]) -> dict[str, AnyLane]:
        return known_lanes(value, cls.numbers)
