"""Moves nearer and farther."""

from .lanes import from_to, through
from .move import Move

PUSH = Move(name="Push in", help="Slowly larger", lanes={"placement.size": from_to(1.0, 1.14)})
PULL = Move(name="Pull out", help="Slowly back to its own size", lanes={"placement.size": from_to(1.14, 1.0)})
BREATHE = Move(name="Breathe", help="A little larger, and back", lanes={"placement.size": through((0.0, 1.0), (0.5, 1.035), (1.0, 1.0))})
LIFT = Move(name="Lift", help="Comes towards the viewer, its shadow widening", lanes={"placement.z": from_to(0.0, 0.16)})
