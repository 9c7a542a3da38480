"""Entrances in the plane and out of depth; backwards they are exits."""

from ..curves import Bounce
from .lanes import from_to, through
from .move import Move

APPEARS = through((0.0, 0.0), (0.2, 1.0), ease="none")

SLIDE = Move(
    name="Slides in",
    exit_name="Slides out",
    help="From outside the frame",
    kind="entrance",
    sided=True,
    lanes={"beyond.x": from_to(-1.0, 0.0, "out")},
)
SPRING_IN = Move(
    name="Springs in", exit_name="Springs out", help="From outside the frame, a little too far, and back", kind="entrance", sided=True,
    lanes={"beyond.x": from_to(-1.0, 0.0, "overshoot")},
)  # fmt: skip
DROP = Move(
    name="Drops and bounces",
    exit_name="Leaps away",
    help="From above the frame",
    kind="entrance",
    lanes={"beyond.y": from_to(-1.0, 0.0, follow=Bounce(keeps=0.35))},
)
GROW = Move(
    name="Grows", exit_name="Shrinks", kind="entrance", lanes={"placement.size": from_to(0.02, 1.0, "overshoot"), "layer.opacity": APPEARS}
)
SPIN = Move(
    name="Spins in", exit_name="Spins out", kind="entrance",
    lanes={"placement.turn": from_to(-300.0, 0.0, "out"), "placement.size": from_to(0.05, 1.0, "out"), "layer.opacity": APPEARS},
)  # fmt: skip
FADE = Move(name="Fades in", exit_name="Fades out", kind="entrance", lanes={"layer.opacity": from_to(0.0, 1.0)})
UNFOLD = Move(
    name="Unfolds", exit_name="Folds away", help="Turns up out of depth, about its middle", kind="entrance", sided=True,
    lanes={"placement.swing": from_to(-96.0, 0.0, "overshoot"), "layer.opacity": through((0.0, 0.0), (0.08, 1.0), ease="none")},
)  # fmt: skip
APPROACH = Move(
    name="From afar",
    exit_name="Into the distance",
    help="Out of the depth",
    kind="entrance",
    lanes={"placement.z": from_to(-5.0, 0.0, "out"), "layer.opacity": APPEARS},
)
FOCUS = Move(
    name="Comes into focus",
    exit_name="Goes out of focus",
    kind="entrance",
    lanes={"layer.blur": from_to(0.06, 0.0), "layer.opacity": through((0.0, 0.0), (0.5, 1.0))},
)
