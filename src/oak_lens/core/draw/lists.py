"""What stands in a draw list."""

from dataclasses import asdict, dataclass, fields, is_dataclass
from typing import Any, Literal, cast

import numpy as np
from pydantic import BaseModel
from pydantic_core import to_json

from ..letters import Block, lay_out
from ..looks import Correction, Form, Ink, Mask, Mount, Panel
from ..space import Matrix3

Numbers9 = tuple[float, float, float, float, float, float, float, float, float]


def homography_of(matrix: Matrix3) -> Numbers9:
    """Row-major numbers of a (3, 3) matrix."""
    return cast(Numbers9, tuple(float(v) for v in matrix.reshape(9)))


def matrix_of(numbers: Numbers9) -> Matrix3:
    """(3, 3) matrix of row-major numbers."""
    return np.array(numbers, dtype=np.float64).reshape(3, 3)


@dataclass(frozen=True, slots=True)
class Picture:
    """What a file shows, by its content: SHA-256 of its bytes, size in pixels as it is shown; of a `clip`, `moment` ticks into the file."""

    key: str
    width: int
    height: int
    clip: bool = False
    moment: int = 0


@dataclass(frozen=True, slots=True)
class ColourItem:
    """The whole frame in one opaque colour `#rrggbb`."""

    colour: str


@dataclass(frozen=True, slots=True)
class GradientItem:
    """The whole frame in a gradient; `angle` in degrees clockwise from upwards, towards the second colour."""

    first: str
    second: str
    angle: float
    radial: bool


@dataclass(frozen=True, slots=True)
class Grade:
    """What is done to a backdrop's colours: factors, and a tint mixed in by `tint_amount` 0..1."""

    brightness: float
    saturation: float
    tint: str = "#808080"
    tint_amount: float = 0.0


@dataclass(frozen=True, slots=True)
class Focus:
    """How much a lens blurs: a circle of diameter `k` |1 - `at` / W| in frame heights, W being a point's depth as the homography has it."""

    k: float
    at: float


@dataclass(frozen=True, slots=True)
class Lit:
    """A lamp as a plane has it: its place in the plane's axes and unit (z before the side that is seen), how many frame heights that
    unit measures; colour, strength, distance (frame heights) at which the light has halved, and what light comes from everywhere."""

    x: float
    y: float
    z: float
    unit: float
    colour: str
    strength: float
    falloff: float
    ambient: float


@dataclass(frozen=True, slots=True)
class BackdropItem:
    """A picture covering the frame, blurred by a Gaussian of standard deviation `blur`; edges mirror, nothing darkens.

    `picture_from_shown`: what is shown (fractions) in the file's picture, None if all of it is.
    `closer`, `x`, `y` (frame heights) are the backdrop's own move; None where it stands still.
    """

    picture: Picture
    picture_from_shown: Numbers9 | None
    shown_aspect: float
    corrections: tuple[Correction, ...]
    blur: float
    zoom: float
    grade: Grade
    move: tuple[float, float, float] | None = None


@dataclass(frozen=True, slots=True)
class SurfaceItem:
    """An endless surface covering the frame. `scale`: its natural size times this; `x`, `y`: the point of it, in frame heights at
    that scale, that lies in the middle of the frame; `closer`: magnification about the middle. `frame_from_plane`: what a camera does to it, None if nothing."""

    surface: str
    scale: float
    x: float
    y: float
    closer: float
    grade: Grade
    still: bool = True
    frame_from_plane: Numbers9 | None = None
    lit: Lit | None = None
    focus: Focus | None = None
    travel: Numbers9 | None = None


