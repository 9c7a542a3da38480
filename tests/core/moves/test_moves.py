"""Every shipped move: relative, so that it fits any layer; entrances end where nothing is changed; rules from layer to layer."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document, dump_document, parse_document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import bounds_of, outline_of, scene_at, scene_bars, staged, values_at
from oak_lens.core.moves import BUILTIN, FACTORS, Move, MoveUse, use_offsets
from oak_lens.core.time import ticks
from tests.conftest import SHAPES, made_document

LENGTH = ticks(5)
PHOTOS = [{"scene": f"s-{n}", "layer": "photo"} for n in SHAPES]
ENTRANCES = [(i, m) for i, m in BUILTIN if m.kind == "entrance"]
NEUTRAL = (1.0, 1.0, 1.0, 1.0)


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


START = made(made_document(), {"edit": "set_layers", "layers": PHOTOS, "window": {}, "placement": {"size": 0.5}})


def values(document: Document, at: float, scene: str = "s-wide", length: int = LENGTH) -> dict[str, float]:
    return values_at(staged(document, scene, ticks(at), length)).get(f"{scene}/photo", {})


@pytest.mark.parametrize(("name", "move"), BUILTIN, ids=[i for i, _ in BUILTIN])
def test_every_move_moves_something_and_stays_in_range_on_any_picture(name: str, move: Move) -> None:
    camera = move.kind == "camera"
    # Moves of letters are for texts; a text stands on every picture.
    letters = [{"scene": p["scene"], "layer": "words"} for p in PHOTOS]
    to = [{"scene": p["scene"], "layer": None} for p in PHOTOS] if camera else letters if move.spread else PHOTOS
    document = made(START, *({"edit": "add_text", "scene": p["scene"], "id": "words", "text": "First light"} for p in PHOTOS), {"edit": "use_move", "to": to, "move": name, "slot": "entrance" if move.kind == "entrance" else "move"})
    for scene in (f"s-{n}" for n in SHAPES):
        frames = [repr(scene_at(document, scene, round(LENGTH * share), LENGTH)) for share in (0.0, 0.04, 0.1, 0.5, 1.0)]
        assert len(set(frames)) >= 3 and not any("nan" in f or "inf" in f for f in frames), (name, scene)
    assert move.name and (move.kind != "entrance" or move.exit_name)


@pytest.mark.parametrize(("name", "move"), ENTRANCES, ids=[i for i, _ in ENTRANCES])
def test_an_entrance_ends_where_nothing_is_changed_and_an_exit_is_it_backwards(name: str, move: Move) -> None:
    for side in ("left", "top", "right", "bottom"):
        use = MoveUse(move=name, side=side)
        takes = move.length or ticks(0.9)
        ended = use_offsets(use, move, "entrance", takes, LENGTH, 1.5, lambda: NEUTRAL)
        assert all(abs(v - (1.0 if k in FACTORS else 0.0)) < 1e-9 for k, v in ended.items())
        for share in (0.0, 0.3, 0.8):
            entering = use_offsets(use, move, "entrance", round(takes * share), LENGTH, 1.5, lambda: NEUTRAL)
            leaving = use_offsets(use, move, "exit", LENGTH - round(takes * share), LENGTH, 1.5, lambda: NEUTRAL)
            assert leaving == pytest.approx(entering)


@pytest.mark.parametrize("side", ["left", "top", "right", "bottom"])
@pytest.mark.parametrize("place", [(0.0, 0.0, 0.5, 0.0), (0.3, -0.2, 0.3, 25.0), (-0.4, 0.4, 0.8, -60.0)])
def test_what_slides_in_begins_just_outside_the_frame_wherever_it_stands(side: str, place: tuple[float, ...]) -> None:
    x, y, size, turn = place
    document = made(
        START,
        {"edit": "set_layers", "layers": PHOTOS, "placement": {"x": x, "y": y, "size": size, "turn": turn}},
        {"edit": "use_move", "to": PHOTOS, "slot": "entrance", "move": "slide", "use": {"side": side}},
    )
    aspect = document.frame.aspect
    for scene in (f"s-{n}" for n in SHAPES):
        placed = next(p for p in staged(document, scene, 0, LENGTH).every_layer if p.layer_id == "photo")
        left, top, right, bottom = bounds_of(placed)
        gap = {"left": -aspect / 2 - right, "right": left - aspect / 2, "top": -0.5 - bottom, "bottom": top - 0.5}[side]
        assert 0.0 < gap < 0.25, (scene, gap)


def test_a_print_falls_its_shadow_closes_and_it_settles_where_it_belongs() -> None:
    document = made(START, {"edit": "use_move", "to": PHOTOS, "slot": "entrance", "move": "fall"})
    heights = [values(document, t).get("placement.z", 0.0) for t in np.linspace(0, 1.3, 60)]
    assert heights[0] > 0.8 and min(heights) >= 0.0 and heights[-1] == pytest.approx(0.0, abs=1e-9)
    softness, ways = [], []
    for at in (0.3, 0.7, 3.0):
        shadow, photo = (i for i in scene_at(document, "s-wide", ticks(at), LENGTH).items[-2:])
        softness.append(shadow.softness)  # type: ignore[union-attr]
        ways.append(abs(shadow.frame_from_plane[2] / shadow.frame_from_plane[8] - photo.frame_from_plane[2] / photo.frame_from_plane[8]))  # type: ignore[union-attr]
    assert softness[0] > softness[1] > softness[2] and ways[0] > ways[2] > 0
    assert values(document, 3.0).get("placement.turn", 0.0) == pytest.approx(0.0, abs=1e-9)


def test_a_stretched_scene_keeps_entrances_and_exits_and_a_short_one_shrinks_both() -> None:
    document = made(
        START,
        {"edit": "use_move", "to": PHOTOS, "slot": "entrance", "move": "slide", "use": {"length": ticks(0.8)}},
        {"edit": "use_move", "to": PHOTOS, "slot": "exit", "move": "fade", "use": {"length": ticks(0.6), "delay": ticks(0.2)}},
    )
    for seconds in (3, 8, 20):
        bars = {b.slot: (b.first, b.last) for b in scene_bars(document, "s-wide", ticks(seconds))}
        assert bars == {"entrance": (0, ticks(0.8)), "exit": (ticks(seconds) - ticks(0.8), ticks(seconds))}
    bars = {b.slot: (b.first, b.last) for b in scene_bars(document, "s-wide", ticks(0.8))}
    assert bars["entrance"][1] <= bars["exit"][0]
    for length in (1, ticks(0.05), ticks(0.4)):
        for at in (0, length // 2, length):
            scene_at(document, "s-wide", at, length)


def test_a_move_is_the_same_way_on_every_layer_and_scales_with_its_strength() -> None:
    document = made(START, {"edit": "use_move", "to": PHOTOS, "move": "drift", "use": {"strength": 2.0}})
    ways = {s: values(document, 5, s)["placement.x"] - values(document, 0, s)["placement.x"] for s in (f"s-{n}" for n in SHAPES)}
    assert list(ways.values()) == pytest.approx([0.12] * len(ways))
    changed = made(
        document, {"edit": "set_move_use", "to": PHOTOS, "use": {"strength": 1.0, "side": "top", "length": ticks(2), "delay": ticks(1)}}
    )
    assert [values(changed, t).get("placement.y", 0) for t in (0.5, 1, 3, 4.5)] == pytest.approx([-0.03, -0.03, 0.03, 0.03])
    still = made(document, {"edit": "set_layers", "layers": PHOTOS[:1], "placement": {"x": 0.2}})
    assert values(still, 0)["placement.x"] == pytest.approx(values(document, 0)["placement.x"] + 0.2)


def test_rules_vary_a_move_from_layer_to_layer_repeatably() -> None:
    def sides(rule: str, seed: int = 1) -> list[tuple[str, bool, float]]:
        document = made(
            START, {"edit": "use_move", "to": PHOTOS, "slot": "entrance", "move": "toss", "rule": rule, "seed": seed, "stagger": ticks(0.2)}
        )
        uses = [document.scenes[p["scene"]].layers["photo"].entrance for p in PHOTOS]
        assert [u.delay for u in uses if u] == [ticks(0.2) * i for i in range(len(PHOTOS))]
        return [(u.side, u.mirrored, u.strength) for u in uses if u]

    assert len(set(sides("same"))) == 1
    assert [s for s, _, _ in sides("alternate")] == ["left", "right", "left", "right", "left"]
    assert [s for s, _, _ in sides("around")] == ["left", "right", "top", "bottom", "left"]
    assert sides("vary") == sides("vary") != sides("vary", 2) and len(set(sides("vary"))) > 2


def test_a_linked_move_changes_everywhere_and_keyframes_of_it_stay_when_it_goes() -> None:
    document = made(
        START,
        {"edit": "record", "at": 0}, {"edit": "set_layers", "layers": PHOTOS[:1], "placement": {"turn": -20}},
    )  # fmt: skip
    document = made(document, {"edit": "record", "at": ticks(2)}, {"edit": "set_layers", "layers": PHOTOS[:1], "placement": {"turn": 10}})
    document = made(
        document,
        {"edit": "save_move", "id": "mine", "name": "Mine", "source": PHOTOS[0]},
        {"edit": "use_move", "to": PHOTOS, "move": "mine"},
    )
    assert all(values(document, 0, s)["placement.turn"] == pytest.approx(-20) for s in (f"s-{n}" for n in SHAPES))
    own = made(
        document,
        {"edit": "unlink_move", "to": PHOTOS[1:2]},
        {"edit": "set_keys", "keys": [{**PHOTOS[1], "property": "placement.turn", "key": "k1"}], "value": -50},
    )
    all_of_them = made(own, {"edit": "save_move", "id": "mine", "name": "Mine", "source": PHOTOS[1], "replace": True})
    assert values(all_of_them, 0)["placement.turn"] == pytest.approx(-50) and values(own, 0)["placement.turn"] == pytest.approx(-20)
    gone = made(document, {"edit": "remove_move", "id": "mine"})
    assert not gone.moves and all(values(gone, 1, s) == pytest.approx(values(document, 1, s)) for s in (f"s-{n}" for n in SHAPES))


def test_keyframes_saved_as_an_entrance_look_the_same_and_keep_their_time_in_a_longer_scene() -> None:
    keyed = START
    for at, turn, size in ((0.5, -20.0, 0.2), (1.5, 10.0, 0.8)):
        keyed = made(keyed, {"edit": "record", "at": ticks(at)}, {"edit": "set_layers", "layers": PHOTOS[:1], "placement": {"turn": turn, "size": size}})
    saved = made(keyed, {"edit": "save_move", "id": "mine", "name": "Mine", "source": PHOTOS[0], "kind": "entrance"})
    layer = saved.scenes["s-wide"].layers["photo"]
    assert saved.moves["mine"].kind == "entrance" and layer.move is None and layer.entrance is not None and layer.entrance.move == "mine"

    def frames(document: Document, scene: str = "s-wide", length: int = LENGTH) -> list[list[tuple[float, float]]]:
        times = (0.0, 0.7, 1.0, 1.4, 1.5, 3.0)
        return [[tuple(corner) for corner in outline_of(staged(document, scene, ticks(t), length).find(scene, "photo")).tolist()] for t in times]  # type: ignore[arg-type]

    assert np.allclose(frames(saved), frames(keyed)) and np.allclose(frames(saved, length=4 * LENGTH), frames(saved))
    # On others it ends as they stand, and backwards it is an exit.
    others = made(saved, {"edit": "use_move", "to": PHOTOS[1:], "slot": "exit", "move": "mine"})
    scene = PHOTOS[1]["scene"]
    assert np.allclose(frames(others, scene)[0], frames(START, scene)[0]) and scene_at(others, scene, LENGTH, LENGTH) != scene_at(START, scene, LENGTH, LENGTH)
    gone = made(others, {"edit": "remove_move", "id": "mine"})
    assert not gone.moves and all(gone.scenes[p["scene"]].layers["photo"].exit is None for p in PHOTOS)
    # A move of layers takes over no keyframes of a camera.
    camera = made(saved, {"edit": "add_keys", "lanes": [{"scene": "s-wide", "layer": None, "property": "camera.roll"}], "at": 0})
    with pytest.raises(InvalidEdit, match="is for layers"):
        made(camera, {"edit": "save_move", "id": "mine", "name": "Mine", "source": {"scene": "s-wide", "layer": None}, "replace": True})
    unseen = START
    for at, opacity in ((0.0, 0.5), (1.0, 0.0)):
        unseen = made(unseen, {"edit": "record", "at": ticks(at)}, {"edit": "set_layers", "layers": PHOTOS[:1], "opacity": opacity})
    with pytest.raises(InvalidEdit, match="ends with the thing seen"):
        made(unseen, {"edit": "save_move", "id": "mine", "name": "Mine", "source": PHOTOS[0], "kind": "entrance"})


def test_unlinking_shows_the_same_motion_for_every_move_that_can() -> None:
    for name, move in BUILTIN:
        if move.kind != "move" or move.spread:
            continue
        # A path turned by a quarter is paced in another shape of frame; factors to a power are no straight line between keys.
        close = 0.005 if name == "arc" else 5e-4
        for use in ({}, {"side": "bottom", "strength": 0.7, "mirrored": True}):
            document = made(START, {"edit": "use_move", "to": PHOTOS[:1], "move": name, "use": use})
            free = made(document, {"edit": "unlink_move", "to": PHOTOS[:1]})
            # The scene's own time: keyframes stand in it.
            length = ticks(4)
            for share in (0.0, 0.2, 0.55, 1.0):
                linked, keyed = (values_at(staged(d, "s-wide", round(length * share), length))["s-wide/photo"] for d in (document, free))
                for number in linked.keys() | keyed.keys():
                    assert linked.get(number, 0.5 if number == "placement.size" else 0.0) == pytest.approx(
                        keyed.get(number, 0.0), abs=close
                    ), (name, number, share)


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        ({"edit": "use_move", "to": PHOTOS, "move": "gone"}, "edit.no_move"),
        ({"edit": "use_move", "to": PHOTOS, "move": "fall"}, "edit.kind"),
        ({"edit": "use_move", "to": PHOTOS, "move": "dolly-in"}, "edit.kind"),
        ({"edit": "use_move", "to": [{"scene": "s-wide"}], "move": "drift"}, "edit.kind"),
        ({"edit": "use_move", "to": [{"scene": "s-wide"}], "slot": "exit", "move": "fade"}, "edit.kind"),
        ({"edit": "use_move", "to": PHOTOS, "move": "drift", "use": {"strength": float("nan")}}, "edit.value"),
        ({"edit": "set_move_use", "to": PHOTOS, "use": {"strength": 1}}, "edit.no_move"),
        ({"edit": "save_move", "id": "x", "name": "X", "source": PHOTOS[0]}, "edit.no_key"),
        ({"edit": "set_move", "id": "drift", "name": "X"}, "edit.no_move"),
        ({"edit": "remove_move", "id": "gone"}, "edit.no_move"),
    ],
)
def test_moves_that_cannot_be_used_say_why(edit: dict[str, Any], code: str) -> None:
    with pytest.raises(InvalidEdit) as caught:
        made(START, edit)
    assert caught.value.faults[0].code == code


def test_motion_is_carried_to_pictures_of_all_shapes_in_one_edit() -> None:
    document = made(
        START,
        {"edit": "use_move", "to": PHOTOS[:1], "slot": "entrance", "move": "fall"},
        {"edit": "use_move", "to": PHOTOS[:1], "move": "sway"},
    )
    carried = made(document, {"edit": "carry", "source": PHOTOS[0], "what": ["motion"], "to": [p["scene"] for p in PHOTOS]})
    first = carried.scenes["s-wide"].layers["photo"]
    for photo in PHOTOS[1:]:
        layer = carried.scenes[photo["scene"]].layers["photo"]
        assert (layer.move, layer.entrance, layer.placement) == (
            first.move,
            first.entrance,
            START.scenes[photo["scene"]].layers["photo"].placement,
        )
    turns = [values(carried, t)["placement.turn"] for t in (2, 3, 4)]
    assert all(b > a for a, b in pairwise(turns))


@pytest.mark.parametrize("value", [-3.0, 0.0, 1e300])
def test_factors_that_swing_below_nothing_or_far_beyond_still_make_a_picture(value: float) -> None:
    lane = {**PHOTOS[0], "property": "placement.size"}
    keyed = made(
        START, {"edit": "add_keys", "lanes": [lane], "at": 0}, {"edit": "save_move", "id": "mine", "name": "Mine", "source": PHOTOS[0]}
    )
    data = dump_document(keyed)
    data["moves"]["mine"]["lanes"]["placement.size"]["keys"]["k1"]["value"] = value
    document = parse_document(data)
    for strength in (0.0, 0.7, 4.0):
        used = made(document, {"edit": "set_move_use", "to": PHOTOS[:1], "use": {"strength": strength}})
        free = made(used, {"edit": "unlink_move", "to": PHOTOS[:1]})
        for film in (used, free):
            frame = repr(scene_at(film, "s-wide", ticks(1), LENGTH))
            assert "nan" not in frame and "inf" not in frame
