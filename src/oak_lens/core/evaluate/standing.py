"""How a layer of each kind stands at a moment, and what it shows."""

from dataclasses import dataclass
from math import cos, radians, sin

import numpy as np

from ..document import Document, Media, PhotoLayer, Placement, ShapeLayer, View, resolved_correction, resolved_mount, resolved_shadow
from ..draw import Content, DrawnForm, MountedPhoto, Picture, homography_of
from ..framing import (
    WINDOW_SIDE,
    Fit,
    fit_of,
    fit_zoom,
    frame_from_view,
    picture_from_shown,
    picture_from_window,
    plane_size,
    seen_aspect,
    view_at,
)
from ..looks import Correction, Form, Shadow, changes_nothing
from ..space import Camera, Matrix3, Matrix4, frame_from_world, home_distance, plane_homography, scaled, swung, tipped, translated, turned
from .cameras import Seeing
from .motion import STILL, Motion

Size = tuple[float, float]
"""Width and height in frame heights, of a layer at size 1."""

BEYOND_MARGIN = 0.06
"""Frame heights that a layer goes on beyond the frame's edge, for mount and shadow."""


@dataclass(frozen=True, slots=True)
class Ground:
    """What a layer is placed on: the scene, or a group. `scale` is how much larger than in the scene lengths appear on it."""

    seeing: Seeing
    world_from_ground: Matrix4
    scale: float

    @property
    def frame_from_ground(self) -> Matrix4:
        matrix: Matrix4 = self.seeing.frame_from_world @ self.world_from_ground
        return matrix


@dataclass(frozen=True, slots=True)
class Standing:
    """A layer's content at a moment. `shadow_scale`: frame heights on its ground that one frame height of its shadow's lengths measures;
    `plane_scale`: the same in the plane. `lifted`: frame heights above where it rests. `opacity`, `blur` as they are now."""

    content: Content
    world_from_plane: Matrix4
    frame_from_plane: Matrix3
    plane_scale: float
    shadow_scale: float
    shadow: Shadow | None
    opacity: float
    blur: float
    lifted: float


@dataclass(frozen=True, slots=True)
class StandingPhoto(Standing):
    """A photo, with the fit and view it has at the moment."""

    content: MountedPhoto
    fit: Fit
    view: View


def frame_ground(document: Document, seeing: Seeing | None = None) -> Ground:
    """The scene itself, by default as the home camera sees it."""
    if seeing is None:
        camera, aspect = Camera(), document.frame.aspect
        home = home_distance(camera, aspect)
        seeing = Seeing(camera, frame_from_world(camera, aspect), (0.0, 0.0, home), home, None, None, True, STILL)
    return Ground(seeing, np.eye(4), 1.0)


def ground_in(document: Document, ground: Ground, placement: Placement) -> Ground:
    """The ground that a group placed so makes for its layers."""
    world = ground.world_from_ground @ ground_from_layer(placement, document.frame.aspect)
    return Ground(ground.seeing, world, ground.scale * placement.size)


@dataclass(frozen=True, slots=True)
class Moment:
    """When layers stand: `at` ticks after `container`, which lists them, came on screen for `length` ticks."""

    document: Document
    at: int
    length: int
    container: str


def photo_size(document: Document, layer: PhotoLayer) -> Size:
    """Of its window, or of the whole picture."""
    aspect = document.frame.aspect
    return plane_size(seen_aspect(document, layer) if layer.window else document.media[layer.media].aspect, aspect)


