"""Layers of a scene: photos, shapes, groups."""

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ..curves import Keyframe, Lane
from ..looks import Animated, Correction, Form, Mask, Mount, Shadow
from .records import Amount, Id, Name, OrderKey, Record

FitChoice = Literal["auto", "whole", "fill", "free"]

BLENDS = (
    ("normal", "Normal"),
    ("multiply", "Multiply"),
    ("screen", "Screen"),
    ("overlay", "Overlay"),
    ("darken", "Darken"),
    ("lighten", "Lighten"),
    ("color-dodge", "Color dodge"),
    ("color-burn", "Color burn"),
    ("hard-light", "Hard light"),
    ("soft-light", "Soft light"),
    ("difference", "Difference"),
    ("exclusion", "Exclusion"),
    ("hue", "Hue"),
    ("saturation", "Saturation"),
    ("color", "Color"),
    ("luminosity", "Luminosity"),
)
"""(id, label) of the blend modes of W3C Compositing and Blending Level 1."""

Blend = Literal[
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "color-dodge", "color-burn", "hard-light", "soft-light",
    "difference", "exclusion", "hue", "saturation", "color", "luminosity",
]  # fmt: skip


class View(Record):
    """A rectangle of the frame's shape (or of the window's, if the photo has one) on a picture.

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


class Placement(Record):
    """Where a layer stands. Each number may be a lane. Signs: `space/conventions.md`."""

    x: Animated = _animated(-10, 10, 0.0, "fraction of the frame's width from its centre, right positive")
    y: Animated = _animated(-10, 10, 0.0, "fraction of the frame's height from its centre, down positive")
    z: Animated = _animated(-10, 0.95, 0.0, "frame heights towards the viewer")
    size: Animated = _animated(0.01, 20, 1.0, "1 = as the fit shows it, or as it just fits the frame")
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


class Window(Record):
    """The opening through which a photo is seen. `aspect` = width / height; None: the picture's own.

    With a window the placement moves the window and the views move the picture in it; without one the views move the photo with its
    mount, as if the camera did. `outline` cuts out a shape that just fits the window.
    """

    aspect: float | None = Field(None, ge=0.02, le=50, allow_inf_nan=False)
    outline: Literal["rectangle", "ellipse", "polygon"] = "rectangle"
    sides: int = Field(6, ge=3, le=24)


class LayerBase(Record):
    """What all layers have. `parent`: the group it is in. Locked layers are not taken by drags on the easel.

    If any layer of a scene is `solo`, only those (with the groups they are in, and what is in them) are shown.
    """

    order: OrderKey = "V"
    name: Name = ""
    parent: Id | None = None
    hidden: bool = False
    locked: bool = False
    solo: bool = False
    opacity: Amount = 1.0
    blend: Blend = "normal"
    placement: Placement = Placement()
    mask: Mask | None = None


class PhotoLayer(LayerBase):
    """A photo or clip: which picture, how it fits, what of it is seen, how it is mounted.

    Of `fit`, `mount`, `shadow` and `correction`, None means: as the look says, or as the project's defaults say.
    """

    kind: Literal["photo"] = "photo"
    media: Id
    fit: FitChoice | None = None
    view: ViewLane
    window: Window | None = None
    look: Id | None = None
    mount: Mount | None = None
    shadow: Shadow | None = None
    correction: Correction | None = None
    caption: Annotated[str, Field(max_length=200)] = ""


class ShapeLayer(LayerBase):
    """A drawn shape, colour or gradient. `shadow` None: it casts none."""

    kind: Literal["shape"] = "shape"
    form: Form = Form()
    shadow: Shadow | None = None


class GroupLayer(LayerBase):
    """Layers that are placed, faded and blended as one: those whose `parent` it is, or those of a shared group.

    `shadow` None: the group casts none of its own; what is in it still does.
    """

    kind: Literal["group"] = "group"
    shared: Id | None = None
    shadow: Shadow | None = None


Layer = Annotated[PhotoLayer | ShapeLayer | GroupLayer, Field(discriminator="kind")]
