"""Keyframes that carry their own handles, eases, lanes, anchoring and sampling."""

from .anchoring import key_times
from .bezier import cubic_bezier
from .eases import EASES, EaseName, ease_name, eased_keys
from .interpolation import lerp_angle, lerp_colour, lerp_number, lerp_pair
from .keyframes import Anchor, Handle, Keyframe, Lane, NumberLane
from .sampling import sample, sample_value

__all__ = [
    "EASES",
    "Anchor",
    "EaseName",
    "Handle",
    "Keyframe",
    "Lane",
    "NumberLane",
    "cubic_bezier",
    "ease_name",
    "eased_keys",
    "key_times",
    "lerp_angle",
    "lerp_colour",
    "lerp_number",
    "lerp_pair",
    "sample",
    "sample_value",
]
