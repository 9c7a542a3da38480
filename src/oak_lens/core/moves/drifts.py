"""Moves across the frame."""

from .lanes import arc, from_to, steady, through
from .move import Move

DRIFT = Move(
    name="Drift", help="Slowly across, a little enlarged so that nothing is bared", sided=True,
    lanes={"placement.x": from_to(-0.03, 0.03), "placement.size": steady(1.08)},
)  # fmt: skip
SWEEP = Move(name="Sweep", help="Far across", sided=True, lanes={"placement.x": from_to(-0.12, 0.12), "placement.size": steady(1.28)})
ARC = Move(
    name="Arc", help="Across on a bent path", sided=True,
    lanes={
        "placement.path": arc(((-0.05, 0.02, 0.0), (0.03, -0.06, 0.0)), ((0.05, 0.02, 0.0), (0.03, 0.06, 0.0))),
        "placement.size": steady(1.14),
    },
)  # fmt: skip
FLOAT = Move(
    name="Float", help="Up and down, as if on water",
    lanes={
        "placement.y": through((0.0, 0.0), (0.25, -0.012), (0.5, 0.0), (0.75, 0.012), (1.0, 0.0)),
        "placement.turn": through((0.0, -0.7), (0.33, 0.7), (0.66, -0.7), (1.0, 0.7)),
    },
)  # fmt: skip