@dataclass(frozen=True, slots=True)
class MountedPhoto:
    """A picture in its mount, in the layer's plane; the middle of its window is the origin, all lengths in the plane's unit.

    `picture_from_plane`: a homography to fractions of the file's picture; None if the window shows exactly all of it. `scale` is
    what one frame height of the mount's lengths measures in the plane.
    """

    picture: Picture
    width: float
    height: float
    picture_from_plane: Numbers9 | None
    outline: str
    sides: int
    mount: Mount
    scale: float
    corrections: tuple[Correction, ...] = ()
    caption: str = ""
    mask: Mask | None = None

    @property
    def rim(self) -> float:
        """Width of mat and border."""
        return (self.mount.mat + self.mount.border) * self.scale

    @property
    def foot(self) -> float:
        return self.mount.foot * self.scale

    @property
    def radius(self) -> float:
        """Outer corner radius, at most half the shorter side."""
        return min(self.mount.radius * self.scale, (min(self.width, self.height) + 2 * self.rim) / 2)

    @property
    def sheet(self) -> tuple[float, float, float, float]:
        """(left, top, right, bottom) of the mount's paper."""
        x, y = self.width / 2 + self.rim, self.height / 2 + self.rim
        return -x, -y, x, y + self.foot

    @property
    def reach(self) -> float:
        """How far anything stands out beyond the paper: tape and uneven edges do."""
        uneven = 0.02 * self.scale if self.mount.edge == "deckle" else 0.0
        return uneven if self.mount.tape == "none" else 0.15 * min(self.width, self.height)

    @property
    def is_plain(self) -> bool:
        """Whether its outline is that of a rectangle with round corners and its mount has border and corners only."""
        m = self.mount
        plain_mount = not m.foot and not m.mat and m.edge == "straight" and m.tape == "none" and m.paper == "none"
        return plain_mount and self.outline == "rectangle" and self.mask is None and not self.caption

    @property
    def mount_lies_outside(self) -> bool:
        """Whether what the mount has lies around the picture, and none of it on the picture."""
        m = self.mount
        clear = m.tape == "none" and m.paper != "over" and self.radius <= self.rim and self.outline == "rectangle" and self.mask is None
        clear = clear and (m.edge == "straight" or m.border > 0.004)
        return clear and (not self.caption or self.rim + self.foot > 0.02 * self.scale)

    @property
    def is_rectangular(self) -> bool:
        """Whether its shadow is that of a rectangle with round corners (if the picture is opaque)."""
        return self.outline == "rectangle" and self.mask is None and self.mount.edge == "straight" and self.mount.tape == "none"


@dataclass(frozen=True, slots=True)
class DrawnForm:
    """A shape in the layer's plane, `width` x `height` in the plane's unit, `stroke` wide around its edge."""

    form: Form
    width: float
    height: float
    stroke: float
    mask: Mask | None = None

    @property
    def sheet(self) -> tuple[float, float, float, float]:
        x, y = self.width / 2 + self.stroke / 2, self.height / 2 + self.stroke / 2
        return -x, -y, x, y

    @property
    def reach(self) -> float:
        return 0.0


@dataclass(frozen=True, slots=True)
class LetterPart:
    """What a cluster of a text is as it moves by itself: `moved`, a homography of the text's plane (in ems) from where the cluster rests to where it
    is, and where it is when the shutter `closes`, None if it is there still; opacity; blur (standard deviation, ems); the ink's colour."""

    moved: Numbers9
    opacity: float = 1.0
    blur: float = 0.0
    colour: str | None = None
    closes: Numbers9 | None = None


REST: Numbers9 = (1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0)


@dataclass(frozen=True, slots=True)
class Lettering:
    """A text in the layer's plane, `size` of its units an em. `parts`: one for each cluster of its layout, or none if all rest.

    `panel_opacity`: how much of its panel is there. `band`: half the length (plane units) of a panel across the frame.
    """

    block: Block
    size: float
    ink: Ink
    panel: Panel
    mask: Mask | None = None
    parts: tuple[LetterPart, ...] = ()
    panel_opacity: float = 1.0
    band: float = 0.0

    @property
    def sheet(self) -> tuple[float, float, float, float]:
        """(left, top, right, bottom) of the box around its lines."""
        left, top, right, bottom = lay_out(self.block).box
        return left * self.size, top * self.size, right * self.size, bottom * self.size

    @property
    def width(self) -> float:
        left, _, right, _ = self.sheet
        return right - left

    @property
    def height(self) -> float:
        _, top, _, bottom = self.sheet
        return bottom - top

    @property
    def reach(self) -> float:
        """How far letters, outline and panel stand out beyond the box."""
        pad = max(self.panel.pad_across, self.panel.pad_down, 0.0) if self.panel.kind != "none" else 0.0
        glow = 3.0 * self.ink.glow_softness if self.ink.glow > 0.0 else 0.0
        return max((0.5 + 2.0 * self.ink.outline + pad + glow) * self.size, self.band if self.panel.kind == "band" else 0.0)


