"""What a value is that follows a dial."""

from ..looks.colours import RGB, colour_of, rgb_of
from ..looks.links import DialMapping
from .templates import Dial, DialValue

AS_IT_IS = DialMapping()


def dialled(dial: Dial, at: DialValue, mapping: DialMapping | None, kind: str) -> DialValue | None:
    """What a value of `kind` (number, colour, choice, switch, typeface, text) is where its dial stands `at`, a value it takes; None where the dial
    says nothing of that kind.

    >>> dialled(Dial(order="V", name="Size", maximum=10), 5.0, DialMapping(low=3, high=1), "number")
    2.0
    """
    mapping = mapping or AS_IT_IS
    named = {True: "on", False: "off"}[at] if isinstance(at, bool) else at
    if isinstance(named, str) and named in mapping.values:
        return mapping.values[named]
    share = _share(dial, at)
    if share is not None:
        if kind == "number" and mapping.low is not None and mapping.high is not None:
            return _stepped(mapping.low, mapping.low + (mapping.high - mapping.low) * share, mapping.step)
        if kind == "colour" and mapping.colours is not None:
            return _mixed(*mapping.colours, share)
        if kind == "switch" and dial.kind == "switch":
            return bool(at)
        return at if kind == "number" and dial.kind in ("amount", "seed") else None
    if dial.kind == "colour" and kind == "colour" and isinstance(at, str):
        return at if mapping.mix is None else _mixed(at, mapping.mix, mapping.share)
    return at if kind in TAKEN_OVER.get(dial.kind, ()) else None


def dial_at(dial: Dial, mapping: DialMapping | None, value: DialValue) -> DialValue | None:
    """Where a dial says `value` of what follows it by a mapping, or comes nearest to it; None where no place of it is known to.

    >>> dial_at(Dial(order="V", name="Size", maximum=10), DialMapping(low=3, high=1), 2.0)
    5.0
    """
    mapping = mapping or AS_IT_IS
    said = next((name for name, worth in mapping.values.items() if worth == value), None)
    at: DialValue | None = value
    if said is not None:
        at = said == "on" if dial.kind == "switch" else said
    elif mapping.values or mapping.colours is not None or mapping.mix is not None:
        return None
    elif dial.kind == "amount" and mapping.low is not None and mapping.high is not None and not isinstance(value, str | bool):
        share = (value - mapping.low) / (mapping.high - mapping.low) if mapping.high != mapping.low else 0.0
        at = dial.minimum + min(max(share, 0.0), 1.0) * (dial.maximum - dial.minimum)
    elif dial.kind in ("amount", "seed") and not isinstance(value, str | bool):
        at = min(max(value, dial.minimum), dial.maximum)
    return at if at is not None and dial.takes(at) else None


TAKEN_OVER = {"choice": ("choice", "text"), "text": ("text",), "face": ("typeface",)}
"""Kinds of values that take over what a dial of a kind says, as it is."""


def _share(dial: Dial, at: DialValue) -> float | None:
    """How far an amount stands between its least and greatest, a switch between off and on; None for all others."""
    if isinstance(at, bool):
        return float(at)
    return None if isinstance(at, str) else (at - dial.minimum) / (dial.maximum - dial.minimum)


def _stepped(low: float, value: float, step: float) -> float:
    return value if not step else low + round((value - low) / step) * step


def _mixed(first: str, second: str, share: float) -> str:
    """A colour between two, by the levels of their channels, as keyframes mix them."""
    a, b = rgb_of(first), rgb_of(second)
    rgb: RGB = (a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share)
    return colour_of(rgb)
