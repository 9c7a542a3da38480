"""Views: a straight zoom looks steady, a filled frame is never bare, a whole picture is never cut."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import View, view_lane
from oak_lens.core.framing import chosen_fit, frame_from_view, limited_view, mix_views, picture_polygon, plane_size, view_at
from oak_lens.core.space import map_points, rectangle_corners
from oak_lens.core.time import ticks

views = st.builds(View, x=st.floats(-0.6, 0.6), y=st.floats(-0.6, 0.6), zoom=st.floats(0.3, 6.0), turn=st.floats(-40, 40))
upright = st.builds(View, x=st.floats(-0.4, 0.4), y=st.floats(-0.4, 0.4), zoom=st.floats(0.5, 6.0))
aspects = st.floats(0.4, 3.0)


def test_equal_steps_of_a_zoom_look_like_equal_ratios() -> None:
    zooms = [mix_views(View(zoom=1.0), View(zoom=4.0), i / 8).zoom for i in range(9)]
    assert np.diff(np.log(zooms)) == pytest.approx(np.full(8, np.log(4.0) / 8))


@given(upright, upright, st.floats(0, 1), aspects, aspects)
def test_a_straight_zoom_keeps_one_point_where_it_is(a: View, b: View, s: float, picture: float, frame: float) -> None:
    if abs(a.zoom / b.zoom - 1) < 0.05:
        return
    first, last = (frame_from_view(v, "free", picture, frame) for v in (a, b))
    # The point that both views show at the same place of the frame: the fixed point of one after the other's inverse.
    step = np.linalg.inv(first) @ last
    scale = step[0, 0]
    fixed = (step[:2, 2] / (1 - scale))[None]
    seen = map_points(frame_from_view(mix_views(a, b, s), "free", picture, frame), fixed)
    assert seen == pytest.approx(map_points(first, fixed), abs=1e-6)


@given(views, views, st.floats(0, 1), aspects, aspects)
def test_a_filled_frame_is_never_bare(a: View, b: View, s: float, picture: float, frame: float) -> None:
    view = view_at(view_lane(a, b), ticks(s * 4), ticks(4), "fill", picture, frame)
    assert picture_polygon(view, "fill", picture, frame) == pytest.approx(
        np.clip(picture_polygon(view, "fill", picture, frame), 0, 1), abs=1e-9
    )


@given(views, aspects, aspects, st.floats(0, 0.1))
def test_a_whole_picture_is_never_cut(view: View, picture: float, frame: float, border: float) -> None:
    kept = limited_view(view, "whole", picture, frame, border)
    width, height = plane_size(picture, frame)
    corners = map_points(frame_from_view(kept, "whole", picture, frame), rectangle_corners(width + 2 * border, height + 2 * border))
    assert np.abs(corners[:, 0]).max() <= frame / 2 + 1e-9 and np.abs(corners[:, 1]).max() <= 0.5 + 1e-9


@pytest.mark.parametrize(
    ("picture", "frame", "fit"),
    [
        (1.5, 16 / 9, "fill"),
        (2 / 3, 16 / 9, "whole"),
        (2.9, 16 / 9, "fill"),
        (1.0, 16 / 9, "whole"),
        (2 / 3, 9 / 16, "fill"),
        (1.5, 9 / 16, "whole"),
    ],
)
def test_the_fit_by_shape(picture: float, frame: float, fit: str) -> None:
    assert chosen_fit("auto", picture, frame) == fit
