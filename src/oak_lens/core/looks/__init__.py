"""Looks: mount, shadow and backdrop, declared as parameter models that feed validation, controls and tests."""

from .backdrops import Backdrop
from .mounts import Mount
from .parameters import ParameterSpec, choice, colour, number, parameters_of, switch
from .shadows import Shadow, shadow_offset

LOOK_PARTS = (("mount", "Mount", Mount), ("shadow", "Shadow", Shadow), ("backdrop", "Backdrop", Backdrop))
"""(id, label, parameter model) of every part of a look, in the order people decide."""

__all__ = [
    "LOOK_PARTS",
    "Backdrop",
    "Mount",
    "ParameterSpec",
    "Shadow",
    "choice",
    "colour",
    "number",
    "parameters_of",
    "shadow_offset",
    "switch",
]
