"""Colours as numbers."""

CHANNELS = ("red", "green", "blue")
FULL = 255.0
"""The level of a channel at its most."""

RGB = tuple[float, float, float]


def rgb_of(colour: str) -> RGB:
    """(red, green, blue) 0..255 of `#rrggbb`."""
    return float(int(colour[1:3], 16)), float(int(colour[3:5], 16)), float(int(colour[5:7], 16))


def colour_of(rgb: RGB) -> str:
    """`#rrggbb` of levels 0..255, rounded; what lies beyond is brought to the nearest that exists.

    >>> colour_of((255, 16.6, -3))
    '#ff1100'
    """
    red, green, blue = (int(min(max(level, 0.0), FULL) + 0.5) for level in rgb)
    return f"#{red:02x}{green:02x}{blue:02x}"


def with_channel(colour: str, channel: int, level: float) -> str:
    """The colour with one of its channels (0 red, 1 green, 2 blue) at another level."""
    rgb = list(rgb_of(colour))
    rgb[channel] = level
    return colour_of((rgb[0], rgb[1], rgb[2]))
