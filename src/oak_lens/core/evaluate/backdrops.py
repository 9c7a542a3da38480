"""A scene's backdrop at a moment."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from ..document import Document, in_order, photos_of, remembered, resolved_backdrop
from ..draw import BackdropItem, ColourItem, DrawItem, Focus, Grade, GradientItem, SurfaceItem, homography_of
from ..framing import picture_from_shown
from ..looks import Backdrop
from ..space import plane_homography
from .cameras import Seeing, lit_by, travel_between
from .motion import layer_motion
from .standing import corrections_in_turn, corrections_of, picture_at

DIRECTIONS = {"same": (0.0, 0.0), "right": (1.0, 0.0), "left": (-1.0, 0.0), "down": (0.0, 1.0), "up": (0.0, -1.0)}
"""In frames: where the part of a surface lies that a scene shows of the one it runs on from."""


def backdrop_at(document: Document, scene_id: str, at: int, length: int, seeing: Seeing, later: Seeing | None) -> DrawItem | None:
    """The scene's backdrop as its camera sees it, None where it has none. Surfaces lie at depth 0; all others are infinitely far.

    `later`: how the scene is seen when the shutter closes, None without motion blur.
    """
    scene = document.scenes[scene_id]
    backdrop = seeing.motion.of("backdrop", resolved_backdrop(document, scene))
    if backdrop.kind == "none":
        return None
    if backdrop.kind == "gradient":
        return GradientItem(backdrop.colour, backdrop.second_colour, backdrop.angle, backdrop.gradient == "radial")
    if backdrop.kind == "surface":
        return _surface(document, scene_id, backdrop, at, length, seeing, later)
    # A blurred copy is of the scene's lowest photo, corrected as that is now.
    photo = next((layer for _, layer in photos_of(scene) if not layer.hidden), None) if backdrop.kind == "blur" else None
    media = backdrop.media if backdrop.kind != "blur" else photo.media if photo is not None else None
    if backdrop.kind == "colour" or media is None:
        return ColourItem(backdrop.colour)
    record = document.media[media]
    if photo is not None:
        corrections = corrections_of(document, photo, layer_motion(document, photo, at, length, lambda: (1.0, 1.0, 1.0, 1.0)))
    else:
        corrections = corrections_in_turn(record.correction)
    developed = picture_from_shown(record)
    return BackdropItem(
        picture=picture_at(record, at),
        picture_from_shown=None if developed is None else homography_of(developed),
        shown_aspect=record.aspect,
        corrections=corrections,
        blur=backdrop.blur,
        zoom=backdrop.zoom,
        grade=grade_of(backdrop),
        move=None if backdrop.move == "still" else _moved(backdrop, at, length),
    )


def grade_of(backdrop: Backdrop) -> Grade:
    """What is done to a backdrop's colours."""
    return Grade(backdrop.brightness, backdrop.saturation, backdrop.tint, backdrop.tint_amount)


def _moved(backdrop: Backdrop, at: int, length: int) -> tuple[float, float, float]:
    """(magnification, x, y in frame heights) of the backdrop's own move."""
    share = at / length if length else 0.0
    by = backdrop.move_by
    if backdrop.move in ("closer", "away"):
        return 1.0 + by * (share if backdrop.move == "closer" else 1.0 - share), 0.0, 0.0
    x, y = {"left": (-1.0, 0.0), "right": (1.0, 0.0), "up": (0.0, -1.0), "down": (0.0, 1.0)}.get(backdrop.move, (0.0, 0.0))
    # A little larger, so that the move's ends still lie within the picture where its zoom leaves room.
    return 1.0 + by, x * by * (share - 0.5), y * by * (share - 0.5)


@dataclass(frozen=True, slots=True)
class SurfaceRun:
    """Where a surface began: `root` as it is there, `x` and `y` frames from it. `runs`: whether it goes on, before or after the scene."""

    root: Backdrop
    x: float
    y: float
    runs: bool


def surface_run(document: Document, scene_id: str, backdrop: Backdrop) -> SurfaceRun:
    """The run of a scene's surface, which is as `backdrop` says at the moment. Other scenes can change it."""
    run = surface_runs(document).get(scene_id)
    if run is None:
        return SurfaceRun(backdrop, 0.0, 0.0, False)
    return replace(run, root=backdrop) if run.root is resolved_backdrop(document, document.scenes[scene_id]) else run


@remembered
def surface_runs(document: Document) -> Mapping[str, SurfaceRun]:
    """The runs of all scenes with a surface, found in the whole film's order."""
    listed = [(key, resolved_backdrop(document, scene)) for key, scene in in_order(document.scenes)]
    runs, before = dict[str, SurfaceRun](), None
    for place, (key, backdrop) in enumerate(listed):
        after = listed[place + 1][1] if place + 1 < len(listed) else None
        if backdrop.kind != "surface":
            before = None
            continue
        root, x, y, goes_on = backdrop, 0.0, 0.0, after is not None and after.kind == "surface" and after.runs_on != "no"
        if before is not None and backdrop.runs_on != "no":
            step_x, step_y = DIRECTIONS[backdrop.runs_on]
            root, x, y, goes_on = before.root, before.x + step_x, before.y + step_y, True
        still = backdrop.runs_on == "no" and backdrop.move == "still"
        runs[key] = before = SurfaceRun(root, x, y, goes_on and not still)
    return runs


def _surface(
    document: Document, scene_id: str, backdrop: Backdrop, at: int, length: int, seeing: Seeing, later: Seeing | None
) -> SurfaceItem:
    """A surface that runs on is that of the scene it began in, moved by whole frames: no seam, whatever the frame's shape."""
    aspect = document.frame.aspect
    run = surface_run(document, scene_id, backdrop)
    root, x, y = run.root, run.x * aspect, run.y
    # What another scene goes on from must stand still, or the two would not meet.
    closer, move_x, move_y = (1.0, 0.0, 0.0) if backdrop.move == "still" or run.runs else _moved(backdrop, at, length)
    still = (closer, move_x, move_y) == (1.0, 0.0, 0.0)
    seen = plane_homography(seeing.frame_from_world)
    camera = None if seeing.camera.is_home and seeing.focus is None else homography_of(seen)
    lit = lit_by(seeing, np.eye(4), aspect)
    focus = None if seeing.focus is None else Focus(seeing.focus.k, seeing.focus.at / seeing.home)
    travel = None if later is None else travel_between(seen, plane_homography(later.frame_from_world))
    return SurfaceItem(root.surface, root.surface_scale, x - move_x, y - move_y, closer, grade_of(root), still, camera, lit, focus, travel)
