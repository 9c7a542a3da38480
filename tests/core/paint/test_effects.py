"""Motion blur, focus, light and clipping against slow and plain ways of computing them."""

from dataclasses import replace
from itertools import pairwise
from typing import Any

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Document
from oak_lens.core.draw import ColourItem, DrawList, Focus, Grade, LayerItem, Lit, ShadowItem, SurfaceItem, homography_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import scene_at
from oak_lens.core.looks import Mount
from oak_lens.core.paint import Painter
from oak_lens.core.paint.streaks import root_of
from oak_lens.core.space import Camera, frame_from_world, plane_homography, scaled, similarity, swung, translated
from oak_lens.core.time import ticks
from tests.conftest import Pictures, made_document, mounted

W, H, ASPECT = 480, 270, 480 / 270
PRINT = mounted("square", 0.5, 0.5, mount=Mount(border=0.02, colour="#ffffff"))


def painted(source: Pictures, *items: Any, size: tuple[int, int] = (W, H)) -> np.ndarray[Any, Any]:
    return Painter(source).paint(DrawList(ASPECT, (ColourItem("#203040"), *items)), *size)[..., :3].astype(float)


def at(matrix: Any, **fields: Any) -> LayerItem:
    return LayerItem(PRINT, homography_of(matrix), 1.0, **fields)


MOTIONS = {
    "shift": similarity(1.0, 0.0, 0.06, 0.02),
    "turn": similarity(1.0, 9.0, 0.0, 0.0),
    "zoom": similarity(1.14, 0.0, 0.0, 0.0),
    "turn and shift": similarity(1.03, -5.0, -0.05, 0.04),
    "towards": plane_homography(frame_from_world(Camera(dolly=0.2), ASPECT)),
}


def translated_about(x: float, y: float, motion: Any) -> Any:
    """The motion about a point of the frame instead of its middle."""
    return similarity(1.0, 0.0, x, y) @ motion @ similarity(1.0, 0.0, -x, -y)


@pytest.mark.parametrize("name", MOTIONS)
def test_motion_blur_is_the_mean_of_many_pictures_on_the_way(name: str, source: Pictures) -> None:
    place = plane_homography(frame_from_world(Camera(), ASPECT) @ translated(0.1, 0.05, 0.1) @ swung(15))
    travel = MOTIONS[name]
    blurred = painted(source, at(place, travel=homography_of(travel)))
    steps = 64
    step = root_of(travel, steps)
    moment, total = place, np.zeros_like(blurred)
    for _ in range(steps):
        total += painted(source, at(moment))
        moment = step @ moment
    # Every pass of the doubling resamples once, so fine detail is a little softer than in the mean.
    difference = np.abs(blurred - total / steps)
    assert difference.mean() < 1.1 and np.quantile(difference, 0.99) < 13
    sharp = painted(source, at(place))
    assert np.abs(sharp - total / steps).mean() > 2.5 * difference.mean()


@pytest.mark.parametrize("side", [-1.0, 1.0])
def test_what_comes_in_from_outside_leaves_its_streak_inside(side: float, source: Pictures) -> None:
    """A print that stands just out of the frame while the shutter opens, and is carried into it: the box that is painted reaches so far."""
    away = side * (ASPECT / 2 + 0.30)
    place = plane_homography(frame_from_world(Camera(), ASPECT) @ translated(away, 0.0, 0.0))
    travel = similarity(1.0, 0.0, -side * 0.4, 0.0)
    blurred = painted(source, at(place, travel=homography_of(travel)))
    total, steps = np.zeros_like(blurred), 64
    for i in range(steps):
        total += painted(source, at(similarity(1.0, 0.0, -side * 0.4 * i / steps, 0.0) @ place))
    assert np.abs(blurred - total / steps).mean() < 1.2
    edge = blurred[:, -40:] if side > 0 else blurred[:, :40]
    assert np.abs(edge - (32, 48, 64)).max() > 20


@pytest.mark.parametrize("name", [*MOTIONS, "whirl"])
def test_shadows_are_left_out_only_where_a_moving_photo_hides_them_all_along(name: str, source: Pictures, monkeypatch: Any) -> None:
    travel = MOTIONS[name] if name in MOTIONS else translated_about(0.3, 0.2, similarity(1.0, 70.0, 0.0, 0.0))
    place = plane_homography(frame_from_world(Camera(), ASPECT) @ translated(0.1, 0.05, 0.1) @ swung(15))
    photo = replace(at(place, travel=homography_of(travel)), content=mounted("square", 1.1, 0.6))
    shadow = ShadowItem(photo.content, photo.frame_from_plane, 0.05, 0.0, "#000000", 0.8, homography_of(travel))
    quick = painted(source, shadow, photo)
    monkeypatch.setattr(Painter, "_way_hidden", lambda self, item, to_pixels: [])
    assert np.array_equal(quick, painted(source, shadow, photo))


