"""Edits: undone they leave the start, redone the end; bad ones change nothing; drags and inheritance."""

from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Document, dump_document, in_order, parse_document
from oak_lens.core.edits import BUILTIN, apply_edit, apply_edits, changed_parts, difference, parse_change, parse_edit, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import timeline_of, view_geometry
from oak_lens.core.time import ticks
from oak_lens.core.titles import TITLES
from oak_lens.core.treatments import BUILTIN as TREATMENTS
from tests.conftest import SHAPES, made_document

SOUND = {
    "file": "a.wav", "sha256": "e" * 64, "length": ticks(20), "beats": {"tempo": 60, "times": [ticks(n) for n in range(20)]},
}  # fmt: skip

START = apply_edits(
    made_document(),
    parse_edits(
        [
            {"edit": "add_photos", "scene": "s-wide", "photos": [{"id": "a", "media": "tall"}, {"id": "b", "media": "square"}]},
            {"edit": "add_shape", "scene": "s-wide", "id": "c", "form": {"outline": "ellipse"}},
            {"edit": "add_text", "scene": "s-wide", "id": "t", "text": "First {title}", "style": "frontispiece"},
            {"edit": "save_style", "id": "ours", "name": "Ours", "text": {"scene": "s-wide", "layer": "t"}},
            {"edit": "add_fonts", "fonts": [{"id": "font", "name": "Own", "family": "Own", "sha256": "f" * 64}]},
            {"edit": "group_layers", "id": "g", "layers": [{"scene": "s-wide", "layer": "b"}, {"scene": "s-wide", "layer": "c"}]},
            {"edit": "save_look", "id": "own", "name": "Own", "photo": {"scene": "s-tall", "layer": "photo"}},
            {
                "edit": "add_keys",
                "lanes": [{"scene": "s-wide", "layer": "a", "property": p} for p in ("placement.path", "placement.turn")],
                "at": 0,
            },
            {
                "edit": "add_keys",
                "lanes": [{"scene": "s-wide", "layer": "a", "property": p} for p in ("placement.path", "placement.turn")],
                "at": ticks(2),
            },
            {
                "edit": "save_move",
                "id": "mine",
                "name": "Mine",
                "source": {"scene": "s-wide", "layer": "a"},
                "keys": [{"scene": "s-wide", "layer": "a", "property": "placement.turn", "key": "k1"}],
            },
            {"edit": "add_stops", "scene": "s-tall", "stops": [{"id": "t1", "layer": "photo"}, {"id": "t2"}]},
            {"edit": "set_scenes", "ids": ["s-wide"], "light": {}},
            {"edit": "add_sounds", "sounds": [{"id": "song", **SOUND}]},
            {"edit": "add_field", "id": "edge", "name": "Edge", "like": {"property": "mount.border"}, "value": 0.03},
            {"edit": "link_values", "values": [{"scene": "s-wide", "layer": "a", "property": "mount.border"}], "link": {"source": "field", "id": "edge"}},
        ]
    ),
)
DEALT = next(s for s in TREATMENTS if s.id == "dealt-prints").content.key
TREATED = apply_edits(START, parse_edits([{"edit": "put_on", "key": DEALT, "id": "u", "scenes": ["s-square"], "pictures": ["small", "tall"]},
                                         {"edit": "make_template", "id": "mine", "name": "Mine", "scenes": ["s-tall"]}]))  # fmt: skip
"""The same with a template put on one of its scenes."""

