"""What shipped templates are made of: scenes written down, with their zones and dials."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from ..curves import AnyLane
from ..document import (
    Dial,
    DialChoice,
    Document,
    Fade,
    Join,
    Layer,
    PhotoLayer,
    Placement,
    Scene,
    SceneRule,
    ShapeLayer,
    Span,
    Template,
    TemplateUse,
    TextLayer,
    View,
    Window,
    Zone,
    order_keys_between,
    settled,
    view_lane,
)
from ..looks import SHIPPED_STYLES, Backdrop, Correction, Form, Mount, Shadow
from ..looks.links import DialMapping, Link
from ..moves import MoveUse
from ..stage import CameraRig, Light, Stop, Travel
from ..templates import TemplateContent, placeholder_media
from ..time import TICKS_PER_SECOND

Pairs = Mapping[str, tuple[float, float]]
"""Values by name, each as it is where a dial stands at its least and at its greatest."""

PLAIN_MOUNT = Mount(border=0.0)
NO_SHADOW = Shadow(opacity=0.0)
DARK = Backdrop(kind="colour", colour="#14181d")
AT_HOME = CameraRig()
FIRST_VIEW = (0.0, 0.0, 1.0)
SQUARE, UPRIGHT = 1.0, 9 / 16
"""Shapes of frames, width / height, that treatments may be laid out for besides their own, 16:9."""


def seconds(length: float) -> int:
    """Ticks."""
    return round(length * TICKS_PER_SECOND)


def use(move: str, length: float = 0.9, delay: float = 0.0, side: str = "left", **more: Any) -> MoveUse:
    """A shipped move; `length` and `delay` in seconds."""
    return MoveUse.model_validate({"move": move, "length": seconds(length), "delay": seconds(delay), "side": side, **more})


def follows(dial: str, low: float | None = None, high: float | None = None, step: float = 0.0, **mapping: Any) -> Link:
    """A link to a dial: the number between `low` and `high`, or as else the mapping says."""
    said = {"low": low, "high": high, "step": step, **mapping}
    return Link(source="dial", id=dial, mapping=None if low is None and not mapping else DialMapping.model_validate(said))


def picture_zone(name: str, shape: float | None = 1.5, *, fitting: str = "fill", takes: str = "picture", required: bool = True, help: str = "") -> Zone:
    """A zone of a picture; `shape`: width / height that suits it."""
    return Zone.model_validate(
        {"order": "V", "name": name, "takes": takes, "shape": shape, "fitting": fitting, "required": required, "least": 1000, "help": help}
    )


def text_zone(name: str, most: int = 60, *, required: bool = True, help: str = "") -> Zone:
    """A zone of a text of so many characters."""
    return Zone(order="V", name=name, takes="text", most=most, required=required, help=help)


def amount(name: str, low: float, high: float, default: float, *, step: float = 0.01, unit: str = "", scale: float = 1.0, help: str = "", group: str = "") -> Dial:
    """A dial of an amount."""
    return Dial(order="V", name=name, minimum=low, maximum=high, default=default, step=step, unit=unit, scale=scale, help=help, group=group)


def percent(name: str, default: float, low: float = 0.0, high: float = 1.0, *, help: str = "", group: str = "") -> Dial:
    """A dial of an amount in hundredths."""
    return amount(name, low, high, default, step=1, unit="%", scale=0.01, help=help, group=group)


def colour(name: str, default: str, *, help: str = "", group: str = "") -> Dial:
    """A dial of a colour."""
    return Dial(order="V", name=name, kind="colour", default=default, help=help, group=group)


def choice(name: str, default: str, choices: Sequence[tuple[str, str]], *, help: str = "", group: str = "") -> Dial:
    """A dial of (value, label) choices."""
    return Dial(order="V", name=name, kind="choice", default=default, choices=tuple(DialChoice(value=v, label=n) for v, n in choices), help=help, group=group)


def face(name: str, default: str, *, help: str = "", group: str = "") -> Dial:
    """A dial of a family of faces."""
    return Dial(order="V", name=name, kind="face", default=default, help=help, group=group)


SURFACE_NAMES = (("oak", "Oak"), ("walnut", "Walnut"), ("linen", "Linen"), ("slate", "Slate"), ("felt", "Felt"), ("cork", "Cork"), ("kraft", "Kraft paper"), ("plaster", "Plaster"))


def surface_dial(default: str, name: str = "Surface") -> Dial:
    """What pictures lie or hang on."""
    return choice(name, default, SURFACE_NAMES)


def photo(
    zone: str | None, x: float = 0.0, y: float = 0.0, size: float = 1.0, *, shape: float | None = 1.5, opening: tuple[float, ...] = FIRST_VIEW,
    closing: tuple[float, ...] | None = None, mount: Mount = PLAIN_MOUNT, shadow: Shadow = NO_SHADOW, fit: str = "fill",
    links: Mapping[str, Link] | None = None, lanes: Mapping[str, AnyLane] | None = None, **more: Any,
) -> PhotoLayer:  # fmt: skip
    """A photo that shows a zone; `shape`: width / height of its window, None without one; views as (x, y, zoom, turn)."""
    placed = {name: more.pop(name) for name in ("z", "turn", "tip", "swing") if name in more}
    views = [View(**dict(zip(("x", "y", "zoom", "turn"), view, strict=False))) for view in (opening, closing or opening)]
    return PhotoLayer(
        media="-", zone=zone, placement=Placement(x=x, y=y, size=size, **placed), window=Window(aspect=shape) if shape else None, view=view_lane(*views),
        fit=fit, mount=mount, shadow=shadow, correction=more.pop("correction", Correction()), animation=dict(lanes or {}), links=dict(links or {}), **more,
    )  # fmt: skip


def text(
    words: str, style: str, x: float = 0.0, y: float = 0.0, *, zone: str | None = None, setting: Mapping[str, Any] | None = None, ink: Mapping[str, Any] | None = None,
    panel: Mapping[str, Any] | None = None, shadow: Mapping[str, Any] | None = None, links: Mapping[str, Link] | None = None, **more: Any,
) -> TextLayer:  # fmt: skip
    """A text that looks like a shipped style, with all of it its own."""
    base = SHIPPED_STYLES[style]
    own = {}
    for part, changes in (("setting", setting), ("ink", ink), ("panel", panel), ("shadow", shadow)):
        model = getattr(base, part)
        own[part] = type(model).model_validate({**model.model_dump(), **(changes or {})})
    placed = {name: more.pop(name) for name in ("z", "turn", "size") if name in more}
    return TextLayer(text=(Span(text=words),), zone=zone, placement=Placement(x=x, y=y, **placed), links=dict(links or {}), **own, **more)


def shape(form: Form, x: float = 0.0, y: float = 0.0, size: float = 1.0, *, links: Mapping[str, Link] | None = None, **more: Any) -> ShapeLayer:
    """A drawn shape."""
    placed = {name: more.pop(name) for name in ("z", "turn") if name in more}
    return ShapeLayer(form=form, placement=Placement(x=x, y=y, size=size, **placed), links=dict(links or {}), **more)


def sheet(colour: str, opacity: float = 1.0, *, links: Mapping[str, Link] | None = None, **more: Any) -> ShapeLayer:
    """A colour over all of the frame."""
    return shape(Form(outline="sheet", colour=colour, fill_opacity=opacity), links=links, **more)


@dataclass(frozen=True)
class Part:
    """A scene of a template. `layers`: lowest first, by id; `hold` in seconds; `least`, `most` the same, None any; `fade_in`, `fade_out` from and to black, 0 none."""

    layers: Mapping[str, Layer]
    backdrop: Backdrop = DARK
    hold: float = 5.0
    least: float | None = None
    most: float | None = None
    repeats: bool = False
    optional: bool = False
    name: str = ""
    camera: CameraRig = AT_HOME
    camera_move: MoveUse | None = None
    light: Light | None = None
    travel: Travel | None = None
    shutter: float | None = None
    lanes: Mapping[str, AnyLane] = field(default_factory=dict)
    links: Mapping[str, Link] = field(default_factory=dict)
    backdrop_zone: str | None = None
    join: Join | None = None
    fade_in: float = 0.0
    fade_out: float = 0.0


@dataclass(frozen=True)
class Shipped:
    """A template that ships with Oak Lens. `words`: what else it is found by; `moods`: how it feels. `parts` are its scenes at 16:9, `others` those
    for frames of other shapes, by width / height; without them what is in the scenes is made smaller as one there."""

    id: str
    name: str
    about: str
    words: str
    zones: Mapping[str, Zone]
    dials: Mapping[str, Dial]
    parts: tuple[Part, ...]
    kind: str = "treatment"
    varies: str = "turn"
    version: str = "1.1.0"
    moods: tuple[str, ...] = ()
    others: Mapping[float, tuple[Part, ...]] = field(default_factory=dict)

    def laid_out(self, shape: float | None) -> tuple[Part, ...]:
        """Its scenes for frames of a shape, None its own."""
        return self.parts if shape is None else self.others.get(shape, self.parts)

    @cached_property
    def content(self) -> TemplateContent:
        """It as a document: zones and dials in the order in which they are written, every link true."""
        named: dict[str, tuple[Part, float | None]] = {f"{self.id}-{n + 1}": (part, None) for n, part in enumerate(self.parts)}
        named |= {f"{self.id}-{SHAPE_NAMES[shape]}-{n + 1}": (part, shape) for shape, parts in self.others.items() for n, part in enumerate(parts)}
        record = Template.model_validate({
            "name": self.name, "kind": self.kind, "about": self.about, "words": self.words, "varies": self.varies, "moods": self.moods,
            "zones": _ordered(self.zones), "dials": _ordered(self.dials),
            "scenes": {n: _rule(part, shape) for n, (part, shape) in named.items()},
        })  # fmt: skip
        media = {}
        for number, (key, zone) in enumerate(self.zones.items()):
            if zone.takes not in ("text", "song"):
                media[f"empty-{key}"] = placeholder_media(number + 1, zone.shape or 1.5, order_keys_between(None, None, len(self.zones))[number], zone.name, zone.takes)
        orders = order_keys_between(None, None, len(named))
        scenes = {n: self._scene(n, part, order) for (n, (part, _)), order in zip(named.items(), orders, strict=True)}
        document = Document(title=self.name, media=media, templates={self.id: record}, scenes=scenes)
        return TemplateContent(settled(document), self.id, self.version)

    def _scene(self, name: str, part: Part, order: str) -> Scene:
        layers = {}
        for (key, layer), own in zip(part.layers.items(), order_keys_between(None, None, len(part.layers)), strict=True):
            update: dict[str, Any] = {"order": own}
            if isinstance(layer, PhotoLayer):
                update["media"] = f"empty-{layer.zone}"
            layers[key] = layer.model_copy(update=update)
        backdrop = part.backdrop if part.backdrop_zone is None else part.backdrop.model_copy(update={"media": f"empty-{part.backdrop_zone}"})
        return Scene(
            order=order, name=part.name or self.name, hold=seconds(part.hold), backdrop=backdrop, backdrop_zone=part.backdrop_zone, camera=part.camera,
            camera_move=part.camera_move, light=part.light, travel=part.travel, shutter=part.shutter, animation=dict(part.lanes), links=dict(part.links),
            join=part.join, fade_in=_fade(part.fade_in), fade_out=_fade(part.fade_out), layers=layers, template=TemplateUse(template=self.id, part=name, use=self.id),
        )  # fmt: skip


SHAPE_NAMES = {SQUARE: "square", UPRIGHT: "upright"}


def _fade(length: float) -> Fade | None:
    return Fade(length=seconds(length)) if length else None


def _rule(part: Part, shape: float | None) -> SceneRule:
    least, most = (None if limit is None else seconds(limit) for limit in (part.least, part.most))
    return SceneRule(least=least, most=most, repeats=part.repeats, optional=part.optional, shape=shape)


def _ordered(records: Mapping[str, Any]) -> dict[str, Any]:
    orders = order_keys_between(None, None, len(records))
    return {k: record.model_copy(update={"order": order}) for (k, record), order in zip(records.items(), orders, strict=True)}


def stops(*layers: tuple[str, float], stay: float = 1.2, draws_back: float = 0.15, level: bool = True) -> Travel:
    """A camera's way along layers, each with the share of the frame that it fills."""
    orders = order_keys_between(None, None, len(layers))
    made = {f"stop-{n + 1}": Stop(order=order, layer=k, fills=fills, stay=seconds(stay), level=level) for n, ((k, fills), order) in enumerate(zip(layers, orders, strict=True))}
    return Travel(stops=made, draws_back=draws_back)
