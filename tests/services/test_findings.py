"""Marks tell whether a scene looks as it did; findings are looked up once for what looks alike."""

from typing import Any

import pytest

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import timeline_of
from oak_lens.services.findings import Findings, scene_marks
from tests.conftest import made_document

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
