"""Camera, travel, light and order in depth, as draw lists."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Document, in_order
from oak_lens.core.draw import LayerItem, ShadowItem, SurfaceItem, matrix_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import lamp_place, outline_of, plan_views, scene_at, scene_lanes, scene_seeing, staged
from oak_lens.core.evaluate.order import Sheet, drawn_in_order
from oak_lens.core.space import Camera, box_corners, frame_from_world, map_points, scaled, swung, tipped, translated, turned
from oak_lens.core.time import ticks
from tests.conftest import made_document, name_of

LENGTH = ticks(4)
SCENE = "s-wide"


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def photo(layer: str) -> dict[str, str]:
    return {"scene": SCENE, "layer": layer}


START = made(
    made_document(),
    {"edit": "set_layers", "layers": [photo("photo")], "window": {}, "placement": {"size": 0.5, "x": -0.2}},
    {"edit": "add_photos", "scene": SCENE, "photos": [{"id": "a", "media": "tall"}, {"id": "b", "media": "square"}]},
    {"edit": "set_layers", "layers": [photo("a")], "placement": {"x": 0.2, "z": 0.4, "size": 0.4, "turn": 12}},
    {"edit": "set_layers", "layers": [photo("b")], "placement": {"x": 0.0, "z": -1.5, "size": 0.5}},
    {"edit": "set_scenes", "ids": [SCENE], "backdrop": {"kind": "surface", "surface": "oak"}},
)


def items(document: Document, at: float = 1.0) -> list[LayerItem]:
    return [i for i in scene_at(document, SCENE, ticks(at), LENGTH).items if isinstance(i, LayerItem)]


def middle(item: LayerItem) -> tuple[float, float]:
    x, y = map_points(matrix_of(item.frame_from_plane), np.zeros((1, 2)))[0]
    return float(x), float(y)


def outline(document: Document, layer: str, at: float) -> np.ndarray[Any, Any]:
    return outline_of(next(p for p in staged(document, SCENE, ticks(at), LENGTH).every_layer if p.layer_id == layer))


def test_layers_are_drawn_by_depth_unless_as_listed_is_asked_for() -> None:
    assert [name_of(i.content.picture) for i in items(START)] == ["square", "wide", "tall"]  # type: ignore[union-attr]
    listed = made(START, {"edit": "set_scenes", "ids": [SCENE], "camera": {"sorting": "list"}})
    assert [name_of(i.content.picture) for i in items(listed)] == ["wide", "tall", "square"]  # type: ignore[union-attr]
    # Each shadow stays right below its layer.
    kinds = [type(i).__name__ for i in scene_at(START, SCENE, 0, LENGTH).items[1:]]
    assert kinds == ["ShadowItem", "LayerItem"] * 3


sheets = st.builds(
    lambda x, y, z, tip, swing, turn, w, h: (translated(x, y, z) @ turned(turn) @ tipped(tip) @ swung(swing) @ scaled(1.0), w, h),
    st.floats(-0.5, 0.5), st.floats(-0.4, 0.4), st.floats(-1.5, 0.8), st.floats(-60, 60), st.floats(-60, 60), st.floats(-90, 90), st.floats(0.2, 0.8), st.floats(0.2, 0.8),
)  # fmt: skip


@settings(max_examples=60)
@given(st.lists(sheets, min_size=2, max_size=5))
def test_whatever_is_nearer_along_a_ray_is_drawn_later(found: list[tuple[Any, float, float]]) -> None:
    camera, aspect = Camera(), 16 / 9
    frame = frame_from_world(camera, aspect)
    eye = (0.0, 0.0, aspect * 50 / 36)
    listed = [Sheet(i, box_corners(-w / 2, -h / 2, w / 2, h / 2), m, float(m[2, 3]), camera) for i, (m, w, h) in enumerate(found)]
    order = drawn_in_order(listed, eye, frame)
    if len({round(s.depth, 6) for s in listed}) < len(listed):
        return
    inverses = [np.linalg.inv((frame @ s.world_from_plane)[np.ix_((0, 1, 3), (0, 1, 3))]) for s in order]
    wrong = 0
    for x in np.linspace(-0.7, 0.7, 9):
        for y in np.linspace(-0.4, 0.4, 7):
            nearest, drawn = np.inf, None
            for sheet, back in zip(order, inverses, strict=True):
                u, v, w = back @ (x, y, 1.0)
                depth = 1.0 / w
                if depth <= 0.02 or not _inside(sheet.outline, u / w, v / w):
                    continue
                if depth < nearest + 1e-6:
                    nearest = min(nearest, depth)
                    drawn = "ok"
                elif depth > nearest + 2e-3:
                    drawn = "wrong"
            wrong += drawn == "wrong"
    assert wrong == 0


def test_groups_turned_alike_are_drawn_by_their_depth() -> None:
    document = made_document()
    names = ["wide", "tall", "square", "panorama", "small", "wide"]
    depths = [0.1, -0.5, 0.3, -0.2, 0.5, -0.8]
    edits: list[dict[str, Any]] = [{"edit": "remove_layers", "layers": [photo("photo")]}]
    for number, (name, depth) in enumerate(zip(names, depths, strict=True)):
        edits += [
            {"edit": "add_photos", "scene": SCENE, "photos": [{"id": f"p{number}", "media": name}]},
            {"edit": "group_layers", "layers": [photo(f"p{number}")], "id": f"g{number}"},
            {"edit": "set_layers", "layers": [photo(f"g{number}")], "placement": {"z": depth, "swing": 20}},
        ]
    drawn = [name_of(i.content.picture) for i in items(made(document, *edits))]  # type: ignore[union-attr]
    assert drawn == [names[i] for i in sorted(range(6), key=depths.__getitem__)]


def _inside(polygon: np.ndarray[Any, Any], x: float, y: float) -> bool:
    following = np.roll(polygon, -1, axis=0) - polygon
    side = following[:, 0] * (y - polygon[:, 1]) - following[:, 1] * (x - polygon[:, 0])
    return bool((side >= 0).all() or (side <= 0).all())


def test_planes_that_cross_are_split_into_parts_that_make_up_the_whole() -> None:
    crossing = made(
        START, {"edit": "set_layers", "layers": [photo("a")], "placement": {"x": -0.2, "z": 0.05, "swing": 50, "size": 0.6, "turn": 0}}
    )
    found = [i for i in items(crossing) if name_of(i.content.picture) in ("wide", "tall")]  # type: ignore[union-attr]
    split = [i for i in found if i.clip is not None]
    assert len(found) == 3 and len(split) == 2 and split[0].content == split[1].content
    whole = found[[i.clip for i in found].index(None)]

    def area(points: Any) -> float:
        x, y = np.array(points).T
        return abs(float(np.dot(x, np.roll(y, 1)) - np.dot(y, np.roll(x, 1)))) / 2

    left, top, right, bottom = split[0].content.sheet
    assert area(split[0].clip) + area(split[1].clip) == pytest.approx((right - left) * (bottom - top))
    assert found.index(whole) == 1


def test_a_track_moves_near_layers_farther_than_far_ones_and_the_surface_with_depth_0() -> None:
    before, after = (items(made(START, {"edit": "set_scenes", "ids": [SCENE], "camera": {"x": x}})) for x in (0.0, 0.1))
    ways = [b[0] - a[0] for (a, b) in ((middle(i), middle(j)) for i, j in zip(before, after, strict=True))]
    assert ways[0] > ways[1] > ways[2] and ways[1] == pytest.approx(-0.1 * 16 / 9)
    surface = scene_at(made(START, {"edit": "set_scenes", "ids": [SCENE], "camera": {"x": 0.1}}), SCENE, 0, LENGTH).items[0]
    assert isinstance(surface, SurfaceItem) and surface.frame_from_plane is not None
    assert map_points(matrix_of(surface.frame_from_plane), np.zeros((1, 2)))[0] == pytest.approx((-0.1 * 16 / 9, 0.0))


def test_a_keyframed_focal_length_draws_in_while_a_still_one_keeps_depth_0() -> None:
    still = made(START, {"edit": "set_scenes", "ids": [SCENE], "camera": {"focal": 85}})
    assert middle(items(still)[1]) == pytest.approx(middle(items(START)[1]))
    lane = {"scene": SCENE, "layer": None, "property": "camera.focal"}
    zoomed = made(
        START, {"edit": "add_keys", "lanes": [lane], "at": 0}, {"edit": "set_keys", "keys": [{**lane, "key": "k1"}], "value": 100}
    )
    assert np.array(middle(items(zoomed)[1])) == pytest.approx(2 * np.array(middle(items(START)[1])))
    assert next(r.label for r in scene_lanes(zoomed, SCENE, LENGTH)) == "Camera focal length"


def test_the_camera_travels_from_photo_to_photo_and_stays_at_each() -> None:
    stops = [{"id": "s1", "layer": "photo"}, {"id": "s2", "layer": "a"}, {"id": "s3", "layer": "b", "fills": 0.5}]
    document = made(
        START,
        {"edit": "add_stops", "scene": SCENE, "stops": stops},
        {"edit": "set_stops", "scene": SCENE, "stops": ["s1", "s2", "s3"], "stop": {"stay": ticks(0.5)}},
    )
    aspect = document.frame.aspect
    for at, layer, fills in ((0.2, "photo", 0.86), (3.9, "b", 0.5)):
        corners = outline(document, layer, at)
        width, height = np.ptp(corners, axis=0)
        assert corners.mean(axis=0) == pytest.approx((0, 0), abs=0.01)
        # The mount's border stands out beyond the photo that fills the frame.
        assert max(width / aspect, height) == pytest.approx(fills, rel=0.12)
    # It settles upright on a photo that lies turned, and is still while it stays.
    times = [t for t in np.arange(0.6, 3.4, 0.1) if np.abs(outline(document, "a", t).mean(axis=0)).max() < 0.01]
    upright = outline(document, "a", times[len(times) // 2])
    assert abs(upright[0][1] - upright[1][1]) < 0.01 and len(times) >= 4
    ways = [
        np.linalg.norm(
            np.subtract(
                scene_seeing(document, document.scenes[SCENE], ticks(t + 0.02), LENGTH).place,
                scene_seeing(document, document.scenes[SCENE], ticks(t), LENGTH).place,
            )
        )
        for t in np.arange(0, 3.9, 0.05)
    ]
    assert max(ways) < 6 * np.median([w for w in ways if w > 1e-3])
    fewer = made(document, {"edit": "remove_layers", "layers": [photo("a")]})
    travel = fewer.scenes[SCENE].travel
    assert travel is not None and [k for k, _ in in_order(travel.stops)] == ["s1", "s3"]
    first = made(document, {"edit": "move_stop", "scene": SCENE, "stop": "s3", "before": "s1"}).scenes[SCENE].travel
    assert first is not None and [k for k, _ in in_order(first.stops)] == ["s3", "s1", "s2"]


def test_shadows_fall_away_from_the_lamp_and_what_turns_from_it_has_less_light() -> None:
    lit = made(START, {"edit": "set_scenes", "ids": [SCENE], "light": {"x": 0.0, "y": 0.0, "z": 0.8}})
    drawn = scene_at(lit, SCENE, 0, LENGTH).items
    pairs = [(s, i) for s, i in pairwise(drawn) if isinstance(s, ShadowItem) and isinstance(i, LayerItem)]
    for shadow, item in pairs:
        place = np.array(middle(item))
        moved = map_points(matrix_of(shadow.frame_from_plane), np.zeros((1, 2)))[0] - place
        if np.linalg.norm(place) > 0.05:
            assert np.dot(moved, place) > 0
    assert all(i.lit is not None for _, i in pairs)
    turned_away = made(lit, {"edit": "set_layers", "layers": [photo("photo")], "placement": {"swing": 80}})
    facing, away = (next(i.lit for i in items(d) if name_of(i.content.picture) == "wide") for d in (lit, turned_away))  # type: ignore[union-attr]
    assert facing is not None and away is not None and away.z / np.hypot(away.x, away.z) < facing.z / np.hypot(facing.x, facing.z)


def test_a_dragged_lamp_stays_under_the_pointer_wherever_the_camera_stands() -> None:
    lit = made(START, {"edit": "set_scenes", "ids": [SCENE], "light": {}, "camera": {"dolly": 0.5, "x": 0.1, "roll": 30, "orbit": 15}})
    place = lamp_place(staged(lit, SCENE, 0, LENGTH))
    assert place is not None and lamp_place(staged(START, SCENE, 0, LENGTH)) is None
    goal = (place[0] + 0.2, place[1] - 0.1)
    dragged = made(lit, {"edit": "drag_lamp", "scene": SCENE, "start": list(place), "end": list(goal), "at": 0})
    assert lamp_place(staged(dragged, SCENE, 0, LENGTH)) == pytest.approx(goal)


@pytest.mark.parametrize(("view", "what", "way", "numbers"), [
    ("top", "camera", (0.2, 0.3), {"x": 0.2 / (16 / 9), "dolly": -0.3}),
    ("side", "camera", (-0.4, 0.1), {"dolly": 0.4, "y": 0.1}),
    ("top", "focus", (0.0, -0.5), {"focus": -0.5}),
    ("side", "point", (0.2, 0.1), {"point_z": 0.2, "point_y": 0.1}),
])  # fmt: skip
def test_what_is_dragged_in_the_plan_goes_where_the_pointer_goes(
    view: str, what: str, way: tuple[float, float], numbers: dict[str, float]
) -> None:
    document = made(START, {"edit": "drag_plan", "scene": SCENE, "view": view, "what": what, "start": [0, 0], "end": list(way), "at": 0})
    for name, value in numbers.items():
        assert getattr(document.scenes[SCENE].camera, name) == pytest.approx(value)


def test_turning_the_camera_in_the_plan_brings_its_aim_under_the_pointer_and_layers_move_in_depth() -> None:
    for number, view in enumerate(("top", "side")):
        plan = plan_views(staged(START, SCENE, 0, LENGTH))[number]
        goal = (plan.aim[0] + 0.2, plan.aim[1] + 0.1) if view == "top" else (plan.aim[0] + 0.1, plan.aim[1] - 0.2)
        aimed = made(
            START, {"edit": "drag_plan", "scene": SCENE, "view": view, "what": "aim", "start": list(plan.aim), "end": list(goal), "at": 0}
        )
        now = plan_views(staged(aimed, SCENE, 0, LENGTH))[number]
        wanted, got = (np.subtract(p, now.camera) for p in (goal, now.aim))
        assert wanted[0] * got[1] == pytest.approx(wanted[1] * got[0], abs=1e-9) and np.dot(wanted, got) > 0
    moved = made(
        START,
        {
            "edit": "drag_plan",
            "scene": SCENE,
            "view": "top",
            "what": "layer",
            "layer": photo("a"),
            "start": [0, 0],
            "end": [0.0, -0.6],
            "at": 0,
        },
    )
    assert moved.scenes[SCENE].layers["a"].placement.z == pytest.approx(-0.2)
    assert {x.layer for x in plan_views(staged(START, SCENE, 0, LENGTH))[0].layers} == {"photo", "a", "b"}


def test_the_frame_is_dragged_on_the_easel_as_a_camera() -> None:
    tracked = made(START, {"edit": "drag_camera", "scene": SCENE, "handle": "inside", "start": [0.5, 0.5], "end": [0.6, 0.45], "at": 0})
    before, after = (middle(items(d)[1]) for d in (START, tracked))
    assert np.subtract(after, before) == pytest.approx((0.1 * 16 / 9, -0.05))
    nearer = made(START, {"edit": "drag_camera", "scene": SCENE, "handle": "corner0", "start": [0.25, 0.25], "end": [0.0, 0.0], "at": 0})
    assert np.array(middle(items(nearer)[1])) == pytest.approx(2 * np.array(before))
    rolled = made(
        START, {"edit": "drag_camera", "scene": SCENE, "handle": "turn", "start": [0.5, 0.1], "end": [0.9, 0.5], "at": 0, "constrain": True}
    )
    assert rolled.scenes[SCENE].camera.roll == pytest.approx(-90)


@pytest.mark.parametrize(("edit", "code"), [
    ({"edit": "drag_lamp", "scene": SCENE, "start": [0, 0], "end": [1, 1]}, "edit.no_light"),
    ({"edit": "drag_plan", "scene": SCENE, "view": "top", "what": "lamp", "start": [0, 0], "end": [1, 1], "at": 0}, "edit.no_light"),
    ({"edit": "drag_plan", "scene": SCENE, "view": "top", "what": "layer", "start": [0, 0], "end": [1, 1], "at": 0}, "edit.no_layer"),
    ({"edit": "add_stops", "scene": SCENE, "stops": [{"id": "x", "layer": "gone"}]}, "edit.no_layer"),
    ({"edit": "set_stops", "scene": SCENE, "stops": ["gone"]}, "edit.no_stop"),
    ({"edit": "set_scenes", "ids": [SCENE], "camera": {"focal": 0}}, "edit.value"),
    ({"edit": "set_scenes", "ids": [SCENE], "camera": {"dolly": float("nan")}}, "edit.value"),
    ({"edit": "set_scenes", "ids": [SCENE], "camera": {"aperture": float("inf")}}, "edit.value"),
    ({"edit": "set_scenes", "ids": [SCENE], "shutter": 400}, "edit.value"),
])  # fmt: skip
def test_what_a_stage_cannot_take_is_refused(edit: dict[str, Any], code: str) -> None:
    with pytest.raises(InvalidEdit) as caught:
        made(START, edit)
    assert caught.value.faults[0].code == code


@pytest.mark.parametrize("size", [(1080, 1920), (1000, 1000), (2560, 1080)])
def test_another_shape_of_frame_leaves_nothing_behind_the_camera(size: tuple[int, int]) -> None:
    deep = made(
        START,
        {"edit": "set_layers", "layers": [photo("a")], "placement": {"z": 0.9}},
        {"edit": "use_move", "to": [photo("photo")], "slot": "entrance", "move": "fall"},
        {"edit": "use_move", "to": [{"scene": SCENE}], "move": "dolly-in"},
        {"edit": "set_frame", "width": size[0], "height": size[1]},
    )
    for at in (0.0, 0.1, 2.0, 4.0):
        for item in items(deep, at):
            corners = map_points(matrix_of(item.frame_from_plane), box_corners(*item.content.sheet))
            assert np.isfinite(corners).all()
    for layer in deep.scenes[SCENE].layers.values():
        assert np.isfinite([layer.placement.x, layer.placement.y, layer.placement.size]).all()
