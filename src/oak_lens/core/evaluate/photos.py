"""One photo of a scene at a moment: where its plane is seen."""

from dataclasses import dataclass

import numpy as np

from ..curves import sample_value
from ..document import Document, PhotoLayer, Placement, View, resolved_photo
from ..framing import chosen_fit, fit_zoom, frame_from_view, plane_size, view_at
from ..framing.fits import Fit
from ..looks import Mount, Shadow
from ..space import Camera, Matrix3, Matrix4, frame_from_world, plane_homography, scaled, swung, tipped, translated, turned


@dataclass(frozen=True, slots=True)
class StandingPhoto:
    """A photo with everything inherited filled in, at one moment.

    `width`, `height`: the picture in its plane, frame heights. `plane_scale`: plane units that one frame height on the screen
    measures at zoom 1 of the view, so that borders and shadows keep their width whatever the photo's size.
    """

    layer: PhotoLayer
    fit: Fit
    view: View
    width: float
    height: float
    frame_from_plane: Matrix3
    plane_scale: float
    mount: Mount
    shadow: Shadow


def standing_photo(document: Document, layer: PhotoLayer, at: int, length: int) -> StandingPhoto:
    """The photo at `at` ticks after its scene came on screen for `length` ticks."""
    layer = resolved_photo(document, layer)
    assert layer.mount is not None and layer.shadow is not None and layer.fit is not None
    aspect = document.frame.aspect
    picture = document.media[layer.media].aspect
    fit = chosen_fit(layer.fit, picture, aspect)
    width, height = plane_size(picture, aspect)
    size = sample_value(layer.placement.size, at, length)
    view = view_at(layer.view, at, length, fit, picture, aspect, layer.mount.border / size)
    base = fit_zoom(fit, picture, aspect)
    world = _world_from_layer(layer.placement, size, aspect, at, length)
    view4 = np.eye(4)
    view4[np.ix_((0, 1, 3), (0, 1, 3))] = frame_from_view(view, fit, picture, aspect)
    seen = plane_homography(frame_from_world(Camera(), aspect) @ world @ view4)
    return StandingPhoto(layer, fit, view, width, height, seen, 1.0 / (size * base), layer.mount, layer.shadow)


def _world_from_layer(placement: Placement, size: float, aspect: float, at: int, length: int) -> Matrix4:
    def now(name: str) -> float:
        return sample_value(getattr(placement, name), at, length)

    place = translated(now("x") * aspect, now("y"), now("z"))
    return place @ turned(now("turn")) @ tipped(now("tip")) @ swung(now("swing")) @ scaled(size)
