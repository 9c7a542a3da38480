"""Keyframes as a person handles them: recorded, shifted, stretched, turned round, eased, copied; and what refuses them."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.curves import Keyframe, NumberLane, key_times, lerp_number, sample
from oak_lens.core.document import Document, dump_document, parse_document
from oak_lens.core.draw import LayerItem, MountedPhoto
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidDocument, InvalidEdit
from oak_lens.core.evaluate import Placed, path_geometry, scene_at, scene_lanes, staged, values_at
from oak_lens.core.time import ticks
from tests.conftest import made_document

LENGTH = ticks(4)
PHOTO = {"scene": "s-wide", "layer": "photo"}
FRAME = ticks(1) // 30


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def lane(name: str, layer: str | None = "photo", scene: str = "s-wide") -> dict[str, Any]:
    return {"scene": scene, "layer": layer, "property": name}


def key(name: str, *ids: str) -> list[dict[str, Any]]:
    return [{**lane(name), "key": k} for k in ids]


START = made(made_document(), {"edit": "set_layers", "layers": [PHOTO], "window": {}, "placement": {"size": 0.5, "x": 0.1}})


def turning(*entries: tuple[float, float], **key_fields: Any) -> Document:
    """The photo turned by keys at (seconds, degrees)."""
    data = dump_document(START)
    keys = {f"k{i}": {"at": ticks(at), "value": value, **key_fields} for i, (at, value) in enumerate(entries)}
    data["scenes"]["s-wide"]["layers"]["photo"]["animation"] = {"placement.turn": {"kind": "number", "keys": keys}}
    return parse_document(data)


def turns(document: Document) -> NumberLane:
    found = document.scenes["s-wide"].layers["photo"].animation["placement.turn"]
    assert isinstance(found, NumberLane)
    return found


def now(document: Document, name: str, at: float) -> float:
    return values_at(staged(document, "s-wide", ticks(at), LENGTH))["s-wide/photo"][name]


def standing(document: Document, at: float) -> Placed:
    return next(p for p in staged(document, "s-wide", ticks(at), LENGTH).every_layer if p.layer_id == "photo")


def test_what_is_changed_while_recording_becomes_a_key_where_it_was_changed() -> None:
    # The end first, then the start: the order in which keys are made does not matter.
    document = made(
        START,
        {"edit": "record", "at": ticks(3)},
        {"edit": "set_layers", "layers": [PHOTO], "placement": {"x": 0.4}, "mount": {"border": 0.05}},
    )
    document = made(document, {"edit": "record", "at": 0}, {"edit": "nudge_layers", "layers": [PHOTO], "by": [-0.6, 0.2], "at": 0})
    assert [now(document, "placement.x", t) for t in (0, 3)] == pytest.approx([-0.2, 0.4])
    assert now(document, "placement.y", 0) == pytest.approx(0.2) and now(document, "mount.border", 1) == 0.05
    photo = document.scenes["s-wide"].layers["photo"]
    # What lies under the keys is as it was, so the whole animation can still be moved.
    assert photo.placement == START.scenes["s-wide"].layers["photo"].placement and set(photo.animation) == {
        "placement.path",
        "mount.border",
    }
    moved = made(document, {"edit": "drag_layer", **PHOTO, "handle": "inside", "start": [0.5, 0.5], "end": [0.6, 0.5], "at": ticks(2)})
    assert [now(moved, "placement.x", t) for t in (0, 3)] == pytest.approx([-0.1, 0.5])
    typed = made(document, {"edit": "set_values", "lanes": [lane("placement.x")], "value": 0.0, "at": ticks(3)})
    assert [now(typed, "placement.x", t) for t in (0, 3)] == pytest.approx([-0.6, 0.0])


def test_any_number_can_be_keyframed_and_is_seen() -> None:
    document = made(
        START,
        {"edit": "set_layers", "layers": [PHOTO], "mask": {}},
        {"edit": "set_scenes", "ids": ["s-wide"], "light": {}, "camera": {"blurred": True}},
    )
    for name, other in (("placement.z", -0.5), ("placement.tip", 20), ("layer.opacity", 0.3), ("layer.blur", 0.02), ("window.aspect", 0.8), ("mount.border", 0.06),
                        ("shadow.distance", 0.1), ("correction.exposure", 1.0), ("mask.width", 0.4)):  # fmt: skip
        keyed = made(
            document, {"edit": "add_keys", "lanes": [lane(name)], "at": 0}, {"edit": "add_keys", "lanes": [lane(name)], "at": ticks(4)}
        )
        keyed = made(keyed, {"edit": "set_keys", "keys": key(name, "k2"), "value": other})
        frames = [repr(scene_at(keyed, "s-wide", ticks(t), LENGTH)) for t in (0, 2, 4)]
        assert len(set(frames)) == 3 and frames[0] == repr(scene_at(document, "s-wide", 0, LENGTH)), name
    for name, other in (
        ("camera.dolly", 0.4),
        ("camera.focus", -1.0),
        ("camera.focal", 80),
        ("light.x", 0.6),
        ("light.strength", 2.0),
        ("backdrop.blur", 0.15),
    ):
        ref = lane(name, None)
        keyed = made(document, {"edit": "add_keys", "lanes": [ref], "at": 0}, {"edit": "add_keys", "lanes": [ref], "at": ticks(4)})
        keyed = made(keyed, {"edit": "set_keys", "keys": [{**ref, "key": "k2"}], "value": other})
        assert len({repr(scene_at(keyed, "s-wide", ticks(t), LENGTH)) for t in (0, 2, 4)}) == 3, name


def test_while_recording_what_is_given_up_or_put_on_is_no_motion() -> None:
    document = made(made_document(), {"edit": "set_layers", "layers": [PHOTO], "mount": {"border": 0.05}})
    for data in ({"edit": "set_layers", "layers": [PHOTO], "mount": None}, {"edit": "use_look", "look": "gallery", "photos": [PHOTO]}):
        plain, recorded = made(document, data), made(document, {"edit": "record", "at": ticks(1)}, data)
        assert recorded == plain and not plain.scenes["s-wide"].layers["photo"].animation


def test_a_colour_is_keyframed_by_its_channels_recorded_as_one_and_changed_as_a_whole() -> None:
    def border(document: Document, at: float) -> str:
        drawn = scene_at(document, "s-wide", ticks(at), LENGTH)
        return next(item.content.mount.colour for item in drawn.items if isinstance(item, LayerItem) and isinstance(item.content, MountedPhoto))

    base = made(START, {"edit": "set_layers", "layers": [PHOTO], "mount": {"border": 0.05, "colour": "#ff8000"}})
    channels = [lane(f"mount.colour_{c}") for c in ("red", "green", "blue")]
    document = made(base, {"edit": "add_keys", "lanes": channels, "at": 0})
    # Red stays what it is: it is keyed all the same, or a later change of it would reach back to here.
    document = made(document, {"edit": "record", "at": ticks(4)}, {"edit": "set_layers", "layers": [PHOTO], "mount": {"colour": "#ff00ff"}})
    photo = document.scenes["s-wide"].layers["photo"]
    assert {n: len(found.keys) for n, found in photo.animation.items()} == dict.fromkeys((c["property"] for c in channels), 2)
    assert [border(document, t) for t in (0, 2, 4)] == ["#ff8000", "#ff4080", "#ff00ff"]
    assert photo.mount is not None and photo.mount.colour == "#ff8000", "what lies under the keys is as it was"
    # Typed at the beginning, every moment follows, as far as there are colours.
    moved = made(document, *({"edit": "set_values", "lanes": [c], "value": v, "at": 0} for c, v in zip(channels, (16, 192, 0), strict=True)))
    assert [border(moved, t) for t in (0, 4)] == ["#10c000", "#1040ff"]
    rows = {row.property: row for row in scene_lanes(document, "s-wide", LENGTH)}
    assert rows["mount.colour_green"].label == "Mount colour, green" and [k.value for k in rows["mount.colour_green"].keys] == [128, 0]


@pytest.mark.parametrize("move", [None, "drift", "breathe"])
@pytest.mark.parametrize(
    ("names", "values"),
    [
        (["layer.opacity"], [(1.0,), (0.2,), (1.0,), (0.6,)]),
        (["layer.blur"], [(0.3,), (0.0,), (0.3,), (0.1,)]),
        (["mount.border"], [(0.0,), (0.08,), (0.0,), (0.02,)]),
        (["placement.size"], [(0.5,), (2.0,), (0.25,), (1.0,)]),
        (["placement.x", "placement.turn"], [(0.3, 10), (-0.4, -30), (0.2, 5), (0.0, 90)]),
        ([f"mount.colour_{c}" for c in ("red", "green", "blue")], [(255, 255, 255), (208, 32, 16), (255, 255, 255), (0, 128, 255)]),
    ],
    ids=lambda value: value[0] if value and isinstance(value[0], str) else "",
)
def test_what_is_recorded_is_what_was_typed_down_and_up_again_under_any_move(
    names: list[str], values: list[tuple[float, ...]], move: str | None
) -> None:
    document = made(START, {"edit": "set_layers", "layers": [PHOTO], "mount": {"border": 0.05, "colour": "#ffffff"}})
    if move:
        document = made(document, {"edit": "use_move", "to": [PHOTO], "move": move})
    document = made(document, {"edit": "add_keys", "lanes": [lane(n) for n in names if n != "placement.x"] or [lane(names[0])], "at": 0})
    moments = [i * 1.2 for i in range(len(values))]
    for at, wanted in zip(moments, values, strict=True):
        typed = [{"edit": "set_values", "lanes": [lane(n)], "value": v, "at": ticks(at)} for n, v in zip(names, wanted, strict=True)]
        document = made(document, {"edit": "record", "at": ticks(at)}, *typed)
    seen = [tuple(now(document, n, at) for n in names) for at in moments]
    assert np.allclose(seen, values, atol=1e-6)


entries = st.lists(st.tuples(st.integers(0, 100), st.floats(-90, 90)), min_size=2, max_size=5, unique_by=lambda e: e[0]).map(
    lambda found: [(at / 30, value) for at, value in sorted(found)]
)


@given(entries, st.integers(1, 20), st.integers(1, 3))
def test_stretching_keeps_values_and_the_shares_of_time_and_is_undone_by_stretching_back(
    found: list[tuple[float, float]], to: int, grow: int
) -> None:
    document = turning(*found, ease_out=(0.3, 0.1), ease_in=(0.2, 0.6))
    first, last = ticks(found[0][0]), ticks(found[-1][0])
    span = (last - first) * grow // 3
    if span < len(found) * FRAME or to * FRAME + span > LENGTH:
        return
    names = key("placement.turn", *(f"k{i}" for i in range(len(found))))
    spans = {"first": first, "last": last, "to_first": to * FRAME, "to_last": to * FRAME + span}
    stretched = made(document, {"edit": "stretch_keys", "keys": names, **spans})
    for share in (0.0, 0.21, 0.5, 0.83, 1.0):
        before = sample(turns(document), round(first + (last - first) * share), LENGTH, lerp_number)
        after = sample(turns(stretched), round(to * FRAME + span * share), LENGTH, lerp_number)
        assert after == pytest.approx(before, abs=1e-3)
    back = {"first": spans["to_first"], "last": spans["to_last"], "to_first": first, "to_last": last}
    again = made(stretched, {"edit": "stretch_keys", "keys": names, **back})
    assert all(
        abs(a[0] - b[0]) <= 3 for a, b in zip(key_times(turns(again).keys, LENGTH), key_times(turns(document).keys, LENGTH), strict=True)
    )


@given(entries)
def test_reversed_keys_show_the_same_values_in_reverse_and_twice_reversed_all_is_as_before(found: list[tuple[float, float]]) -> None:
    document = turning(*found, ease_out=(0.4, 0.0), ease_in=(0.1, 0.5))
    names = key("placement.turn", *(f"k{i}" for i in range(len(found))))
    back = made(document, {"edit": "turn_keys", "keys": names, "how": "reverse"})
    first, last = ticks(found[0][0]), ticks(found[-1][0])
    for share in (0.0, 0.3, 0.5, 0.9, 1.0):
        at = round((last - first) * share)
        forward = sample(turns(document), first + at, LENGTH, lerp_number)
        assert sample(turns(back), last - at, LENGTH, lerp_number) == pytest.approx(forward, abs=1e-6)
    assert turns(made(back, {"edit": "turn_keys", "keys": names, "how": "reverse"})) == turns(document)
    mirrored = made(document, {"edit": "turn_keys", "keys": names, "how": "mirror"})
    assert sample(turns(mirrored), first, LENGTH, lerp_number) == -found[0][1]
    assert turns(made(mirrored, {"edit": "turn_keys", "keys": names, "how": "mirror"})) == turns(document)


def test_there_and_back_again_ends_where_it_began() -> None:
    document = made(
        turning((0.5, 0), (1.0, 40), (1.5, 10)),
        {"edit": "turn_keys", "keys": key("placement.turn", "k0", "k1", "k2"), "how": "there_and_back"},
    )
    assert [round(now(document, "placement.turn", t), 6) for t in (0.5, 1.0, 1.5, 2.0, 2.5, 3.5)] == [0, 40, 10, 40, 0, 0]


@given(entries, st.integers(-200, 200))
def test_shifted_keys_keep_their_distances_and_stay_in_the_scene(found: list[tuple[float, float]], by: int) -> None:
    document = turning(*found)
    names = key("placement.turn", *(f"k{i}" for i in range(len(found))))
    shifted = made(document, {"edit": "shift_keys", "keys": names, "by": by * FRAME})
    before, after = ([at for at, _ in key_times(turns(d).keys, LENGTH)] for d in (document, shifted))
    assert [b - a for a, b in pairwise(before)] == [b - a for a, b in pairwise(after)] and after[0] >= 0 and after[-1] <= LENGTH
    assert after[0] - before[0] == min(max(by * FRAME, -before[0]), LENGTH - before[-1])


def test_one_ease_goes_onto_many_keys_of_many_lanes() -> None:
    names = ("placement.turn", "placement.path", "layer.opacity")
    document = START
    for at in (0, 1, 2, 3):
        document = made(document, {"edit": "add_keys", "lanes": [lane(n) for n in names], "at": ticks(at)})
    keys = [k for n in names for k in key(n, "k1", "k2", "k3", "k4")]
    document = made(document, {"edit": "ease_keys", "keys": keys, "follow": {"kind": "spring", "stiffness": 300, "damping": 9}})
    rows = {r.property: r for r in scene_lanes(document, "s-wide", LENGTH) if r.property in names}
    assert all([k.ease for k in rows[n].keys] == ["spring"] * 3 + ["none"] for n in names)
    alone = made(document, {"edit": "ease_keys", "keys": key("placement.turn", "k4"), "hold": True})
    assert [k.ease for k in next(r for r in scene_lanes(alone, "s-wide", LENGTH) if r.property == "placement.turn").keys] == [
        "spring",
        "spring",
        "hold",
        "none",
    ]


def test_copied_keys_go_to_other_layers_other_scenes_and_other_numbers() -> None:
    document = turning((0.5, 0), (1.0, 40))
    copied = [
        {"property": "placement.turn", "after": after, "key": turns(document).keys[k].model_dump(mode="json")}
        for after, k in ((0, "k0"), (ticks(0.5), "k1"))
    ]
    to = [{"scene": s, "layer": "photo", "property": ""} for s in ("s-tall", "s-square")]
    pasted = made(document, {"edit": "paste_keys", "keys": copied, "to": to, "at": ticks(5)})
    for scene in ("s-tall", "s-square"):
        lanes = pasted.scenes[scene].layers["photo"].animation
        assert [k.value for k in lanes["placement.turn"].keys.values()] == [0, 40]
    other = made(document, {"edit": "paste_keys", "keys": copied, "to": [lane("placement.swing")], "at": ticks(2)})
    assert now(other, "placement.swing", 2.5) == 40 and now(other, "placement.swing", 2.0) == 0
    with pytest.raises(InvalidEdit) as caught:
        made(document, {"edit": "paste_keys", "keys": copied, "to": [lane("placement.path")], "at": 0})
    assert caught.value.faults[0].code == "edit.kind"


def test_a_path_is_bent_dragged_and_drawn_with_a_dot_for_every_frame() -> None:
    document = START
    for at, by in ((0, (-0.3, 0)), (1, (0.3, -0.2)), (2, (0.3, 0.2))):
        document = made(
            document, {"edit": "record", "at": ticks(at)}, {"edit": "nudge_layers", "layers": [PHOTO], "by": by, "at": ticks(at)}
        )
    document = made(document, {"edit": "set_lanes", "lanes": [lane("placement.path")], "bent": True, "even": True})
    (path,) = path_geometry(staged(document, "s-wide", 0, LENGTH))
    assert len(path.dots) == 61 and len(path.keys) == 3 and all(k.smooth for k in path.keys)
    middle = path.keys[1]
    assert middle.tangent_out is not None
    moved = made(
        document,
        {
            "edit": "drag_path",
            "lane": lane("placement.path"),
            "key": middle.id,
            "part": "point",
            "start": list(middle.point),
            "end": [0.5, 0.1],
            "at": 0,
        },
    )
    assert path_geometry(staged(moved, "s-wide", 0, LENGTH))[0].keys[1].point == pytest.approx((0.5, 0.1))
    pulled = made(
        document,
        {
            "edit": "drag_path",
            "lane": lane("placement.path"),
            "key": middle.id,
            "part": "out",
            "start": list(middle.tangent_out),
            "end": [0.7, 0.7],
            "at": 0,
        },
    )
    now_middle = path_geometry(staged(pulled, "s-wide", 0, LENGTH))[0].keys[1]
    assert now_middle.tangent_out == pytest.approx((0.7, 0.7)) and now_middle.tangent_in is not None
    out, into = ([a - b for a, b in zip(end, now_middle.point, strict=True)] for end in (now_middle.tangent_out, now_middle.tangent_in))
    assert out[0] * into[1] == pytest.approx(out[1] * into[0], abs=1e-9) and out[0] * into[0] < 0
    straight = made(pulled, {"edit": "set_lanes", "lanes": [lane("placement.path")], "bent": False})
    assert all(k.tangent_out is None for k in path_geometry(staged(straight, "s-wide", 0, LENGTH))[0].keys)


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        ({"edit": "add_keys", "lanes": [lane("placement.wings")], "at": 0}, "edit.no_property"),
        ({"edit": "add_keys", "lanes": [lane("camera.x")], "at": 0}, "edit.no_property"),
        ({"edit": "add_keys", "lanes": [lane("form.angle")], "at": 0}, "edit.no_property"),
        ({"edit": "remove_keys", "keys": key("placement.turn", "gone")}, "edit.no_key"),
        ({"edit": "remove_keys", "keys": key("placement.tip", "k0")}, "edit.no_key"),
        ({"edit": "stretch_keys", "keys": key("placement.turn", "k0"), "first": 5, "last": 5, "to_first": 0, "to_last": 9}, "edit.no_span"),
        ({"edit": "set_keys", "keys": key("placement.turn", "k0"), "value": float("nan")}, "edit.value"),
        ({"edit": "set_keys", "keys": key("placement.turn", "k0"), "value": 5000.0}, "edit.value"),
        ({"edit": "set_keys", "keys": key("placement.turn", "k0"), "ease_out": [2, 0]}, "edit.value"),
        ({"edit": "turn_keys", "keys": key("placement.turn", "k0"), "how": "there_and_back"}, "edit.no_room"),
        ({"edit": "set_lanes", "lanes": [lane("placement.turn")], "even": True}, "edit.no_path"),
        ({"edit": "set_values", "lanes": [lane("placement.turn")], "value": float("inf"), "at": 0}, "edit.value"),
    ],
)
def test_what_cannot_be_done_says_so_and_changes_nothing(edit: dict[str, Any], code: str) -> None:
    document = turning((0.5, 10), (1.0, 40))
    before = dump_document(document)
    with pytest.raises(InvalidEdit) as caught:
        made(document, edit)
    assert caught.value.faults[0].code == code and caught.value.faults[0].message.endswith(".")
    assert dump_document(document) == before


@pytest.mark.parametrize("lanes", [
    {"placement.turn": {"kind": "path", "keys": {"a": {"value": [0, 0, 0]}}}},
    {"placement.path": {"kind": "number", "keys": {"a": {"value": 0}}}},
    {"placement.turn": {"kind": "number", "keys": {}}},
    {"placement.turn": {"kind": "number", "keys": {"a": {"value": float("inf")}}}},
    {"nothing.here": {"kind": "number", "keys": {"a": {"value": 1}}}},
])  # fmt: skip
def test_a_document_with_broken_lanes_is_refused_with_a_path(lanes: dict[str, Any]) -> None:
    data = dump_document(START)
    data["scenes"]["s-wide"]["layers"]["photo"]["animation"] = lanes
    with pytest.raises(InvalidDocument) as caught:
        parse_document(data)
    assert caught.value.faults[0].path.startswith("scenes.s-wide.layers.photo.animation")


def test_keys_at_one_moment_and_beyond_the_span_and_extreme_values_make_a_picture() -> None:
    document = turning((0.0, 10), (0.0, 40), (9.0, 1e5))
    for length in (1, FRAME, LENGTH):
        for at in (0, length // 2, length):
            assert scene_at(document, "s-wide", at, length).items
    assert Keyframe(value=1e5) and abs(now(document, "placement.turn", 4)) <= 3600 + 1e5
