"""Projection against Chromium's CSS 3D transforms: an independent implementation of the same conventions."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from playwright.sync_api import Browser

from oak_lens.core.space import (
    Camera,
    frame_from_world,
    home_distance,
    map_points,
    plane_homography,
    rectangle_corners,
    scaled,
    swung,
    tipped,
    translated,
    turned,
)

HEIGHT_PX = 1000
PLACES = [
    # x, y, z, turn, tip, swing, size, aspect, focal
    (0.1, -0.2, 0.0, 0, 0, 0, 1.0, 1.5, 50),
    (0.0, 0.0, 0.3, 30, 0, 0, 0.7, 1.5, 50),
    (0.2, 0.1, -0.8, 0, 40, 0, 1.1, 1.0, 35),
    (-0.3, 0.0, 0.1, 0, 0, -55, 0.9, 1.78, 85),
    (0.15, 0.2, 0.25, -20, 25, 35, 0.6, 0.5625, 70),
]
SCRIPT = """([place, distance, corners, height]) => {
  const [x, y, z, turn, tip, swing, size] = place;
  // A corner is a point-sized box; the whole chain of transforms is on it, so its place is where CSS projects the corner.
  return corners.map(([u, v]) => {
    const m = new DOMMatrix(); // perspective(d)
    m.m34 = -1 / (distance * height);
    const all = m.translate(x * height, y * height, z * height).rotateAxisAngle(0, 0, 1, turn).rotateAxisAngle(1, 0, 0, tip)
      .rotateAxisAngle(0, 1, 0, swing).scale(size, size, size);
    const host = document.createElement('div');
    host.style.cssText = `position:absolute;left:0;top:0;width:0;height:0;transform-origin:0 0;transform:perspective(${distance * height}px) ` +
      `translate3d(${x * height}px,${y * height}px,${z * height}px) rotateZ(${turn}deg) rotateX(${tip}deg) rotateY(${swing}deg) scale3d(${size},${size},${size}) ` +
      `translate(${u * height}px,${v * height}px)`;
    document.body.append(host);
    const rect = host.getBoundingClientRect();
    const p = new DOMPoint(u * height, v * height, 0, 1).matrixTransform(all);
    return [rect.left / height, rect.top / height, p.x / p.w / height, p.y / p.w / height];
  });
}"""


@pytest.mark.parametrize("place", PLACES)
def test_corners_lie_where_css_puts_them(browser: Browser, place: tuple[float, ...]) -> None:
    x, y, z, turn, tip, swing, size, aspect, focal = place
    camera = Camera(focal)
    corners = rectangle_corners(0.8, 0.6)
    world = translated(x, y, z) @ turned(turn) @ tipped(tip) @ swung(swing) @ scaled(size)
    ours = map_points(plane_homography(frame_from_world(camera, aspect) @ world), corners)
    page = browser.new_page()
    page.set_content("<body style='margin:0'></body>")
    theirs = np.array(page.evaluate(SCRIPT, [list(place[:7]), home_distance(camera, aspect), corners.tolist(), HEIGHT_PX]))
    page.close()
    # Layout rounds to 1/64 px in single precision; DOMMatrix keeps angles in doubles but rounds on the way.
    assert ours == pytest.approx(theirs[:, :2], abs=2e-5)
    assert ours == pytest.approx(theirs[:, 2:], abs=2e-8)


@settings(max_examples=40)
@given(st.floats(0.4, 3.0), st.floats(12, 200))
def test_the_home_camera_shows_its_plane_as_the_frame_at_any_focal_length(aspect: float, focal: float) -> None:
    corners = rectangle_corners(aspect, 1.0)
    assert map_points(plane_homography(frame_from_world(Camera(focal), aspect)), corners) == pytest.approx(corners, abs=1e-12)
