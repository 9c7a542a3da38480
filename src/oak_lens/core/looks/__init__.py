"""Looks: mount, shadow, backdrop and correction, forms and masks, declared as parameter models that feed validation, controls and tests."""

from .backdrops import Backdrop
from .corrections import TONE_COLOURS, Correction, changes_nothing
from .forms import Form, Mask
from .histogram import Histogram, histogram
from .lettering import TEXT_PARTS, Ink, Panel, Setting
from .look import Look
from .mounts import Mount
from .parameters import Parameters, ParameterSpec, choice, number, offset, parameters_of, swatch, switch
from .shadows import Cast, Shadow, casts_of, shadow_growth, shadow_offset
from .shipped import BUILTIN as SHIPPED_LOOKS
from .shipped import SHIPPED
from .suggestion import suggested_correction
from .surfaces import SURFACES
from .text_styles import PLAIN, SHIPPED_STYLES, TEXT_STYLES, TextStyle

LOOK_PARTS = (
    ("mount", "Mount", Mount),
    ("shadow", "Shadow", Shadow),
    ("backdrop", "Backdrop", Backdrop),
    ("correction", "Correction", Correction),
)
"""(id, label, parameter model) of every part of a look, in the order people decide."""

DRAWN_PARTS = (("form", "Shape", Form), ("mask", "Mask", Mask))
"""The same of what is drawn: a shape layer's form, a layer's mask."""

__all__ = [
    "Backdrop",
    "Cast",
    "Correction",
    "DRAWN_PARTS",
    "Form",
    "Histogram",
    "Ink",
    "LOOK_PARTS",
    "Look",
    "Mask",
    "Mount",
    "PLAIN",
    "Panel",
    "ParameterSpec",
    "Parameters",
    "SHIPPED",
    "SHIPPED_LOOKS",
    "SHIPPED_STYLES",
    "SURFACES",
    "Setting",
    "Shadow",
    "TEXT_PARTS",
    "TEXT_STYLES",
    "TONE_COLOURS",
    "TextStyle",
    "casts_of",
    "changes_nothing",
    "choice",
    "histogram",
    "suggested_correction",
    "swatch",
    "number",
    "offset",
    "parameters_of",
    "shadow_growth",
    "shadow_offset",
    "switch",
]
