"""The moved camera against Chromium's CSS 3D transforms; focus against the thin-lens equation."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from playwright.sync_api import Browser

from oak_lens.core.space import (
    Camera,
    circle_of_confusion,
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
    world_from_camera,
)
from oak_lens.core.space.lens import FRAME_HEIGHT_MM

HEIGHT_PX = 1000
SCRIPT = """(cases) => cases.map(({focal, camera, plane, corners}) => corners.map(([u, v]) => {
  // The eye of CSS stands at z = perspective: the camera's own axes are brought there.
  const host = document.createElement('div');
  host.style.cssText = `position:absolute;left:0;top:0;width:0;height:0;transform-origin:0 0;transform:perspective(${focal}px) translateZ(${focal}px) ` +
    `${camera} ${plane} translate(${u}px,${v}px)`;
  document.body.append(host);
  const rect = host.getBoundingClientRect();
  host.remove();
  return [rect.left, rect.top];
}))"""


def css_plane(x: float, y: float, z: float, turn: float, tip: float, swing: float, size: float) -> str:
    return f"translate3d({x * HEIGHT_PX}px,{y * HEIGHT_PX}px,{z * HEIGHT_PX}px) rotateZ({turn}deg) rotateX({tip}deg) rotateY({swing}deg) scale3d({size},{size},{size})"


def css_camera(c: Camera, aspect: float) -> str:
    """The inverse of where the camera stands, as a list of CSS functions written by hand from the conventions."""
    px, py, pz = (v * HEIGHT_PX for v in c.point)
    place = f"translate3d({-c.track * HEIGHT_PX}px,{-c.pedestal * HEIGHT_PX}px,{-(home_distance(c, aspect) - c.dolly) * HEIGHT_PX}px)"
    back = f"translate3d({px}px,{py}px,{pz}px) rotateX({-c.rise}deg) rotateY({-c.orbit}deg) translate3d({-px}px,{-py}px,{-pz}px)"
    return f"rotateZ({-c.roll}deg) rotateX({c.tilt}deg) rotateY({c.pan}deg) {place} {back}"


def test_random_cameras_see_planes_where_css_does(browser: Browser) -> None:
    rng = np.random.default_rng(7)
    cases: list[dict[str, Any]] = []
    ours = []
    while len(cases) < 60:
        aspect = float(rng.uniform(0.6, 2.2))
        numbers = rng.uniform(-1, 1, 14)
        camera = Camera(
            float(rng.uniform(20, 120)),
            float(rng.uniform(25, 90)),
            *(0.4 * numbers[:3]),
            *(18 * numbers[3:6]),
            *(35 * numbers[6:8]),
            point=(0.2, -0.1, -0.3),
        )
        place = (*(0.5 * numbers[8:11]), *(50 * numbers[11:14]), float(rng.uniform(0.3, 1.2)))
        x, y, z, turn, tip, swing, size = place
        world = translated(x, y, z) @ turned(turn) @ tipped(tip) @ swung(swing) @ scaled(size)
        corners = rectangle_corners(0.8, 0.6)
        seen = map_points(plane_homography(frame_from_world(camera, aspect) @ world), corners)
        if not np.isfinite(seen).all() or np.abs(seen).max() > 6:
            continue
        ours.append(seen)
        focal_px = max(aspect, 1.0) * camera.focal_mm / 36.0 * HEIGHT_PX
        cases.append(
            {"focal": focal_px, "camera": css_camera(camera, aspect), "plane": css_plane(*place), "corners": (corners * HEIGHT_PX).tolist()}
        )
    page = browser.new_page()
    page.set_content("<body style='margin:0'></body>")
    theirs = np.array(page.evaluate(SCRIPT, cases)) / HEIGHT_PX
    page.close()
    # Layout rounds to 1/64 px in single precision.
    assert np.array(ours) == pytest.approx(theirs, abs=1e-4)


@given(st.floats(-2, 0.9), st.floats(-2, 0.9), st.floats(-0.4, 0.4), st.floats(20, 120))
def test_parallax_is_that_of_similar_triangles(near: float, far: float, track: float, focal: float) -> None:
    aspect = 16 / 9
    distance = home_distance(Camera(focal), aspect)
    moved = [
        map_points(plane_homography(frame_from_world(Camera(focal, track=track), aspect) @ translated(0, 0, z)), np.zeros((1, 2)))[0, 0]
        for z in (near, far)
    ]
    assert moved == pytest.approx([-track * distance / (distance - z) for z in (near, far)], abs=1e-12)


def test_each_way_of_moving_goes_the_way_its_name_says() -> None:
    aspect = 1.5
    eye = {
        name: world_from_camera(Camera(**{name: 0.2 if name in ("track", "pedestal", "dolly") else 10.0}), aspect)
        for name in ("track", "pedestal", "dolly", "pan", "tilt", "roll", "orbit", "rise")
    }
    home = home_distance(Camera(), aspect)
    assert eye["track"][:3, 3] == pytest.approx((0.2, 0, home)) and eye["pedestal"][:3, 3] == pytest.approx((0, 0.2, home))
    assert eye["dolly"][:3, 3] == pytest.approx((0, 0, home - 0.2))
    looks = {name: -m[:3, 2] for name, m in eye.items()}
    assert looks["pan"][0] > 0 and looks["tilt"][1] < 0 and looks["roll"] == pytest.approx((0, 0, -1))
    assert eye["roll"][:3, 1][0] < 0  # Its own downwards leans to the left: it is turned clockwise.
    assert eye["orbit"][0, 3] > 0 and eye["rise"][1, 3] < 0
    for name in ("orbit", "rise"):
        # Still looking at the point, from as far.
        assert np.cross(eye[name][:3, 3], looks[name]) == pytest.approx(np.zeros(3), abs=1e-12)
        assert np.linalg.norm(eye[name][:3, 3]) == pytest.approx(home)


@given(st.floats(20, 150), st.floats(0.5, 22), st.floats(0.8, 8), st.floats(0.8, 20))
def test_the_circle_of_confusion_is_that_of_a_thin_lens(focal: float, f_number: float, focus: float, depth: float) -> None:
    aspect = 16 / 9
    s, d = focus * FRAME_HEIGHT_MM, depth * FRAME_HEIGHT_MM
    if s < 2 * focal or d < 1.5 * focal:
        return
    # Gauss: 1 / f = 1 / object + 1 / image. Rays of the opening meet at one image distance and are cut at the other.
    film, meets = 1 / (1 / focal - 1 / s), 1 / (1 / focal - 1 / d)
    on_film = focal / f_number * abs(film - meets) / meets
    assert circle_of_confusion(focal, f_number, focus, depth, aspect) == pytest.approx(on_film * aspect / 36.0, rel=1e-9, abs=1e-12)
