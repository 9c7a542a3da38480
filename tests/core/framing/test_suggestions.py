"""Suggested views and enlargement."""

import itertools
import json
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageOps

from oak_lens.core.document import Area, Media
from oak_lens.core.framing import Wish, chosen_fit, enlargement, limited_view, picture_polygon, suggested_views
from oak_lens.core.framing.subject_finding import subject_in
from oak_lens.core.space import map_points, similarity
from tests.conftest import ROOT

aspects = st.floats(0.3, 4.0)


areas = st.none() | st.builds(
    lambda x, y, w, h: Area(x=x, y=y, width=min(w, 1 - x), height=min(h, 1 - y)),
    st.floats(0, 0.9), st.floats(0, 0.9), st.floats(0.05, 1), st.floats(0.05, 1),
)  # fmt: skip
wishes = st.builds(Wish, st.floats(0.5, 30), st.integers(0, 50), st.integers(0, 99), st.floats(0.3, 5))


def pictured(aspect: float, subject: Area | None = None) -> Media:
    return Media(order="V", name="p", file="p", sha256="0" * 64, width=max(round(3000 * aspect), 1), height=3000, subject=subject)


@given(aspects, aspects, wishes, areas)
def test_suggested_views_move_and_are_never_bare(picture: float, frame: float, wish: Wish, subject: Area | None) -> None:
    media = pictured(picture, subject)
    fit = chosen_fit("auto", media.aspect, frame)
    views = suggested_views(fit, media, frame, wish)
    for view in views:
        assert limited_view(view, fit, media.aspect, frame) == view
        if fit == "fill":
            polygon = picture_polygon(view, fit, media.aspect, frame)
            assert polygon.min() >= -1e-9 and polygon.max() <= 1 + 1e-9
    if subject is None and wish.sharpest > 1.3:
        assert views[0] != views[1]


@given(st.sampled_from((1.4, 1.5, 1.9)), wishes, st.floats(0.1, 0.6), st.floats(0.1, 0.6), st.floats(0.1, 0.24))
def test_a_known_subject_is_in_the_opening_and_in_the_closing_frame(picture: float, wish: Wish, x: float, y: float, size: float) -> None:
    media = pictured(picture, Area(x=x, y=y, width=size, height=size))
    for view in suggested_views("fill", media, 16 / 9, wish):
        polygon = picture_polygon(view, "fill", media.aspect, 16 / 9)
        (left, top), (right, bottom) = polygon.min(axis=0), polygon.max(axis=0)
        assert left <= x + 1e-9 and top <= y + 1e-9 and right >= x + size - 1e-9 and bottom >= y + size - 1e-9


@pytest.mark.parametrize("frame", [16 / 9, 4 / 3, 1.0, 9 / 16])
def test_subjects_found_in_real_pictures_are_kept(frame: float) -> None:
    truth = json.loads((Path(__file__).parent / "subjects.json").read_text())
    kept = ended = count = 0
    for number, (file, (x, y, width, height)) in enumerate(truth.items()):
        if width * height > 0.6:
            continue  # The whole picture is what it is about.
        image = ImageOps.exif_transpose(Image.open(ROOT / "demo" / "photos" / file)).convert("RGB")
        size = image.size
        image.thumbnail((320, 320))
        found = subject_in(np.asarray(image))
        assert found is not None
        area = Area(x=found[0], y=found[1], width=found[2], height=found[3])
        media = Media(order="V", name=file, file=file, sha256="0" * 64, width=size[0], height=size[1], subject=area)
        fit = chosen_fit("auto", media.aspect, frame)
        for seed in range(4):
            shares = []
            for view in suggested_views(fit, media, frame, Wish(5.0, number, seed, 3.0)):
                polygon = picture_polygon(view, fit, media.aspect, frame)
                (left, top), (right, bottom) = polygon.min(axis=0), polygon.max(axis=0)
                across, down = min(right, x + width) - max(left, x), min(bottom, y + height) - max(top, y)
                shares.append(max(across, 0) * max(down, 0) / (width * height))
            count += 1
            kept += min(shares) >= 0.9
            # Nothing ends on empty sky: some of the subject is always there.
            ended += shares[1] > 0.15
    assert kept >= 0.8 * count and ended >= 0.95 * count


def test_neighbours_are_suggested_different_moves_at_a_like_pace() -> None:
    for fit, picture in (("fill", 1.5), ("whole", 0.7)):
        moves = [suggested_views(fit, pictured(picture), 16 / 9, Wish(5.0, i)) for i in range(6)]  # type: ignore[arg-type]
        assert all(a != b for a, b in itertools.pairwise(moves))
    ways = []
    for number in range(20):
        opening, closing = (
            picture_polygon(v, "fill", 1.5, 16 / 9) for v in suggested_views("fill", pictured(1.5), 16 / 9, Wish(5, number))
        )
        ways.append(float(np.abs(closing - opening).max()))
    assert max(ways) < 3 * min(ways)
    assert suggested_views("fill", pictured(1.5), 1.8, Wish(5, 3, 8)) == suggested_views("fill", pictured(1.5), 1.8, Wish(5, 3, 8))


def test_a_panorama_is_travelled_along_and_ends_on_its_subject() -> None:
    media = pictured(3.2, Area(x=0.7, y=0.3, width=0.1, height=0.3))
    opening, closing = (picture_polygon(v, "fill", media.aspect, 16 / 9)[:, 0] for v in suggested_views("fill", media, 16 / 9, Wish()))
    assert closing.mean() == pytest.approx(0.75, abs=0.03) and opening.mean() < closing.mean() - 0.05 and opening.max() > 0.8


@given(st.floats(0.2, 5), st.floats(-180, 180), st.floats(0, 0.15), st.floats(0, 0.15))
def test_enlargement_is_the_farthest_two_neighbouring_pixels_are_pulled_apart(
    scale: float, turn: float, across: float, down: float
) -> None:
    matrix = similarity(scale, turn, 0.1, -0.2)
    matrix[2, 0], matrix[2, 1] = across, down
    width, height, pixels = 1.5, 1.0, 3000
    step = width / pixels
    places = np.array([(x, y) for x in (-0.75, 0, 0.75) for y in (-0.5, 0, 0.5)])
    directions = [(np.cos(a), np.sin(a)) for a in np.linspace(0, np.pi, 90)]
    stretched = max(
        float(
            np.linalg.norm(
                map_points(matrix, places + np.array(d) * step / 2) - map_points(matrix, places - np.array(d) * step / 2), axis=1
            ).max()
        )
        for d in directions
    )
    assert enlargement(matrix, width, height, pixels, 1080) == pytest.approx(stretched * 1080, rel=0.01)