def standing_photo(moment: Moment, layer: PhotoLayer, motion: Motion, ground: Ground, lifted: float) -> StandingPhoto:
    """The photo as it is at the moment."""
    document, at, length = moment.document, moment.at, moment.length
    media, aspect = document.media[layer.media], document.frame.aspect
    picture = media.aspect
    mount = motion.of("mount", resolved_mount(document, layer))
    shadow = motion.of("shadow", resolved_shadow(document, layer))
    seen = seen_aspect(document, layer)
    fit, size = fit_of(document, layer), layer.placement.size
    world = ground.world_from_ground @ ground_from_layer(layer.placement, aspect)
    if layer.window is None:
        width, height = plane_size(picture, aspect)
        view = view_at(layer.view, at, length, fit, picture, aspect, mount.border / size)
        view4 = np.eye(4)
        view4[np.ix_((0, 1, 3), (0, 1, 3))] = frame_from_view(view, fit, picture, aspect)
        world = world @ view4
        fractions = picture_from_shown(media)
        # Mount and shadow keep their width whatever the photo's size, and grow with the view's zoom.
        plane_scale = 1.0 / (size * fit_zoom(fit, picture, aspect))
        shadow_scale = view.zoom
        outline, sides = "rectangle", 6
    else:
        width, height = plane_size(seen, aspect)
        view = view_at(layer.view, at, length, fit, picture, seen)
        fractions = picture_from_window(view, fit, media, seen)
        plane_scale = min(width, height) / WINDOW_SIDE
        shadow_scale = plane_scale * size
        outline, sides = layer.window.outline, layer.window.sides
    from_plane = None
    if fractions is not None:
        from_plane = homography_of(fractions @ np.array(((1 / width, 0.0, 0.5), (0.0, 1 / height, 0.5), (0.0, 0.0, 1.0))))
    content = MountedPhoto(
        picture=picture_at(media, at),
        width=width,
        height=height,
        picture_from_plane=from_plane,
        outline=outline,
        sides=sides,
        mount=mount,
        scale=plane_scale,
        corrections=corrections_of(document, layer, motion),
        caption=layer.caption,
        mask=layer.mask,
    )
    frame = plane_homography(ground.seeing.frame_from_world @ world)
    return StandingPhoto(content, world, frame, plane_scale, shadow_scale, shadow, layer.opacity, layer.blur, lifted, fit, view)


def picture_at(media: Media, at: int) -> Picture:
    """What a picture or clip shows after `at` ticks."""
    clip = media.clip
    return Picture(media.sha256, media.width, media.height, clip is not None, 0 if clip is None else clip.moment(at))


def corrections_of(document: Document, layer: PhotoLayer, motion: Motion = STILL) -> tuple[Correction, ...]:
    """What is done to the picture's light and colour, in turn: the picture's own correction, then that of its use."""
    own = document.media[layer.media].correction
    used = motion.of("correction", resolved_correction(document, layer))
    return corrections_in_turn(own, used)


def corrections_in_turn(*corrections: Correction | None) -> tuple[Correction, ...]:
    """Those of the corrections that change anything."""
    return tuple(c for c in corrections if c is not None and not changes_nothing(c))


def shape_size(document: Document, layer: ShapeLayer) -> Size:
    return form_size(layer.form, document.frame.aspect)


def standing_shape(moment: Moment, layer: ShapeLayer, motion: Motion, ground: Ground, lifted: float) -> Standing:
    """The shape as it is at the moment; its stroke and shadow keep their width whatever its size."""
    aspect, size = moment.document.frame.aspect, layer.placement.size
    width, height = shape_size(moment.document, layer)
    world = ground.world_from_ground @ ground_from_layer(layer.placement, aspect)
    content = DrawnForm(layer.form, width, height, layer.form.stroke / size, layer.mask)
    shadow = None if layer.shadow is None else motion.of("shadow", layer.shadow)
    frame = plane_homography(ground.seeing.frame_from_world @ world)
    return Standing(content, world, frame, 1.0 / size, 1.0, shadow, layer.opacity, layer.blur, lifted)


def beyond_frame(placement: Placement, size: Size, aspect: float) -> tuple[float, float, float, float]:
    """How far (left, up, right, down; fractions of the frame) a layer of this size must go to be just out of sight."""
    width, height = size
    c, s = abs(cos(radians(placement.turn))), abs(sin(radians(placement.turn)))
    half_x = (width * c + height * s) / 2 * placement.size + BEYOND_MARGIN
    half_y = (width * s + height * c) / 2 * placement.size + BEYOND_MARGIN
    ways = (
        0.5 + placement.x + half_x / aspect,
        0.5 + placement.y + half_y,
        0.5 - placement.x + half_x / aspect,
        0.5 - placement.y + half_y,
    )
    left, up, right, down = (max(way, 0.0) for way in ways)
    return left, up, right, down


def form_size(form: Form, aspect: float) -> tuple[float, float]:
    """(width, height) of a form at size 1, in frame heights."""
    if form.outline == "sheet":
        return aspect, 1.0
    return (aspect, 0.0) if form.outline == "line" else plane_size(form.aspect, aspect)


def ground_from_layer(placement: Placement, aspect: float) -> Matrix4:
    """(4, 4): a layer at size 1, upright in the middle, to where it is placed on its ground."""
    place = translated(placement.x * aspect, placement.y, placement.z) @ turned(placement.turn)
    if placement.tip or placement.swing:
        place = place @ tipped(placement.tip) @ swung(placement.swing)
    return place @ scaled(placement.size)