Content = MountedPhoto | DrawnForm | Lettering
"""What a layer shows in its plane."""


@dataclass(frozen=True, slots=True)
class ShadowItem:
    """The shadow of a layer's content: its outline grown by `spread` and blurred with standard deviation `softness`, plane units."""

    content: Content
    frame_from_plane: Numbers9
    softness: float
    spread: float
    colour: str
    opacity: float
    travel: Numbers9 | None = None


@dataclass(frozen=True, slots=True)
class LayerItem:
    """A layer's content as the frame sees it; `blend` as W3C Compositing names it.

    `blur`: standard deviation in frame heights, on top of what the lens' `focus` does. `travel`: frame coordinates to where they are
    when the shutter closes. `clip`: the convex part of the plane that is shown, None for all of it.
    """

    content: Content
    frame_from_plane: Numbers9
    opacity: float
    blend: str = "normal"
    blur: float = 0.0
    focus: Focus | None = None
    travel: Numbers9 | None = None
    lit: Lit | None = None
    clip: tuple[tuple[float, float], ...] | None = None


@dataclass(frozen=True, slots=True)
class GroupShadow:
    """The shadow of all of a group: moved by (x, y), blurred by `softness`, all in frame heights."""

    x: float
    y: float
    softness: float
    colour: str
    opacity: float


@dataclass(frozen=True, slots=True)
class GroupItem:
    """Items painted on a transparent ground of their own, then laid over as one."""

    items: tuple["DrawItem", ...]
    opacity: float
    blend: str = "normal"
    shadows: tuple[GroupShadow, ...] = ()
    mask: Mask | None = None
    frame_from_plane: Numbers9 | None = None
    blur: float = 0.0


DrawItem = ColourItem | GradientItem | BackdropItem | SurfaceItem | ShadowItem | LayerItem | GroupItem


@dataclass(frozen=True, slots=True)
class DrawList:
    """What one scene shows, lowest first, in a frame of `aspect` = width / height; where nothing is, it is transparent."""

    aspect: float
    items: tuple[DrawItem, ...]


@dataclass(frozen=True, slots=True)
class Mixture:
    """Two pictures mixed: `amount` 0 is `below` alone, 1 is `above` alone."""

    below: "Picturing"
    above: "Picturing"
    amount: float

    @property
    def aspect(self) -> float:
        """Width / height of the frame."""
        return self.below.aspect


MatteKind = Literal["edge", "iris", "clock", "part", "blinds", "clouds"]


@dataclass(frozen=True, slots=True)
class Matte:
    """What part of a plate a wipe shows: `progress` 0 none to 1 all; `angle` in degrees clockwise from rightwards is where the edge runs to;
    `softness`: the share of its way over which it fades; `count` of strips; `seed` of clouds."""

    kind: MatteKind
    progress: float
    angle: float = 0.0
    softness: float = 0.0
    count: int = 1
    seed: int = 1


@dataclass(frozen=True, slots=True)
class Plate:
    """A whole picture laid into the frame. `frame_from_plate`: frame coordinates to frame coordinates, None for in place.

    `adds`: its light is added; `dark`: the share of its light that is taken away; `blur`: standard deviation in frame heights; `clip`:
    the convex part that is shown; `goes_on`: its outermost pixels go on beyond its edges; `shadow`: softness of the shadow it casts, in
    frame heights (0: none).
    """

    picture: "Picturing"
    frame_from_plate: Numbers9 | None = None
    opacity: float = 1.0
    adds: bool = False
    matte: Matte | None = None
    dark: float = 0.0
    blur: float = 0.0
    clip: tuple[tuple[float, float], ...] | None = None
    goes_on: bool = False
    shadow: float = 0.0


