"""One scene at a moment: its draw list."""

from ..document import Document, photos_of, resolved_backdrop
from ..draw import BackdropItem, ColourItem, DrawItem, DrawList, PhotoItem, ShadowItem, homography_of
from ..looks import shadow_offset
from ..space import similarity
from .photos import StandingPhoto, standing_photo


def scene_at(document: Document, scene_id: str, at: int, length: int) -> DrawList:
    """The scene `at` ticks after it came on screen for `length` ticks."""
    scene = document.scenes[scene_id]
    photos = photos_of(scene)
    backdrop = resolved_backdrop(document, scene)
    items: list[DrawItem] = []
    if backdrop.kind == "colour" or not photos:
        items.append(ColourItem(backdrop.colour))
    else:
        items.append(BackdropItem(photos[0][1].media, backdrop.blur, backdrop.brightness, backdrop.saturation, backdrop.zoom))
    for _, layer in photos:
        photo = standing_photo(document, layer, at, length)
        if layer.opacity <= 0.0:
            continue
        if photo.shadow.opacity > 0.0:
            items.append(_shadow(photo))
        items.append(_photo(photo))
    return DrawList(document.frame.aspect, tuple(items))


def _photo(photo: StandingPhoto) -> PhotoItem:
    border = photo.mount.border * photo.plane_scale
    return PhotoItem(
        media=photo.layer.media,
        frame_from_plane=homography_of(photo.frame_from_plane),
        width=photo.width,
        height=photo.height,
        border=border,
        border_colour=photo.mount.colour,
        radius=_radius(photo, border),
        opacity=photo.layer.opacity,
    )


def _shadow(photo: StandingPhoto) -> ShadowItem:
    """The photo's outline moved away from the light in frame coordinates, so turning the photo does not turn it."""
    border = photo.mount.border * photo.plane_scale
    dx, dy = shadow_offset(photo.shadow)
    zoom = photo.view.zoom
    return ShadowItem(
        frame_from_plane=homography_of(similarity(1.0, 0.0, dx * zoom, dy * zoom) @ photo.frame_from_plane),
        width=photo.width + 2 * border,
        height=photo.height + 2 * border,
        radius=_radius(photo, border),
        softness=photo.shadow.softness * photo.plane_scale,
        colour=photo.shadow.colour,
        opacity=photo.shadow.opacity * photo.layer.opacity,
    )


def _radius(photo: StandingPhoto, border: float) -> float:
    """Outer corner radius in the plane, at most half the shorter side."""
    return min(photo.mount.radius * photo.plane_scale, (min(photo.width, photo.height) + 2 * border) / 2)
