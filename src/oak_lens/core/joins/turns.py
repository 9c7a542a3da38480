"""Joins in depth: scenes as the faces of a block, as leaves, as doors."""

from math import cos, pi, sin, tan

import numpy as np

from ..draw import Composition, Picturing, Plate, homography_of
from ..space import Matrix3
from .catalogue import JoinSpec
from .settings import JoinSettings

HOME = 0.5 / tan(pi / 9)
"""Frame heights from which a frame's height fills a field of view of 40 degrees."""


def turned(axis: str, angle: float, hinge: float, back: float) -> Matrix3:
    """A face of the frame turned by `angle` (radians) about an upright (`x`) or level (`y`) axis at place `hinge` on it and `back` frame
    heights behind it; as a pinhole at the home distance sees it. Positive angles move its right (lower) side away."""
    c, s = cos(angle), sin(angle)
    # A point u across the axis: (u - hinge) c + back s beside it, and so much deeper.
    across = np.array((c, 0.0, hinge - hinge * c + back * s))
    deeper = np.array((s, 0.0, HOME - hinge * s + back * (1.0 - c)))
    along = np.array((0.0, 1.0, 0.0))
    rows = np.stack([across * HOME, along * HOME, deeper])
    if axis == "y":
        swap = np.array(((0.0, 1.0, 0.0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)))
        rows = swap @ rows @ swap
    return np.asarray(rows / rows[2, 2])


def _axis(settings: JoinSettings, drawn: Picturing) -> tuple[str, float, float]:
    """(axis, the sign of the way, half the side across it in frame heights)."""
    x, y = settings.way()
    return ("x", x, drawn.aspect / 2.0) if x else ("y", y, 0.5)


def _turn(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    axis, sign, half = _axis(settings, before)
    angle = pi / 2 * progress
    # A block's edge comes nearer than its faces: it is held a little farther off on the way.
    off = 1.0 + 0.22 * sin(pi * progress)
    leaving, coming = turned(axis, sign * angle, 0.0, half), turned(axis, -sign * (pi / 2 - angle), 0.0, half)
    away = np.diag((1.0 / off, 1.0 / off, 1.0))
    plates = [
        Plate(before, homography_of(away @ leaving), dark=0.55 * sin(angle)),
        Plate(after, homography_of(away @ coming), dark=0.55 * cos(angle)),
    ]
    return Composition(settings.colour, tuple(plates if progress > 0.5 else plates[::-1]))


def _fold(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    """Half of the scene before folds over the middle, its other side is half of the next one."""
    axis, sign, half = _axis(settings, before)
    left, right = _half(axis, -half, 0.0, before.aspect), _half(axis, 0.0, half, before.aspect)
    near, far = (right, left) if sign < 0 else (left, right)
    angle = pi * progress
    plates = [Plate(before, clip=far), Plate(after, clip=near, dark=0.5 * max(0.0, cos(angle)))]
    if progress < 0.5:
        leaf = Plate(before, homography_of(turned(axis, sign * angle, 0.0, 0.0)), clip=near, dark=0.5 * sin(angle))
    else:
        leaf = Plate(after, homography_of(turned(axis, sign * (angle - pi), 0.0, 0.0)), clip=far, dark=0.5 * sin(angle))
    return Composition("#000000", (*plates, leaf))


def _door(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    """Both halves of the scene before swing open, past the eye, and the next one comes up from behind."""
    half = before.aspect / 2.0
    angle = 0.5 * pi * progress
    size = 0.72 + 0.28 * progress
    room = homography_of(np.diag((size, size, 1.0)))

    def leaf(side: float) -> Plate:
        clip = _half("x", *((-half, 0.0) if side < 0 else (0.0, half)), before.aspect)
        return Plate(before, homography_of(turned("x", side * angle, side * half, 0.0)), clip=clip, dark=0.6 * sin(angle))

    return Composition(settings.colour, (Plate(after, room, dark=0.6 * (1.0 - progress)), leaf(-1.0), leaf(1.0)))


def _half(axis: str, low: float, high: float, aspect: float) -> tuple[tuple[float, float], ...]:
    """A part of the frame between two places on an axis."""
    if axis == "x":
        return (low, -0.5), (high, -0.5), (high, 0.5), (low, 0.5)
    return (-aspect / 2, low), (aspect / 2, low), (aspect / 2, high), (-aspect / 2, high)


DEPTH = ("direction", "colour", "ease")
TURN = JoinSpec("turn", 1, "Turn", "Two faces of a block that turns", "turn", _turn, DEPTH, words="cube box 3d rotate")
FOLD = JoinSpec("fold", 1, "Fold", "A leaf turns over the middle", "turn", _fold, ("direction", "ease"), words="page book leaf 3d flip")
DOOR = JoinSpec("door", 1, "Door", "Both halves swing open", "turn", _door, ("colour", "ease"), words="gate open 3d swing")
