"""Marks tell whether a scene looks as it did; findings are looked up once for what looks alike."""

from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Document, in_order
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import scene_at, timeline_of
from oak_lens.services.findings import Findings, changed_marks, scene_marks
from tests.conftest import made_document
from tests.core.edits.test_edits import EDITS, START, some

REF = {"scene": "s-wide", "layer": "photo"}


def changed(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def marks(document: Document) -> dict[str, str]:
    return scene_marks(document, timeline_of(document))


@pytest.mark.parametrize(
    ("edit", "differ"),
    [
        ({"edit": "set_title", "title": "Other"}, set()),
        ({"edit": "set_scenes", "ids": ["s-wide"], "name": "Other"}, set()),
        ({"edit": "set_guides", "guides": [{"axis": "x", "at": 0.5}]}, set()),
        ({"edit": "set_layers", "layers": [REF], "placement": {"turn": 5}}, {"s-wide"}),
        ({"edit": "set_pictures", "ids": ["tall"], "correction": {"exposure": 1}}, {"s-tall"}),
        ({"edit": "add_keys", "lanes": [{**REF, "property": "placement.x"}], "at": 0}, {"s-wide"}),
        ({"edit": "set_frame", "width": 1080, "height": 1080}, "all"),
        ({"edit": "set_defaults", "mount": {"border": 0.1}}, "all"),
    ],
    ids=lambda v: v.get("edit") if isinstance(v, dict) else "",
)
def test_a_mark_changes_with_what_is_seen_and_with_nothing_else(edit: dict[str, Any], differ: Any) -> None:
    document = made_document()
    before, after = marks(document), marks(changed(document, edit))
    assert {k for k in before if before[k] != after[k]} == (set(before) if differ == "all" else differ)


SCENES = [k for k, _ in in_order(START.scenes)]
SURFACES = some(
    "set_scenes",
    ids=st.lists(st.sampled_from(SCENES), min_size=1, max_size=2, unique=True),
    backdrop=st.fixed_dictionaries({
        "kind": st.sampled_from(["surface", "colour"]),
        "surface": st.sampled_from(["oak", "linen"]),
        "runs_on": st.sampled_from(["right", "down", "no"]),
        "move": st.sampled_from(["still", "left"]),
    }),
)  # fmt: skip
RUNNING = changed(
    START,
    {"edit": "share_group", "scene": "s-wide", "layer": "g", "id": "shared"},
    {"edit": "set_scenes", "ids": SCENES, "backdrop": {"kind": "surface", "surface": "oak", "runs_on": "right"}},
)


@settings(max_examples=60, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])
@given(st.lists(SURFACES | st.one_of(*EDITS.values()), min_size=1, max_size=4))
def test_where_a_scene_is_drawn_otherwise_its_mark_differs(edits: list[dict[str, Any]]) -> None:
    after = RUNNING
    for edit in edits:
        try:
            after = changed(after, edit)
        except InvalidEdit:
            continue
    old, new = marks(RUNNING), marks(after)
    assert changed_marks(RUNNING, after) == {k: mark for k, mark in new.items() if old.get(k) != mark}
    spans = {s.scene: s for s in timeline_of(RUNNING).spans}, {s.scene: s for s in timeline_of(after).spans}
    for scene in old.keys() & new.keys():
        drawn = [[repr(scene_at(d, scene, round(x * s[scene].own_length), s[scene].own_length)) for x in (0.0, 0.4, 1.0)]
                 for d, s in zip((RUNNING, after), spans, strict=True)]  # fmt: skip
        assert drawn[0] == drawn[1] or old[scene] != new[scene], scene


def test_another_surface_where_it_began_changes_every_scene_it_runs_on_in() -> None:
    first, second, third, fourth, _ = SCENES
    stopped = changed(RUNNING, {"edit": "set_scenes", "ids": [fourth], "backdrop": {"kind": "colour"}})
    before = marks(stopped)
    after = marks(changed(stopped, {"edit": "set_scenes", "ids": [first], "backdrop": {"surface": "linen"}}))
    assert {k for k in before if before[k] != after[k]} == {first, second, third}


def test_a_longer_scene_and_its_neighbours_whose_joins_changed_look_different() -> None:
    document = made_document()
    order = [s.scene for s in timeline_of(document).spans]
    before = marks(document)
    longer = marks(changed(document, {"edit": "set_scenes", "ids": [order[1]], "hold": 4_000_000_000}))
    assert {k for k in before if before[k] != longer[k]} == {order[1]}
    cut = marks(changed(document, {"edit": "set_scenes", "ids": [order[1]], "join": {"kind": "cut"}}))
    assert {k for k in before if before[k] != cut[k]} == {order[0], order[1]}


def test_what_looks_alike_is_looked_at_once(monkeypatch: pytest.MonkeyPatch) -> None:
    document = changed(made_document(), {"edit": "duplicate_scenes", "copies": [{"id": "s-wide", "copy_id": f"c{n}"} for n in range(4)]})
    looked: list[frozenset[str]] = []

    def counted(document: Any, timeline: Any, scenes: frozenset[str]) -> Any:
        looked.append(scenes)
        from oak_lens.core.evaluate import photo_findings

        return photo_findings(document, timeline, scenes)

    monkeypatch.setattr("oak_lens.services.findings.photo_findings", counted)
    findings = Findings()
    copies = ["c0", "c1", "c2"]
    found = findings.of(document, timeline_of(document), [*copies, "gone"])
    assert [f.scene for f in found] == copies and len(looked) == len({f.mark for f in found}) < len(copies)
    findings.of(changed(document, {"edit": "set_title", "title": "Other"}), timeline_of(document), copies)
    assert len(looked) == len({f.mark for f in found})
