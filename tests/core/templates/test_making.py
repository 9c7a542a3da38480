"""Templates made of scenes: zones and dials switched on, what is kept of them, and put on again."""

from typing import Any

import pytest

from oak_lens.core.document import Document, dump_document, in_order, parse_document, photos_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import scene_at
from oak_lens.core.templates import TemplateContent, bring_templates, extracted
from oak_lens.core.time import ticks
from oak_lens.core.treatments import SHELF
from tests.conftest import made_document

S = "s-wide"


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def film() -> Document:
    """A scene of two photos and a title, its looks inherited, one print in both that scene and the next."""
    return made(
        made_document(),
        {"edit": "add_photos", "scene": S, "photos": [{"id": "a", "media": "tall"}]},
        {"edit": "add_photos", "scene": "s-tall", "photos": [{"id": "again", "media": "wide"}]},
        {"edit": "add_text", "scene": S, "id": "t", "text": "First light", "style": "frontispiece"},
        {"edit": "add_shape", "scene": S, "id": "sheet"},
        {"edit": "set_defaults", "mount": {"border": 0.04}, "hold": ticks(6)},
        {"edit": "make_template", "id": "mine", "name": "Two and a title", "scenes": [S, "s-tall"]},
    )


def dial(**more: Any) -> dict[str, Any]:
    return {"edit": "make_dial", "template": "mine", "id": "border", "values": [{"scene": S, "layer": "a", "property": "mount.border"}], **more}


class Both:
    """The shelf of what ships, and one template more."""

    def __init__(self, content: TemplateContent):
        self._own = content

    def content(self, key: str) -> TemplateContent | None:
        return self._own if key == self._own.key else SHELF.content(key)


@pytest.fixture
def shelf():  # type: ignore[no-untyped-def]
    yield lambda content: bring_templates(Both(content))
    bring_templates(SHELF)


def test_photos_and_texts_become_zones_a_picture_that_is_seen_twice_one() -> None:
    document = film()
    zones = document.templates["mine"].zones
    assert [(z.name, z.takes) for z in zones.values()] == [("wide", "picture"), ("tall", "picture"), ("First light", "text")]
    wide = {(s, k): p.zone for s in (S, "s-tall") for k, p in photos_of(document.scenes[s]) if p.media == "wide"}
    assert set(wide.values()) == {"z1"} and set(wide) == {(S, "photo"), ("s-tall", "again")}
    filled = made(document, {"edit": "fill_zones", "scene": "s-tall", "fills": {"z1": "square"}})
    assert filled.scenes[S].layers["photo"].media == "square", "filled once, seen in both"
    off = made(document, {"edit": "unmake_zones", "layers": [{"scene": s, "layer": k} for s, k in wide]})
    assert list(off.templates["mine"].zones) == ["z2", "z3"]
    on = made(off, {"edit": "make_zones", "layers": [{"scene": S, "layer": "photo"}]}, {"edit": "set_zone", "template": "mine", "zone": "z1", "before": "z2", "required": False, "fitting": "shape"})
    assert on.templates["mine"].zones["z1"].order < on.templates["mine"].zones["z2"].order
    assert on.scenes[S].layers["photo"].window.aspect is None, "the zone takes the picture's shape"


def test_a_dial_stands_where_its_value_does_and_drives_others_by_a_mapping() -> None:
    document = made(film(), dial(name="Paper edge"))
    found = document.templates["mine"].dials["border"]
    assert (found.name, found.default, found.kind) == ("Paper edge", 0.04, "amount") and found.minimum <= 0.04 <= found.maximum
    driven = made(document, {"edit": "drive_values", "template": "mine", "dial": "border", "values": [{"scene": S, "layer": "sheet", "property": "layer.opacity"}], "mapping": {"low": 1.0, "high": 0.0}})
    turned = made(driven, {"edit": "turn_dials", "scenes": [S], "dials": {"border": found.maximum}})
    assert turned.scenes[S].layers["a"].mount.border == found.maximum and turned.scenes[S].layers["sheet"].opacity == 0.0
    gone = made(turned, {"edit": "remove_dial", "template": "mine", "dial": "border"})
    assert gone.scenes[S].layers["a"].mount.border == found.maximum and not gone.scenes[S].layers["a"].links
    colour = made(document, {"edit": "make_dial", "template": "mine", "id": "ink", "values": [{"scene": S, "layer": "t", "property": "ink.colour"}]},
                  {"edit": "make_dial", "template": "mine", "id": "shape", "values": [{"scene": S, "layer": "sheet", "property": "form.outline"}]},
                  {"edit": "turn_dials", "scenes": [S], "dials": {"ink": "#102030", "shape": "ellipse"}})  # fmt: skip
    assert colour.scenes[S].layers["t"].ink.colour == "#102030" and colour.scenes[S].layers["sheet"].form.outline == "ellipse"


