"""Values that follow others: they are what they follow, whatever is changed; ended by a change, or led to the source; kept when it goes."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.document import LINKABLE, Document, base_value, dump_document, followed_value, parse_document, values_of
from oak_lens.core.document.following import owners_of
from oak_lens.core.edits import apply_edits, difference, parse_edits
from oak_lens.core.errors import InvalidDocument, InvalidEdit
from oak_lens.core.evaluate import scene_at, scene_lanes
from oak_lens.core.time import ticks
from tests.conftest import made_document


def done(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def of(scene: str, name: str, layer: str | None = "photo") -> dict[str, Any]:
    return {"scene": scene, "layer": layer, "property": name}


def to_field(field: str, *values: dict[str, Any]) -> dict[str, Any]:
    return {"edit": "link_values", "values": list(values), "link": {"source": "field", "id": field}}


PAPER = {"edit": "add_field", "id": "paper", "name": "Paper", "like": {"property": "mount.colour"}, "value": "#e8dcc0"}
EDGE = {"edit": "add_field", "id": "edge", "name": "Edge", "like": {"property": "mount.border"}, "value": 0.04}
LINKED = done(
    made_document(),
    PAPER,
    EDGE,
    {"edit": "save_look", "id": "plate", "name": "Plate", "photo": {"scene": "s-tall", "layer": "photo"}},
    {"edit": "link_values", "values": [{"look": "plate", "property": "mount.colour"}], "link": {"source": "field", "id": "paper"}},
    to_field("edge", of("s-wide", "mount.border"), of("s-square", "mount.border"), of("s-wide", "backdrop.blur", None)),
    {"edit": "link_values", "values": [of("s-wide", "mount.colour")], "link": {"source": "look", "id": "plate"}},
)


def border(document: Document, scene: str) -> Any:
    layer = document.scenes[scene].layers["photo"]
    return base_value(document, layer, layer.numbers["mount.border"])


def colour(document: Document, scene: str) -> Any:
    return document.scenes[scene].layers["photo"].mount.colour  # type: ignore[union-attr]


def test_a_field_is_made_of_a_value_as_it_is_inherited_or_own() -> None:
    made = done(made_document(), {"edit": "set_defaults", "mount": {"border": 0.021}}, {"edit": "add_field", "id": "n", "name": "N", "like": of("s-wide", "mount.border")})
    assert (made.fields["n"].of, made.fields["n"].value) == ("mount.border", 0.021)


def test_a_changed_source_reaches_all_that_follow_and_nothing_else() -> None:
    assert (border(LINKED, "s-wide"), colour(LINKED, "s-wide")) == (0.04, "#e8dcc0")
    changed = done(LINKED, {"edit": "set_field", "id": "edge", "value": 0.07}, {"edit": "set_field", "id": "paper", "value": "#102030"})
    assert [border(changed, s) for s in ("s-wide", "s-square")] == [0.07, 0.07] and border(changed, "s-small") == border(LINKED, "s-small")
    assert changed.scenes["s-wide"].backdrop.blur == 0.07  # type: ignore[union-attr]
    # Through the look, for what follows that, and for the photos that have it.
    assert {colour(changed, "s-wide"), changed.looks["plate"].mount.colour} == {"#102030"}
    assert set(difference(LINKED, changed).scenes) == {"s-wide", "s-square"}
    # What is drawn is what would be without links.
    bare = dump_document(changed)
    bare["scenes"]["s-wide"]["layers"]["photo"]["links"] = {}
    assert scene_at(parse_document(bare), "s-wide", 0, ticks(3)) == scene_at(changed, "s-wide", 0, ticks(3))


def test_a_change_of_what_follows_ends_its_link_or_changes_the_source() -> None:
    own = {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "mount": {"border": 0.1, "colour": "#000000"}}
    ended = done(LINKED, own)
    assert (border(ended, "s-wide"), border(ended, "s-square")) == (0.1, 0.04)
    assert not ended.scenes["s-wide"].layers["photo"].links and ended.fields["edge"].value == 0.04
    led = done(LINKED, {"edit": "into_sources"}, own)
    assert (border(led, "s-wide"), border(led, "s-square"), led.fields["edge"].value) == (0.1, 0.1, 0.1)
    # To the end of the chain: the look follows the field.
    assert led.fields["paper"].value == led.looks["plate"].mount.colour == colour(led, "s-wide") == "#000000"
    assert led.scenes["s-wide"].layers["photo"].links == LINKED.scenes["s-wide"].layers["photo"].links


def test_what_is_keyframed_moves_with_what_it_follows() -> None:
    lane = {"scene": "s-wide", "layer": "photo", "property": "mount.border"}
    keyed = done(LINKED, {"edit": "record", "at": 0, "on": "s-wide"}, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "mount": {"border": 0.06}})
    assert keyed.scenes["s-wide"].layers["photo"].links["mount.border"].id == "edge"
    shown = lambda document: [k.value for row in scene_lanes(document, "s-wide", ticks(3)) if row.property == lane["property"] for k in row.keys]  # noqa: E731
    assert shown(keyed) == pytest.approx([0.06])
    assert shown(done(keyed, {"edit": "set_field", "id": "edge", "value": 0.05})) == pytest.approx([0.07])


def test_what_followed_a_source_that_goes_stays_as_it_is() -> None:
    gone = done(LINKED, {"edit": "remove_field", "id": "edge"}, {"edit": "remove_look", "id": "plate"})
    assert (border(gone, "s-wide"), colour(gone, "s-wide")) == (0.04, "#e8dcc0")
    assert not gone.scenes["s-wide"].layers["photo"].links and not gone.scenes["s-wide"].links
    # A part given back to the look takes its links with it.
    given = done(LINKED, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "mount": None})
    assert not given.scenes["s-wide"].layers["photo"].links


SOURCES = [{"source": "default"}, {"source": "look", "id": "plate"}, {"source": "field", "id": "edge"}, {"source": "field", "id": "paper"}]


@settings(max_examples=60, deadline=None)
@given(st.data())
def test_after_any_step_everything_is_what_it_follows(data: st.DataObject) -> None:
    document = LINKED
    for _ in range(6):
        ref, owner = data.draw(st.sampled_from([(r, o) for r, o in owners_of(document) if r.container in (None, "s-wide", "s-tall")]))
        name = data.draw(st.sampled_from(sorted(values_of(owner))))
        value = {"scene": ref.container, "layer": ref.layer, "look": ref.look, "property": name}
        entry = LINKABLE[name]
        number = data.draw(st.floats(entry.spec.minimum or 0, entry.spec.maximum or 1)) if entry.spec.kind == "number" else "#123456"
        step = data.draw(
            st.sampled_from(
                [
                    [{"edit": "link_values", "values": [value], "link": data.draw(st.none() | st.sampled_from(SOURCES))}],
                    [{"edit": "set_field", "id": "edge", "value": data.draw(st.floats(0, 0.3))}],
                    [{"edit": "set_look", "id": "plate", "mount": {"border": data.draw(st.floats(0, 0.3))}}],
                    [{"edit": "set_defaults", "shadow": {"opacity": data.draw(st.floats(0, 1))}}],
                    [{"edit": "into_sources"}, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "mount": {"border": 0.02}}],
                    [{"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], entry.part: {entry.spec.id: number}}]
                    if entry.part in ("placement", "mount", "shadow", "correction")
                    else [{"edit": "use_look", "look": "plate", "photos": [{"scene": "s-wide", "layer": "photo"}]}],
                ]
            )
        )
        try:
            document = done(document, *step)
        except InvalidEdit:
            continue
        for ref, now in owners_of(document):
            assert {n: values_of(now)[n].of(now) for n in now.links} == {n: followed_value(document, values_of(now)[n], link, ref.container) for n, link in now.links.items()}
        assert parse_document(dump_document(document)) == document


def test_a_document_from_elsewhere_is_brought_to_what_it_follows_or_refused() -> None:
    data = dump_document(LINKED)
    data["fields"]["edge"]["value"] = 0.09
    assert border(parse_document(data), "s-square") == 0.09
    for wrong in (
        {"links": {"mount.border": {"source": "field", "id": "gone"}}},
        {"links": {"mount.border": {"source": "field", "id": "paper"}}},
        {"links": {"shadow.blur": {"source": "default"}}},
        {"links": {"no.number": {"source": "default"}}},
        {"links": {"mount.border": {"source": "look"}}},
    ):
        with pytest.raises(InvalidDocument) as caught:
            parse_document({**dump_document(LINKED), "scenes": {"s": {**data["scenes"]["s-wide"], "layers": {"photo": {**data["scenes"]["s-wide"]["layers"]["photo"], **wrong}}}}})
        assert "links" in str(caught.value)


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        ({**EDGE, "id": "edge"}, "edit.id_taken"),
        ({**EDGE, "id": "n", "like": {"property": "no.number"}}, "edit.no_value"),
        ({**EDGE, "id": "n", "value": 99}, "edit.value"),
        ({**PAPER, "id": "n", "value": 3}, "edit.value"),
        ({"edit": "set_field", "id": "gone", "value": 1}, "edit.no_field"),
        ({"edit": "set_field", "id": "edge", "value": "#000000"}, "edit.value"),
        (to_field("gone", of("s-wide", "mount.border")), "edit.no_source"),
        (to_field("edge", of("s-wide", "mount.colour")), "edit.no_source"),
        (to_field("edge", of("s-wide", "mount.gone")), "edit.no_value"),
        (to_field("edge", of("s-wide", "mask.feather")), "edit.no_value"),
        (to_field("edge", of("gone", "mount.border")), "edit.no_layer"),
        ({"edit": "link_values", "values": [{"property": "mount.border"}], "link": {"source": "default"}}, "edit.no_source"),
        ({"edit": "link_values", "values": [of("s-wide", "placement.x")], "link": {"source": "default"}}, "edit.no_source"),
    ],
)
def test_what_cannot_follow_says_why(edit: dict[str, Any], code: str) -> None:
    with pytest.raises(InvalidEdit) as caught:
        done(LINKED, edit)
    assert caught.value.code == code and all(f.message for f in caught.value.faults)


def test_every_number_that_can_be_keyframed_can_follow() -> None:
    for _, owner in owners_of(LINKED):
        if hasattr(owner, "numbers"):
            numbers = {f"{p.part}.{p.declared.id}" for p in owner.numbers.values()}
            # What is no number and no colour follows dials only.
            assert numbers <= set(values_of(owner)) and numbers == {n for n, v in values_of(owner).items() if v.is_measured and v.spec.animated}
