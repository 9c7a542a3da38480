"""A photo's window, and the picture in it."""

import numpy as np

from ..document import Document, Media, PhotoLayer, View
from ..space import Matrix3
from .developing import picture_from_shown
from .fits import Fit, chosen_fit, plane_size
from .subjects import view_on_subject
from .views import frame_from_view

TRIVIAL = 1e-9

WINDOW_SIDE = 0.6
"""Shorter side, in frame heights, of the window whose mount and shadow have the lengths their numbers say."""


def seen_aspect(document: Document, layer: PhotoLayer) -> float:
    """Width / height of what a photo's views are rectangles of: its window, or the frame."""
    if layer.window is None:
        return document.frame.aspect
    return layer.window.aspect or document.media[layer.media].aspect


def fit_of(document: Document, layer: PhotoLayer) -> Fit:
    """The fit of a photo in its window or in the frame; a window fills by itself."""
    choice = layer.fit or document.defaults.fit
    if layer.window is not None and choice == "auto":
        return "fill"
    return chosen_fit(choice, document.media[layer.media].aspect, document.frame.aspect)


def on_subject(document: Document, layer: PhotoLayer) -> PhotoLayer:
    """The photo with its views brought onto its picture's subject, where they miss it."""
    media, fit, seen = document.media[layer.media], fit_of(document, layer), seen_aspect(document, layer)
    keys = {n: key.model_copy(update={"value": view_on_subject(key.value, fit, media, seen)}) for n, key in layer.view.keys.items()}
    return layer.model_copy(update={"view": layer.view.model_copy(update={"keys": keys})})


def picture_from_window(view: View, fit: Fit, media: Media, aspect: float) -> Matrix3 | None:
    """(3, 3): fractions of a window of `aspect` to fractions of the file's picture; None if they are the same."""
    picture = media.aspect
    width, height = plane_size(picture, aspect)
    window = np.array(((aspect, 0.0, -aspect / 2), (0.0, 1.0, -0.5), (0.0, 0.0, 1.0)))
    to_fractions = np.array(((1 / width, 0.0, 0.5), (0.0, 1 / height, 0.5), (0.0, 0.0, 1.0)))
    shown_from_window = to_fractions @ np.linalg.inv(frame_from_view(view, fit, picture, aspect)) @ window
    developed = picture_from_shown(media)
    if developed is None and np.abs(shown_from_window - np.eye(3)).max() < TRIVIAL:
        return None
    matrix: Matrix3 = shown_from_window if developed is None else developed @ shown_from_window
    return matrix
