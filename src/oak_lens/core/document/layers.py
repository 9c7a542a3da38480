"""Layers of a scene: photos, shapes, groups."""

from typing import Annotated, Literal

from pydantic import Field, field_validator

from ..curves import AnyLane, Keyframe, Lane
from ..looks import Correction, Form, Mask, Mount, Shadow
from ..looks.parameters import Parameters, ParameterSpec, number, parameters_of
from ..moves import MoveUse
from .properties import known_lanes, properties_of
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


class Placement(Parameters):
    """Where a layer stands. Signs: `space/conventions.md`."""

    x: float = number(
        "Across", -10, 10, 0.0, step=0.01, help="Fraction of the frame’s width from its middle, right positive", usual=(-1.0, 1.0)
    )
    y: float = number(
        "Down", -10, 10, 0.0, step=0.01, help="Fraction of the frame’s height from its middle, down positive", usual=(-1.0, 1.0)
    )
    z: float = number("Depth", -20, 5, 0.0, step=0.01, help="Frame heights towards the viewer", usual=(-2.0, 1.0))
    size: float = number(
        "Size",
        0.01,
        20,
        1.0,
        step=0.01,
        unit="×",
        factor=True,
        usual=(0.05, 3.0),
        help="1 is as the fit shows it, or as it just fits the frame",
    )
    turn: float = number("Turn", -3600, 3600, 0.0, step=0.5, unit="°", help="Clockwise", usual=(-180.0, 180.0))
    tip: float = number("Tip", -3600, 3600, 0.0, step=0.5, unit="°", help="About the horizontal axis, top away", usual=(-75.0, 75.0))
    swing: float = number(
        "Swing", -3600, 3600, 0.0, step=0.5, unit="°", help="About the vertical axis, right edge away", usual=(-75.0, 75.0)
    )


class Window(Record):
    """The opening through which a photo is seen. `aspect` = width / height; None: the picture's own.

    With a window the placement moves the window and the views move the picture in it; without one the views move the photo with its
    mount, as if the camera did. `outline` cuts out a shape that just fits the window.
    """

    aspect: float | None = Field(None, ge=0.02, le=50, allow_inf_nan=False)
    outline: Literal["rectangle", "ellipse", "polygon"] = "rectangle"
    sides: int = Field(6, ge=3, le=24)


OWN = (
    ParameterSpec("opacity", "Opacity", "number", 1.0, minimum=0, maximum=1, step=1, unit="%", scale=0.01, animated=True, factor=True),
    ParameterSpec(
        "blur", "Blur", "number", 0.0, "Spread of the blur (standard deviation), in hundredths of the frame’s height",
        minimum=0, maximum=0.3, step=0.1, unit="%", scale=0.01, animated=True,
    ),
)  # fmt: skip
WINDOW = (ParameterSpec("aspect", "Width to height", "number", 1.5, minimum=0.02, maximum=50, step=0.01, animated=True, factor=True),)
LAYER_PROPERTIES = {
    **properties_of("placement", parameters_of(Placement)),
    **properties_of("layer", OWN),
    **properties_of("window", WINDOW),
    **properties_of("mount", parameters_of(Mount)),
    **properties_of("shadow", parameters_of(Shadow)),
    **properties_of("correction", parameters_of(Correction)),
    **properties_of("form", parameters_of(Form)),
    **properties_of("mask", parameters_of(Mask)),
}
"""Every number of a layer that can be keyframed, by `part.name`."""


class LayerBase(Record):
    """What all layers have. `parent`: the group it is in. Locked layers are not taken by drags on the easel.

    If any layer of a scene is `solo`, only those (with the groups they are in, and what is in them) are shown. `blur`: standard
    deviation, in frame heights. `animation`: lanes by property (`properties.py`), each relative to the property's own value, so that
    changing that moves the whole animation. A move, an entrance and an exit come on top of it.
    """

    order: OrderKey = "V"
    name: Name = ""
    parent: Id | None = None
    hidden: bool = False
    locked: bool = False
    solo: bool = False
    opacity: Amount = 1.0
    blend: Blend = "normal"
    blur: float = Field(0.0, ge=0, le=0.3, allow_inf_nan=False)
    placement: Placement = Placement()
    mask: Mask | None = None
    animation: dict[str, AnyLane] = Field(default_factory=dict)
    move: MoveUse | None = None
    entrance: MoveUse | None = None
    exit: MoveUse | None = None

    @field_validator("animation")
    @classmethod
    def _lanes_are_known(cls, value: dict[str, AnyLane]) -> dict[str, AnyLane]:
        return known_lanes(value, LAYER_PROPERTIES)


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