scene_ids = st.lists(st.sampled_from([f"s-{n}" for n in SHAPES]), min_size=1, max_size=3, unique=True)
before = st.none() | st.sampled_from([f"s-{n}" for n in SHAPES])
names = st.sampled_from(sorted(SHAPES))
texts = st.sampled_from([[{"scene": "s-wide", "layer": "t"}], [{"scene": "s-wide", "layer": "a"}]])
text_styles = st.sampled_from(["frontispiece", "ours", "star-chart", "gone"])
photos = scene_ids.map(lambda ids: [{"scene": s, "layer": "photo"} for s in ids])
layers = st.lists(
    st.sampled_from([("s-wide", "photo"), ("s-wide", "a"), ("s-wide", "b"), ("s-wide", "c"), ("s-wide", "g"), ("s-wide", "t"), ("s-tall", "photo"), ("shared", "b")]),
    min_size=1, max_size=3, unique=True,
).map(lambda refs: [{"scene": s, "layer": k} for s, k in refs])  # fmt: skip
look_ids = st.sampled_from(["own", "gallery", "lamplight", "gone"])
areas = st.fixed_dictionaries({"x": st.floats(0, 0.4), "y": st.floats(0, 0.4), "width": st.floats(0.1, 0.6), "height": st.floats(0.1, 0.6)})
layouts = st.fixed_dictionaries({"kind": st.sampled_from(["grid", "table", "pile", "rows"]), "seed": st.integers(0, 99)})
lane_refs = st.lists(
    st.builds(
        lambda layer, name: {"scene": "s-wide", "layer": layer, "property": name},
        st.sampled_from(["a", "photo", "g"]),
        st.sampled_from(["placement.path", "placement.turn", "layer.opacity", "mount.border", "placement.size"]),
    )
    | st.builds(lambda name: {"scene": "s-wide", "layer": None, "property": name}, st.sampled_from(["camera.x", "camera.path", "light.z", "backdrop.blur"])),
    min_size=1, max_size=2,
)  # fmt: skip
key_refs = lane_refs.flatmap(lambda refs: st.sampled_from(["k1", "k2"]).map(lambda k: [{**r, "key": k} for r in refs]))
targets = st.lists(
    st.sampled_from([("s-wide", "a"), ("s-wide", "photo"), ("s-tall", "photo"), ("s-wide", None)]), min_size=1, max_size=3, unique=True
).map(lambda found: [{"scene": s, "layer": k} for s, k in found])
values = st.sampled_from(["mount.border", "mount.colour", "shadow.blur", "placement.x", "camera.dolly", "backdrop.blur"])
moments = st.integers(0, ticks(9))
move_ids = st.sampled_from(["mine", "drift", "arc", "fall", "dolly-in", "slide", "gone"])
stop_ids = st.sampled_from(["t1", "t2", "gone"])
record = {"name": "n", "file": "n", "sha256": "e" * 64, "width": 40, "height": 30}
points = st.tuples(st.floats(-0.5, 1.5), st.floats(-0.5, 1.5)).map(list)
handles = st.sampled_from(["inside", "corner0", "corner1", "corner2", "corner3", "turn"])
fresh = st.integers(0, 10**9).map(lambda n: f"n{n}")
looks = {
    "mount": st.none() | st.fixed_dictionaries({"border": st.floats(0, 0.1)}),
    "shadow": st.none() | st.fixed_dictionaries({"light_from": st.floats(0, 360)}),
}


def _near(point: list[float]) -> list[float]:
    return [min(max(v, 0.0), 1.0) for v in point]


def some(name: str, /, **fields: Any) -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries({"edit": st.just(name), **fields})


