"""Kinds of layers: each has an entry in both tables, numbers of its own, and names what is there."""

from typing import Any, get_args

import pytest

from oak_lens.core.document import KIND_OF, LAYER_KINDS, Document, Layer, Scene, dump_document, parse_document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidDocument, InvalidEdit
from oak_lens.core.evaluate import scene_at
from oak_lens.core.evaluate.kinds import STANDS
from oak_lens.core.time import ticks
from tests.conftest import made_document

SCENE = "s-wide"
LAYERS = {"photo": "photo", "shape": "sheet", "text": "words", "group": "together"}


@pytest.fixture(scope="module")
def document() -> Document:
    """A scene with a layer of each kind."""
    edits: list[dict[str, Any]] = [
        {"edit": "add_shape", "scene": SCENE, "id": "sheet"},
        {"edit": "add_shape", "scene": SCENE, "id": "inner"},
        {"edit": "add_text", "scene": SCENE, "id": "words", "text": "First light"},
        {"edit": "group_layers", "layers": [{"scene": SCENE, "layer": "inner"}], "id": "together"},
    ]
    return apply_edits(made_document(), parse_edits(edits))


def test_both_tables_and_the_union_know_the_same_kinds() -> None:
    models = set(get_args(get_args(Layer)[0]))
    assert models == {kind.model for kind in LAYER_KINDS} and set(KIND_OF) == set(STANDS)
    for kind in LAYER_KINDS:
        fields = kind.model.model_fields
        assert {name for name, _ in kind.named} | set(kind.inherited) | set(kind.details) <= set(fields)
        # A number stands in a part that the kind has; those of the layer itself are its fields, and how letters have moved is in lanes alone.
        assert {p.part for p in kind.model.numbers.values()} <= {*fields, "layer", "letters"}


@pytest.mark.parametrize("name", sorted({n for kind in LAYER_KINDS for n in kind.model.numbers} | set(Scene.numbers)))
def test_a_lane_of_a_number_that_a_kind_does_not_have_is_refused(document: Document, name: str) -> None:
    data = dump_document(document)
    lane = {"kind": "number", "keys": {"k": {"anchor": "start", "at": 0, "value": 0.0}}}
    for kind in LAYER_KINDS:
        layer = {**data["scenes"][SCENE]["layers"][LAYERS[kind.id]], "animation": {name: lane}}
        scene = {**data["scenes"][SCENE], "layers": {**data["scenes"][SCENE]["layers"], LAYERS[kind.id]: layer}}
        changed = {**data, "scenes": {**data["scenes"], SCENE: scene}}
        keyed = parse_edits([{"edit": "add_keys", "lanes": [{"scene": SCENE, "layer": LAYERS[kind.id], "property": name}], "at": 0}])
        if name in kind.model.numbers:
            parse_document(changed)
            continue
        with pytest.raises(InvalidDocument, match="no number called"):
            parse_document(changed)
        with pytest.raises(InvalidEdit, match="no number of this name"):
            apply_edits(document, keyed)


def test_a_move_of_a_shape_made_into_keyframes_of_a_photo_leaves_what_photos_have(document: Document) -> None:
    shape, photo = {"scene": SCENE, "layer": "sheet"}, {"scene": SCENE, "layer": "photo"}
    lanes = [{**shape, "property": name} for name in ("form.radius", "placement.turn")]
    made = apply_edits(
        document,
        parse_edits(
            [
                {"edit": "add_keys", "lanes": lanes, "at": 0},
                {"edit": "set_values", "lanes": lanes, "value": 0.1, "at": ticks(1)},
                {"edit": "save_move", "id": "round", "name": "Rounder", "source": shape},
                {"edit": "use_move", "to": [photo], "move": "round", "linked": False},
            ]
        ),
    )
    assert set(made.scenes[SCENE].layers["photo"].animation) == {"placement.turn"}
    assert parse_document(dump_document(made)) == made
    assert scene_at(made, SCENE, ticks(1), ticks(3)) != scene_at(document, SCENE, ticks(1), ticks(3))
