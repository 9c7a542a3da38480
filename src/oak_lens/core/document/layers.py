"""Layers of a scene: photos, shapes, groups; and what there is to know about each kind."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

from pydantic import Field, field_validator

from ..curves import AnyLane
from ..looks import Correction, Form, Ink, Mask, Mount, Panel, Setting, Shadow
from ..looks.links import Link
from ..looks.parameters import ParameterSpec, parameters_of
from ..moves import MoveUse
from .blends import Blend
from .placing import Placement, Window
from .properties import Property, known_lanes, properties_of
from .records import Amount, Id, Name, OrderKey, Record
from .texts import Spans
from .views import ViewLane

FitChoice = Literal["auto", "whole", "fill", "free"]

OWN = (
    ParameterSpec("opacity", "Opacity", "number", 1.0, minimum=0, maximum=1, step=1, unit="%", scale=0.01, animated=True, factor=True),
    ParameterSpec(
        "blur", "Blur", "number", 0.0, "Spread of the blur (standard deviation), in hundredths of the frame’s height",
        minimum=0, maximum=0.3, step=0.1, unit="%", scale=0.01, animated=True,
    ),
)  # fmt: skip
WINDOW = (ParameterSpec("aspect", "Width to height", "number", 1.5, minimum=0.02, maximum=50, step=0.01, animated=True, factor=True),)
LETTERS = (
    ParameterSpec("x", "Along the line", "number", 0.0, "How far every letter has moved, in sizes", minimum=-100, maximum=100, step=0.05, animated=True),
    ParameterSpec("y", "Across the line", "number", 0.0, "The same, downwards", minimum=-100, maximum=100, step=0.05, animated=True),
    ParameterSpec("spacing", "Parted", "number", 0.0, "How far letters are parted, from the middle of their line", minimum=-10, maximum=100, step=0.01, animated=True),
)
_PLACED = {**properties_of("placement", parameters_of(Placement)), **properties_of("layer", OWN)}
_SHADED = properties_of("shadow", parameters_of(Shadow))
_MASKED = properties_of("mask", parameters_of(Mask))

Table = Literal["media", "looks", "styles", "groups"]


class LayerBase(Record):
    """What all layers have. `parent`: the group it is in. Locked layers are not taken by drags on the easel.

    If any layer of a scene is `solo`, only those (with the groups they are in, and what is in them) are shown. `blur`: standard
    deviation, in frame heights. `numbers`: all of the kind that can be keyframed, by `part.name`. `animation`: lanes by those names, each
    relative to the number's own value, so that changing that moves the whole animation. A move, an entrance and an exit come on top of it.
    `links`: what some of its own values follow, by name; they hold what they follow.
    """

    numbers: ClassVar[Mapping[str, Property]] = {**_PLACED, **_MASKED}

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
    links: dict[str, Link] = Field(default_factory=dict)
    move: MoveUse | None = None
    entrance: MoveUse | None = None
    exit: MoveUse | None = None

    @field_validator("animation")
    @classmethod
    def _lanes_are_known(cls, value: dict[str, AnyLane]) -> dict[str, AnyLane]:
        return known_lanes(value, cls.numbers)


class PhotoLayer(LayerBase):
    """A photo or clip: which picture, how it fits, what of it is seen, how it is mounted.

    Of `fit`, `mount`, `shadow` and `correction`, None means: as the look says, or as the project's defaults say. `zone`: the zone that it shows, of the
    template that its scene uses; texts have the same.
    """

    numbers: ClassVar[Mapping[str, Property]] = {
        **_PLACED,
        **properties_of("window", WINDOW),
        **properties_of("mount", parameters_of(Mount)),
        **_SHADED,
        **properties_of("correction", parameters_of(Correction)),
        **_MASKED,
    }

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
    zone: Id | None = None


class ShapeLayer(LayerBase):
    """A drawn shape, colour or gradient. `shadow` None: it casts none."""

    numbers: ClassVar[Mapping[str, Property]] = {**_PLACED, **_SHADED, **properties_of("form", parameters_of(Form)), **_MASKED}

    kind: Literal["shape"] = "shape"
    form: Form = Form()
    shadow: Shadow | None = None


class TextLayer(LayerBase):
    """A text. Of `setting`, `ink`, `panel` and `shadow`, None means: as its style says, or as texts are that have none.

    `filled`: whether details that it names in braces are filled in.
    """

    numbers: ClassVar[Mapping[str, Property]] = {
        **_PLACED,
        **properties_of("letters", LETTERS),
        **properties_of("setting", parameters_of(Setting)),
        **properties_of("ink", parameters_of(Ink)),
        **properties_of("panel", parameters_of(Panel)),
        **_SHADED,
        **_MASKED,
    }

    kind: Literal["text"] = "text"
    text: Spans = ()
    filled: bool = True
    style: Id | None = None
    setting: Setting | None = None
    ink: Ink | None = None
    panel: Panel | None = None
    shadow: Shadow | None = None
    zone: Id | None = None


class GroupLayer(LayerBase):
    """Layers that are placed, faded and blended as one: those whose `parent` it is, or those of a shared group.

    `shadow` None: the group casts none of its own; what is in it still does.
    """

    numbers: ClassVar[Mapping[str, Property]] = {**_PLACED, **_MASKED}

    kind: Literal["group"] = "group"
    shared: Id | None = None
    shadow: Shadow | None = None


Layer = Annotated[PhotoLayer | ShapeLayer | TextLayer | GroupLayer, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class LayerKind:
    """A kind of layer. `label`: what one without a name is called. `named`: its fields that name a record of the document, and of which
    table. `inherited`: parts that, None, are those of a look or of the project. `details`: parts the details show as they are declared."""

    model: type[LayerBase]
    label: str
    named: tuple[tuple[str, Table], ...] = ()
    inherited: tuple[str, ...] = ()
    details: tuple[str, ...] = ()

    @property
    def id(self) -> str:
        """What stands under `kind`."""
        return str(self.model.model_fields["kind"].default)


LAYER_KINDS = (
    LayerKind(PhotoLayer, "Photo", (("media", "media"), ("look", "looks")), ("mount", "shadow", "correction")),
    LayerKind(ShapeLayer, "Shape", details=("form",)),
    LayerKind(TextLayer, "Text", (("style", "styles"),), ("setting", "ink", "panel", "shadow"), ("setting", "ink", "panel")),
    LayerKind(GroupLayer, "Group", (("shared", "groups"),)),
)
"""Adding one: a model and an entry here, in `Layer`, and in `evaluate/kinds.py` (a test insists that they agree)."""

KIND_OF = {kind.id: kind for kind in LAYER_KINDS}

LAYER_PROPERTIES: Mapping[str, Property] = {
    name: prop
    for part in ("placement", "layer", "window", "mount", "shadow", "correction", "form", "letters", "setting", "ink", "panel", "mask")
    for kind in LAYER_KINDS
    for name, prop in kind.model.numbers.items()
    if prop.part == part
}
"""Every number that a layer of some kind has, in the order in which lanes are listed."""
