"""A scene's camera, as numbers that can be keyframed."""

from typing import Literal

from ..looks.parameters import Parameters, choice, number, switch


class CameraRig(Parameters):
    """At its defaults the home camera, which shows the plane of depth 0 as the frame. Signs: `space/conventions.md`."""

    x: float = number("Track", -10, 10, 0.0, step=0.01, help="To the right, in frame widths", usual=(-1.0, 1.0))
    y: float = number("Pedestal", -10, 10, 0.0, step=0.01, help="Downwards, in frame heights", usual=(-1.0, 1.0))
    dolly: float = number("Dolly", -20, 20, 0.0, step=0.01, help="Forwards, in frame heights", usual=(-2.0, 2.0))
    pan: float = number("Pan", -180, 180, 0.0, step=0.5, unit="°", help="Turns to the right", usual=(-45.0, 45.0))
    tilt: float = number("Tilt", -85, 85, 0.0, step=0.5, unit="°", help="Looks up", usual=(-45.0, 45.0))
    roll: float = number("Roll", -360, 360, 0.0, step=0.5, unit="°", help="Clockwise", usual=(-45.0, 45.0))
    orbit: float = number("Orbit", -360, 360, 0.0, step=0.5, unit="°", help="Round the point, to the right", usual=(-60.0, 60.0))
    rise: float = number("Rise", -85, 85, 0.0, step=0.5, unit="°", help="Round the point, upwards", usual=(-60.0, 60.0))
    point_x: float = number("Point across", -2, 2, 0.0, step=0.01, help="Of the orbit, in frame widths from the middle")
    point_y: float = number("Point down", -2, 2, 0.0, step=0.01, help="Of the orbit, in frame heights from the middle")
    point_z: float = number(
        "Point depth", -10, 5, 0.0, step=0.01, help="Of the orbit, in frame heights towards the viewer", usual=(-3.0, 1.0)
    )
    focal: float = number(
        "Focal length",
        12,
        300,
        50.0,
        step=1,
        unit="mm",
        factor=True,
        usual=(18.0, 135.0),
        help="For a film gate whose longer side is 36 mm. As it stands it sets how strong the perspective is; keyframed, it draws in",
    )
    blurred: bool = switch("Focus blur", False, help="What is nearer or farther than the focus is blurred, as by a lens")
    aperture: float = number(
        "Aperture", 0.3, 32, 2.0, step=0.1, unit="f", usual=(0.3, 8.0), when=("blurred", (True,)), help="f-number: smaller blurs more"
    )
    focus: float = number(
        "Focus",
        -12,
        5,
        0.0,
        step=0.01,
        usual=(-3.0, 1.2),
        when=("blurred", (True,)),
        help="The depth that is sharp, in frame heights towards the viewer",
    )
    sorting: Literal["depth", "list"] = choice(
        "What covers what", (("depth", "By depth"), ("list", "As listed")), "depth", help="Layers of one depth always lie as listed"
    )