def test_what_stands_still_is_painted_as_without_motion_blur(document: Document, source: Pictures) -> None:
    photos = [{"scene": "s-wide", "layer": "photo"}]
    still = apply_edits(document, parse_edits([{"edit": "arrange_views", "photos": photos, "how": "as_opening"}]))
    open_shutter = apply_edits(still, parse_edits([{"edit": "set_defaults", "shutter": 360}]))
    assert scene_at(open_shutter, "s-wide", ticks(1), ticks(4)) == scene_at(still, "s-wide", ticks(1), ticks(4))
    slow = apply_edits(document, parse_edits([{"edit": "set_defaults", "shutter": 180}]))
    frames = [Painter(source).paint(scene_at(d, "s-wide", ticks(1), ticks(4)), W, H) for d in (document, slow)]
    assert np.array_equal(*frames)


@given(st.floats(0.003, 0.05))
@settings(max_examples=8, deadline=None)
def test_blur_is_a_gaussian_of_its_standard_deviation(source: Pictures, sigma: float) -> None:
    place = similarity(1.0, 12.0, 0.1, 0.0)
    blurred = painted(source, at(place, blur=sigma))
    whole = Painter(source).paint(DrawList(ASPECT, (at(place),)), W, H, below="black")
    reference = _over(whole, _coverage(source, place), sigma * H)
    assert np.abs(blurred - reference).mean() < 1.0 and np.abs(blurred - reference).max() < 22


def _coverage(source: Pictures, place: Any) -> np.ndarray[Any, Any]:
    """How much of each pixel the print covers: painted over black and over white."""
    over = [Painter(source).paint(DrawList(ASPECT, (ColourItem(c), at(place))), W, H)[..., 0].astype(float) for c in ("#000000", "#ffffff")]
    return 1.0 - (over[1] - over[0]) / 255.0


def _over(black: np.ndarray[Any, Any], coverage: np.ndarray[Any, Any], sigma: float) -> np.ndarray[Any, Any]:
    colour = cv2.GaussianBlur(black[..., :3].astype(float), (0, 0), sigma, borderType=cv2.BORDER_CONSTANT)
    alpha = cv2.GaussianBlur(coverage, (0, 0), sigma, borderType=cv2.BORDER_CONSTANT)
    return np.asarray(colour + np.array((0x20, 0x30, 0x40)) * (1 - alpha[..., None]))


