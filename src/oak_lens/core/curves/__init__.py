"""Keyframes that carry their own handles, eases, lanes, paths, anchoring and sampling."""

from .anchoring import anchored, key_times
from .bezier import cubic_bezier
from .eases import EASES, EaseName, ease_name, eased_keys
from .follows import Bounce, Follow, Spring, followed
from .interpolation import lerp_number
from .keyframes import ORIGIN, Anchor, AnyLane, Handle, Keyframe, Lane, NumberLane, PathKeyframe, PathLane, Point
from .paths import controls, path_point, stretch_point
from .sampling import eased, sample

__all__ = [
    "EASES",
    "ORIGIN",
    "Anchor",
    "AnyLane",
    "Bounce",
    "EaseName",
    "Follow",
    "Handle",
    "Keyframe",
    "Lane",
    "NumberLane",
    "PathKeyframe",
    "PathLane",
    "Point",
    "Spring",
    "anchored",
    "controls",
    "cubic_bezier",
    "ease_name",
    "eased",
    "eased_keys",
    "followed",
    "key_times",
    "lerp_number",
    "path_point",
    "sample",
    "stretch_point",
]
