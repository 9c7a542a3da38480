"""A first opening and closing view for a picture: its subject in both, at a like pace, varied from scene to scene."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..document import Media, View
from .developing import shown_subject
from .fits import Fit, cover_zoom, limited_view
from .subjects import view_on_subject

Kind = Literal["in", "out", "across", "upright", "diagonal"]
KINDS: tuple[Kind, ...] = ("in", "across", "out", "diagonal", "upright")

PACE = 0.014
"""Frame widths a second by which an edge of the view goes over the picture."""

LEAST, MOST = 0.045, 0.16
"""Frame widths that a view goes at least and at most, however long its scene is."""

ROOM = 1.0
"""Enlargement that every view has at least, more than the filled frame."""

FLOATS = (
    (View(y=0.012, zoom=0.80), View(y=-0.012, zoom=0.87)),
    (View(x=-0.02, zoom=0.87), View(x=0.02, zoom=0.81)),
    (View(y=-0.012, zoom=0.81), View(y=0.012, zoom=0.88)),
)
"""Ways a picture that is shown whole drifts over its backdrop: it is never cut."""

LONG_SHAPE = 1.5
"""A picture so much longer than the frame is travelled along."""


@dataclass(frozen=True, slots=True)
class Wish:
    """What a suggestion may depend on. `seconds` the scene is seen; `variation` its number: neighbours differ; `seed` gives others.

    `sharpest`: the zoom at which one picture pixel fills one of the frame's.
    """

    seconds: float = 5.0
    variation: int = 0
    seed: int = 0
    sharpest: float = 4.0


def suggested_views(fit: Fit, media: Media, frame_aspect: float, wish: Wish) -> tuple[View, View]:
    """(opening, closing), within what the fit allows: each holds the picture's subject, if it is known and can be held."""
    chance = np.random.default_rng((wish.seed, wish.variation))
    if fit != "fill":
        opening, closing = FLOATS[(wish.variation + wish.seed) % len(FLOATS)]
        return limited_view(opening, fit, media.aspect, frame_aspect), limited_view(closing, fit, media.aspect, frame_aspect)
    way = min(max(PACE * wish.seconds, LEAST), MOST)
    long = cover_zoom(media.aspect, frame_aspect) > LONG_SHAPE
    opening, closing = _along(media, frame_aspect, way, chance) if long else _drift(media, frame_aspect, way, wish, chance)
    return (view_on_subject(opening, fit, media, frame_aspect), view_on_subject(closing, fit, media, frame_aspect))


def _drift(media: Media, frame_aspect: float, way: float, wish: Wish, chance: np.random.Generator) -> tuple[View, View]:
    # Kinds in turn, begun anywhere: so no scene moves like the one before it.
    kind = KINDS[(wish.variation + wish.seed * 3) % len(KINDS)]
    subject = shown_subject(media)
    x, y = ((subject[0] + subject[2]) / 2 - 0.5, (subject[1] + subject[3]) / 2 - 0.5) if subject else (0.0, -0.02)
    # An edge that goes `way` over the frame narrows the view by twice that; never past the picture's own pixels.
    near = max(min(ROOM / (1.0 - 2.0 * way), wish.sharpest), ROOM)
    side, tall = float(chance.choice((-1.0, 1.0))), float(chance.choice((-1.0, 1.0)))
    wide, close = View(zoom=ROOM), View(x=x * 0.7, y=y * 0.7, zoom=near)
    if kind == "in":
        return wide, close
    if kind == "out":
        return close, wide
    steady = max(min(1.0 + 1.2 * way, wish.sharpest), ROOM)
    half_x, half_y = way / 2 / steady, way / 2 / steady
    # Towards the subject, where it lies to one side.
    side, tall = (1.0 if x > 0.08 else -1.0 if x < -0.08 else side), (1.0 if y > 0.08 else -1.0 if y < -0.08 else tall)
    dx = half_x * side if kind in ("across", "diagonal") else 0.0
    dy = half_y * tall if kind in ("upright", "diagonal") else 0.0
    further = View(x=x * 0.3 + dx, y=y * 0.3 + dy, zoom=steady * (1.04 if kind == "diagonal" else 1.0))
    return View(x=x * 0.3 - dx, y=y * 0.3 - dy, zoom=steady), further


def _along(media: Media, frame_aspect: float, way: float, chance: np.random.Generator) -> tuple[View, View]:
    """Along a picture that is much longer than the frame, ending on the subject; as far as it is seen at both ends."""
    across = media.aspect > frame_aspect
    seen = 1.0 / cover_zoom(media.aspect, frame_aspect)
    subject = shown_subject(media)
    low, high = (subject[0], subject[2]) if subject and across else (subject[1], subject[3]) if subject else (0.5, 0.5)
    room = max(seen * 0.88 - (high - low), 0.0)
    # From the farther side, so that the view comes to the subject; without one, from either.
    middle = (low + high) / 2
    start_side = float(chance.choice((-1.0, 1.0))) if subject is None or abs(middle - 0.5) < 0.05 else (-1.0 if middle > 0.5 else 1.0)
    reach = min(max(3.0 * way, 0.2), 1.0 - seen) if subject is None else min(max(2.0 * way * seen, 0.06), room)
    end = min(max(middle - 0.5, -(1.0 - seen) / 2), (1.0 - seen) / 2)
    begin = end + start_side * reach
    if abs(begin) > (1.0 - seen) / 2:
        begin = end - start_side * reach
    return (View(x=begin), View(x=end)) if across else (View(y=begin), View(y=end))