def test_across_a_tilted_plane_each_part_is_blurred_as_far_as_its_own_depth_says(source: Pictures) -> None:
    matrix = frame_from_world(Camera(), ASPECT) @ translated(0, 0, 0) @ swung(55) @ scaled(1.6)
    place = plane_homography(matrix)
    k = 0.16
    uneven = painted(source, at(place, focus=Focus(k, 1.0)))
    back = np.linalg.inv(place)
    for column in (110, 180, 300, 370):
        x = (column + 0.5 - W / 2) / H
        depth = 1.0 / (back[2] @ (x, 0.0, 1.0))
        even = painted(source, at(place, blur=k * abs(1 - 1.0 / depth) / 4))
        part = slice(column - 2, column + 3)
        assert np.abs(uneven[60:210, part] - even[60:210, part]).mean() < 2.5, column
    middle = painted(source, at(place))
    assert np.abs(uneven[60:210, W // 2 - 2 : W // 2 + 3] - middle[60:210, W // 2 - 2 : W // 2 + 3]).mean() < 1.5


def test_a_pulled_focus_changes_evenly(source: Pictures) -> None:
    place = plane_homography(frame_from_world(Camera(), ASPECT) @ translated(0.1, 0, -0.8))
    frames = [painted(source, at(place, focus=Focus(0.09, q))) for q in np.linspace(0.7, 1.3, 61)]
    steps = np.array([np.abs(b - a).mean() for a, b in pairwise(frames)])
    # No step is seen as a jump, whatever resolution the blur is computed at.
    assert (steps[1:-1] < 2.2 * np.maximum((steps[:-2] + steps[2:]) / 2, 0.05)).all()


def test_light_follows_lamberts_cosine_and_falls_off(source: Pictures) -> None:
    place = similarity(1.0, 0.0, 0.0, 0.0)
    grey = mounted("square", 1.0, 1.0)
    flat = Pictures(square=np.full((600, 600, 4), (120, 120, 120, 255), np.uint8))
    lamp = Lit(0.2, -0.1, 0.5, 1.0, "#ffffff", 0.6, 1.2, 0.3)
    item = LayerItem(grey, homography_of(place), 1.0, lit=lamp)
    lit = Painter(flat).paint(DrawList(ASPECT, (item,)), W, H)[..., 1].astype(float)
    for x, y in ((0.0, 0.0), (0.2, -0.1), (-0.3, 0.3), (0.4, 0.2)):
        square = (x - 0.2) ** 2 + (y + 0.1) ** 2 + 0.25
        factor = 0.3 + 1.05 * 0.6 * 0.5 / np.sqrt(square) / (1 + square / 1.44)
        assert lit[round((y + 0.5) * H), round(x * H + W / 2)] == pytest.approx(120 * factor, abs=1.5)
    behind = Painter(flat).paint(DrawList(ASPECT, (replace(item, lit=replace(lamp, z=-0.5)),)), W, H)[H // 2, W // 2, 1]
    assert behind == pytest.approx(36, abs=1)


@given(st.floats(-1, 3.2), st.floats(-80, 80), st.floats(-80, 80), st.floats(-1, 1), st.floats(12, 300))
@settings(max_examples=40, deadline=None)
def test_wherever_the_camera_goes_there_is_a_picture(
    source: Pictures, dolly: float, pan: float, tilt: float, x: float, focal: float
) -> None:
    document = made_document()
    document = apply_edits(
        document,
        parse_edits(
            [
                {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "window": {}, "placement": {"swing": 40, "z": 0.3}},
                {"edit": "add_photos", "scene": "s-wide", "photos": [{"id": "a", "media": "tall"}]},
                {"edit": "set_scenes", "ids": ["s-wide"], "backdrop": {"kind": "surface"}, "light": {}, "shutter": 180,
                 "camera": {"dolly": dolly, "pan": pan, "tilt": tilt, "x": x, "focal": focal, "blurred": True, "aperture": 0.3}},
                {"edit": "use_move", "to": [{"scene": "s-wide"}], "move": "dolly-in"},
            ]
        ),
    )  # fmt: skip
    frame = Painter(source).paint(scene_at(document, "s-wide", ticks(1), ticks(4)), 160, 90)
    assert frame.shape == (90, 160, 4) and (frame[..., 3] == 255).all()


def test_what_reaches_behind_the_camera_is_cut_off_not_turned_inside_out(source: Pictures) -> None:
    camera = Camera(dolly=1.2)
    matrix = plane_homography(frame_from_world(camera, ASPECT) @ translated(0.5, 0, 0) @ swung(88) @ scaled(6))
    seen = painted(source, at(matrix))
    empty = painted(source)
    # The plane stands on the right; nothing of it may come out on the left.
    assert np.array_equal(seen[:, : W // 3], empty[:, : W // 3]) and not np.array_equal(seen[:, W // 2 :], empty[:, W // 2 :])
    behind = plane_homography(frame_from_world(Camera(dolly=4.0), ASPECT))
    assert np.array_equal(painted(source, at(behind)), empty)


def test_the_parts_of_a_split_plane_meet_without_a_seam(source: Pictures) -> None:
    place = plane_homography(frame_from_world(Camera(), ASPECT) @ swung(25))
    left, top, right, bottom = PRINT.sheet
    halves = (((left, top), (0.03, top), (0.06, bottom), (left, bottom)), ((0.03, top), (right, top), (right, bottom), (0.06, bottom)))
    split = painted(source, *(at(place, clip=h) for h in halves))
    difference = np.abs(split - painted(source, at(place))).max(axis=2)
    # Where the seam meets the outer edge a few soft pixels are drawn twice; within the plane nothing is seen of it.
    assert difference[66:203].max() <= 2 and (difference > 2).sum() < 40


def test_a_surface_seen_at_a_slant_has_no_rim_and_ends_in_haze(source: Pictures) -> None:
    seen = plane_homography(frame_from_world(Camera(tilt=60, pedestal=-0.2), ASPECT))
    item = SurfaceItem("oak", 1.0, 0.0, 0.0, 1.0, Grade(1.0, 1.0), True, homography_of(seen), focus=Focus(0.05, 1.0))
    frame = Painter(source).paint(DrawList(ASPECT, (item,)), W, H)[..., :3].astype(float)
    assert frame.min() > 15 and frame[:8].std(axis=(0, 1)).max() < 4 < frame[-60:].std(axis=(0, 1)).max()
