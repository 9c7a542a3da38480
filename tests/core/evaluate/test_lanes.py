"""Lanes as they are drawn: where keys stand, what numbers show, curves, bars, ghosts."""

import itertools
from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import LaneRow, ghosts_of, scene_bars, scene_lanes, staged, values_at
from oak_lens.core.time import ticks
from tests.conftest import made_document

SCENE = "s-wide"
PHOTO = {"scene": SCENE, "layer": "photo"}
LENGTH = ticks(4)


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def lane(name: str, layer: str | None = "photo", scene: str = SCENE) -> dict[str, Any]:
    return {"scene": scene, "layer": layer, "property": name}


START = made(
    made_document(),
    {"edit": "set_layers", "layers": [PHOTO], "window": {}, "placement": {"size": 0.4, "turn": 10}},
    {"edit": "arrange_views", "photos": [PHOTO], "how": "as_opening"},
)


def row(document: Document, name: str, *opened: str) -> LaneRow:
    return next(r for r in scene_lanes(document, SCENE, LENGTH, frozenset(opened)) if r.property == name)


def test_numbers_are_shown_as_they_are_seen_not_as_they_are_kept() -> None:
    document = made(START, {"edit": "add_keys", "lanes": [lane("placement.turn"), lane("placement.size")], "at": ticks(1)})
    document = made(document, {"edit": "set_keys", "keys": [{**lane("placement.turn"), "key": "k1"}], "value": 35})
    document = made(document, {"edit": "set_keys", "keys": [{**lane("placement.size"), "key": "k1"}], "value": 0.8})
    assert row(document, "placement.turn").keys[0].value == 35 and row(document, "placement.size").keys[0].value == pytest.approx(0.8)
    animation = document.scenes[SCENE].layers["photo"].animation
    assert [next(iter(animation[n].keys.values())).value for n in ("placement.turn", "placement.size")] == pytest.approx([25, 2])
    assert values_at(staged(document, SCENE, 0, LENGTH))[f"{SCENE}/photo"] == pytest.approx({"placement.turn": 35, "placement.size": 0.8})


def test_an_opened_lane_has_its_curve_and_speed_and_others_have_none() -> None:
    document = START
    for at, value in ((0, 0), (4, 100)):
        document = made(document, {"edit": "add_keys", "lanes": [lane("placement.turn"), lane("layer.opacity")], "at": ticks(at)})
        document = made(document, {"edit": "set_keys", "keys": [{**lane("placement.turn"), "key": f"k{1 + at // 4}"}], "value": value})
    document = made(document, {"edit": "ease_keys", "keys": [{**lane("placement.turn"), "key": k} for k in ("k1", "k2")]})
    turn = row(document, "placement.turn", f"{SCENE}/photo/placement.turn")
    assert turn.curve is not None and row(document, "layer.opacity", f"{SCENE}/photo/placement.turn").curve is None
    assert turn.curve.values[0] == 0 and turn.curve.values[-1] == 100
    assert turn.curve.values[len(turn.curve.values) // 2] == pytest.approx(50)
    # Without an ease it turns by the same number of degrees every second.
    assert np.array(turn.curve.speeds) == pytest.approx(np.full(len(turn.curve.speeds), 25.0))


def test_views_that_do_not_move_take_no_lane_and_shared_groups_show_theirs() -> None:
    assert not any(r.property == "view" for r in scene_lanes(START, SCENE, LENGTH))
    moving = made(START, {"edit": "set_views", "photos": [PHOTO], "closing": {"zoom": 1.5}})
    assert [k.value[2] for k in row(moving, "view").keys] == pytest.approx(
        [moving.scenes[SCENE].layers["photo"].view.keys["opening"].value.zoom, 1.5]
    )  # type: ignore[union-attr]
    shared = made(
        START,
        {"edit": "group_layers", "id": "g", "layers": [PHOTO]},
        {"edit": "share_group", "scene": SCENE, "layer": "g", "id": "both"},
        {"edit": "add_group", "scene": "s-tall", "layer": "there", "shared": "both"},
        {"edit": "add_keys", "lanes": [{**lane("placement.turn", "photo", "both"), "on": SCENE}], "at": 0},
    )
    for scene in (SCENE, "s-tall"):
        assert ("both", "photo", "placement.turn") in [(r.container, r.layer, r.property) for r in scene_lanes(shared, scene, LENGTH)]


def test_bars_name_moves_entrances_and_exits_and_ghosts_lie_on_both_sides_of_now() -> None:
    document = made(
        START,
        {"edit": "use_move", "to": [PHOTO], "move": "sweep"},
        {"edit": "use_move", "to": [PHOTO], "slot": "entrance", "move": "slide"},
        {"edit": "use_move", "to": [PHOTO], "slot": "exit", "move": "slide"},
    )
    bars = {b.slot: b for b in scene_bars(document, SCENE, LENGTH)}
    assert {slot: b.label for slot, b in bars.items()} == {"move": "Sweep", "entrance": "Slides in", "exit": "Slides out"}
    assert (bars["move"].first, bars["move"].last) == (0, LENGTH) and bars["exit"].last == LENGTH
    ghosts = ghosts_of(staged(document, SCENE, LENGTH // 2, LENGTH), frozenset({(SCENE, "photo")}), ticks(0.1))
    assert [g.after for g in ghosts] == [False] * 4 + [True] * 4
    places = [np.mean([c[0] for c in g.corners]) for g in ghosts]
    assert all(b > a for a, b in itertools.pairwise(places))
    assert len(ghosts_of(staged(document, SCENE, 0, LENGTH), frozenset({(SCENE, "photo")}), ticks(0.1))) == 4