EDITS = {
    "put_on": some(
        "put_on", key=st.sampled_from([s.content.key for s in TREATMENTS]), id=fresh, scenes=st.just([]) | scene_ids, pictures=st.lists(names, max_size=4), seed=st.integers(0, 9),
    ),
    "fill_zones": some("fill_zones", scene=st.just("s-square"), fills=st.dictionaries(st.sampled_from(["a", "b", "c"]), st.none() | names, min_size=1)),
    "swap_zones": st.builds(
        lambda a, b: {"edit": "swap_zones", "first": {"scene": "s-square", "zone": a}, "second": {"scene": "s-square", "zone": b}}, st.sampled_from("ab"), st.sampled_from("abc"),
    ),
    "turn_dials": some(
        "turn_dials", scenes=st.just(["s-square"]), dials=st.fixed_dictionaries({}, optional={"border": st.floats(0, 1) | st.none(), "paper": st.just("#a0b0c0"), "table": st.just("slate")}).filter(bool),
        apart=st.none() | fresh,
    ),
    "make_template": some("make_template", id=fresh | st.just("mine"), name=st.just("Mine"), scenes=scene_ids, zones=st.booleans()),
    "set_template": some("set_template", id=st.just("mine"), name=st.text(max_size=9), scenes=st.just({}) | st.just({"s-tall": {"repeats": True}})),
    "remove_template": some("remove_template", id=st.just("mine")),
    "make_zones": some("make_zones", layers=layers),
    "set_backdrop_zone": some("set_backdrop_zone", scene=st.just("s-tall"), zone=st.none() | st.sampled_from(["z1", "z2"])),
    "pour_pictures": some("pour_pictures", pictures=st.lists(names, min_size=1, max_size=5), id=fresh, use=st.none() | st.just("u")),
    "lay_over": some("lay_over", key=st.sampled_from([t.content.key for t in TREATMENTS]), id=fresh, scenes=st.just([]) | scene_ids),
    "compose_film": some("compose_film", keys=st.lists(st.sampled_from([t.content.key for t in TREATMENTS]), min_size=1, max_size=3), id=st.just("film"), pictures=st.lists(names, max_size=4)),
    "turn_film_dials": st.just({"edit": "turn_film_dials", "turns": [{"name": "Border", "kind": "amount", "value": 0.5}]}),
    "name_film": some("name_film", title=st.text(min_size=1, max_size=20)),
    "deal_pictures": some("deal_pictures", by=st.sampled_from(["order", "time", "shape", "chance"]), seed=st.integers(0, 9), pictures=st.lists(names, max_size=4), id=st.just("dealt")),
    "take_version": st.builds(lambda t, k: {"edit": "take_version", "template": t, "key": k}, st.sampled_from(["mine", "dealt-prints"]), st.sampled_from([DEALT, "0" * 64])),
    "make_song_zone": st.just({"edit": "make_song_zone", "template": "mine", "song": "song"}),
    "unmake_song_zone": st.just({"edit": "unmake_song_zone", "template": "mine", "song": "song"}),
    "unmake_zones": some("unmake_zones", layers=layers),
    "set_zone": some("set_zone", template=st.just("mine"), zone=st.sampled_from(["z1", "z2"]), required=st.booleans(), fitting=st.sampled_from(["fill", "whole", "shape"])),
    "make_dial": some("make_dial", template=st.just("mine"), id=fresh | st.just("d"), values=values.map(lambda p: [{"scene": "s-tall", "layer": "photo", "property": p}])),
    "drive_values": some("drive_values", template=st.just("mine"), dial=st.just("d"), values=values.map(lambda p: [{"scene": "s-tall", "layer": "photo", "property": p}])),
    "set_dial": some("set_dial", template=st.just("mine"), dial=st.just("d"), name=st.text(min_size=1, max_size=9), maximum=st.floats(-1, 99)),
    "remove_dial": some("remove_dial", template=st.just("mine"), dial=st.just("d")),
    "free_scenes": some("free_scenes", scenes=scene_ids | st.just(["s-square"])),
    "set_title": some("set_title", title=st.text(min_size=1, max_size=20)),
    "set_frame": some("set_frame", width=st.integers(50, 2000).map(lambda n: 2 * n), rate=st.sampled_from(["24", "29.97", "60"])),
    "set_defaults": some(
        "set_defaults",
        hold=st.integers(ticks(0.1), ticks(9)),
        fit=st.sampled_from(["auto", "whole", "fill"]),
        backdrop=st.fixed_dictionaries({"blur": st.floats(0, 0.2)}),
    ),
    "add_pictures": fresh.map(
        lambda i: {"edit": "add_pictures", "pictures": [{"id": i, "name": i, "file": i, "sha256": "f" * 64, "width": 9, "height": 9}]}
    ),
    "remove_pictures": some("remove_pictures", ids=names.map(lambda n: [n]), with_scenes=st.booleans()),
    "move_pictures": some("move_pictures", ids=names.map(lambda n: [n]), before=st.none() | names),
    "sort_pictures": some("sort_pictures", by=st.sampled_from(["name", "captured", "shape"]), reverse=st.booleans()),
    "add_scenes": st.builds(lambda i, m, b: {"edit": "add_scenes", "scenes": [{"id": i, "media": m}], "before": b}, fresh, names, before),
    "remove_scenes": some("remove_scenes", ids=scene_ids),
    "move_scenes": some("move_scenes", ids=scene_ids, before=before),
    "duplicate_scenes": st.builds(lambda s, i: {"edit": "duplicate_scenes", "copies": [{"id": s[0], "copy_id": i}]}, scene_ids, fresh),
    "set_scenes": some(
        "set_scenes",
        ids=scene_ids,
        hold=st.none() | st.integers(ticks(0.1), ticks(9)),
        join=st.none() | st.just({"kind": "cut"}),
        backdrop=st.none() | st.just({"kind": "colour"}),
    ),
    "set_poster": some("set_poster", at=st.none() | st.integers(0, 10**12)),
    "set_guides": some(
        "set_guides", guides=st.lists(st.fixed_dictionaries({"axis": st.sampled_from("xy"), "at": st.floats(0, 1)}), max_size=3)
    ),
    "arrange_pictures": some("arrange_pictures", how=st.sampled_from(["reverse", "shuffle"]), seed=st.integers(0, 99)),
    "set_pictures": some(
        "set_pictures",
        ids=names.map(lambda n: [n]),
        straighten=st.floats(-45, 45),
        crop=st.none() | areas,
        correction=st.none() | st.fixed_dictionaries({"exposure": st.floats(-4, 4)}),
        subject=st.none() | areas,
    ),
    "turn_pictures": some("turn_pictures", ids=names.map(lambda n: [n]), quarters=st.integers(-3, 3)),
    "flip_pictures": some("flip_pictures", ids=names.map(lambda n: [n]), axis=st.sampled_from(["across", "down"])),
    "straighten_picture": some("straighten_picture", id=names, start=points.map(_near), end=points.map(_near)),
    "reshape_picture": some(
        "reshape_picture", id=names, what=st.sampled_from(["crop", "subject"]), handle=st.sampled_from(["inside", "corner0", "corner2"]),
        start=points, end=points, shape=st.none() | st.floats(0.3, 3),
    ),
    "trim_pictures": some("trim_pictures", pictures=st.builds(lambda n, c: [{"id": n, "crop": c}], names, areas)),
    "replace_file": some("replace_file", id=names, picture=fresh.map(lambda i: {"id": i, **record})),
    "add_photos": st.builds(
        lambda s, m, i: {"edit": "add_photos", "scene": s[0], "photos": [{"id": i, "media": m}]}, scene_ids, names, fresh
    ),
    "add_shape": st.builds(
        lambda s, i, o: {"edit": "add_shape", "scene": s[0], "id": i, "form": {"outline": o}},
        scene_ids,
        fresh,
        st.sampled_from(["sheet", "line", "polygon"]),
    ),
    "add_text": st.builds(
        lambda s, i, t, k: {"edit": "add_text", "scene": s[0], "id": i, "text": t, "style": k}, scene_ids, fresh, st.text(max_size=9), text_styles
    ),
    "set_text": some("set_text", texts=texts, text=st.text(max_size=12)),
    "set_letters": some(
        "set_letters", text=texts.map(lambda t: t[0]), start=st.integers(0, 9), stop=st.integers(0, 9),
        weight=st.none() | st.floats(100, 900), colour=st.none() | st.just("#102030"), underline=st.none() | st.booleans(),
    ),
    "add_title": st.builds(
        lambda s, i, t: {"edit": "add_title", "scene": s[0], "id": i, "title": t, "texts": ["One"]}, scene_ids, fresh, st.sampled_from(sorted(TITLES))
    ),
    "add_fonts": st.builds(
        lambda i: {"edit": "add_fonts", "fonts": [{"id": i, "name": "Another", "family": "Another", "sha256": "a" * 64, "italic": True}]}, fresh
    ),
    "remove_font": some("remove_font", id=st.sampled_from(["font", "gone"])),
    "set_details": some(
        "set_details", author=st.none() | st.text(max_size=9), own=st.sampled_from([{}, {"x": {"name": "Height", "text": "2,912 m"}}, {"x": None}])
    ),
    "save_style": st.builds(lambda i: {"edit": "save_style", "id": i, "name": i, "text": {"scene": "s-wide", "layer": "t"}}, fresh),
    "set_style": some("set_style", id=text_styles, setting=st.fixed_dictionaries({"size": st.floats(0.01, 1)}), ink=st.just({"outline": 0.1})),
    "use_style": some("use_style", style=text_styles, texts=texts, linked=st.booleans()),
    "put_into_style": some("put_into_style", id=text_styles, text=texts.map(lambda t: t[0])),
    "remove_style": some("remove_style", id=text_styles),
    "add_group": st.builds(lambda s, i: {"edit": "add_group", "scene": s[0], "layer": i, "shared": "shared"}, scene_ids, fresh),
    "set_layers": some(
        "set_layers",
        layers=layers,
        opacity=st.none() | st.floats(0, 1),
        blend=st.none() | st.sampled_from(["multiply", "hue"]),
        hidden=st.none() | st.booleans(),
        placement=st.fixed_dictionaries({"x": st.floats(-1, 1), "turn": st.floats(-90, 90)}),
        shadow=looks["shadow"],
    )
    | some(
        "set_layers",
        layers=photos,
        fit=st.none() | st.sampled_from(["whole", "fill", "free"]),
        window=st.none() | st.just({"aspect": 2}),
        caption=st.text(max_size=9),
        **looks,
    ),
    "set_values": some("set_values", lanes=lane_refs, value=st.floats(-1, 1), at=moments),
    "add_keys": some("add_keys", lanes=lane_refs, at=moments),
    "remove_keys": some("remove_keys", keys=key_refs),
    "shift_keys": some("shift_keys", keys=key_refs, by=st.integers(-ticks(2), ticks(2)), value=st.floats(-0.2, 0.2)),
    "stretch_keys": some("stretch_keys", keys=key_refs, first=moments, last=moments, to_first=moments, to_last=moments),
    "set_keys": some(
        "set_keys",
        keys=key_refs,
        at=st.none() | moments,
        anchor=st.sampled_from([None, "start", "end", "fraction"]),
        hold=st.none() | st.booleans(),
    ),
    "ease_keys": some("ease_keys", keys=key_refs, follow=st.sampled_from([None, {"kind": "spring"}, {"kind": "bounce", "times": 2}])),
    "turn_keys": some("turn_keys", keys=key_refs, how=st.sampled_from(["reverse", "there_and_back", "mirror"])),
    "paste_keys": some(
        "paste_keys", at=moments, to=lane_refs, keys=st.just([{"property": "placement.turn", "after": 0, "key": {"value": 4.0}}])
    ),
    "drag_path": some(
        "drag_path",
        at=moments,
        lane=st.just({"scene": "s-wide", "layer": "a", "property": "placement.path"}),
        key=st.sampled_from(["k1", "k9"]),
        part=st.sampled_from(["point", "in", "out"]),
        start=points,
        end=points,
    ),
    "set_lanes": some("set_lanes", lanes=lane_refs, even=st.none() | st.booleans(), bent=st.none() | st.booleans()),
    "remove_lanes": some("remove_lanes", lanes=lane_refs),
    "record": some("record", at=moments),
    "link_values": some(
        "link_values",
        values=st.lists(
            st.builds(lambda ref, name: {"scene": ref["scene"], "layer": ref["layer"], "property": name}, targets.map(lambda t: t[0]), values),
            min_size=1, max_size=2,
        ),
        link=st.none() | st.just({"source": "field", "id": "edge"}) | st.just({"source": "default"}) | st.builds(lambda i: {"source": "look", "id": i}, look_ids),
    ),
    "add_field": st.builds(lambda i, v: {"edit": "add_field", "id": i, "name": i, "like": {"property": "mount.border"}, "value": v}, fresh, st.floats(0, 0.2)),
    "set_field": some("set_field", id=st.sampled_from(["edge", "gone"]), value=st.floats(0, 0.2)),
    "remove_field": some("remove_field", id=st.sampled_from(["edge", "gone"])),
    "into_sources": some("into_sources"),
    "use_move": some(
        "use_move",
        to=targets,
        slot=st.sampled_from(["move", "entrance", "exit"]),
        move=st.none() | move_ids,
        rule=st.sampled_from(["same", "alternate", "around", "vary"]),
        linked=st.booleans(),
    ),
    "set_move_use": some(
        "set_move_use", to=targets, slot=st.sampled_from(["move", "entrance"]), use=st.fixed_dictionaries({"strength": st.floats(0, 3)})
    ),
    "unlink_move": some("unlink_move", to=targets),
    "save_move": st.builds(lambda i, t: {"edit": "save_move", "id": i, "name": i, "source": t[0]}, fresh, targets),
    "set_move": some("set_move", id=move_ids, name=st.just("Other")),
    "remove_move": some("remove_move", id=move_ids),
    "drag_camera": some("drag_camera", scene=st.just("s-wide"), at=moments, handle=handles, start=points, end=points),
    "drag_plan": some(
        "drag_plan",
        scene=st.just("s-wide"),
        view=st.sampled_from(["top", "side"]),
        what=st.sampled_from(["camera", "aim", "focus", "point", "lamp", "layer"]),
        layer=st.just({"scene": "s-wide", "layer": "a"}),
        start=points,
        end=points,
        at=moments,
    ),
    "drag_lamp": some("drag_lamp", scene=st.sampled_from(["s-wide", "s-tall"]), at=moments, start=points, end=points),
    "add_stops": st.builds(lambda i: {"edit": "add_stops", "scene": "s-tall", "stops": [{"id": i, "layer": "photo"}]}, fresh),
    "set_stops": some("set_stops", scene=st.just("s-tall"), stops=stop_ids.map(lambda s: [s]), stop=st.just({"stay": 5})),
    "remove_stops": some("remove_stops", scene=st.just("s-tall"), stops=stop_ids.map(lambda s: [s])),
    "move_stop": some("move_stop", scene=st.just("s-tall"), stop=stop_ids, before=st.none() | stop_ids),
    "remove_layers": some("remove_layers", layers=layers),
    "move_layers": some("move_layers", layers=layers, below=st.sampled_from([None, "a", "photo"]), parent=st.sampled_from([None, "g"])),
    "duplicate_layers": st.builds(lambda r, i, to: {"edit": "duplicate_layers", "copies": [{**r[0], "copy_id": i, "to": to}]}, layers, fresh, before),
    "group_layers": st.builds(lambda r, i: {"edit": "group_layers", "layers": r, "id": i}, layers, fresh),
    "ungroup_layers": some("ungroup_layers", layers=layers),
    "share_group": some("share_group", scene=st.just("s-wide"), layer=st.just("g"), id=st.just("shared")),
    "replace_pictures": some("replace_pictures", layers=photos, media=names, how=st.sampled_from(["keep", "subject"])),
    "reset_placement": some("reset_placement", layers=layers),
    "drag_layer": some(
        "drag_layer",
        scene=st.just("s-wide"),
        layer=st.sampled_from(["photo", "a", "b", "g"]),
        handle=handles | st.sampled_from(["edge0", "edge1", "edge2", "edge3"]),
        target=st.sampled_from(["layer", "picture"]),
        start=points,
        end=points,
        constrain=st.booleans(),
        snap=st.booleans(),
    ),
    "align_layers": some(
        "align_layers",
        layers=layers,
        across=st.sampled_from([None, "left", "middle"]),
        down=st.sampled_from([None, "top", "bottom"]),
        to=st.sampled_from(["frame", "safe", "layers"]),
    ),
    "distribute_layers": some("distribute_layers", layers=layers, axis=st.sampled_from(["across", "down"])),
    "nudge_layers": some("nudge_layers", layers=layers, by=points),
    "apply_layout": some("apply_layout", scenes=scene_ids, layout=layouts),
    "add_composition": st.builds(
        lambda i, ms, x: {
            "edit": "add_composition",
            "id": i,
            "photos": [{"layer": f"l{n}", "media": m} for n, m in enumerate(ms)],
            "layout": x,
        },
        fresh,
        st.lists(names, min_size=2, max_size=5),
        layouts,
    ),
    "save_look": st.builds(lambda i, p: {"edit": "save_look", "id": i, "name": i, "photo": p[0]}, fresh, photos),
    "set_look": some(
        "set_look", id=look_ids, mount=st.none() | st.just({"border": 0.05}), backdrop=st.none() | st.just({"kind": "surface"})
    ),
    "use_look": some("use_look", look=look_ids, photos=photos, linked=st.booleans()),
    "put_into_look": some("put_into_look", id=look_ids, photo=photos.map(lambda p: p[0]), photos=photos),
    "default_look": some("default_look", look=st.none() | look_ids),
    "remove_look": some("remove_look", id=look_ids),
    "carry": some(
        "carry",
        source=photos.map(lambda p: p[0]),
        what=st.lists(
            st.sampled_from(["look", "mount", "shadow", "correction", "views", "backdrop", "hold", "join"]), min_size=1, unique=True
        ),
        to=scene_ids,
    ),
    "set_views": some(
        "set_views",
        photos=photos,
        opening=st.fixed_dictionaries({"zoom": st.floats(0.2, 5)}),
        ease=st.none() | st.just({"leave": [0.4, 0.0], "arrive": [0.2, 0.1]}),
    ),
    "arrange_views": some("arrange_views", photos=photos, how=st.sampled_from(["swap", "as_opening", "as_closing", "suggest"])),
    "drag_view": some(
        "drag_view",
        scene=names.map(lambda n: f"s-{n}"),
        layer=st.just("photo"),
        which=st.sampled_from(["opening", "closing"]),
        handle=handles,
        start=points,
        end=points,
        constrain=st.booleans(),
    ),
    "set_ends": some("set_ends", beginning=st.none() | st.just({"kind": "iris"}), ending=st.none() | st.just({"colour": "#ffffff"})),
    "vary_joins": some("vary_joins", ids=scene_ids, kinds=st.just(["push", "iris"]), seed=st.integers(0, 9)),
    "add_sounds": fresh.map(lambda i: {"edit": "add_sounds", "sounds": [{"id": i, **SOUND}]}),
    "add_songs": st.builds(lambda i, s: {"edit": "add_songs", "songs": [{"id": i, "sound": s}]}, fresh, names),
    "remove_songs": some("remove_songs", ids=names.map(lambda n: [n])),
    "move_songs": some("move_songs", ids=names.map(lambda n: [n]), before=st.none() | names),
    "drag_song": some(
        "drag_song", id=st.sampled_from(["song", "gone"]), part=st.sampled_from(["body", "start", "end", "fade_in", "fade_out", "point"]),
        by=st.integers(-ticks(9), ticks(9)), snap=st.sampled_from([0, ticks(1)]), point=st.just("p1"), louder=st.floats(-50, 50),
    ),
    "add_level_point": some("add_level_point", id=st.just("song"), point=st.sampled_from(["p1", "p2"]), at=moments, level=st.floats(-90, 90)),
    "set_songs": some("set_songs", ids=names.map(lambda n: [n]), song=st.fixed_dictionaries({"trim_start": st.integers(0, ticks(9))})),
    "set_mix": some("set_mix", mix=st.fixed_dictionaries({"music": st.floats(-60, 24)})),
    "change_beats": some(
        "change_beats", sound=names, how=st.sampled_from(["half", "double", "shift", "bars", "add", "even"]), by=st.just(9)
    ),
    "move_boundary": some(
        "move_boundary",
        scene=st.none() | names.map(lambda n: f"s-{n}"),
        to=st.integers(0, ticks(30)),
        how=st.sampled_from(["along", "both", "slide"]),
    ),
    "fit_film": some("fit_film", length=st.none() | st.integers(ticks(1), ticks(60)), evenly=st.booleans()),
    "fit_music": some("fit_music"),
    "scale_holds": some("scale_holds", ids=scene_ids, factor=st.floats(0.1, 9)),
    "cut_on_beats": some("cut_on_beats", on=st.sampled_from(["beat", "bar"])),
    "reverse_scenes": some("reverse_scenes", ids=scene_ids),
}


