"""A scene's light."""

from ..looks.parameters import Parameters, number, percentage, swatch


class Light(Parameters):
    """A lamp before the scene: what is turned away from it or far from it is darker, and every shadow falls away from it."""

    x: float = number("Across", -3, 3, -0.3, step=0.01, help="In frame widths from the middle", usual=(-1.0, 1.0))
    y: float = number("Down", -3, 3, -0.4, step=0.01, help="In frame heights from the middle", usual=(-1.0, 1.0))
    z: float = number("Height", 0.1, 10, 0.9, step=0.01, help="Before the plane of depth 0, in frame heights", usual=(0.1, 3.0))
    colour: str = swatch("Colour", "#ffe2b0")
    strength: float = percentage("Strength", 0, 3, 1.0)
    falloff: float = number(
        "Reach", 0.1, 20, 1.4, step=0.05, help="Distance, in frame heights, at which its light has halved", usual=(0.2, 5.0)
    )
    ambient: float = percentage("Elsewhere", 0, 1, 0.35, help="Light that comes from everywhere")
