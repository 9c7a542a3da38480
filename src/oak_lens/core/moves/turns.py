"""Moves that turn."""

from ..curves import Spring
from .lanes import from_to
from .move import Move

SWAY = Move(name="Sway", help="Turns slowly through a small angle", lanes={"placement.turn": from_to(-1.6, 1.6)})
LEAN = Move(
    name="Lean", help="Turns slowly in depth, one side towards the viewer", sided=True, lanes={"placement.swing": from_to(-9.0, 9.0)}
)
SETTLE = Move(
    name="Settle", help="Comes to rest with a slight turn", length=None,
    lanes={"placement.turn": from_to(3.2, 0.0, follow=Spring(stiffness=900.0, damping=22.0)), "placement.size": from_to(1.025, 1.0, "out")},
)  # fmt: skip
