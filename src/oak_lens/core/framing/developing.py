"""How a picture is turned, flipped and cropped: from what is shown of it to the file's pixels."""

import numpy as np

from ..document import Area, Media
from ..space import Matrix3, similarity

QUARTERS = (
    ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    ((0.0, 1.0, 0.0), (-1.0, 0.0, 1.0), (0.0, 0.0, 1.0)),
    ((-1.0, 0.0, 1.0), (0.0, -1.0, 1.0), (0.0, 0.0, 1.0)),
    ((0.0, -1.0, 1.0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
)
"""Fractions of a picture turned clockwise by n quarters to fractions of the picture as it was."""

UNFLIPPED = np.array(((-1.0, 0.0, 1.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)))


def picture_from_turned(media: Media) -> Matrix3:
    """(3, 3): fractions of the turned and flipped picture to fractions of the file's picture."""
    quarter = np.array(QUARTERS[media.turned])
    matrix: Matrix3 = quarter @ UNFLIPPED if media.flipped else quarter
    return matrix


def turned_from_shown(media: Media) -> Matrix3:
    """(3, 3): fractions of what is shown to fractions of the turned picture; an affine map."""
    width, height = media.turned_size
    shown_width, shown_height = media.shown_size
    crop = media.crop
    x, y = (crop.x + crop.width / 2, crop.y + crop.height / 2) if crop else (0.5, 0.5)
    from_shown = np.array(((shown_width, 0.0, -shown_width / 2), (0.0, shown_height, -shown_height / 2), (0.0, 0.0, 1.0)))
    turn = similarity(1.0, -media.straighten, x * width, y * height)
    matrix: Matrix3 = np.diag((1.0 / width, 1.0 / height, 1.0)) @ turn @ from_shown
    return matrix


def picture_from_shown(media: Media) -> Matrix3 | None:
    """(3, 3): fractions of what is shown to fractions of the file's picture; None if the whole file is shown as it is."""
    return None if media.is_whole else picture_from_turned(media) @ turned_from_shown(media)


def limited_crop(area: Area, media: Media) -> Area:
    """The largest crop of the same shape and middle, as far as it must shrink so that no bare corner shows once straightened."""
    width, height = media.turned_size
    angle = np.radians(media.straighten)
    c, s = abs(np.cos(angle)), abs(np.sin(angle))
    w, h = area.width * width, area.height * height
    x, y = (area.x + area.width / 2) * width, (area.y + area.height / 2) * height
    room_x, room_y = min(x, width - x), min(y, height - y)
    share = min(1.0, 2 * room_x / (w * c + h * s), 2 * room_y / (w * s + h * c))
    if share >= 1.0 - 1e-9:
        return area
    share = max(share, 0.02)
    new_width, new_height = area.width * share, area.height * share
    return Area(
        x=min(max(x / width - new_width / 2, 0.0), 1.0 - new_width),
        y=min(max(y / height - new_height / 2, 0.0), 1.0 - new_height),
        width=new_width,
        height=new_height,
    )


def shown_subject(media: Media) -> tuple[float, float, float, float] | None:
    """(left, top, right, bottom) of the subject in fractions of what is shown; may reach beyond it. None if none is known."""
    if media.subject is None:
        return None
    area = media.subject
    corners = np.array([(area.x + dx * area.width, area.y + dy * area.height, 1.0) for dx, dy in ((0, 0), (1, 0), (1, 1), (0, 1))])
    matrix = picture_from_shown(media)
    points = corners if matrix is None else corners @ np.linalg.inv(matrix).T
    (left, top), (right, bottom) = points[:, :2].min(axis=0), points[:, :2].max(axis=0)
    return float(left), float(top), float(right), float(bottom)
