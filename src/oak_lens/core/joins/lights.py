"""Joins through light: a leak that floods the picture, a burn that eats through it."""

from math import pi, sin

from ..draw import Composition, Glow, Matte, Picturing, Plate
from .catalogue import JoinSpec
from .settings import JoinSettings


def _leak(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    share = min(max((progress - 0.35) / 0.3, 0.0), 1.0)
    flood = Glow("leak", progress, settings.colour, 0.9 * settings.amount * sin(pi * progress), settings.seed)
    return Composition("#000000", (Plate(before), Plate(after, opacity=share), flood))


def _burn(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    softness = 0.04
    embers = Glow("embers", progress, settings.colour, settings.amount * min(1.0, 8.0 * progress, 8.0 * (1.0 - progress)), settings.seed)
    return Composition("#000000", (Plate(before), Plate(after, matte=Matte("clouds", progress, 0.0, softness, 0, settings.seed)), embers))


LEAK = JoinSpec(
    "leak", 1, "Light leak", "Stray light floods the picture", "light", _leak, ("colour", "amount", "seed", "ease"), {"colour": "#ff8a3c"},
    words="flare warm flood film",
)  # fmt: skip
BURN = JoinSpec(
    "burn", 1, "Film burn", "Burns through in glowing patches", "light", _burn, ("colour", "amount", "seed", "ease"), {"colour": "#ff7a2e"},
    words="fire melt embers",
)  # fmt: skip
