"""A title setting: what it is made of."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..document import GroupLayer, Layer, Placement, ShapeLayer, Span, TextLayer
from ..looks import SHIPPED_STYLES, Form, Ink, Panel, Setting, Shadow
from ..moves import SHIPPED, MoveUse
from ..time import TICKS_PER_SECOND

Kind = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Piece:
    """A layer of a title. `words`: what stands in its text at first, None for a shape."""

    layer: Layer
    words: str | None = None


@dataclass(frozen=True, slots=True)
class Title:
    """A title setting. `pieces`: lowest first; `styles`: text styles that they are linked to; `x`, `y`: where its group stands."""

    id: str
    name: str
    help: str
    pieces: tuple[Piece, ...]
    styles: tuple[str, ...] = ()
    x: float = 0.0
    y: float = 0.0
    words: str = field(default="")

    @property
    def texts(self) -> int:
        """How many texts it has."""
        return sum(piece.words is not None for piece in self.pieces)

    def layers(self, group: str, name: str, orders: Mapping[str, str]) -> dict[str, Layer]:
        """The layers by id, all in group `group`; `orders`: their order keys by id."""
        found: dict[str, Layer] = {
            group: GroupLayer(order=orders[group], name=name, placement=Placement(x=self.x, y=self.y)),
        }
        for number, piece in enumerate(self.pieces):
            key = f"{group[:50]}-{number + 1}"
            found[key] = piece.layer.model_copy(update={"parent": group, "order": orders[key]})
        return found

    def ids(self, group: str) -> tuple[str, ...]:
        """Ids that `layers` gives, the group's first."""
        return (group, *(f"{group[:50]}-{number + 1}" for number in range(len(self.pieces))))


def seconds(length: float) -> int:
    return round(length * TICKS_PER_SECOND)


def use(move: str, length: float = 1.2, delay: float = 0.0, side: str = "left", **spread: Any) -> MoveUse:
    """A shipped move, `length` and `delay` in seconds; of letters as it is made, or as `spread` says."""
    own = SHIPPED[move].spread
    if spread and own is not None:
        own = own.model_copy(update=spread)
    return MoveUse.model_validate({"move": move, "length": seconds(length), "delay": seconds(delay), "side": side, "spread": own})


def text(
    words: str,
    style: str,
    x: float = 0.0,
    y: float = 0.0,
    enters: MoveUse | None = None,
    leaves: MoveUse | None = None,
    setting: Kind | None = None,
    ink: Kind | None = None,
    panel: Kind | None = None,
    shadow: Kind | None = None,
    **placed: float,
) -> Piece:
    """A text in a shipped style, at fractions of the frame from the title's middle; `setting`, `ink`, `panel`, `shadow`: what it has of its own."""
    base = SHIPPED_STYLES[style]
    own: dict[str, Any] = {}
    for part, model, changes in (("setting", Setting, setting), ("ink", Ink, ink), ("panel", Panel, panel), ("shadow", Shadow, shadow)):
        if changes is not None:
            own[part] = model.model_validate({**getattr(base, part).model_dump(), **changes})
    layer = TextLayer(
        text=(Span(text=words),), style=style, placement=Placement(x=x, y=y, **placed), entrance=enters, exit=leaves, **own
    )
    return Piece(layer, words)


def shape(form: Form, x: float = 0.0, y: float = 0.0, size: float = 1.0, enters: MoveUse | None = None, leaves: MoveUse | None = None, **more: Any) -> Piece:
    """A shape, `size` as layers have it: 1 just fits the frame."""
    placed = {name: more.pop(name) for name in ("turn", "z") if name in more}
    return Piece(ShapeLayer(form=form, placement=Placement(x=x, y=y, size=size, **placed), entrance=enters, exit=leaves, **more))


def rule(colour: str, thick: float = 0.004) -> Form:
    """A line across its layer."""
    return Form(outline="line", stroke=thick, stroke_colour=colour)
