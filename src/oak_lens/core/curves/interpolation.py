"""How two numbers are mixed; `s` is 0 at the first and 1 at the second and may overshoot."""


def lerp_number(a: float, b: float, s: float) -> float:
    return a + (b - a) * s
