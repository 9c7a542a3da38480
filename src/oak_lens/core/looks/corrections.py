"""Correction of a photo's light and colour; the original is never touched."""

from typing import Literal

from .parameters import Parameters, choice, number, percentage, swatch

TONES = (
    ("none", "Colour"),
    ("mono", "Black & white"),
    ("sepia", "Sepia"),
    ("cyan", "Blueprint"),
    ("copper", "Copper"),
    ("moss", "Moss"),
    ("own", "Own"),
)
TONED = tuple(t for t, _ in TONES if t != "none")
TONE_COLOURS = {"mono": "#808080", "sepia": "#9a7b52", "cyan": "#3f6f9a", "copper": "#a5673f", "moss": "#71805a"}
"""The colour that middle grey takes under each tone."""


class Correction(Parameters):
    """Every number may be keyframed; all at their defaults leave the photo as it is."""

    exposure: float = number("Exposure", -4, 4, 0.0, step=0.05, help="In stops: each doubles or halves the light, in linear light")
    contrast: float = percentage("Contrast", -1, 1, 0.0)
    highlights: float = percentage("Highlights", -1, 1, 0.0, help="Brightness of the light parts alone")
    shadows: float = percentage("Shadows", -1, 1, 0.0, help="Brightness of the dark parts alone")
    warmth: float = percentage("Warmth", -1, 1, 0.0, help="Towards amber, or towards blue")
    tint: float = percentage("Tint", -1, 1, 0.0, help="Towards magenta, or towards green")
    saturation: float = percentage("Saturation", 0, 2, 1.0)
    tone: Literal["none", "mono", "sepia", "cyan", "copper", "moss", "own"] = choice(
        "Tone", TONES, "none", help="One colour for the whole photo"
    )
    tone_amount: float = percentage("Tone strength", 0, 1, 1.0, when=("tone", TONED))
    tone_colour: str = swatch("Tone colour", "#7a6a8c", when=("tone", ("own",)))
    vignette: float = percentage("Vignette", -1, 1, 0.0, help="Darkens the rim, or lightens it")
    vignette_reach: float = percentage("Its reach", 0.1, 1, 0.6, help="How far in from the corners it begins")
    grain: float = percentage("Grain", 0, 1, 0.0, help="Film grain: strongest in middle tones, soft enough to code well")
    grain_size: float = number(
        "Grain size", 0.001, 0.02, 0.004, step=0.1, unit="%", scale=0.01, help="Of one grain, in hundredths of the photo's height"
    )
    grain_seed: int = number(
        "Grain pattern", 0, 9999, 1, step=1, help="Another number, another pattern; the same number, the same pattern", animated=False
    )
    sharpness: float = percentage("Sharpness", 0, 1, 0.0)


PLAIN = Correction()


def changes_nothing(correction: Correction) -> bool:
    """Whether a photo stays as it is.

    >>> changes_nothing(Correction(grain_size=0.01, tone_amount=0.2))
    True
    """
    idle = {"vignette_reach", "grain_size", "grain_seed", "tone_colour", "tone_amount"}
    return all(getattr(correction, name) == getattr(PLAIN, name) for name in Correction.model_fields if name not in idle)
