"""Corrections: nothing where nothing is asked, linear light where it matters, the same pattern from the same seed."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import dump_document, parse_document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import scene_at
from oak_lens.core.looks import Correction, suggested_correction
from oak_lens.core.paint.corrections import corrected, to_linear
from oak_lens.core.time import ticks
from tests.conftest import made_document, picture

GREYS = np.dstack([np.tile(np.arange(256, dtype=np.uint8), (4, 1))] * 3 + [np.full((4, 256), 255, np.uint8)])


def test_a_correction_at_its_defaults_changes_nothing() -> None:
    pixels = picture(90, 60)
    assert (corrected(pixels, (Correction(),)) == pixels).all()


@pytest.mark.parametrize("stops", [-1.0, 0.5, 1.0])
def test_exposure_multiplies_light(stops: float) -> None:
    made = corrected(GREYS, (Correction(exposure=stops),))[0, :, 0]
    expected = np.minimum(to_linear(np.arange(256) / 255.0) * 2**stops, 1.0)
    assert np.abs(to_linear(made / 255.0) - expected).max() < 0.006


def test_exposure_up_and_down_again_is_the_picture() -> None:
    pixels = picture(120, 80)
    back = corrected(pixels, (Correction(exposure=-1.0), Correction(exposure=1.0)))
    # Half the light and back costs at most the rounding of dark levels.
    assert np.abs(back.astype(int) - pixels).max() <= 4


@given(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1), st.floats(-2, 2))
def test_tones_never_change_places(contrast: float, shadows: float, highlights: float, exposure: float) -> None:
    made = corrected(GREYS, (Correction(contrast=contrast, shadows=shadows, highlights=highlights, exposure=exposure),))[0, :, 0]
    assert (np.diff(made.astype(int)) >= -1).all()


def test_black_and_white_has_no_colour_and_sepia_has_one() -> None:
    pixels = picture(90, 60)
    mono = corrected(pixels, (Correction(tone="mono"),)).astype(int)
    assert np.ptp(mono[..., :3], axis=2).max() <= 1
    sepia = corrected(pixels, (Correction(tone="sepia"),)).astype(int)
    assert (sepia[..., 0] >= sepia[..., 2]).all() and (sepia[..., 0] - sepia[..., 2]).max() > 30


def test_a_vignette_darkens_the_corners_alone_and_evenly() -> None:
    flat = np.full((100, 160, 4), 200, np.uint8)
    flat[..., 3] = 255
    made = corrected(flat, (Correction(vignette=0.8, vignette_reach=0.5),))[..., 0].astype(int)
    assert made[50, 80] == 200 and made[0, 0] < 100
    assert (np.abs(made - made[::-1]) <= 1).all() and (np.abs(made - made[:, ::-1]) <= 1).all()


def test_grain_is_fixed_by_its_seed_and_to_the_picture_whatever_its_resolution() -> None:
    flat = np.full((400, 600, 4), 128, np.uint8)
    flat[..., 3] = 255
    grain = Correction(grain=1.0, grain_size=0.012, grain_seed=5)
    large = corrected(flat, (grain,))[..., 0].astype(float)
    assert (large == corrected(flat, (grain,))[..., 0]).all()
    assert (large != corrected(flat, (Correction(grain=1.0, grain_size=0.012, grain_seed=6),))[..., 0]).any()
    small = corrected(np.ascontiguousarray(flat[::2, ::2]), (grain,))[..., 0].astype(float)
    reduced = large.reshape(200, 2, 300, 2).mean(axis=(1, 3))
    assert np.corrcoef(reduced.ravel(), small.ravel())[0, 1] > 0.85
    # Not the noise of single pixels: neighbours are alike, so a coder can follow it.
    assert np.corrcoef(large[:, :-1].ravel(), large[:, 1:].ravel())[0, 1] > 0.6


def test_transparent_pixels_stay_transparent_and_keep_their_edges() -> None:
    pixels = np.zeros((20, 20, 4), np.uint8)
    pixels[5:15, 5:15] = (64, 32, 16, 128)
    made = corrected(pixels, (Correction(exposure=0.5, sharpness=0.5, grain=0.5),))
    assert (made[..., 3] == pixels[..., 3]).all() and (made[..., :3] <= made[..., 3:]).all()


def test_keyframed_numbers_are_sampled_over_the_scene_and_survive_a_round_trip() -> None:
    lane = {"scene": "s-wide", "layer": "photo", "property": "correction.saturation"}
    edits = [{"edit": "add_keys", "lanes": [lane], "at": at} for at in (0, ticks(999))]
    edits += [{"edit": "set_keys", "keys": [{**lane, "key": k}], "value": v} for k, v in (("k1", 0.0), ("k2", 1.0))]
    edits += [{"edit": "ease_keys", "keys": [{**lane, "key": k} for k in ("k1", "k2")]}]
    document = apply_edits(made_document(), parse_edits(edits))
    assert parse_document(dump_document(document)) == document
    seen = [scene_at(document, "s-wide", ticks(t), ticks(4)).items[-1].content.corrections for t in (0, 1, 4)]  # type: ignore[union-attr]
    assert [c[0].saturation if c else 1.0 for c in seen] == pytest.approx([0.0, 0.25, 1.0])


def test_a_suggestion_brings_dark_pictures_up_and_leaves_good_ones_alone() -> None:
    rng = np.random.default_rng(1)
    good = np.clip(rng.normal(118, 58, (80, 120, 3)), 0, 255).astype(np.uint8)
    dark = (good * 0.32).astype(np.uint8)
    assert suggested_correction(dark)["exposure"] > 0.4
    assert abs(suggested_correction(good)["exposure"]) < 0.25 and suggested_correction(good)["contrast"] < 0.1
    warm = good.copy()
    warm[..., 2] = (warm[..., 2] * 0.7).astype(np.uint8)
    assert suggested_correction(warm)["warmth"] < -0.03
    for value in (0, 255):
        assert Correction(**suggested_correction(np.full((9, 9, 3), value, np.uint8)))
