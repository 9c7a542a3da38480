"""Colours as numbers."""


def rgb_of(colour: str) -> tuple[float, float, float]:
    """(red, green, blue) 0..255 of `#rrggbb`."""
    return float(int(colour[1:3], 16)), float(int(colour[3:5], 16)), float(int(colour[5:7], 16))
