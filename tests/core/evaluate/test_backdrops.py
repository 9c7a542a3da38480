"""Backdrops: where they come from, how they move, what shows where there is none."""

from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Clip, Document
from oak_lens.core.draw import BackdropItem, ColourItem, DrawList, GradientItem, SurfaceItem
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import scene_at
from oak_lens.core.paint import Painter
from oak_lens.core.time import ticks
from tests.conftest import Pictures, made_document, name_of


def with_backdrop(*more: dict[str, Any], **backdrop: Any) -> Document:
    return apply_edits(made_document(), parse_edits([{"edit": "set_scenes", "ids": ["s-tall"], "backdrop": backdrop}, *more]))


def lowest(document: Document, at: int = 0) -> Any:
    return scene_at(document, "s-tall", at, ticks(4)).items[0]


def test_each_kind_draws_its_own_thing() -> None:
    assert isinstance(lowest(with_backdrop(kind="colour")), ColourItem) and isinstance(lowest(with_backdrop(kind="gradient")), GradientItem)
    assert isinstance(lowest(with_backdrop(kind="surface")), SurfaceItem)
    assert name_of(lowest(with_backdrop(kind="blur")).picture) == "tall" and name_of(lowest(with_backdrop(kind="picture", media="wide")).picture) == "wide"
    # A picture that is not chosen yet is a colour, not a hole.
    assert isinstance(lowest(with_backdrop(kind="picture")), ColourItem)
    assert not isinstance(lowest(with_backdrop(kind="none")), BackdropItem | ColourItem)


def test_a_blurred_copy_is_turned_cropped_and_corrected_like_the_photo() -> None:
    document = with_backdrop(
        {"edit": "turn_pictures", "ids": ["tall"], "quarters": 1},
        {"edit": "set_pictures", "ids": ["tall"], "correction": {"exposure": 0.5}},
        {"edit": "set_layers", "layers": [{"scene": "s-tall", "layer": "photo"}], "correction": {"tone": "mono"}},
        kind="blur",
    )
    item = lowest(document)
    assert item.shown_aspect == pytest.approx(1.5) and item.picture_from_shown is not None
    assert [c.tone for c in item.corrections] == ["none", "mono"] and item.corrections[0].exposure == 0.5


@pytest.mark.parametrize("kind", ["blur", "surface"])
@pytest.mark.parametrize("move", ["closer", "away", "left", "right", "up", "down"])
def test_a_backdrop_moves_slowly_and_shows_no_rim(kind: str, move: str, source: Pictures) -> None:
    document = with_backdrop(
        {"edit": "set_layers", "layers": [{"scene": "s-tall", "layer": "photo"}], "hidden": True},
        kind="picture" if kind == "blur" else kind,
        media="wide",
        move=move,
        move_by=0.2,
    )
    painter = Painter(source)
    frames = [painter.paint(scene_at(document, "s-tall", ticks(t), ticks(4)), 320, 180).astype(int) for t in (0, 2, 4)]
    assert np.abs(frames[0] - frames[2]).mean() > 0.5
    fresh = Painter(source, 0)
    assert all(
        (fresh.paint(scene_at(document, "s-tall", ticks(t), ticks(4)), 320, 180) == f).all() for t, f in zip((0, 2, 4), frames, strict=True)
    )
    for frame in frames:
        inner, rim = frame[20:-20, 20:-20, :3].mean(), np.concatenate([frame[0], frame[-1]])[:, :3].mean()
        assert rim > inner * 0.6


def test_a_picture_moving_left_moves_left(source: Pictures) -> None:
    document = with_backdrop(kind="picture", media="wide", blur=0.0, zoom=1.5, move="left", move_by=0.2)
    hidden = apply_edits(document, parse_edits([{"edit": "set_layers", "layers": [{"scene": "s-tall", "layer": "photo"}], "hidden": True}]))
    first, last = (Painter(source).paint(scene_at(hidden, "s-tall", t, ticks(4)), 640, 360)[..., 0].astype(float) for t in (0, ticks(4)))
    shift = round(0.2 * 360)
    assert np.abs(first[:, 100 + shift : 500 + shift] - last[:, 100:500]).mean() < np.abs(first[:, 100:500] - last[:, 100:500]).mean() / 3


def test_where_nothing_is_a_film_is_black_and_the_easel_may_show_chequers() -> None:
    empty = DrawList(16 / 9, ())
    painter = Painter(Pictures())
    assert (painter.paint(empty, 64, 36)[..., :3] == 0).all() and (painter.paint(empty, 64, 36)[..., 3] == 255).all()
    chequered = painter.paint(empty, 64, 36, below="chequered")[..., 0]
    assert set(np.unique(chequered)) == {120, 168}


def test_a_tint_keeps_light_and_dark(source: Pictures) -> None:
    painter = Painter(source)

    def grey(**backdrop: Any) -> Any:
        document = with_backdrop(
            {"edit": "set_layers", "layers": [{"scene": "s-tall", "layer": "photo"}], "hidden": True},
            kind="picture",
            media="wide",
            blur=0.01,
            saturation=0.0,
            brightness=0.8,
            **backdrop,
        )
        return painter.paint(scene_at(document, "s-tall", 0, 1), 160, 90).astype(float)

    plain, tinted = grey(), grey(tint="#8a6a42", tint_amount=1.0)
    assert np.ptp(plain[..., :3], axis=2).max() <= 2 and (tinted[..., 0] - tinted[..., 2]).mean() > 20
    assert np.corrcoef(plain[..., 1].ravel(), tinted[..., 1].ravel())[0, 1] > 0.99


@pytest.mark.parametrize(("loop", "expected"), [(True, [2, 9, 4, 2]), (False, [2, 9, 9, 9])])
def test_a_clip_shows_its_trimmed_part_and_then_begins_again_or_holds(loop: bool, expected: list[int]) -> None:
    clip = Clip(length=100, frames=10, start=2, end=10, loop=loop)
    assert [clip.moment(at) for at in (0, 7, 10, 16)] == expected


def test_a_clip_is_trimmed_to_a_part_of_itself_alone() -> None:
    for wrong in ({"start": 60, "end": 50}, {"end": 200}, {"start": 100}):
        with pytest.raises(ValueError):
            Clip(length=100, frames=10, **wrong)
