"""Templates put on: pictures go where they belong, dials turn what follows them, freed scenes are as if made by hand, nothing else changes."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import Document, Frame, PhotoLayer, Scene, dump_document, in_order, parse_document, photos_of, values_of
from oak_lens.core.edits import apply_edits, in_frame, parse_edits, shapes_of
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import photo_findings, scene_at, scene_bars, timeline_of
from oak_lens.core.templates import PICTURED, cast, left_over, zones_in
from oak_lens.core.time import ticks
from oak_lens.core.treatments import BUILTIN, Shipped
from tests.conftest import SHAPES, made_document

EACH = pytest.mark.parametrize("shipped", BUILTIN, ids=lambda s: s.id)
DEALT = next(s for s in BUILTIN if s.id == "dealt-prints")
QUIET = next(s for s in BUILTIN if s.id == "quiet-frame")
SCENES = [f"s-{n}" for n in SHAPES]


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def put(shipped: Shipped, document: Document | None = None, **more: Any) -> Document:
    return made(document or made_document(), {"edit": "put_on", "key": shipped.content.key, "id": "u", **more})


def shown(document: Document) -> list[str]:
    """Pictures of the film in order, but for what stands in empty zones."""
    return [p.media for _, s in in_order(document.scenes) for p in sorted((p for _, p in photos_of(s)), key=lambda p: p.zone or "") if not document.media[p.media].placeholder]


@EACH
def test_every_shipped_template_reads_again_and_has_what_it_says(shipped: Shipped) -> None:
    content = shipped.content
    assert parse_document(dump_document(content.document)) == content.document
    for shape in shapes_of(content):
        own = in_frame(content, Frame(width=round(540 * shape) * 2, height=1080))
        zones = {z for k, scene in own.parts for z in zones_in(scene, own.record)}
        driven = {link.id for s in own.document.scenes.values() for owner in (s, *s.layers.values()) for link in owner.links.values()}
        assert zones == {k for k, z in own.record.zones.items() if z.takes != "song"} and driven == set(own.record.dials), f"no zone and no dial without its deed, at {shape:.2f}"


@EACH
@pytest.mark.parametrize("frame", [{}, {"width": 1080, "height": 1920}, {"width": 1080, "height": 1080}], ids=["wide", "tall", "square"])
def test_a_template_takes_any_number_of_pictures_in_any_frame_and_loses_none(shipped: Shipped, frame: dict[str, int]) -> None:
    for count in (0, 1, 3, 14):
        names = [list(SHAPES)[n % len(SHAPES)] for n in range(count)]
        document = put(shipped, made_document(**frame), pictures=names)
        new = [k for k, s in in_order(document.scenes) if s.template]
        content = in_frame(shipped.content, document.frame)
        expected = cast(content, count)
        assert len(new) == len(expected) and sorted(shown(document)[len(SHAPES) :]) == sorted(names[i] for c in expected for i in c.pictures.values())
        if content.record.kind == "treatment":
            assert not left_over(expected, count)
        assert dump_document(parse_document(dump_document(document))) == dump_document(document)
        for span in timeline_of(document).spans[-len(new) :]:
            scene_at(document, span.scene, span.own_length // 2, span.own_length)


def test_scenes_keep_their_place_name_hold_and_joins_and_spare_ones_go() -> None:
    before = made(made_document(), {"edit": "set_scenes", "ids": ["s-wide"], "hold": ticks(8), "join": {"kind": "push"}, "name": "Opening"})
    after = put(DEALT, before, scenes=["s-wide", "s-tall", "s-square", "s-panorama"])
    assert [k for k, _ in in_order(after.scenes)] == ["s-wide", "s-small"]
    was, now = before.scenes["s-wide"], after.scenes["s-wide"]
    assert (now.order, now.name, now.hold, now.join) == (was.order, was.name, was.hold, was.join)
    assert shown(after) == ["wide", "tall", "square", "panorama", "small"]


def test_pictures_that_no_scene_takes_stand_behind_the_scene_they_came_from() -> None:
    composed = made(made_document(), {"edit": "add_photos", "scene": "s-tall", "photos": [{"id": "x", "media": "small"}, {"id": "y", "media": "wide"}]})
    after = put(QUIET, composed, scenes=["s-tall"])
    assert [k for k, _ in in_order(after.scenes)] == ["s-wide", "s-tall", "u-2", "u-3", "s-square", "s-panorama", "s-small"]
    assert shown(after)[1:4] == ["tall", "small", "wide"]


@given(st.sampled_from(BUILTIN), st.lists(st.sampled_from(SCENES), min_size=1, unique=True), st.integers(0, 50))
def test_put_on_and_freed_is_a_film_made_by_hand(shipped: Shipped, scenes: list[str], seed: int) -> None:
    treated = put(shipped, scenes=scenes, seed=seed)
    freed = made(treated, {"edit": "free_scenes", "scenes": [k for k, s in treated.scenes.items() if s.template]})
    assert not freed.templates and not any(s.template or s.backdrop_zone for s in freed.scenes.values())
    assert not any(link.source == "dial" for s in freed.scenes.values() for o in (s, *s.layers.values()) for link in o.links.values())
    for span in timeline_of(treated).spans:
        assert timeline_of(freed).span_of(span.scene) == span
        for share in (0.0, 0.4, 1.0):
            at = round(span.own_length * share)
            assert scene_at(freed, span.scene, at, span.own_length) == scene_at(treated, span.scene, at, span.own_length)


@given(st.data())
def test_any_dial_anywhere_in_its_range_leaves_a_film_that_is_whole(data: st.DataObject) -> None:
    shipped = data.draw(st.sampled_from(BUILTIN))
    document = put(shipped, pictures=list(SHAPES))
    template = next(iter(document.templates.values()))
    standing = {
        "amount": lambda d: st.floats(d.minimum, d.maximum), "colour": lambda d: st.from_regex(r"\A#[0-9a-f]{6}\Z"), "switch": lambda d: st.booleans(),
        "choice": lambda d: st.sampled_from([c.value for c in d.choices]), "face": lambda d: st.just("inter"), "text": lambda d: st.text(max_size=20),
    }  # fmt: skip
    dials = {k: data.draw(standing[d.kind](d)) for k, d in template.dials.items()}
    turned = made(document, {"edit": "turn_dials", "scenes": ["u-1"], "dials": dials})
    parse_document(dump_document(turned))
    used = [s for s in turned.scenes.values() if s.template]
    assert used and all(s.template and s.template.dials == dials for s in used), "every scene of the use"
    # What follows still follows: turned back, all is as it was.
    back = made(turned, {"edit": "turn_dials", "scenes": ["u-1"], "dials": dict.fromkeys(dials)})
    values = lambda d: [values_of(o)[n].of(o) for s in d.scenes.values() for o in (s, *s.layers.values()) for n in o.links]  # noqa: E731
    assert values(back) == values(document)


def test_a_dial_is_turned_for_one_scene_alone_and_a_number_typed_over_it_stays() -> None:
    document = put(QUIET, scenes=SCENES)
    border = lambda d, s: photos_of(d.scenes[s])[0][1].mount.border  # noqa: E731
    apart = made(document, {"edit": "turn_dials", "scenes": ["s-tall"], "dials": {"border": 1.0}, "apart": "other"})
    assert border(apart, "s-tall") == pytest.approx(0.04) and border(apart, "s-wide") == border(document, "s-wide")
    photo = next(k for k, _ in photos_of(document.scenes["s-wide"]))
    typed = made(document, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": photo}], "mount": {"border": 0.031}})
    all_turned = made(typed, {"edit": "turn_dials", "scenes": ["s-tall"], "dials": {"border": 0.0}})
    assert border(all_turned, "s-wide") == 0.031 and border(all_turned, "s-tall") == 0.0
    # Or the change is led to the dial, for all that follow it.
    led = made(document, {"edit": "into_sources"}, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": photo}], "mount": {"border": 0.02}})
    assert [border(led, s) for s in SCENES] == pytest.approx([0.02] * len(SCENES))
    assert led.scenes["s-small"].template.dials == {"border": pytest.approx(0.5)}


@EACH
def test_a_picture_of_the_placeholders_own_shape_changes_nothing_but_the_picture(shipped: Shipped) -> None:
    empty = put(shipped, pictures=[])
    scene = next(k for k, s in empty.scenes.items() if s.template)
    template = next(iter(empty.templates.values()))
    for zone in zones_in(empty.scenes[scene], template):
        if template.zones[zone].takes not in PICTURED:
            continue
        layer_id = next(k for k, p in photos_of(empty.scenes[scene]) if p.zone == zone)
        stand_in = empty.media[empty.scenes[scene].layers[layer_id].media]
        own = {"id": "own", "name": "Own", "file": "own", "sha256": "d" * 64, "width": stand_in.width, "height": stand_in.height}
        filled = made(empty, {"edit": "add_pictures", "pictures": [own]}, {"edit": "fill_zones", "scene": scene, "fills": {zone: "own"}})
        was, now = (d.scenes[scene].layers[layer_id] for d in (empty, filled))
        assert isinstance(was, PhotoLayer) and now.model_copy(update={"media": was.media, "name": was.name, "hidden": was.hidden}) == was


def test_zones_are_swapped_emptied_and_replaced_everywhere_they_are_seen() -> None:
    document = put(DEALT, pictures=["wide", "tall", "square"])
    new = [k for k, s in in_order(document.scenes) if s.template]
    in_zone = lambda d, s, z: next((p.media, p.hidden) for _, p in photos_of(d.scenes[s]) if p.zone == z)  # noqa: E731
    swapped = made(document, {"edit": "swap_zones", "first": {"scene": new[0], "zone": "a"}, "second": {"scene": new[0], "zone": "b"}})
    assert in_zone(swapped, new[0], "a")[0] == "tall" and in_zone(swapped, new[0], "b")[0] == "wide"
    emptied = made(document, {"edit": "fill_zones", "scene": new[0], "fills": {"a": None, "d": "small"}})
    assert emptied.media[in_zone(emptied, new[0], "a")[0]].placeholder == 1 and in_zone(emptied, new[0], "d") == ("small", False)
    again = made(emptied, {"edit": "fill_zones", "scene": new[0], "fills": {"a": "wide", "d": None}})
    assert in_zone(again, new[0], "a") == ("wide", False) and in_zone(again, new[0], "d")[1]
    layer = next(k for k, p in photos_of(document.scenes[new[0]]) if p.zone == "a")
    replaced = made(document, {"edit": "replace_pictures", "layers": [{"scene": new[0], "layer": layer}], "media": "small"})
    assert in_zone(replaced, new[0], "a")[0] == "small"
    # A copy of the scene is filled by itself.
    copied = made(document, {"edit": "duplicate_scenes", "copies": [{"id": new[0], "copy_id": "copy"}]}, {"edit": "fill_zones", "scene": "copy", "fills": {"a": "small"}})
    assert in_zone(copied, "copy", "a")[0] == "small" and in_zone(copied, new[0], "a")[0] == "wide"


def test_a_hold_is_kept_within_what_the_template_leaves_it_and_entrances_keep_their_time() -> None:
    document = put(DEALT, pictures=["wide", "tall", "square", "small"])
    held = lambda d: timeline_of(d).span_of("u-1").hold.length  # noqa: E731
    short, long = (made(document, {"edit": "set_scenes", "ids": ["u-1"], "hold": ticks(h)}) for h in (1, 20))
    assert held(short) == ticks(4.5) and held(long) == ticks(20)
    entrance = lambda d: [(layer.entrance.length, layer.entrance.delay) for layer in d.scenes["u-1"].layers.values() if layer.entrance]  # noqa: E731
    assert entrance(short) == entrance(long) == entrance(document) != []


def test_what_cannot_be_done_is_said_and_changes_nothing() -> None:
    document = put(DEALT, pictures=["wide", "tall", "square"])
    for edit, word in (
        ({"edit": "put_on", "key": "0" * 64, "id": "v", "scenes": ["s-wide"]}, "library"),
        ({"edit": "put_on", "key": DEALT.content.key, "id": "v", "pictures": ["gone"]}, "picture"),
        ({"edit": "fill_zones", "scene": "s-wide", "fills": {"a": "wide"}}, "by hand"),
        ({"edit": "fill_zones", "scene": "u-1", "fills": {"nowhere": "wide"}}, "zone"),
        ({"edit": "turn_dials", "scenes": ["u-1"], "dials": {"border": 7.0}}, "cannot stand"),
        ({"edit": "turn_dials", "scenes": ["u-1"], "dials": {"gone": 1.0}}, "dial"),
    ):
        with pytest.raises(InvalidEdit, match=word):
            made(document, edit)


def test_five_hundred_pictures_go_into_three_zones_a_scene_in_order() -> None:
    content = next(s for s in BUILTIN if s.id == "tall-windows").content
    casts = cast(content, 500, seed=3)
    assert [i for c in casts for i in c.pictures.values()] == list(range(500)) and not left_over(casts, 500)
    assert [len(c.pictures) for c in casts[-3:]] == [3, 3, 2]
    # None stands alone where two could share a scene.
    assert [len(c.pictures) for c in cast(content, 7)] == [3, 2, 2] and [len(c.pictures) for c in cast(content, 4)] == [2, 2]
    assert [len(c.pictures) for c in cast(content, 1)] == [1]


def test_layers_that_go_elsewhere_take_no_zone_along() -> None:
    document = put(DEALT, pictures=["wide", "tall", "square"])
    layer = photos_of(document.scenes["u-1"])[0][0]
    copied = made(document, {"edit": "duplicate_layers", "copies": [{"scene": "u-1", "layer": layer, "to": "s-wide", "copy_id": "c"}]})
    copy: Any = copied.scenes["s-wide"].layers["c"]
    assert copy.zone is None and not copy.links and isinstance(copied.scenes["s-wide"], Scene)


FILM = next(s for s in BUILTIN if s.id == "evening-table")


@given(st.sampled_from([s for s in BUILTIN if s.kind in ("film", "treatment")]), st.lists(st.sampled_from(list(SHAPES)), max_size=9), st.lists(st.lists(st.sampled_from(list(SHAPES)), min_size=1, max_size=7), min_size=1, max_size=3))
def test_pictures_poured_into_a_film_are_all_in_it_and_nothing_else_changes(shipped: Shipped, begun: list[str], poured: list[list[str]]) -> None:
    document = put(shipped, pictures=begun, dials={})
    before = {k: s for k, s in document.scenes.items() if not s.template}
    in_film = sorted(shown(document))
    for number, names in enumerate(poured):
        document = made(document, {"edit": "pour_pictures", "pictures": names, "id": f"more-{number}"})
        in_film = sorted([*in_film, *names])
        assert sorted(shown(document)) == in_film
    assert {k: s for k, s in document.scenes.items() if not s.template} == before
    assert parse_document(dump_document(document)) == document
    used = [s for _, s in in_order(document.scenes) if s.template]
    assert len({s.template.use for s in used if s.template}) == 1
    if shipped.kind == "film":
        assert used[0].name == "Opening" and used[-1].name == "Closing"


def test_a_film_is_begun_empty_and_pictures_find_their_places() -> None:
    empty = put(FILM, Document(), pictures=[])
    assert [s.name for _, s in in_order(empty.scenes)] == ["Opening", "Pictures", "Closing"]
    with pytest.raises(InvalidEdit, match="No scene"):
        made(made_document(), {"edit": "pour_pictures", "pictures": ["wide"], "id": "m"})
    quoted = put(next(s for s in BUILTIN if s.id == "wall-text"), pictures=["wide"])
    with pytest.raises(InvalidEdit, match="find no place"):
        made(quoted, {"edit": "pour_pictures", "pictures": ["wide", "tall"], "id": "m"})


def test_a_picture_that_goes_leaves_an_empty_zone_where_others_are_shown() -> None:
    document = put(DEALT, pictures=["wide", "tall", "square", "small", "panorama"])
    first, second = [k for k, s in in_order(document.scenes) if s.template]
    gone = made(document, {"edit": "remove_pictures", "ids": ["tall"], "with_scenes": True})
    assert "tall" not in gone.media and set(document.scenes) - set(gone.scenes) == {"s-tall"}
    assert [gone.media[p.media].placeholder for _, p in sorted(photos_of(gone.scenes[first]), key=lambda p: p[1].zone or "")] == [0, 2, 0, 0]
    assert not photo_findings(gone, timeline_of(gone), frozenset([first]))[1].soft
    alone = made(gone, {"edit": "remove_pictures", "ids": ["panorama"], "with_scenes": True})
    assert second not in alone.scenes and first in alone.scenes


def test_one_photo_more_looks_and_comes_in_like_those_in_zones_and_scenes_without_a_place_stay() -> None:
    document = put(DEALT, scenes=["s-wide", "s-tall", "s-square", "s-panorama"])
    more = made(document, {"edit": "add_photos", "scene": "s-wide", "photos": [{"id": "own", "media": "small"}]})
    own, others = more.scenes["s-wide"].layers["own"], [p for _, p in photos_of(document.scenes["s-wide"])]
    assert own.mount == others[-1].mount and own.shadow == others[-1].shadow and own.zone is None
    assert own.entrance.move == "fall" and own.entrance.delay > max(p.entrance.delay for p in others)
    turned = made(more, {"edit": "turn_dials", "scenes": ["s-wide"], "dials": {"border": 0.9}})
    assert turned.scenes["s-wide"].layers["own"].mount.border == turned.scenes["s-wide"].layers["a"].mount.border
    # An opening takes one picture: the other scenes keep theirs.
    opened = put(next(s for s in BUILTIN if s.id == "wall-text"), scenes=SCENES)
    assert shown(opened) == list(SHAPES) and len([s for s in opened.scenes.values() if s.template]) == 1


@given(st.sampled_from([s for s in BUILTIN if s.kind != "film"]), st.floats(1.0, 20.0))
def test_another_length_keeps_entrances_and_exits_to_the_tick(shipped: Shipped, hold: float) -> None:
    document = put(shipped, pictures=list(SHAPES))
    scene = next(k for k, s in in_order(document.scenes) if s.template)
    changed = made(document, {"edit": "set_scenes", "ids": [scene], "hold": ticks(hold)})
    rule = document.templates[document.scenes[scene].template.template].scenes[document.scenes[scene].template.part]
    wanted = min(max(ticks(hold), rule.least or 0), rule.most or ticks(99))
    assert timeline_of(changed).span_of(scene).hold_end - timeline_of(changed).span_of(scene).hold_start == wanted
    bars = lambda d: {(b.layer, b.slot): (b.first, b.last, timeline_of(d).span_of(scene).own_length - b.last) for b in scene_bars(d, scene, timeline_of(d).span_of(scene).own_length)}  # noqa: E731
    before, after = bars(document), bars(changed)
    room = min(timeline_of(d).span_of(scene).own_length for d in (document, changed))
    for key, (start, end, left) in before.items():
        if key[1] == "entrance" and end < room / 2:
            assert after[key][:2] == (start, end)
        if key[1] == "exit" and end - start < room / 2:
            assert after[key][2] == left and after[key][1] - after[key][0] == end - start
