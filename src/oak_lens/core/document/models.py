"""The document of one project, schema 1. Format: `docs/document-format.md`.

`None` where a value may be inherited means "as the project's defaults say".
"""

import re
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, field_validator, model_validator

from ..curves import Keyframe, Lane, NumberLane
from ..joins import JOINS
from ..looks import Backdrop, Mount, Shadow
from ..time import RATES, TICKS_PER_SECOND, FrameRate, rate_named

SCHEMA_VERSION = 1

LONGEST_TICKS = 3600 * TICKS_PER_SECOND

ID_PATTERN = r"^[A-Za-z0-9_-]{1,64}$"
Id = Annotated[str, Field(pattern=ID_PATTERN)]


def _checked_id(value: str) -> str:
    if not re.fullmatch(ID_PATTERN[1:-1], value):
        raise ValueError("an id is 1 to 64 letters, digits, _ or -")
    return value


IdKey = Annotated[str, AfterValidator(_checked_id)]
"""An id as the key of a map; JSON Schema has no simple way to say so."""


def _even(value: int) -> int:
    if value % 2:
        raise ValueError("must be an even number of pixels")
    return value


def _known_rate(value: str) -> str:
    if value not in {r.label for r in RATES}:
        raise ValueError("must be one of " + ", ".join(r.label for r in RATES))
    return value


EvenPixels = Annotated[int, Field(ge=64, le=4096), AfterValidator(_even)]
RateLabel = Annotated[str, AfterValidator(_known_rate)]
Ticks = Annotated[int, Field(ge=0, le=LONGEST_TICKS)]
HoldTicks = Annotated[int, Field(ge=TICKS_PER_SECOND // 20, le=LONGEST_TICKS)]
Name = Annotated[str, Field(max_length=300)]
OrderKey = Annotated[str, Field(pattern=r"^[0-9A-Za-z]{1,200}$")]
FitChoice = Literal["auto", "whole", "fill", "free"]
Amount = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Record(BaseModel):
    """Base of all records: frozen, and fields of later versions survive a round trip."""

    model_config = ConfigDict(frozen=True, extra="allow", populate_by_name=True)


class Frame(Record):
    """Shape, size in pixels (even numbers) and rate of the film."""

    width: EvenPixels = 1920
    height: EvenPixels = 1080
    rate: RateLabel = "30"

    @property
    def aspect(self) -> float:
        """Width / height."""
        return self.width / self.height

    @property
    def frame_rate(self) -> FrameRate:
        return rate_named(self.rate)


class Join(Record):
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
    def effective_length(self) -> int:
        """Ticks the join lasts in the film."""
        return 0 if JOINS[self.kind].instant else self.length


class Defaults(Record):
    """Project defaults; scenes and photos that say nothing of their own follow them."""

    hold: HoldTicks = 3 * TICKS_PER_SECOND
    join: Join = Join()
    fit: FitChoice = "auto"
    mount: Mount = Mount()
    shadow: Shadow = Shadow()
    backdrop: Backdrop = Backdrop()


class Media(Record):
    """One picture of the project. `width` x `height` in pixels as displayed (orientation flag applied)."""

    kind: Literal["picture"] = "picture"
    order: OrderKey
    name: Name
    file: Name
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    width: int = Field(ge=1, le=100_000)
    height: int = Field(ge=1, le=100_000)
    captured: str | None = Field(None, max_length=40, description="capture time as written by the camera, ISO 8601 without zone")
    description: str = Field("", max_length=2000)

    @property
    def aspect(self) -> float:
        return self.width / self.height


class View(Record):
    """A rectangle of the frame's shape on a picture.

    `x`, `y`: its centre, in fractions of the picture's width and height from the picture's centre.
    `zoom`: 1 shows what the fit shows (whole picture or filled frame), 2 half of that. `turn`: degrees clockwise.
    """

    x: float = Field(0.0, ge=-5, le=5, allow_inf_nan=False)
    y: float = Field(0.0, ge=-5, le=5, allow_inf_nan=False)
    zoom: float = Field(1.0, ge=0.05, le=50, allow_inf_nan=False)
    turn: float = Field(0.0, ge=-3600, le=3600, allow_inf_nan=False)


class ViewLane(Lane[View]):
    """The animated view; keys `opening` and `closing` are its ends."""


def view_lane(opening: View, closing: View) -> ViewLane:
    """A lane from an opening view at the start of the span to a closing view at its end."""
    return ViewLane(keys={"opening": Keyframe[View](anchor="start", value=opening), "closing": Keyframe[View](anchor="end", value=closing)})


def _animated(low: float, high: float, default: float, description: str) -> Any:
    return Field(default, description=description, json_schema_extra={"low": low, "high": high})


Animated = Annotated[float, Field(allow_inf_nan=False)] | NumberLane


class Placement(Record):
    """Where a layer stands. Each number may be a lane. Signs: `space/conventions.md`."""

    x: Animated = _animated(-10, 10, 0.0, "fraction of the frame's width from its centre, right positive")
    y: Animated = _animated(-10, 10, 0.0, "fraction of the frame's height from its centre, down positive")
    z: Animated = _animated(-10, 0.95, 0.0, "frame heights towards the viewer")
    size: Animated = _animated(0.01, 20, 1.0, "1 = as the fit shows it")
    turn: Animated = _animated(-3600, 3600, 0.0, "degrees clockwise about the viewing axis")
    tip: Animated = _animated(-3600, 3600, 0.0, "degrees about the horizontal axis, top away")
    swing: Animated = _animated(-3600, 3600, 0.0, "degrees about the vertical axis, right edge away")

    @model_validator(mode="after")
    def _in_range(self) -> "Placement":
        for name, field in type(self).model_fields.items():
            limits = field.json_schema_extra
            assert isinstance(limits, dict)
            low, high = float(limits["low"]), float(limits["high"])  # type: ignore[arg-type]
            value = getattr(self, name)
            for number in (key.value for key in value.keys.values()) if isinstance(value, Lane) else (value,):
                if not low <= number <= high:
                    raise ValueError(f"{name} must lie between {low:g} and {high:g}")
        return self


class PhotoLayer(Record):
    """A photo of a scene: which picture, how it fits, what of it is seen, where it stands, how it is mounted."""

    kind: Literal["photo"] = "photo"
    order: OrderKey = "V"
    name: Name = ""
    media: Id
    fit: FitChoice | None = None
    view: ViewLane
    placement: Placement = Placement()
    opacity: Amount = 1.0
    mount: Mount | None = None
    shadow: Shadow | None = None


class Scene(Record):
    """One row of the run sheet. `join` leads from the scene before into this one."""

    order: OrderKey
    name: Name = ""
    hold: HoldTicks | None = None
    join: Join | None = None
    backdrop: Backdrop | None = None
    layers: dict[IdKey, PhotoLayer] = Field(default_factory=dict)


class Document(Record):
    """A whole project."""

    schema_version: Literal[1] = Field(1, alias="schema")
    title: Annotated[str, Field(min_length=1, max_length=200)] = "Untitled film"
    frame: Frame = Frame()
    defaults: Defaults = Defaults()
    media: dict[IdKey, Media] = Field(default_factory=dict)
    scenes: dict[IdKey, Scene] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _photos_have_pictures(self) -> "Document":
        missing = [
            f"scenes.{scene_id}.layers.{layer_id}.media"
            for scene_id, scene in self.scenes.items()
            for layer_id, layer in scene.layers.items()
            if layer.media not in self.media
        ]
        if missing:
            raise ValueError("these photos name a picture that the document does not list: " + ", ".join(missing))
        return self