def test_the_property_tests_know_every_edit() -> None:
    assert set(EDITS) == {spec.id for spec in BUILTIN}


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])
@given(st.lists(st.one_of(*EDITS.values()), max_size=12))
def test_any_edits_undone_are_the_start_and_redone_the_end(edits: list[dict[str, Any]]) -> None:
    document, history = TREATED, []
    for data in edits:
        try:
            after = apply_edit(document, parse_edit(data))
        except InvalidEdit:
            continue
        # Changes are stored as JSON: what comes back from there must do the same.
        forward, inverse = (
            parse_change(c.model_dump(mode="json", by_alias=True)) for c in (difference(document, after), difference(after, document))
        )
        history.append((document, after, forward, inverse))
        document = after
    assert parse_document(dump_document(document)) == document
    for start, end, forward, inverse in reversed(history):
        assert inverse.applied_to(end) == start and forward.applied_to(start) == end


@pytest.mark.parametrize(
    ("data", "code"),
    [
        ({"edit": "fly"}, "edit.unknown"),
        ([], "edit.shape"),
        ({"edit": "set_title"}, "edit.value"),
        ({"edit": "set_title", "title": "x", "y": 1}, "edit.value"),
        ({"edit": "remove_scenes", "ids": ["gone"]}, "edit.no_scene"),
        ({"edit": "remove_pictures", "ids": ["wide"]}, "edit.in_use"),
        ({"edit": "add_scenes", "scenes": [{"id": "s-wide", "media": "wide"}]}, "edit.id_taken"),
        ({"edit": "add_scenes", "scenes": [{"id": "n", "media": "gone"}]}, "edit.no_picture"),
        ({"edit": "move_scenes", "ids": ["s-wide"], "before": "gone"}, "edit.no_position"),
        ({"edit": "set_frame", "width": 101}, "edit.value"),
        ({"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "gone"}]}, "edit.no_layer"),
        ({"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "mount": {"border": 9}}, "edit.value"),
        ({"edit": "set_defaults", "backdrop": {"blur": float("inf")}}, "edit.value"),
    ],
)
def test_bad_edits_say_why_and_change_nothing(data: Any, code: str) -> None:
    with pytest.raises(InvalidEdit) as caught:
        apply_edits(START, parse_edits([data]))
    assert caught.value.code == code and all(f.message for f in caught.value.faults)


def test_a_changed_default_reaches_every_scene_that_did_not_differ() -> None:
    document = apply_edits(
        START,
        parse_edits(
            [
                {"edit": "set_scenes", "ids": ["s-tall"], "hold": ticks(7)},
                {"edit": "set_defaults", "hold": ticks(2), "join": {"length": ticks(0.5)}},
            ]
        ),
    )
    holds = {s.scene: s.hold.length for s in timeline_of(document).spans}
    assert holds["s-tall"] == ticks(7) and {v for k, v in holds.items() if k != "s-tall"} == {ticks(2)}
    back = apply_edit(document, parse_edit({"edit": "set_scenes", "ids": ["s-tall"], "hold": None}))
    assert timeline_of(back).length == 5 * ticks(2) + 4 * ticks(0.5)


def test_scenes_move_together_and_keep_their_order() -> None:
    document = apply_edit(START, parse_edit({"edit": "move_scenes", "ids": ["s-panorama", "s-wide"], "before": "s-small"}))
    assert [k for k, _ in in_order(document.scenes)] == ["s-tall", "s-square", "s-wide", "s-panorama", "s-small"]


def corners(document: Document, which: str) -> Any:
    return pytest.approx(getattr(view_geometry(document, "s-wide")[0], which), abs=1e-9)


def test_a_corner_of_a_view_follows_the_pointer_and_the_opposite_one_stays() -> None:
    start = apply_edit(
        START,
        parse_edit(
            {"edit": "set_views", "photos": [{"scene": "s-wide", "layer": "photo"}], "opening": {"x": 0, "y": 0, "zoom": 2, "turn": 0}}
        ),
    )
    before_drag = view_geometry(start, "s-wide")[0].opening
    (x0, y0), (x2, y2) = before_drag[0], before_drag[2]
    target = (x2 - 0.2 * (x2 - x0), y2 - 0.2 * (y2 - y0))
    dragged = apply_edit(
        start,
        parse_edit(
            {
                "edit": "drag_view",
                "scene": "s-wide",
                "layer": "photo",
                "which": "opening",
                "handle": "corner2",
                "start": [x2, y2],
                "end": list(target),
            }
        ),
    )
    after = view_geometry(dragged, "s-wide")[0].opening
    assert after[0] == pytest.approx((x0, y0), abs=1e-9) and after[2] == pytest.approx(target, abs=1e-9)


def test_constrained_drags_go_along_one_axis_and_turn_in_steps() -> None:
    def drag(handle: str, end: list[float]) -> Any:
        return (
            apply_edit(
                START,
                parse_edit(
                    {
                        "edit": "drag_layer",
                        "scene": "s-wide",
                        "layer": "photo",
                        "handle": handle,
                        "start": [0.5, 0.2],
                        "end": end,
                        "constrain": True,
                    }
                ),
            )
            .scenes["s-wide"]
            .layers["photo"]
            .placement
        )

    moved = drag("inside", [0.7, 0.25])
    assert (moved.x, moved.y) == (pytest.approx(0.2), 0.0)
    assert drag("turn", [0.62, 0.25]).turn % 15 == 0


def test_changes_name_the_parts_they_touch() -> None:
    after = apply_edits(START, parse_edits([{"edit": "set_title", "title": "New"}, {"edit": "remove_scenes", "ids": ["s-tall"]}]))
    assert changed_parts(difference(START, after)) == {"title", "scenes.s-tall"}
