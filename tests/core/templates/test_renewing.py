"""Another version of a template, or another frame: scenes follow, but for what was changed by hand."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import Document, dump_document, in_order, parse_document
from oak_lens.core.edits import apply_edits, in_frame, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.templates import TemplateContent, bring_templates, extracted
from oak_lens.core.time import ticks
from oak_lens.core.treatments import BUILTIN, SHELF, Shipped
from tests.conftest import SHAPES, made_document

UPRIGHT = {"edit": "set_frame", "width": 1080, "height": 1920}
WIDE = {"edit": "set_frame", "width": 1920, "height": 1080}


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


class Several:
    """A shelf of a few contents and of what ships."""

    def __init__(self, *contents: TemplateContent):
        self.by_key = {c.key: c for c in contents}

    def content(self, key: str) -> TemplateContent | None:
        return self.by_key.get(key) or SHELF.content(key)


@pytest.fixture
def versions():  # type: ignore[no-untyped-def]
    """Two versions of a template of a photo and a title: in the second the title stands elsewhere, the border is wider, and there is a sheet."""
    first = made(
        made_document(),
        {"edit": "add_text", "scene": "s-wide", "id": "t", "text": "Title"},
        {"edit": "make_template", "id": "mine", "name": "Titled", "scenes": ["s-wide"]},
        {"edit": "make_dial", "template": "mine", "id": "border", "values": [{"scene": "s-wide", "layer": "photo", "property": "mount.border"}]},
    )
    second = made(
        first,
        {"edit": "turn_dials", "scenes": ["s-wide"], "dials": {"border": 0.03}},
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "t"}], "placement": {"x": 0.2, "y": 0.3}, "setting": {"size": 0.09}},
        {"edit": "add_shape", "scene": "s-wide", "id": "sheet"},
    )
    old, new = extracted(first, "mine", "titled"), extracted(second, "mine", "titled", "1.1.0")
    bring_templates(Several(old, new))
    yield old, new
    bring_templates(SHELF)


def test_what_was_adjusted_stays_and_all_else_follows(versions: Any) -> None:
    old, new = versions
    film = made(
        made_document(),
        {"edit": "put_on", "key": old.key, "id": "u", "scenes": ["s-tall", "s-small"]},
        {"edit": "fill_zones", "scene": "s-tall", "fills": {"z2": "The tower"}},
        {"edit": "set_layers", "layers": [{"scene": "s-small", "layer": "t"}], "placement": {"x": -0.3}},
        {"edit": "set_scenes", "ids": ["s-tall"], "hold": ticks(9), "name": "Tower"},
    )
    taken = made(film, {"edit": "take_version", "template": "titled", "key": new.key})
    tower, small = taken.scenes["s-tall"], taken.scenes["s-small"]
    assert taken.templates["titled"].origin.version == "1.1.0" and parse_document(dump_document(taken)) == taken
    assert (tower.hold, tower.name, tower.layers["photo"].media) == (ticks(9), "Tower", "tall")
    assert "".join(s.text for s in tower.layers["t"].text) == "The tower" and tower.layers["t"].placement.x == 0.2
    assert small.layers["t"].placement.x == -0.3 and small.layers["t"].placement.y == 0.3, "moved by hand across, not down"
    assert "sheet" in tower.layers and tower.layers["photo"].mount.border == 0.03 and small.layers["t"].setting.size == 0.09
    # Without the old one at hand, what is in zones and the scenes' own stay.
    bring_templates(Several(new))
    bare = made(film, {"edit": "take_version", "template": "titled", "key": new.key})
    assert bare.scenes["s-tall"] == tower and bare.scenes["s-small"].layers["t"].placement.x == 0.2
    with pytest.raises(InvalidEdit, match="another template"):
        made(film, {"edit": "take_version", "template": "titled", "key": BUILTIN[0].content.key})


def test_a_version_without_a_zone_keeps_its_picture_and_one_without_a_scene_frees_it(versions: Any) -> None:
    old, _ = versions
    wide = made(made_document(), {"edit": "add_text", "scene": "s-tall", "id": "t", "text": "Two"}, {"edit": "make_template", "id": "m", "name": "Titled", "scenes": ["s-tall", "s-wide"]}, {"edit": "unmake_zones", "layers": [{"scene": "s-tall", "layer": "t"}]})
    other = extracted(wide, "m", "titled", "2.0.0")
    bring_templates(Several(old, other))
    film = made(made_document(), {"edit": "put_on", "key": old.key, "id": "u", "scenes": ["s-square"]})
    taken = made(film, {"edit": "take_version", "template": "titled", "key": other.key})
    assert parse_document(dump_document(taken)) == taken and any(getattr(x, "media", "") == "square" for x in taken.scenes["s-square"].layers.values())


@pytest.mark.parametrize("shipped", [s for s in BUILTIN if s.kind != "film"] + [s for s in BUILTIN if s.kind == "film"][:1], ids=lambda s: s.id)
def test_the_same_version_changes_nothing_and_frames_there_and_back_neither(shipped: Shipped) -> None:
    film = made(made_document(), {"edit": "put_on", "key": shipped.content.key, "id": "u", "scenes": [f"s-{n}" for n in SHAPES]})
    same = made(film, {"edit": "take_version", "template": shipped.id, "key": shipped.content.key})
    assert dump_document(same) == dump_document(film)
    tall = made(film, UPRIGHT)
    own = in_frame(shipped.content, tall.frame).document
    for key, scene in in_order(tall.scenes):
        if scene.template is not None:
            assert {n: x.placement for n, x in scene.layers.items()} == {n: x.placement for n, x in own.scenes[scene.template.part].layers.items()}, key
    back = made(tall, WIDE)
    assert {k: s for k, s in back.scenes.items() if s.template} == {k: s for k, s in film.scenes.items() if s.template}


@given(st.sampled_from(BUILTIN), st.sampled_from(["placement.x", "layer.opacity", "placement.turn"]), st.floats(0.05, 0.9))
def test_what_was_set_by_hand_is_there_in_another_frame(shipped: Shipped, name: str, value: float) -> None:
    film = made(made_document(), {"edit": "put_on", "key": shipped.content.key, "id": "u", "pictures": list(SHAPES)})
    scene = next(k for k, s in in_order(film.scenes) if s.template)
    layer = next(iter(film.scenes[scene].layers))
    part, number = name.split(".")
    partial = {number: value} if part == "layer" else {part: {number: value}}
    typed = made(film, {"edit": "set_layers", "layers": [{"scene": scene, "layer": layer}], **partial})
    tall = made(typed, UPRIGHT)
    parse_document(dump_document(tall))
    if name != "placement.x":
        one = tall.scenes[scene].layers[layer]
        assert (one.opacity if part == "layer" else one.placement.turn) == pytest.approx(value)
