"""Layers: windows, groups, placing, looks, carrying, another frame."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document, in_order
from oak_lens.core.draw import GroupItem, LayerItem
from oak_lens.core.edits import apply_edit, apply_edits, parse_edit, parse_edits, scene_changes, touched_lines
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import Placed, bounds_of, layer_geometry, outline_of, scene_at, staged, timeline_of
from oak_lens.core.framing import limited_view, shown_subject
from tests.conftest import made_document, name_of

A = {"scene": "s-wide", "layer": "a"}
B = {"scene": "s-wide", "layer": "b"}


def edited(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


@pytest.fixture
def base() -> Document:
    """A scene with its own photo and two more in windows."""
    return edited(
        made_document(),
        {"edit": "add_photos", "scene": "s-wide", "photos": [{"id": "a", "media": "tall"}, {"id": "b", "media": "square"}]},
        {"edit": "set_layers", "layers": [A], "placement": {"x": -0.2, "y": 0.05, "size": 0.5, "turn": 20}},
        {"edit": "set_layers", "layers": [B], "placement": {"x": 0.25, "y": -0.1, "size": 0.3, "turn": 0}},
    )


def placed(document: Document, layer: str, scene: str = "s-wide") -> Placed:
    return next(p for p in staged(document, scene, 0, 1).every_layer if p.layer_id == layer)


def geometry(document: Document, layer: str) -> Any:
    return next(g for g in layer_geometry(staged(document, "s-wide", 0, 1)) if g.layer == layer)


@pytest.mark.parametrize("edge", [0, 1, 2, 3])
def test_an_edge_follows_the_pointer_while_the_opposite_edge_and_the_picture_stay(base: Document, edge: int) -> None:
    # Closer in, so that the picture has room on every side.
    document = edited(base, {"edit": "set_views", "photos": [A], "opening": {"zoom": 2}, "closing": {"zoom": 2}})
    before = geometry(document, "a")
    window = np.array(before.window)
    middle = (window[edge] + window[(edge + 1) % 4]) / 2
    outwards = middle - window.mean(axis=0)
    end = middle + outwards * 0.2
    drag = {"edit": "drag_layer", **A, "handle": f"edge{edge}", "start": middle.tolist(), "end": end.tolist()}
    after = geometry(edited(document, drag), "a")
    new = np.array(after.window)
    assert (new[edge] + new[(edge + 1) % 4]) / 2 == pytest.approx(end, abs=1e-6)
    assert new[(edge + 2) % 4] == pytest.approx(window[(edge + 2) % 4], abs=1e-6)
    assert np.array(after.picture) == pytest.approx(np.array(before.picture), abs=1e-6)


def test_the_picture_in_a_window_follows_the_pointer_and_the_window_stays(base: Document) -> None:
    document = edited(base, {"edit": "set_views", "photos": [A], "opening": {"zoom": 2}, "closing": {"zoom": 2}})
    before = geometry(document, "a")
    drag = {"edit": "drag_layer", **A, "target": "picture", "handle": "inside", "start": [0.3, 0.5], "end": [0.32, 0.47]}
    after = geometry(edited(document, drag), "a")
    assert after.window == before.window
    assert np.array(after.picture) - np.array(before.picture) == pytest.approx(np.tile((0.02, -0.03), (4, 1)), abs=1e-6)
    # However far it is dragged, a filled window is never bare.
    far = edited(document, {**drag, "end": [5, 5]})
    view = far.scenes["s-wide"].layers["a"].view.keys["opening"].value  # type: ignore[union-attr]
    assert limited_view(view, "fill", 1000 / 1500, 1000 / 1500) == view


def test_groups_move_turn_and_size_what_is_in_them_and_ungrouping_leaves_all_where_it_is(base: Document) -> None:
    refs = [A, B]
    grouped = edited(base, {"edit": "group_layers", "layers": refs, "id": "g"})
    for layer in ("a", "b"):
        assert outline_of(placed(grouped, layer)) == pytest.approx(outline_of(placed(base, layer)))
    moved = edited(
        grouped,
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "g"}], "placement": {"x": 0.1, "y": -0.05, "size": 0.7, "turn": 30}},
    )
    c, s = np.cos(np.radians(30)) * 0.7, np.sin(np.radians(30)) * 0.7
    turn = np.array(((c, -s), (s, c)))
    for layer in ("a", "b"):
        assert outline_of(placed(moved, layer)) == pytest.approx(outline_of(placed(base, layer)) @ turn.T + (0.1 * 16 / 9, -0.05), abs=1e-9)
    freed = edited(moved, {"edit": "ungroup_layers", "layers": [{"scene": "s-wide", "layer": "g"}]})
    for layer in ("a", "b"):
        assert outline_of(placed(freed, layer)) == pytest.approx(outline_of(placed(moved, layer)), abs=1e-9)
        assert freed.scenes["s-wide"].layers[layer].parent is None


def test_a_layer_in_a_turned_group_follows_the_pointer(base: Document) -> None:
    document = edited(
        base,
        {"edit": "group_layers", "layers": [A, B], "id": "g"},
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "g"}], "placement": {"size": 0.6, "turn": 50}},
    )
    before = np.array(geometry(document, "a").corners)
    after = np.array(
        geometry(edited(document, {"edit": "drag_layer", **A, "handle": "inside", "start": [0.4, 0.4], "end": [0.5, 0.35]}), "a").corners
    )
    assert after - before == pytest.approx(np.tile((0.1, -0.05), (4, 1)), abs=1e-9)


def test_a_shared_group_is_seen_in_many_scenes_and_a_change_reaches_all(base: Document) -> None:
    document = edited(
        base,
        {"edit": "group_layers", "layers": [A, B], "id": "g"},
        {"edit": "share_group", "scene": "s-wide", "layer": "g", "id": "shared"},
        {"edit": "add_group", "scene": "s-tall", "layer": "h", "shared": "shared"},
    )
    assert placed(document, "a").container == "shared"
    assert outline_of(placed(document, "a", "s-tall")) == pytest.approx(outline_of(placed(base, "a")))
    changed = edited(document, {"edit": "set_layers", "layers": [{"scene": "shared", "layer": "a"}], "placement": {"x": 0.3}})
    for scene in ("s-wide", "s-tall"):
        assert outline_of(placed(changed, "a", scene))[:, 0].mean() == pytest.approx(0.3 * 16 / 9)
    with pytest.raises(InvalidEdit) as caught:
        edited(document, {"edit": "add_group", "scene": "shared", "layer": "x", "shared": "shared"})
    assert caught.value.code == "edit.link"


def test_a_group_with_a_text_is_copied_into_another_scene_at_its_place(base: Document) -> None:
    edits = [
        {"edit": "add_title", "scene": "s-wide", "id": "title", "title": "lower-line", "texts": ["One", "Two"]},
        {"edit": "duplicate_layers", "copies": [{"scene": "s-wide", "layer": "title", "to": "s-tall", "copy_id": "again"}]},
    ]
    document = apply_edits(base, parse_edits(edits))
    there = document.scenes["s-tall"].layers
    assert [k for k, _ in in_order(there)][-3:] == ["again", "again-0", "again-1"] and there["again-0"].parent == "again"
    for new, old in (("again", "title"), ("again-0", "title-1"), ("again-1", "title-2")):
        was = document.scenes["s-wide"].layers[old]
        assert there[new].model_copy(update={"order": was.order, "parent": was.parent}) == was


def test_hidden_solo_and_faded_layers(base: Document) -> None:
    def seen(*edits: dict[str, Any]) -> list[str]:
        items = scene_at(edited(base, *edits) if edits else base, "s-wide", 0, 1).items
        return [name_of(i.content.picture) for i in items if isinstance(i, LayerItem)]  # type: ignore[union-attr]

    assert seen() == ["wide", "tall", "square"]
    assert seen({"edit": "set_layers", "layers": [A], "hidden": True}) == ["wide", "square"]
    assert seen({"edit": "set_layers", "layers": [A], "solo": True}) == ["tall"]
    assert seen(
        {"edit": "group_layers", "layers": [A, B], "id": "g"},
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "g"}], "solo": True},
    ) == ["tall", "square"]
    faded = edited(
        base,
        {"edit": "group_layers", "layers": [A, B], "id": "g"},
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "g"}], "opacity": 0.5},
    )
    (group,) = [i for i in scene_at(faded, "s-wide", 0, 1).items if isinstance(i, GroupItem)]
    assert group.opacity == 0.5 and sum(isinstance(i, LayerItem) for i in group.items) == 2


@pytest.mark.parametrize("to", ["frame", "safe"])
@pytest.mark.parametrize(("across", "down"), [("left", "top"), ("middle", "middle"), ("right", "bottom")])
def test_layers_are_put_in_nine_places(base: Document, to: str, across: str, down: str) -> None:
    document = edited(base, {"edit": "align_layers", "layers": [A, B], "across": across, "down": down, "to": to})
    share = {"frame": 1.0, "safe": 0.9}[to]
    for layer in ("a", "b"):
        left, top, right, bottom = bounds_of(placed(document, layer))
        aspect = 16 / 9 * share
        expected = {"left": (left, -aspect / 2), "middle": ((left + right) / 2, 0.0), "right": (right, aspect / 2)}[across]
        assert expected[0] == pytest.approx(expected[1], abs=1e-9)
        expected = {"top": (top, -share / 2), "middle": ((top + bottom) / 2, 0.0), "bottom": (bottom, share / 2)}[down]
        assert expected[0] == pytest.approx(expected[1], abs=1e-9)


def test_layers_are_spread_with_equal_room(base: Document) -> None:
    document = edited(
        base,
        {"edit": "add_shape", "scene": "s-wide", "id": "c"},
        {"edit": "nudge_layers", "layers": [{"scene": "s-wide", "layer": "c"}], "by": [0.07, 0]},
        {"edit": "distribute_layers", "layers": [A, B, {"scene": "s-wide", "layer": "c"}], "axis": "across"},
    )
    found = sorted(bounds_of(placed(document, k)) for k in ("a", "b", "c"))
    rooms = [b[0] - a[2] for a, b in pairwise(found)]
    assert rooms[0] == pytest.approx(rooms[1]) and bounds_of(placed(document, "a"))[0] == pytest.approx(bounds_of(placed(base, "a"))[0])


def test_a_dragged_layer_snaps_to_lines_near_it_and_says_which(base: Document) -> None:
    left, _, right, _ = bounds_of(placed(base, "b"))
    # Half a hundredth short of the right edge of the frame: it snaps; without snapping it stays short.
    short = (16 / 9 / 2 - right) / (16 / 9) - 0.004
    drag = {"edit": "drag_layer", **B, "handle": "inside", "start": [0.5, 0.5], "end": [0.5 + short, 0.5]}
    snapped, free = edited(base, {**drag, "snap": True}), edited(base, drag)
    assert bounds_of(placed(snapped, "b"))[2] == pytest.approx(16 / 9 / 2)
    assert bounds_of(placed(free, "b"))[2] == pytest.approx(16 / 9 / 2 - 0.004 * 16 / 9)
    assert ("x", 1.0) in [(line.axis, line.at) for line in touched_lines(staged(snapped, "s-wide", 0, 1), placed(snapped, "b"))]
    guided = edited(base, {"edit": "set_guides", "guides": [{"axis": "x", "at": 0.61}]})
    x = (0.61 - 0.5) * 16 / 9 - left
    onto = edited(guided, {**drag, "end": [0.5 + (x + 0.006) / (16 / 9), 0.5], "snap": True})
    assert bounds_of(placed(onto, "b"))[0] == pytest.approx((0.61 - 0.5) * 16 / 9)


def test_locked_layers_and_those_in_locked_groups_are_not_dragged(base: Document) -> None:
    grouped = edited(base, {"edit": "group_layers", "layers": [A], "id": "g", "name": "Pair"})
    for locked in (
        edited(base, {"edit": "set_layers", "layers": [A], "locked": True}),
        edited(grouped, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "g"}], "locked": True}),
    ):
        for edit in (
            {"edit": "drag_layer", **A, "handle": "inside", "start": [0, 0], "end": [1, 1]},
            {"edit": "nudge_layers", "layers": [A], "by": [0.1, 0]},
        ):
            with pytest.raises(InvalidEdit) as caught:
                edited(locked, edit)
            assert caught.value.code == "edit.locked"


def test_a_replaced_picture_keeps_all_else(base: Document) -> None:
    document = edited(
        base,
        {"edit": "set_layers", "layers": [A], "mount": {"border": 0.05}, "caption": "Frost"},
        {"edit": "replace_pictures", "layers": [A], "media": "panorama"},
    )
    before, after = base.scenes["s-wide"].layers["a"], document.scenes["s-wide"].layers["a"]
    assert after.media == "panorama" and after.name == "panorama" and after.caption == "Frost" and after.mount.border == 0.05  # type: ignore[union-attr]
    assert (
        after.placement == before.placement and after.order == before.order and document.scenes["s-wide"].hold == base.scenes["s-wide"].hold
    )


PHOTOS = [{"scene": s, "layer": "photo"} for s in ("s-tall", "s-square")]


def test_a_changed_look_reaches_every_linked_photo_and_no_copy(base: Document) -> None:
    document = edited(
        base,
        {"edit": "use_look", "look": "gallery", "photos": PHOTOS[:1]},
        {"edit": "use_look", "look": "gallery", "photos": PHOTOS[1:], "linked": False},
        {"edit": "set_look", "id": "gallery", "mount": {"colour": "#123456"}, "backdrop": {"surface": "slate"}},
    )

    def colour(doc: Document, scene: str) -> str:
        return next(i for i in scene_at(doc, scene, 0, 1).items if isinstance(i, LayerItem)).content.mount.colour  # type: ignore[union-attr]

    assert colour(document, "s-tall") == "#123456" and colour(document, "s-square") != "#123456"
    assert scene_at(document, "s-tall", 0, 1).items[0].surface == "slate"  # type: ignore[union-attr]
    # Taken out of the project, the linked photo still looks as it did.
    without = edited(document, {"edit": "remove_look", "id": "gallery"})
    assert scene_at(without, "s-tall", 0, 1) == scene_at(document, "s-tall", 0, 1) and "gallery" not in without.looks
    # The project's default reaches what has none of its own.
    everywhere = edited(document, {"edit": "default_look", "look": "slate"})
    assert colour(everywhere, "s-panorama") == "#15171a" and colour(everywhere, "s-tall") == "#123456"


def test_a_saved_look_is_what_the_photo_looked_like(base: Document) -> None:
    document = edited(base, {"edit": "set_layers", "layers": PHOTOS[:1], "mount": {"border": 0.07}, "correction": {"exposure": 1}})
    saved = edited(document, {"edit": "save_look", "id": "mine", "name": "Mine", "photo": PHOTOS[0]})
    assert scene_at(saved, "s-tall", 0, 1) == scene_at(document, "s-tall", 0, 1)
    used = edited(saved, {"edit": "use_look", "look": "mine", "photos": PHOTOS[1:]})
    item = next(i for i in scene_at(used, "s-square", 0, 1).items if isinstance(i, LayerItem))
    assert item.content.mount.border == 0.07 and item.content.corrections[0].exposure == 1  # type: ignore[union-attr]


def test_carrying_changes_the_ticked_targets_alone_and_says_what(base: Document) -> None:
    source = {"scene": "s-tall", "layer": "photo"}
    document = edited(
        base,
        {"edit": "set_layers", "layers": [source], "mount": {"border": 0.06}, "shadow": {"distance": 0.09}},
        {"edit": "set_scenes", "ids": ["s-tall"], "hold": 3_528_000_000, "join": {"kind": "cut"}, "backdrop": {"kind": "colour"}},
        {"edit": "set_views", "photos": [source], "opening": {"zoom": 0.7}, "closing": {"zoom": 0.6}},
    )
    what = ["look", "views", "backdrop", "hold", "join"]
    carried = apply_edit(document, parse_edit({"edit": "carry", "source": source, "what": what, "to": ["s-square", "s-wide"]}))
    changes = {c.scene: c.what for c in scene_changes(document, carried)}
    assert set(changes) == {"s-square", "s-wide"}
    assert changes["s-square"][0] == "hold 3.0 → 5.0 s" and {"join", "backdrop", "mount", "shadow", "views"} <= set(changes["s-square"])
    for layer in carried.scenes["s-wide"].layers.values():
        assert layer.mount.border == 0.06  # type: ignore[union-attr]
    # A view carried to a photo that fills is kept from showing a bare edge.
    assert carried.scenes["s-wide"].layers["photo"].view.keys["opening"].value.zoom >= 1.0  # type: ignore[union-attr]
    assert carried.scenes["s-panorama"] == document.scenes["s-panorama"]


@pytest.mark.parametrize("size", [(1080, 1920), (1080, 1080), (1350, 1080)])
def test_another_frame_keeps_subjects_in_view_and_whole_things_whole(base: Document, size: tuple[int, int]) -> None:
    subject = {"x": 0.78, "y": 0.4, "width": 0.12, "height": 0.2}
    document = edited(
        base,
        {"edit": "set_pictures", "ids": ["wide"], "subject": subject},
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "fit": "fill"},
    )
    after = edited(document, {"edit": "set_frame", "width": size[0], "height": size[1]})
    aspect = size[0] / size[1]
    seen = shown_subject(after.media["wide"])
    assert seen is not None
    span = timeline_of(after).span_of("s-wide")
    assert span
    for at in (0, span.on_screen.length):
        photo = next(p for p in staged(after, "s-wide", at, span.on_screen.length).every_layer if p.layer_id == "photo")
        assert photo.standing
        content, matrix = photo.standing.content, photo.frame_from_plane
        corners = (
            np.array([((x - 0.5) * content.width, (y - 0.5) * content.height, 1) for x, y in ((seen[0], seen[1]), (seen[2], seen[3]))])
            @ matrix.T
        )
        assert (np.abs(corners[:, 0]) <= aspect / 2 + 1e-9).all() and (np.abs(corners[:, 1]) <= 0.5 + 1e-9).all()
    for layer in ("a", "b"):
        left, top, right, bottom = bounds_of(placed(after, layer))
        assert left >= -aspect / 2 - 0.03 and right <= aspect / 2 + 0.03 and top >= -0.53 and bottom <= 0.53
