"""Moves of a scene's camera."""

from .lanes import from_to, steady, through
from .move import Move

DOLLY_IN = Move(name="Dolly in", help="Nearer, near things passing faster", kind="camera", lanes={"camera.dolly": from_to(0.0, 0.4)})
DOLLY_OUT = Move(name="Dolly out", kind="camera", lanes={"camera.dolly": from_to(0.4, 0.0)})
TRACK = Move(
    name="Track", help="Sideways or up and down, with parallax", kind="camera", sided=True,
    lanes={"camera.x": from_to(-0.1, 0.1), "camera.dolly": steady(0.12)},
)  # fmt: skip
ORBIT = Move(
    name="Orbit", help="Round the point, always looking at it", kind="camera", sided=True, lanes={"camera.orbit": from_to(-14.0, 14.0)}
)
PAN = Move(name="Pan", help="Turns where it stands", kind="camera", sided=True, lanes={"camera.pan": from_to(-5.0, 5.0)})
CRANE = Move(
    name="Crane", help="Sinks down to the table", kind="camera",
    lanes={"camera.rise": from_to(26.0, 4.0), "camera.dolly": from_to(-0.25, 0.15)},
)  # fmt: skip
DRAW_IN = Move(
    name="Zoom", help="Draws in by its focal length, without parallax", kind="camera", lanes={"camera.focal": from_to(1.0, 1.25)}
)
ROLL = Move(name="Roll", kind="camera", lanes={"camera.roll": from_to(-3.0, 3.0), "camera.dolly": steady(0.1)})
BY_HAND = Move(
    name="By hand", help="Never quite still", kind="camera",
    lanes={
        "camera.x": through((0.0, 0.0), (0.13, 0.004), (0.3, -0.003), (0.46, 0.005), (0.62, -0.004), (0.81, 0.003), (1.0, -0.002)),
        "camera.y": through((0.0, 0.002), (0.17, -0.004), (0.37, 0.005), (0.55, -0.003), (0.74, 0.004), (1.0, 0.0)),
        "camera.roll": through((0.0, -0.2), (0.24, 0.25), (0.5, -0.15), (0.76, 0.2), (1.0, -0.1)),
        "camera.dolly": steady(0.06),
    },
)  # fmt: skip
