"""Where layers stand: the planes of photos, shapes and groups as the frame sees them at a moment."""

from dataclasses import dataclass

import numpy as np

from ..curves import Lane, sample_value
from ..document import Document, PhotoLayer, Placement, ShapeLayer, View, resolved_correction, resolved_mount, resolved_shadow
from ..draw import Content, DrawnForm, MountedPhoto, homography_of
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
from ..space import Camera, Matrix3, Matrix4, frame_from_world, plane_homography, scaled, swung, tipped, translated, turned


@dataclass(frozen=True, slots=True)
class Ground:
    """What a layer is placed on: the frame, or a group. `scale` is how much larger than in the frame lengths appear on it."""

    frame_from_ground: Matrix4
    scale: float


@dataclass(frozen=True, slots=True)
class Standing:
    """A layer's content at a moment. `shadow_scale`: frame heights on the screen that one frame height of its shadow's lengths measures;
    `plane_scale`: the same in the plane."""

    content: Content
    frame_from_plane: Matrix3
    plane_scale: float
    shadow_scale: float
    shadow: Shadow | None


@dataclass(frozen=True, slots=True)
class StandingPhoto(Standing):
    """A photo, with the fit and view it has at the moment."""

    content: MountedPhoto
    fit: Fit
    view: View


def frame_ground(document: Document) -> Ground:
    """The frame itself, seen by the home camera."""
    return Ground(frame_from_world(Camera(), document.frame.aspect), 1.0)


def ground_in(document: Document, ground: Ground, placement: Placement, at: int, length: int) -> Ground:
    """The ground that a group makes for its layers."""
    size = sample_value(placement.size, at, length)
    return Ground(ground.frame_from_ground @ _ground_from_layer(placement, size, document.frame.aspect, at, length), ground.scale * size)


def standing_photo(document: Document, layer: PhotoLayer, at: int, length: int, ground: Ground | None = None) -> StandingPhoto:
    """The photo at `at` ticks after its scene came on screen for `length` ticks."""
    ground = ground or frame_ground(document)
    mount, shadow = resolved_mount(document, layer), resolved_shadow(document, layer)
    media = document.media[layer.media]
    aspect, picture, seen = document.frame.aspect, media.aspect, seen_aspect(document, layer)
    fit = fit_of(document, layer)
    size = sample_value(layer.placement.size, at, length)
    world = ground.frame_from_ground @ _ground_from_layer(layer.placement, size, aspect, at, length)
    if layer.window is None:
        width, height = plane_size(picture, aspect)
        view = view_at(layer.view, at, length, fit, picture, aspect, mount.border / size)
        view4 = np.eye(4)
        view4[np.ix_((0, 1, 3), (0, 1, 3))] = frame_from_view(view, fit, picture, aspect)
        world = world @ view4
        fractions = picture_from_shown(media)
        # Mount and shadow keep their width whatever the photo's size, and grow with the view's zoom.
        plane_scale = 1.0 / (size * fit_zoom(fit, picture, aspect))
        shadow_scale = view.zoom * ground.scale
        outline, sides = "rectangle", 6
    else:
        width, height = plane_size(seen, aspect)
        view = view_at(layer.view, at, length, fit, picture, seen)
        fractions = picture_from_window(view, fit, media, seen)
        plane_scale = min(width, height) / WINDOW_SIDE
        shadow_scale = plane_scale * size * ground.scale
        outline, sides = layer.window.outline, layer.window.sides
    from_plane = None
    if fractions is not None:
        from_plane = homography_of(fractions @ np.array(((1 / width, 0.0, 0.5), (0.0, 1 / height, 0.5), (0.0, 0.0, 1.0))))
    content = MountedPhoto(
        media=layer.media,
        moment=0 if media.clip is None else media.clip.moment(at),
        width=width,
        height=height,
        picture_from_plane=from_plane,
        outline=outline,
        sides=sides,
        mount=mount,
        scale=plane_scale,
        corrections=corrections_of(document, layer, at, length),
        caption=layer.caption,
        mask=layer.mask,
    )
    return StandingPhoto(content, plane_homography(world), plane_scale, shadow_scale, shadow, fit, view)


def corrections_of(document: Document, layer: PhotoLayer, at: int, length: int) -> tuple[Correction, ...]:
    """What is done to the picture's light and colour, in turn: the picture's own correction, then that of its use."""
    own = document.media[layer.media].correction
    used = resolved_correction(document, layer)
    return tuple(c.at(at, length) for c in (own, used) if c is not None and not changes_nothing(c))


def standing_shape(document: Document, layer: ShapeLayer, at: int, length: int, ground: Ground | None = None) -> Standing:
    """The shape at a moment; its stroke and shadow keep their width whatever its size."""
    ground = ground or frame_ground(document)
    size = sample_value(layer.placement.size, at, length)
    width, height = form_size(layer.form, document.frame.aspect)
    world = ground.frame_from_ground @ _ground_from_layer(layer.placement, size, document.frame.aspect, at, length)
    content = DrawnForm(layer.form, width, height, layer.form.stroke / size, layer.mask)
    return Standing(content, plane_homography(world), 1.0 / size, ground.scale, layer.shadow)


def form_size(form: Form, aspect: float) -> tuple[float, float]:
    """(width, height) of a form at size 1, in frame heights."""
    if form.outline == "sheet":
        return aspect, 1.0
    return (aspect, 0.0) if form.outline == "line" else plane_size(form.aspect, aspect)


def _ground_from_layer(placement: Placement, size: float, aspect: float, at: int, length: int) -> Matrix4:
    def now(value: float | Lane[float]) -> float:
        return value if isinstance(value, float) else sample_value(value, at, length)

    place = translated(now(placement.x) * aspect, now(placement.y), now(placement.z)) @ turned(now(placement.turn))
    tip, swing = now(placement.tip), now(placement.swing)
    if tip or swing:
        place = place @ tipped(tip) @ swung(swing)
    return place @ scaled(size)
