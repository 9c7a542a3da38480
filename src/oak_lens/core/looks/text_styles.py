"""Text styles: how texts look, under a name; those that ship. To add one: an entry; the picker, the catalogue and tests follow."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from .lettering import Ink, Panel, Setting
from .shadows import Shadow

SOFT = Shadow(opacity=0.55, distance=0.004, softness=0.008)
HALO = Shadow(opacity=0.6, distance=0.0, softness=0.014, colour="#0b1016")
"""A dark breath around letters of light: they are read over a bright sky, too."""

NO_SHADOW = Shadow(opacity=0.0)


class TextStyle(BaseModel):
    """What may be put on any text, as a copy or as a link."""

    model_config = ConfigDict(frozen=True, extra="allow")

    name: Annotated[str, Field(min_length=1, max_length=100)]
    help: Annotated[str, Field(max_length=300)] = ""
    setting: Setting = Setting()
    ink: Ink = Ink()
    panel: Panel = Panel()
    shadow: Shadow = SOFT


PLAIN = TextStyle(name="Plain", help="What a text looks like that has no style")
"""What applies where neither a text nor its style says anything."""


def _style(name: str, help: str, setting: Setting, ink: Ink, panel: Panel | None = None, shadow: Shadow = NO_SHADOW) -> TextStyle:
    return TextStyle(name=name, help=help, setting=setting, ink=ink, panel=panel or Panel(), shadow=shadow)


TEXT_STYLES: tuple[tuple[str, TextStyle], ...] = (
    ("frontispiece", _style(
        "Frontispiece", "A title in high contrast, widely set",
        Setting(family="playfair-display", weight=700, size=0.13, letter_spacing=0.01), Ink(), shadow=SOFT,
    )),
    ("museum-label", _style(
        "Museum label", "Small and dark on a white card",
        Setting(family="source-serif-4", weight=400, size=0.036, line_spacing=1.35, across="left"), Ink(colour="#24211c"),
        Panel(kind="whole", colour="#f7f3ea", opacity=1.0, pad_across=1.0, pad_down=0.7), Shadow(opacity=0.4, distance=0.004, softness=0.007),
    )),
    ("star-chart", _style(
        "Star chart", "Pale and wide, as on a map of the sky",
        Setting(family="montserrat", weight=300, size=0.06, letter_spacing=0.24, case="upper"),
        Ink(colour="#e3eef5", glow=0.3, glow_softness=0.3), shadow=HALO,
    )),
    ("field-notes", _style(
        "Field notes", "A quick hand in blue-black", Setting(family="caveat", weight=600, size=0.085, line_spacing=1.05, across="left"),
        Ink(colour="#22304a"), Panel(kind="lines", colour="#f3ead2", opacity=0.92, pad_across=0.35, pad_down=0.0, radius=0.12),
    )),
    ("slate-plaque", _style(
        "Slate plaque", "Cut into a dark plate",
        Setting(family="roboto-slab", weight=600, size=0.06, letter_spacing=0.06, case="upper", line_spacing=1.3), Ink(colour="#c8cfd3"),
        Panel(kind="whole", colour="#2a3136", opacity=1.0, pad_across=0.9, pad_down=0.6, radius=0.06),
        Shadow(opacity=0.6, distance=0.01, softness=0.012),
    )),
    ("expedition", _style(
        "Expedition map", "Old-style capitals in brown", Setting(family="eb-garamond", weight=500, italic=True, size=0.075, letter_spacing=0.04, figures="old"),
        Ink(colour="#efe0bf", outline=0.03, outline_colour="#4a3520", outline_place="outside"), shadow=SOFT,
    )),
    ("observing-log", _style(
        "Observing log", "Typed, with equally wide figures",
        Setting(family="courier-prime", weight=400, size=0.042, line_spacing=1.3, across="left", figures="tabular"), Ink(colour="#e8e4d6"), shadow=SOFT,
    )),
    ("poster-wall", _style(
        "Poster wall", "Tall and close", Setting(family="bebas-neue", size=0.2, line_spacing=0.95, letter_spacing=0.01), Ink(colour="#f4efe4"), shadow=SOFT,
    )),
    ("broadside", _style(
        "Broadside", "A fat face with a thin line", Setting(family="abril-fatface", size=0.13), Ink(colour="#f2c46d", outline=0.02, outline_colour="#2a1d0c"),
        shadow=SOFT,
    )),
    ("lower-line", _style(
        "Lower line", "A name and a place at the foot of the frame", Setting(family="inter", weight=600, size=0.046, across="left"), Ink(colour="#ffffff"),
        Panel(kind="lines", colour="#14181d", opacity=0.8, pad_across=0.45, pad_down=0.16),
    )),
    ("gold-leaf", _style(
        "Gold leaf", "A gradient as of metal", Setting(family="playfair-display", weight=800, size=0.12),
        Ink(fill="linear", colour="#fbe9b4", second_colour="#a8741f", angle=180), shadow=Shadow(opacity=0.6, distance=0.006, softness=0.006),
    )),
    ("signature", _style(
        "Signature", "A flowing hand", Setting(family="great-vibes", size=0.13), Ink(colour="#f8f4ea"), shadow=SOFT,
    )),
    ("chalk", _style(
        "Chalk", "Written on the board", Setting(family="patrick-hand", size=0.075, line_spacing=1.15), Ink(colour="#eef2ec", fill_opacity=0.92), shadow=SOFT,
    )),
    ("instrument", _style(
        "Instrument", "As on a dial: equal letters, green light", Setting(family="jetbrains-mono", weight=500, size=0.05, figures="tabular"),
        Ink(colour="#b6f0c4", glow=0.5, glow_softness=0.25, glow_colour="#3fae6a"), shadow=HALO,
    )),
)  # fmt: skip
"""(id, style)."""

SHIPPED_STYLES = dict(TEXT_STYLES)
