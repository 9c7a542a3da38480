"""What a join can be told: one set of settings for all kinds, so that another kind keeps what it understands."""

from typing import Literal

from ..curves import cubic_bezier
from ..looks.parameters import Parameters, choice, number, percentage, swatch

Direction = Literal["left", "right", "up", "down"]
EaseOf = Literal["usual", "none", "in", "out", "both"]

WAYS: dict[Direction, tuple[float, float]] = {"left": (-1.0, 0.0), "right": (1.0, 0.0), "up": (0.0, -1.0), "down": (0.0, 1.0)}
CURVES: dict[EaseOf, tuple[float, float, float, float]] = {
    "in": (0.42, 0.0, 1.0, 1.0), "out": (0.0, 0.0, 0.58, 1.0), "both": (0.42, 0.0, 0.58, 1.0),
}  # fmt: skip


class JoinSettings(Parameters):
    """`direction` is where pictures travel to; `depth` how much farther photos travel than their backdrop; `softness` of edges."""

    direction: Direction = choice("Towards", (("left", "Left"), ("right", "Right"), ("up", "Up"), ("down", "Down")), "left")
    ease: EaseOf = choice(
        "Ease",
        (("usual", "As usual for it"), ("none", "None"), ("in", "Slow start"), ("out", "Slow end"), ("both", "Slow start and end")),
        "usual",
    )
    depth: float = percentage(
        "Depth", 0, 2, 0, animated=False, help="How much farther photos travel than their backdrop, the nearer the more; 0: all together"
    )
    angle: float = number("Angle", -180, 180, 0, step=1, unit="°", animated=False, help="0 travels to the right, clockwise")
    softness: float = percentage("Softness", 0, 1, 0.15, animated=False)
    amount: float = percentage("Strength", 0.1, 3, 1, animated=False)
    count: int = number("Strips", 2, 40, 8, step=1, animated=False)
    colour: str = swatch("Colour", "#000000", animated=False)
    seed: int = number("Seed", 1, 9999, 1, step=1, animated=False)

    def way(self) -> tuple[float, float]:
        """Unit vector of the direction, y down."""
        return WAYS[self.direction]

    def eased(self, progress: float, usual: EaseOf) -> float:
        """Progress along the ease, or along the `usual` one."""
        curve = CURVES.get(usual if self.ease == "usual" else self.ease)
        return progress if curve is None else cubic_bezier(*curve, progress)
