"""How two values of one kind are mixed; `s` is 0 at the first and 1 at the second and may overshoot."""


def lerp_number(a: float, b: float, s: float) -> float:
    return a + (b - a) * s


def lerp_angle(a: float, b: float, s: float) -> float:
    """Degrees; whole turns count, so 0 to 720 turns twice."""
    return a + (b - a) * s


def lerp_pair(a: tuple[float, float], b: tuple[float, float], s: float) -> tuple[float, float]:
    return (a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s)


def lerp_colour(a: str, b: str, s: float) -> str:
    """Mix of two `#rrggbb` colours, channel by channel in sRGB, rounded and clamped.

    >>> lerp_colour("#000000", "#ffffff", 0.5)
    '#808080'
    """

    def channel(i: int) -> int:
        x, y = int(a[i : i + 2], 16), int(b[i : i + 2], 16)
        return min(255, max(0, int(x + (y - x) * s + 0.5)))

    return f"#{channel(1):02x}{channel(3):02x}{channel(5):02x}"
