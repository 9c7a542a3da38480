"""Turning, flipping, cropping, straightening, trimming, subjects."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import Area, Document, Media
from oak_lens.core.edits import apply_edit, apply_edits, parse_edit, parse_edits, shown_area
from oak_lens.core.framing import borders_in, picture_from_shown, reshaped, shown_subject, turned_area
from oak_lens.core.framing.subject_finding import subject_in
from oak_lens.core.paint import developed_pixels
from tests.conftest import Pictures, made_document, picture

SOURCE = Pictures(p=picture(300, 200))


def shown(media: Media) -> np.ndarray:
    return developed_pixels(media, SOURCE, 400)[..., :3].astype(int)


def with_picture(**fields: object) -> Document:
    record = {"id": "p", "name": "p", "file": "p.png", "sha256": "0" * 64, "width": 300, "height": 200}
    document = apply_edit(Document(), parse_edit({"edit": "add_pictures", "pictures": [record]}))
    return apply_edit(document, parse_edit({"edit": "set_pictures", "ids": ["p"], **fields})) if fields else document


@pytest.mark.parametrize("quarters", [0, 1, 2, 3])
@pytest.mark.parametrize("flips", [[], ["across"], ["down"], ["across", "down"]])
def test_quarter_turns_and_flips_are_exact(quarters: int, flips: list[str]) -> None:
    edits = [{"edit": "turn_pictures", "ids": ["p"], "quarters": quarters}] + [
        {"edit": "flip_pictures", "ids": ["p"], "axis": a} for a in flips
    ]
    media = apply_edits(with_picture(), parse_edits(edits)).media["p"]
    expected = np.rot90(SOURCE.level("p", 0)[..., :3], -quarters).astype(int)
    for axis in flips:
        expected = expected[:, ::-1] if axis == "across" else expected[::-1]
    assert media.shown_size == expected.shape[1::-1]
    assert np.abs(shown(media) - expected).max() <= 1


def test_a_flipped_picture_turns_the_way_one_sees() -> None:
    edits = [{"edit": "flip_pictures", "ids": ["p"], "axis": "across"}, {"edit": "turn_pictures", "ids": ["p"], "quarters": 1}]
    media = apply_edits(with_picture(), parse_edits(edits)).media["p"]
    expected = np.rot90(SOURCE.level("p", 0)[:, ::-1, :3], -1).astype(int)
    assert np.abs(shown(media) - expected).max() <= 1


def test_a_crop_turns_with_its_picture() -> None:
    crop = {"x": 0.1, "y": 0.2, "width": 0.5, "height": 0.4}
    plain = shown(with_picture(crop=crop).media["p"])
    turned = apply_edit(with_picture(crop=crop), parse_edit({"edit": "turn_pictures", "ids": ["p"], "quarters": 1})).media["p"]
    assert plain.shape[:2] == (80, 150)
    assert np.abs(shown(turned) - np.rot90(plain, -1)).max() <= 2


@given(st.floats(-45, 45), st.floats(0, 0.5), st.floats(0, 0.5), st.floats(0.1, 0.5), st.floats(0.1, 0.5))
def test_no_bare_corner_shows_however_one_straightens(angle: float, x: float, y: float, width: float, height: float) -> None:
    for crop in (None, {"x": x, "y": y, "width": width, "height": height}):
        media = with_picture(straighten=angle, crop=crop).media["p"]
        matrix = picture_from_shown(media)
        corners = np.array(((0, 0, 1), (1, 0, 1), (1, 1, 1), (0, 1, 1))) @ (np.eye(3) if matrix is None else matrix).T
        assert (corners[:, :2] > -1e-6).all() and (corners[:, :2] < 1 + 1e-6).all()


@pytest.mark.parametrize("slope", [-0.2, 0.0, 0.11, 0.3])
def test_a_line_drawn_along_the_horizon_becomes_level(slope: float) -> None:
    """A picture with one dark line at a slope: after straightening along it, the line is level."""
    y, x = np.mgrid[:200, :300]
    pixels = np.full((200, 300, 4), 255, np.uint8)
    pixels[np.abs(y - 100 - slope * (x - 150)) < 2, :3] = 0
    document = with_picture()
    edit = {"edit": "straighten_picture", "id": "p", "start": [0.2, 0.5 - slope * 0.3 * 1.5], "end": [0.8, 0.5 + slope * 0.3 * 1.5]}
    media = apply_edit(document, parse_edit(edit)).media["p"]
    made = developed_pixels(media, Pictures(p=pixels), 300)[..., 0]
    rows = [float(np.mean(np.flatnonzero(made[:, c] < 128))) for c in (10, made.shape[1] // 2, made.shape[1] - 11)]
    assert np.ptp(rows) < 1.5


@pytest.mark.parametrize("shade", [4, 250])
def test_borders_of_scans_are_found_and_nothing_else(shade: int) -> None:
    rng = np.random.default_rng(3)
    # Its light grid must not lie along the edges: it would be a border, too.
    inner = picture(420, 290)[10:260, 10:380, :3]
    scan = np.full((360, 600, 3), shade, np.int64) + rng.integers(-4, 5, (360, 600, 3))
    scan[40:290, 120:490] = inner
    found = borders_in(np.clip(scan, 0, 255).astype(np.uint8))
    assert found is not None
    assert (found.x * 600, found.y * 360) == pytest.approx((120, 40), abs=2)
    assert (found.width * 600, found.height * 360) == pytest.approx((370, 250), abs=4)
    assert borders_in(inner) is None
    # On a picture that is turned the crop is where it is seen.
    media = apply_edit(with_picture(), parse_edit({"edit": "turn_pictures", "ids": ["p"], "quarters": 1})).media["p"]
    assert turned_area(media, Area(x=0.1, y=0.2, width=0.3, height=0.4)).model_dump() == pytest.approx(
        {"x": 0.4, "y": 0.1, "width": 0.4, "height": 0.3}
    )


def test_a_subject_is_found_where_it_stands_out_and_follows_the_picture() -> None:
    pixels = np.full((240, 360, 3), (90, 120, 150), np.uint8)
    pixels[130:190, 220:270] = (230, 80, 30)
    found = subject_in(pixels)
    assert found is not None
    x, y, width, height = found
    assert x < 245 / 360 < x + width and y < 160 / 240 < y + height and width * height < 0.3
    assert subject_in(np.full((50, 50, 3), 99, np.uint8)) is None
    media = with_picture(
        subject={"x": 0.5, "y": 0.25, "width": 0.25, "height": 0.25}, crop={"x": 0.5, "y": 0, "width": 0.5, "height": 1}
    ).media["p"]
    assert shown_subject(media) == pytest.approx((0.0, 0.25, 0.5, 0.5))


@pytest.mark.parametrize("size", [(1, 1), (20_000, 500), (2, 3000)])
def test_extreme_pictures_are_developed(size: tuple[int, int]) -> None:
    width, height = size
    media = Media(order="V", name="p", file="p", sha256="0" * 64, width=width, height=height, straighten=3.0)
    made = developed_pixels(media, Pictures(p=np.full((height, width, 4), 255, np.uint8)), 300)
    assert max(made.shape[:2]) <= 300 and made.shape[0] >= 1 and made.shape[1] >= 1

CROP = Area(x=0.2, y=0.2, width=0.5, height=0.4)


def rectangle(area: Area) -> tuple[float, ...]:
    return area.x, area.y, area.width, area.height


def test_a_dragged_rectangle_follows_the_pointer_keeps_its_shape_and_stays_in_the_picture() -> None:
    near = lambda *values: pytest.approx(values, abs=1e-9)  # noqa: E731
    assert rectangle(reshaped(CROP, "inside", (0, 0), (0.1, 0.05), None, 1.5, 0)) == near(0.3, 0.25, 0.5, 0.4)
    assert rectangle(reshaped(CROP, "inside", (0, 0), (5, -5), None, 1.5, 0)) == near(0.5, 0.0, 0.5, 0.4)
    assert rectangle(reshaped(CROP, "corner2", (0.7, 0.6), (0.6, 0.5), None, 1.5, 0)) == near(0.2, 0.2, 0.4, 0.3)
    assert rectangle(reshaped(CROP, "corner0", (0.2, 0.2), (0.3, 0.25), None, 1.5, 0)) == near(0.3, 0.25, 0.4, 0.35)
    for shape in (1.0, 16 / 9, 0.8):
        made = reshaped(CROP, "corner2", (0.7, 0.6), (0.66, 0.5), shape, 1.5, 0)
        assert (made.width * 1.5 / made.height, made.x, made.y) == near(shape, 0.2, 0.2)
    # Turned by a quarter, what goes down widens the rectangle, and what goes right makes it lower.
    turned = reshaped(CROP, "corner2", (0, 0), (0.02, 0.03), None, 1.0, 90)
    assert (turned.width, turned.height) == near(0.53, 0.38)
    tiny = reshaped(CROP, "corner2", (0.7, 0.6), (-3, -3), None, 1.5, 0)
    assert min(tiny.width, tiny.height) > 0.01


@pytest.mark.parametrize("quarters", range(4))
def test_a_subject_is_dragged_where_it_is_seen(quarters: int) -> None:
    document = apply_edits(
        made_document(),
        parse_edits(
            [
                {"edit": "turn_pictures", "ids": ["wide"], "quarters": quarters},
                {"edit": "flip_pictures", "ids": ["wide"], "axis": "across"},
                {"edit": "set_pictures", "ids": ["wide"], "subject": {"x": 0.4, "y": 0.3, "width": 0.2, "height": 0.3}},
            ]
        ),
    )
    seen = shown_area(document.media["wide"], "subject")
    drag = {"edit": "reshape_picture", "id": "wide", "what": "subject", "handle": "inside", "start": [0.5, 0.5], "end": [0.55, 0.4]}
    moved = apply_edits(document, parse_edits([drag])).media["wide"]
    now = shown_area(moved, "subject")
    assert rectangle(now) == pytest.approx((seen.x + 0.05, seen.y - 0.1, seen.width, seen.height), abs=1e-9)