def test_what_is_kept_of_a_template_needs_nothing_of_the_film_it_was_made_in(shelf: Any) -> None:
    document = made(film(), dial(), {"edit": "turn_dials", "scenes": [S], "dials": {"border": 0.05}})
    content = extracted(document, "mine", "two-and-a-title")
    assert parse_document(dump_document(content.document)) == content.document
    assert all(m.placeholder or k in ("tall", "wide") for k, m in content.document.media.items()) and not content.document.looks
    assert content.record.dials["border"].default == 0.05 and content.document.scenes[S].layers["photo"].mount.border == 0.04
    # Put on other pictures in another film, it looks as it did there with those in its zones.
    shelf(content)
    elsewhere = made(made_document(), {"edit": "set_defaults", "mount": {"border": 0.1}, "hold": ticks(2)})
    put = made(elsewhere, {"edit": "put_on", "key": content.key, "id": "u", "pictures": ["wide", "tall"]})
    own = made(document, {"edit": "fill_zones", "scene": S, "fills": {"z1": "wide", "z2": "tall"}})
    first = next(k for k, s in put.scenes.items() if s.template and s.template.part == S)
    there, here = (scene_at(d, k, ticks(1), ticks(8)) for d, k in ((put, first), (own, S)))
    assert there == here
    assert put.scenes[first].hold == ticks(6)


def test_what_a_template_brings_along_never_takes_the_place_of_something_else(shelf: Any) -> None:
    document = made(
        film(),
        {"edit": "set_scenes", "ids": [S], "backdrop": {"kind": "picture", "media": "small"}},
        {"edit": "add_keys", "lanes": [{"scene": S, "layer": "a", "property": "placement.turn"}], "at": 0},
        {"edit": "add_keys", "lanes": [{"scene": S, "layer": "a", "property": "placement.turn"}], "at": ticks(2)},
        {"edit": "save_move", "id": "ours", "name": "Ours", "source": {"scene": S, "layer": "a"},
         "keys": [{"scene": S, "layer": "a", "property": "placement.turn", "key": k} for k in ("k1", "k2")]},
    )  # fmt: skip
    content = extracted(document, "mine", "mine-for-good")
    assert set(content.document.moves) == {"ours"} and "small" in content.document.media
    shelf(content)
    # A film that has another picture and another move by those ids.
    other = {"id": "small", "name": "Another", "file": "x.png", "sha256": "e" * 64, "width": 90, "height": 60}
    elsewhere = made(made_document(), {"edit": "replace_file", "id": "small", "picture": other})
    elsewhere = elsewhere.model_copy(update={"moves": {"ours": document.moves["ours"].model_copy(update={"name": "Theirs"})}})
    put = made(elsewhere, {"edit": "put_on", "key": content.key, "id": "u", "scenes": [S]})
    scene = next(s for s in put.scenes.values() if s.template and s.template.part == S)
    assert put.media[scene.backdrop.media].sha256 == document.media["small"].sha256 and put.media["small"].sha256 == "e" * 64
    assert put.moves["ours"].name == "Theirs" and put.moves[scene.layers["a"].move.move].name == "Ours"
    assert parse_document(dump_document(put)) == put
    # The same once more changes nothing but the scenes, and a template that nothing uses any more goes.
    again = made(put, {"edit": "put_on", "key": content.key, "id": "v", "scenes": ["s-small"]})
    assert again.moves == put.moves and len(again.templates) == 1
    treated = made(again, {"edit": "put_on", "key": SHELF.listed()[0].key, "id": "w", "scenes": list(again.scenes)})
    assert list(treated.templates) == [SHELF.listed()[0].id]


def test_a_template_in_making_is_changed_and_removed_and_others_are_not() -> None:
    document = made(film(), {"edit": "set_template", "id": "mine", "about": "For two", "scenes": {S: {"least": ticks(3), "repeats": True}}})
    assert document.templates["mine"].scenes[S].repeats and document.templates["mine"].about == "For two"
    gone = made(document, {"edit": "remove_template", "id": "mine"})
    assert not gone.templates and gone.scenes[S].template is None
    key = SHELF.listed()[0].key
    put = made(made_document(), {"edit": "put_on", "key": key, "id": "u", "scenes": [S]})
    for edit in (
        {"edit": "set_template", "id": next(iter(put.templates)), "name": "Mine now"},
        {"edit": "make_zones", "layers": [{"scene": S, "layer": "a"}]},
        {"edit": "make_zones", "layers": [{"scene": "s-tall", "layer": "photo"}]},
        {"edit": "make_template", "id": next(iter(put.templates)), "name": "x", "scenes": [S]},
    ):
        with pytest.raises(InvalidEdit):
            made(put, edit)
    with pytest.raises(InvalidEdit, match="share a zone"):
        made(document, {"edit": "make_zones", "layers": [{"scene": S, "layer": "t"}], "zone": "z1"})
    with pytest.raises(InvalidEdit):
        made(document, {"edit": "set_template", "id": "mine", "scenes": {S: {"least": ticks(9), "most": ticks(2)}}})


