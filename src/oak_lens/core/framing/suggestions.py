"""A first opening and closing view for a picture, from its shape alone; varied from scene to scene."""

from ..document import View
from .fits import Fit

DRIFTS = (
    (View(zoom=1.02), View(x=0.012, y=-0.01, zoom=1.14)),
    (View(x=-0.012, y=0.008, zoom=1.15), View(zoom=1.03)),
    (View(x=-0.035, zoom=1.12), View(x=0.035, zoom=1.12)),
    (View(x=0.01, y=0.02, zoom=1.04), View(x=-0.012, y=-0.015, zoom=1.16)),
    (View(x=0.035, y=0.01, zoom=1.12), View(x=-0.03, y=-0.01, zoom=1.13)),
)
FLOATS = (
    (View(y=0.012, zoom=0.80), View(y=-0.012, zoom=0.87)),
    (View(x=-0.02, zoom=0.87), View(x=0.02, zoom=0.81)),
    (View(y=-0.012, zoom=0.81), View(y=0.012, zoom=0.88)),
)


def suggested_views(fit: Fit, picture_aspect: float, frame_aspect: float, variation: int) -> tuple[View, View]:
    """(opening, closing): a gentle drift within what the fit allows; `variation` is the scene's number."""
    if fit == "fill" and picture_aspect > 1.5 * frame_aspect:
        # A panorama is travelled along; the limit of the fit puts both ends flush with its edges.
        ends = (View(x=-0.4, zoom=1.0), View(x=0.4, zoom=1.0))
        return ends if variation % 2 == 0 else (ends[1], ends[0])
    if fit == "fill" and picture_aspect < frame_aspect / 1.5:
        ends = (View(y=0.3, zoom=1.0), View(y=-0.3, zoom=1.0))
        return ends if variation % 2 == 0 else (ends[1], ends[0])
    catalogue = DRIFTS if fit == "fill" else FLOATS
    return catalogue[variation % len(catalogue)]