@dataclass(frozen=True, slots=True)
class Glow:
    """Light laid over the frame, by screen: a `leak` that drifts through, or `embers` where a clouds matte of the same seed and progress
    has its edge."""

    kind: Literal["leak", "embers"]
    progress: float
    colour: str
    strength: float
    seed: int = 1


@dataclass(frozen=True, slots=True)
class Composition:
    """Plates and glows over a colour, lowest first. `travel`: frame coordinates to where they are when the shutter closes, for all of it."""

    ground: str
    parts: tuple[Plate | Glow, ...]
    travel: Numbers9 | None = None

    @property
    def aspect(self) -> float:
        """Width / height of the frame: that of its plates, of which it has at least one."""
        return next(part.picture.aspect for part in self.parts if isinstance(part, Plate))


Picturing = DrawList | Mixture | Composition
"""What one frame of the film shows: what is mixed or composed may itself be."""


def pictures_of(picturing: Picturing) -> frozenset[Picture]:
    """All pictures a frame needs."""
    return frozenset(picture for drawn in lists_of(picturing) for picture in _named(drawn.items))


def lists_of(picturing: Picturing) -> tuple[DrawList, ...]:
    """The draw lists that a frame is made of, lowest first."""
    if isinstance(picturing, DrawList):
        return (picturing,)
    return tuple(drawn for part in _within(picturing) for drawn in lists_of(part))


def _within(picturing: Mixture | Composition) -> tuple[Picturing, ...]:
    """What is mixed or composed, lowest first."""
    if isinstance(picturing, Mixture):
        return picturing.below, picturing.above
    return tuple(part.picture for part in picturing.parts if isinstance(part, Plate))


def _named(items: tuple[DrawItem, ...]) -> set[Picture]:
    found: set[Picture] = set()
    for item in items:
        if isinstance(item, BackdropItem):
            found.add(item.picture)
        elif isinstance(item, LayerItem | ShadowItem) and isinstance(item.content, MountedPhoto):
            found.add(item.content.picture)
        elif isinstance(item, GroupItem):
            found |= _named(item.items)
    return found


def plain(picturing: Picturing) -> dict[str, Any]:
    """As plain data, each item under its kind."""
    if isinstance(picturing, Mixture):
        return {"mixture": {"amount": picturing.amount, "below": plain(picturing.below), "above": plain(picturing.above)}}
    if isinstance(picturing, Composition):
        parts = [
            {**asdict(p), "kind": "glow"}
            if isinstance(p, Glow)
            else {**{f.name: _plain_value(getattr(p, f.name)) for f in fields(p) if f.name != "picture"}, "picture": plain(p.picture)}
            for p in picturing.parts
        ]
        return {"composition": {"ground": picturing.ground, "travel": picturing.travel, "parts": parts}}
    return {"aspect": picturing.aspect, "items": [_plain_item(i) for i in picturing.items]}


def canonical(picturing: Picturing) -> bytes:
    """JSON that is the same for what draws the same, and other for anything else: the kinds of all items, then everything they hold."""
    return to_json((_kinds(picturing), picturing))


def _kinds(drawn: Any) -> Any:
    if isinstance(drawn, Mixture | Composition):
        return [type(drawn).__name__, *(_kinds(part) for part in _within(drawn))]
    return [[type(i).__name__, _kinds(i)] if isinstance(i, GroupItem) else type(i).__name__ for i in drawn.items]


def _plain_item(item: DrawItem) -> dict[str, Any]:
    kind = type(item).__name__.removesuffix("Item").lower()
    if isinstance(item, GroupItem):
        others = {f.name: _plain_value(getattr(item, f.name)) for f in fields(item) if f.name != "items"}
        return {"kind": kind, **others, "items": [_plain_item(i) for i in item.items]}
    return {"kind": kind, **{k: _plain_value(v) for k, v in asdict(item).items()}}


def _plain_value(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if isinstance(value, dict):
        return {k: _plain_value(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [_plain_value(v) for v in value]
    return asdict(value) if is_dataclass(value) and not isinstance(value, type) else value