SOUND = {"name": "Evening.wav", "file": "evening.wav", "sha256": "5" * 64, "length": ticks(90)}


def test_a_song_is_a_zone_it_is_kept_without_and_heard_over_all_scenes_of_a_use(shelf: Any) -> None:
    document = made(
        film(),
        {"edit": "add_sounds", "sounds": [{"id": "evening", **SOUND}]},
        {"edit": "set_songs", "ids": ["evening"], "song": {"fade_out": ticks(4), "gain": -3.0}},
        {"edit": "make_song_zone", "template": "mine", "song": "evening"},
    )
    content = extracted(document, "mine", "mine-for-good")
    zone = next(k for k, z in content.record.zones.items() if z.takes == "song")
    assert not content.document.songs and content.record.zones[zone].name == "Evening"
    shelf(content)
    elsewhere = made(
        made_document(),
        {"edit": "add_sounds", "sounds": [{"id": "morning", **SOUND, "sha256": "6" * 64}], "as_songs": False},
        {"edit": "put_on", "key": content.key, "id": "u", "pictures": ["wide", "tall", "square", "small"]},
    )
    of_use = [k for k, s in in_order(elsewhere.scenes) if s.template]
    filled = made(elsewhere, {"edit": "fill_zones", "scene": of_use[0], "fills": {zone: "morning"}})
    (song,) = filled.songs.values()
    assert (song.sound, song.fade_out, song.gain, song.over) == ("morning", ticks(4), -3.0, (of_use[0], of_use[-1]))
    # The same template put on again with one picture more takes the song along; freed, it is a song like any.
    again = made(filled, {"edit": "put_on", "key": content.key, "id": "v", "scenes": of_use, "pictures": ["panorama"]})
    of_use = [k for k, s in in_order(again.scenes) if s.template]
    (song,) = again.songs.values()
    assert song.zone is not None and song.zone.use == "v" and song.over == (of_use[0], of_use[-1])
    freed = made(again, {"edit": "free_scenes", "scenes": of_use})
    assert [s.zone for s in freed.songs.values()] == [None]
    assert not made(filled, {"edit": "fill_zones", "scene": of_use[0], "fills": {zone: None}}).songs
    with pytest.raises(InvalidEdit, match="no such sound"):
        made(elsewhere, {"edit": "fill_zones", "scene": of_use[0], "fills": {zone: "nothing"}})
    off = made(document, {"edit": "unmake_song_zone", "template": "mine", "song": "evening"})
    assert zone not in off.templates["mine"].zones and off.songs["evening"].zone is None


def test_a_backdrop_follows_a_zone_and_a_seed_is_a_dial(shelf: Any) -> None:
    document = made(
        film(),
        {"edit": "set_backdrop_zone", "scene": S, "zone": "z1"},
        {"edit": "make_dial", "template": "mine", "id": "grain", "values": [{"scene": S, "layer": "a", "property": "correction.grain_seed"}]},
    )
    assert document.scenes[S].backdrop.kind == "picture" and document.scenes[S].backdrop.media == "wide"
    filled = made(document, {"edit": "fill_zones", "scene": S, "fills": {"z1": "square"}})
    assert filled.scenes[S].backdrop.media == "square" == filled.scenes[S].layers["photo"].media
    assert document.templates["mine"].dials["grain"].kind == "seed"
    assert made(document, {"edit": "turn_dials", "scenes": [S], "dials": {"grain": 7}}).scenes[S].layers["a"].correction.grain_seed == 7
    with pytest.raises(InvalidEdit, match="cannot stand there"):
        made(document, {"edit": "turn_dials", "scenes": [S], "dials": {"grain": 7.5}})
    content = extracted(document, "mine", "mine-for-good")
    shelf(content)
    empty = made(made_document(), {"edit": "put_on", "key": content.key, "id": "u"})
    first = next(s for _, s in in_order(empty.scenes) if s.template and s.template.part == S)
    assert empty.media[first.backdrop.media].placeholder == 1
    with pytest.raises(InvalidEdit, match="shows a picture"):
        made(document, {"edit": "set_scenes", "ids": [S], "backdrop": {"kind": "colour"}}, {"edit": "set_backdrop_zone", "scene": S, "zone": "z1"})
    own = made(document, {"edit": "set_backdrop_zone", "scene": S, "zone": None})
    assert own.scenes[S].backdrop_zone is None and own.scenes[S].backdrop.media == "wide"


def test_pictures_are_poured_into_a_template_in_making_as_well() -> None:
    document = made(film(), {"edit": "pour_pictures", "pictures": ["square", "small", "panorama"], "id": "more"})
    used = [s for _, s in in_order(document.scenes) if s.template]
    assert [s.template.round for s in used] == [0, 0, 1, 2]
    assert [p.media for s in used[2:] for _, p in photos_of(s) if not document.media[p.media].placeholder] == ["square", "small", "panorama"]
    assert parse_document(dump_document(document)) == document
