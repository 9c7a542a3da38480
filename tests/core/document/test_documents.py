"""Documents: every fault at once, round trips, versions, order keys."""

import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import dump_document, json_schema, order_keys_between, parse_document, parse_json
from oak_lens.core.errors import InvalidDocument
from oak_lens.core.evaluate import staged, values_at
from tests.conftest import ROOT, made_document

FIXTURE = Path(__file__).parent / "schema-1.json"


def test_a_document_of_schema_1_still_reads_and_unknown_fields_survive() -> None:
    data = json.loads(FIXTURE.read_text())
    document = parse_document(data)
    dumped = dump_document(document)
    assert dumped["x-note"] == "kept" and dumped["scenes"]["s1"]["layers"]["photo"]["x-later"] == {"deep": [1, 2]}
    assert dump_document(parse_document(dumped)) == dumped
    jsonschema.validate(dumped, json_schema())


def test_lanes_of_schema_2_stand_beside_their_numbers_and_move_as_before() -> None:
    keys = {"a": {"anchor": "start", "value": 0.5}, "b": {"anchor": "end", "value": 1.5}}
    data = json.loads((FIXTURE.parent / "schema-1.json").read_text())
    layer = {"kind": "photo", **data["scenes"]["s1"]["layers"]["photo"]}
    layer["placement"] = {"size": {"keys": keys}, "turn": {"keys": keys}, "x": 0.1}
    layer["correction"] = {"exposure": {"keys": keys}}
    data["scenes"]["s1"]["layers"] = {"photo": layer}
    data["schema"] = 2
    document = parse_document(data)
    photo = document.scenes["s1"].layers["photo"]
    assert set(photo.animation) == {"placement.size", "placement.turn", "correction.exposure"}
    values = values_at(staged(document, "s1", 50, 100))["s1/photo"]
    assert values == pytest.approx({"placement.size": 1.0, "placement.turn": 1.0, "correction.exposure": 1.0})


def test_every_fault_is_reported_at_once_with_its_path() -> None:
    data = json.loads(FIXTURE.read_text())
    data["frame"] = {"width": 1921, "height": 10, "rate": "31"}
    data["scenes"]["s1"]["hold"] = -5
    data["scenes"]["s1"]["layers"]["photo"]["view"]["keys"]["opening"]["value"]["zoom"] = float("nan")
    data["defaults"]["shadow"]["colour"] = "red"
    with pytest.raises(InvalidDocument) as caught:
        parse_document(data)
    assert {f.path for f in caught.value.faults} == {
        "frame.width",
        "frame.height",
        "frame.rate",
        "scenes.s1.hold",
        "scenes.s1.layers.photo.view.keys.opening.value.zoom",
        "defaults.shadow.colour",
    }
    assert all(f.code == "document.value" and f.message.endswith(".") for f in caught.value.faults)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ('{"schema": 99}', "document.newer"),
        ("{}", "document.schema"),
        ("[]", "document.shape"),
        ("{", "document.json"),
        ("\xff", "document.json"),
        (
            '{"schema": 1, "scenes": {"a": {"order": "V", "layers": {"p": {"media": "gone", "view": {"keys": {"k": {"value": {}}}}}}}}}',
            "document.value",
        ),
        ("[" * 100_000, "document.depth"),
    ],
)
def test_what_is_no_document_is_refused_with_a_sentence(text: str, code: str) -> None:
    with pytest.raises(InvalidDocument) as caught:
        parse_json(text)
    assert caught.value.code == code


def test_the_published_schema_is_the_present_one() -> None:
    assert json.loads((ROOT / "docs" / "document.schema.json").read_text()) == json_schema()


@given(st.integers(64, 4096), st.integers(64, 4096), st.sampled_from(["23.976", "25", "60"]))
def test_documents_survive_a_round_trip(width: int, height: int, rate: str) -> None:
    document = made_document(width=width // 2 * 2, height=height // 2 * 2, rate=rate)
    assert parse_document(json.loads(json.dumps(dump_document(document)))) == document


@given(st.lists(st.integers(0, 30), max_size=60))
def test_there_is_always_room_between_two_order_keys(places: list[int]) -> None:
    keys: list[str] = []
    for place in places:
        at = min(place, len(keys))
        keys[at:at] = order_keys_between(keys[at - 1] if at else None, keys[at] if at < len(keys) else None, 2)
    assert keys == sorted(set(keys))
