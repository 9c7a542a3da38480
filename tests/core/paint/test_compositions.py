"""Plates and mattes: coverage by progress, edges without seams, light that adds."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from oak_lens.core.draw import ColourItem, Composition, DrawList, Glow, Matte, Plate
from oak_lens.core.joins.plates import scaled, shifted
from oak_lens.core.paint import Painter
from oak_lens.core.paint.mattes import matte_pixels, reached_at
from tests.conftest import Pictures

ASPECT = 16 / 9
KINDS = ("edge", "iris", "clock", "part", "blinds", "clouds")


def flat(colour: str) -> DrawList:
    return DrawList(ASPECT, (ColourItem(colour),))


def painted(*parts: Any, ground: str = "#000000", travel: Any = None, size: tuple[int, int] = (160, 90)) -> Any:
    return Painter(Pictures()).paint(Composition(ground, parts, travel), *size)[..., :3].astype(int)


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("softness", [0.0, 0.4])
def test_a_matte_grows_from_nothing_to_all_and_never_shrinks(kind: Any, softness: float) -> None:
    shown = [matte_pixels(Matte(kind, p, 30.0, softness, 6, 2), 192, 108).astype(int) for p in np.linspace(0, 1, 9)]
    assert shown[0].max() <= 140 and shown[0].mean() < 6 and shown[-1].min() == 255
    assert all((b >= a).all() for a, b in pairwise(shown))
    assert 60 < shown[4].mean() < 195


@pytest.mark.parametrize("kind", KINDS)
def test_a_matte_is_alike_at_every_size(kind: Any) -> None:
    small, large = (matte_pixels(Matte(kind, 0.45, -70.0, 0.3, 5, 3), 96 * n, 54 * n).astype(float) for n in (1, 4))
    assert np.abs(small - large.reshape(54, 4, 96, 4).mean(axis=(1, 3))).mean() < 4


def test_a_wipe_runs_the_way_its_angle_says() -> None:
    for angle, first in ((0, (54, 5)), (180, (54, 186)), (90, (3, 96)), (-90, (104, 96))):
        reached, _ = reached_at("edge", float(angle), 1, 1, 192, 108)
        assert reached[first] < 0.06
        assert reached[107 - first[0], 191 - first[1]] > 0.9


def test_clouds_reach_as_much_as_they_say() -> None:
    reached, _ = reached_at("clouds", 0.0, 1, 7, 512, 288)
    for share in (0.1, 0.5, 0.9):
        assert (reached < share).mean() == pytest.approx(share, abs=0.02)


def test_plates_that_meet_leave_no_line() -> None:
    """Two white plates side by side, at places between pixels, stay white all over."""
    for place in (0.1, 0.2503, 0.61, 0.9):
        before = Plate(flat("#ffffff"), shifted(-place * ASPECT, 0.0), goes_on=True)
        after = Plate(flat("#ffffff"), shifted((1.0 - place) * ASPECT, 0.0))
        assert painted(before, after).min() >= 254


def test_a_plate_is_where_its_map_says_with_a_soft_edge() -> None:
    shown = painted(Plate(flat("#ffffff"), shifted(0.25, 0.0)), size=(320, 180))[90, :, 0]
    assert not shown[:44].any() and (shown[46:] == 255).all()
    half = painted(Plate(flat("#ffffff"), scaled(0.5)), size=(320, 180))[..., 0]
    assert (half[50:130, 90:230] == 255).all() and not half[:40].any() and half.mean() == pytest.approx(255 / 4, abs=2)


def test_opacity_darkness_and_added_light() -> None:
    grey, red = flat("#808080"), flat("#400000")
    assert painted(Plate(grey, opacity=0.5)).mean() == pytest.approx(64, abs=1)
    assert painted(Plate(grey, dark=0.25)).mean() == pytest.approx(96, abs=1)
    assert (painted(Plate(grey), Plate(red, adds=True))[0, 0] == (192, 128, 128)).all()
    assert painted(Plate(flat("#f0f0f0")), Plate(grey, adds=True)).min() == 255
    assert painted(Plate(grey, opacity=0.0), ground="#204060")[5, 5].tolist() == [32, 64, 96]


def test_a_clip_cuts_a_plate_and_a_shadow_lies_around_it() -> None:
    half = ((0.0, -0.5), (ASPECT / 2, -0.5), (ASPECT / 2, 0.5), (0.0, 0.5))
    shown = painted(Plate(flat("#ffffff"), clip=half))[45, :, 0]
    assert not shown[:76].any() and (shown[83:] == 255).all()
    lit = painted(Plate(flat("#ffffff")), Plate(flat("#ffffff"), shifted(0.8, 0.0), shadow=0.05), size=(320, 180))[90, :, 0]
    assert lit[:90].min() == 255 and lit[300] == 255 and lit.min() < 200


@pytest.mark.parametrize("kind", ["leak", "embers"])
def test_a_glow_only_adds_light_and_differs_by_seed(kind: Any) -> None:
    ground = flat("#303030")
    one, other = (painted(Plate(ground), Glow(kind, 0.5, "#ff8a3c", 0.8, seed)) for seed in (1, 2))
    assert one.min() >= 47 and one.max() > 150 and (one != other).any()
    assert one[..., 0].mean() > one[..., 2].mean(), "it is warm"
    assert (painted(Plate(ground), Glow(kind, 0.5, "#ff8a3c", 0.0)) == painted(Plate(ground))).all()


def test_travel_streaks_all_of_it_along_its_way() -> None:
    bar = Plate(flat("#ffffff"), clip=((-0.1, -0.5), (0.1, -0.5), (0.1, 0.5), (-0.1, 0.5)))
    still, moved = painted(bar, size=(320, 180)), painted(bar, size=(320, 180), travel=shifted(0.4, 0.0))
    assert (moved[90, :, 0] > 8).sum() > 1.8 * (still[90, :, 0] > 8).sum()
    assert np.ptp(moved[20:160, 160, 0]) <= 2, "across its way it is not blurred"
