"""Films made of templates as a whole: combined, their pictures dealt, their dials turned as one; nothing is lost by any of it."""

from math import log
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import Document, dump_document, in_order, parse_document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import SETTLED, scene_at
from oak_lens.core.paint import Painter
from oak_lens.core.templates import FilmZone, empty_zones, film_dials, film_zones, spare_scenes, unused_pictures, zone_fault
from oak_lens.core.time import ticks
from oak_lens.core.treatments import BUILTIN, Shipped
from tests.conftest import SHAPES, Pictures, made_document, picture

OPENINGS, CLOSINGS = ([s for s in BUILTIN if s.kind == kind] for kind in ("opening", "closing"))
BODIES = [s for s in BUILTIN if s.kind in ("treatment", "film")]


def made(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def pictures_alone() -> Document:
    """The pictures, and no scene."""
    document = made_document()
    return made(document, {"edit": "remove_scenes", "ids": list(document.scenes)})


def composed(document: Document, *shipped: Shipped, id: str = "f", pictures: list[str] | None = None) -> Document:
    return made(document, {"edit": "compose_film", "keys": [s.content.key for s in shipped], "id": id, "pictures": pictures or []})


def pictured(document: Document) -> list[FilmZone]:
    return [z for z in film_zones(document) if z.pictured and not z.by_hand]


def held(document: Document) -> list[str]:
    return [z.held for z in pictured(document) if z.held]


@given(st.sampled_from(OPENINGS), st.sampled_from(BODIES), st.sampled_from(CLOSINGS), st.integers(0, 5), st.sampled_from(BODIES))
def test_films_of_several_templates_hold_all_pictures_in_order_and_go_over_into_others(first: Shipped, body: Shipped, last: Shipped, count: int, other: Shipped) -> None:
    names = list(SHAPES)[:count]
    film = composed(pictures_alone(), first, body, last, pictures=names)
    assert held(film) == names
    used = [scene.template.template for _, scene in in_order(film.scenes) if scene.template]
    assert list(dict.fromkeys(used)) == [first.id, body.id, last.id] and len(film.scenes) == len(used)
    for dial in film_dials(film):
        stands = {film.scenes[s].template.dials.get(d, dial.dial.default) for s, d in dial.turns}  # type: ignore[union-attr]
        assert len(stands) == 1 or dial.kind == "amount"
    assert parse_document(dump_document(film)) == film
    # Another body, and back: what went in goes over, the words and dials of a person too.
    said = next((z for z in film_zones(film) if z.zone.takes == "text"), None)
    worded = film if said is None else made(film, {"edit": "fill_zones", "scene": said.scene, "fills": {said.id: "A title of ours"}})
    changed = composed(worded, first, other, last, id="g")
    back = composed(changed, first, body, last, id="h")
    assert held(changed) == held(back) == names and [scene.template.part for _, scene in in_order(back.scenes) if scene.template] == [s.template.part for _, s in in_order(film.scenes) if s.template]
    if said is not None:
        assert [z.held for z in film_zones(back) if z.zone.takes == "text" and not z.plain] == ["A title of ours"]


def test_scenes_made_by_hand_stay_where_they_are_while_templates_change() -> None:
    document = made_document()
    film = composed(document, BODIES[0], pictures=["wide", "tall"])
    assert {k: film.scenes[k] for k in document.scenes} == document.scenes
    moved = made(film, {"edit": "move_scenes", "ids": ["s-small"], "before": None})
    again = [scene.template is None for _, scene in in_order(composed(moved, BODIES[1], id="g").scenes)]
    assert again[-1] and again[0] and not all(again[:-1])


@given(st.sampled_from(["order", "time", "shape", "chance"]), st.integers(0, 50), st.permutations(list(SHAPES)))
def test_dealing_loses_no_picture_and_is_the_same_each_time(by: str, seed: int, begun: list[str]) -> None:
    film = composed(pictures_alone(), OPENINGS[0], BODIES[0], CLOSINGS[0], pictures=begun[:3])
    deal = {"edit": "deal_pictures", "by": by, "seed": seed, "pictures": begun, "id": "more"}
    dealt = made(film, deal)
    assert sorted(held(dealt)) == sorted(SHAPES) and not unused_pictures(dealt)
    assert dealt == made(film, deal) and held(made(dealt, {**deal, "pictures": []})) == held(dealt)
    zones = pictured(dealt)
    for some in ([z for z in zones if z.round == 0], [z for z in zones if z.round > 0]):
        assert [z.held is None for z in some] == sorted(z.held is None for z in some), "filled from the first on"
    assert all(z.held for z in zones if z.round == 0), "and what comes once before all else"
    if by == "order":
        assert held(dealt) == list(SHAPES)


def mismatch(document: Document) -> float:
    return sum(abs(log(document.media[z.held].aspect / z.zone.shape)) for z in pictured(document) if z.held and z.zone.shape)


@pytest.mark.parametrize("body", [b for b in BODIES if any(z.shape and z.shape < 1 for z in b.zones.values())], ids=lambda b: b.id)
def test_dealt_by_shape_pictures_stand_where_they_suit(body: Shipped) -> None:
    film = composed(pictures_alone(), body, pictures=list(SHAPES))
    by_shape = made(film, {"edit": "deal_pictures", "by": "shape", "id": "more"})
    assert mismatch(by_shape) <= mismatch(made(film, {"edit": "deal_pictures", "by": "order", "id": "more"})) + 1e-9


def test_pictures_are_dealt_as_they_were_taken() -> None:
    document = pictures_alone()
    times = {"wide": "2031-06-02T10:00:00", "tall": "2031-06-01T10:00:00", "square": "2031-06-03T10:00:00"}
    media = {k: m.model_copy(update={"captured": times.get(k)}) for k, m in document.media.items()}
    film = composed(document.model_copy(update={"media": media}), BODIES[0], pictures=list(SHAPES))
    # Those without a time stay behind the one that they lie behind.
    assert held(made(film, {"edit": "deal_pictures", "by": "time", "id": "more"})) == ["tall", "wide", "square", "panorama", "small"]


def test_dials_of_one_name_turn_together_as_if_each_were_turned() -> None:
    film = composed(pictures_alone(), OPENINGS[0], next(b for b in BODIES if b.kind == "film"), pictures=list(SHAPES))
    dial = next(d for d in film_dials(film) if len(d.turns) > 1 and d.kind in ("colour", "face"))
    value = "#336699" if dial.kind == "colour" else "inter"
    turned = made(film, {"edit": "turn_film_dials", "turns": [{"name": dial.name.upper(), "kind": dial.kind, "value": value}]})
    one_by_one = made(film, *({"edit": "turn_dials", "scenes": [s], "dials": {d: value}} for s, d in dial.turns))
    assert turned == one_by_one != film
    for wrong in ({"name": "no such dial", "kind": "amount", "value": 1.0}, {"name": dial.name, "kind": dial.kind, "value": 3.0}):
        with pytest.raises(InvalidEdit):
            made(film, {"edit": "turn_film_dials", "turns": [wrong]})


def test_a_film_says_what_it_lacks_what_is_left_over_and_what_does_not_suit() -> None:
    body = next(b for b in BODIES if b.id == "evening-table")
    film = composed(pictures_alone(), body)
    assert empty_zones(film) and unused_pictures(film) == list(SHAPES)
    poured = made(film, {"edit": "pour_pictures", "pictures": ["wide"], "id": "more"})
    assert unused_pictures(poured) == list(SHAPES)[1:] and len(empty_zones(poured)) == len(empty_zones(film)) - 1
    spare = spare_scenes(poured)
    left = made(poured, {"edit": "remove_scenes", "ids": spare})
    assert spare and not spare_scenes(left) and held(left) == ["wide"]
    # Words that the template says are no one's own; too many of them, and too small a picture, are told.
    title = next(z for z in film_zones(film) if z.zone.takes == "text")
    assert title.plain and not zone_fault(film, title)
    long = made(film, {"edit": "fill_zones", "scene": title.scene, "fills": {title.id: "w " * 500}})
    told = next(z for z in film_zones(long) if z.id == title.id)
    record = long.templates[long.scenes[told.scene].template.template]  # type: ignore[union-attr]
    zones = {**record.zones, told.id: record.zones[told.id].model_copy(update={"most": 20})}
    zones |= {z.id: record.zones[z.id].model_copy(update={"least": 4000}) for z in film_zones(poured) if z.held == "wide"}
    strict = {**long.templates, body.id: record.model_copy(update={"zones": zones})}
    faults = [zone_fault(d.model_copy(update={"templates": strict}), z) for d in (long, poured) for z in film_zones(d.model_copy(update={"templates": strict}))]
    assert any("characters" in f for f in faults) and any("pixels" in f for f in faults)


LETTERED = [s for s in BUILTIN if s.id in ("veiled-title", "wall-text", "along-the-row", "last-page")]


@pytest.mark.parametrize("shipped", LETTERED, ids=lambda s: s.id)
def test_a_template_laid_over_film_leaves_it_as_it_is_below_and_turns_its_dials(shipped: Shipped) -> None:
    document = made_document()
    over = made(document, {"edit": "lay_over", "key": shipped.content.key, "id": "o", "scenes": ["s-wide", "s-tall"]})
    assert {k: s for k, s in over.scenes.items() if k not in ("s-wide", "s-tall")} == {k: s for k, s in document.scenes.items() if k not in ("s-wide", "s-tall")}
    for key in ("s-wide", "s-tall"):
        scene, before = over.scenes[key], document.scenes[key]
        assert {k: layer for k, layer in scene.layers.items() if k in before.layers} == before.layers and scene.backdrop == before.backdrop
        assert min(layer.order for k, layer in scene.layers.items() if k not in before.layers) > max(layer.order for layer in before.layers.values())
    assert parse_document(dump_document(over)) == over
    # Alone, it stands on nothing: only what it shows itself covers the frame.
    alone = made(pictures_alone(), {"edit": "lay_over", "key": shipped.content.key, "id": "o"})
    scene = alone.scenes["o-1"]
    length = ticks(4)
    pixels = Painter(Pictures(any=picture(60, 40))).paint(scene_at(alone, "o-1", round(length * SETTLED), length), 192, 108, below="clear")
    assert pixels[..., 3].max() > 0 and (pixels[..., 3] < 255).mean() > 0.1 and scene.backdrop is not None and scene.backdrop.kind == "none"
    with pytest.raises(InvalidEdit, match="already"):
        made(over, {"edit": "lay_over", "key": shipped.content.key, "id": "p", "scenes": ["s-wide"]})
