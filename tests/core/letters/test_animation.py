"""Letters that move by themselves: every shipped animation ends in the settled text, bit for bit, and starts unseen."""

from typing import Any

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Document, Media, called, details_told, dump_document, filled
from oak_lens.core.document.filling import dated
from oak_lens.core.draw import Lettering
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit, OakError
from oak_lens.core.evaluate import as_written, scene_at, staged, text_findings, timeline_of, written_text
from oak_lens.core.evaluate.lettering import text_block, units_of
from oak_lens.core.letters import lay_out
from oak_lens.core.moves import BUILTIN, ORDERS, PACES, UNITS, Spread, clocked, progress
from oak_lens.core.moves.paces import paced
from oak_lens.core.paint import Painter
from oak_lens.core.time import ticks
from oak_lens.core.titles import BUILTIN as TITLES
from oak_lens.services.findings import scene_marks
from tests.core.letters.test_painting import NoPictures

LENGTH = ticks(6)
TEXT = {"scene": "s", "layer": "t"}
LETTERED = [(i, m) for i, m in BUILTIN if m.spread]
PAINTER = Painter(NoPictures())


def made(*edits: dict[str, Any], words: str = "First light\nover the ridge") -> Document:
    document = apply_edits(EMPTY, parse_edits([{"edit": "add_text", "scene": "s", "id": "t", "text": words}]))
    return apply_edits(document, parse_edits(list(edits))) if edits else document


EMPTY = apply_edits(
    Document(media={"m": Media(order="V", name="Dome", file="dome.jpg", sha256="a" * 64, width=1600, height=900, captured="2025-03-09T21:04:00")}),
    parse_edits(
        [
            {"edit": "add_scenes", "scenes": [{"id": "s", "media": "m"}]},
            {"edit": "set_scenes", "ids": ["s"], "name": "Opening", "backdrop": {"kind": "colour", "colour": "#000000"}},
            {"edit": "set_layers", "layers": [{"scene": "s", "layer": "photo"}], "hidden": True},
        ]
    ),
)


def painted(document: Document, at: int) -> np.ndarray:
    return PAINTER.paint(scene_at(document, "s", at, LENGTH), 160, 90).copy()


def marks(document: Document) -> dict[str, str]:
    return scene_marks(document, timeline_of(document))


def lettering(document: Document, at: int) -> Lettering:
    content = staged(document, "s", at, LENGTH).find("s", "t").standing.content  # type: ignore[union-attr]
    assert isinstance(content, Lettering)
    return content


@pytest.mark.parametrize(("name", "move"), LETTERED, ids=[i for i, _ in LETTERED])
def test_every_shipped_animation_starts_unseen_and_ends_in_the_settled_text(name: str, move: Any) -> None:
    settled = made()
    empty = painted(made(words=" "), 0)
    slot = "entrance" if move.kind == "entrance" else "move"
    moving = made({"edit": "use_move", "to": [TEXT], "slot": slot, "move": name})
    length = move.length or LENGTH
    assert (painted(moving, length) == painted(settled, length)).all()
    assert (painted(moving, length // 2) != painted(settled, length // 2)).any()
    if slot == "entrance":
        assert (painted(moving, 0) == empty).all()
        leaving = made({"edit": "use_move", "to": [TEXT], "slot": "exit", "move": name})
        assert (painted(leaving, LENGTH) == empty).all() and (painted(leaving, LENGTH - length) == painted(settled, 0)).all()
        # However long the scene is, it takes its own time: it hangs on the start.
        assert scene_at(moving, "s", length // 3, LENGTH) == scene_at(moving, "s", length // 3, 3 * LENGTH)


@pytest.mark.parametrize("order", [i for i, _ in ORDERS])
@pytest.mark.parametrize("unit", [i for i, _ in UNITS])
def test_units_come_in_their_order_and_the_last_ends_exactly(unit: Any, order: Any) -> None:
    spread = Spread(unit=unit, order=order, overlap=0.4, rhythm="out")
    places = np.linspace(-1, 1, 9).tolist()
    before = np.zeros(9)
    for t in np.linspace(0, 1, 41):
        now = progress(spread, places, float(t))
        assert (now >= before - 1e-9).all()
        before = now
    assert (before == 1.0).all() and (progress(spread, places, 0.0) == 0.0).all()
    document = made({"edit": "use_move", "to": [TEXT], "slot": "entrance", "move": "dawn", "use": {"spread": {"unit": unit, "order": order, "overlap": 0.2}}}, words="First light\nover the ridge\nof Ossel")
    # Of a spread, what is not said stays as it is.
    document = apply_edits(document, parse_edits([{"edit": "set_move_use", "to": [TEXT], "slot": "entrance", "use": {"spread": {"seed": 5}}}]))
    assert document.scenes["s"].layers["t"].entrance.spread == Spread(unit=unit, order=order, overlap=0.2, seed=5)  # type: ignore[union-attr]
    opacities = [p.opacity for p in lettering(document, ticks(0.8)).parts]
    assert len(set(opacities)) == 1 if unit == "all" else len(set(opacities)) >= 2


@pytest.mark.parametrize("words", ["First light", "ראשית האור", "أول ضوء", "光 First"])
@pytest.mark.parametrize("unit", ["letter", "word"])
def test_words_from_a_detail_move_in_the_order_in_which_they_are_read(words: str, unit: Any) -> None:
    def units(text: str, *edits: dict[str, Any]) -> tuple[list[int], tuple[float, ...]]:
        document = made(*edits, words=text)
        of, places = units_of(lay_out(text_block(document, document.scenes["s"].layers["t"], "s")[0]), unit)  # type: ignore[arg-type]
        return of.tolist(), places

    assert units("{place}", {"edit": "set_details", "place": words}) == units(words)


def test_joined_scripts_and_spaces_move_with_their_words() -> None:
    use = {"edit": "use_move", "to": [TEXT], "slot": "entrance", "move": "rise-up"}
    document = made(use, words="السلام عليكم")
    parts = lettering(document, ticks(0.7)).parts
    layout_words: dict[int, set[Any]] = {}
    layout = lay_out(lettering(document, 0).block)
    for cluster, part in zip(layout.clusters, parts, strict=True):
        layout_words.setdefault(cluster.word, set()).add((part.opacity, part.moved))
    assert all(len(seen) == 1 for seen in layout_words.values()) and len(layout_words) == 2


def test_an_offset_under_an_animated_text_moves_all_of_it_and_depth_takes_letters_along() -> None:
    use = {"edit": "use_move", "to": [TEXT], "slot": "entrance", "move": "comets"}
    still, moved = made(use), made(use, {"edit": "set_layers", "layers": [TEXT], "placement": {"x": 0.1}})
    a, b = lettering(still, ticks(0.6)), lettering(moved, ticks(0.6))
    assert [p.opacity for p in a.parts] == [p.opacity for p in b.parts]
    assert any(p.moved[6] or p.moved[8] != 1.0 for p in a.parts)
    # Keyframes of a text's own numbers and colours, as of any layer's.
    keys = [
        {"edit": "add_keys", "lanes": [{**TEXT, "property": p} for p in ("setting.weight", "ink.colour_red", "setting.letter_spacing")], "at": 0},
        {"edit": "set_values", "lanes": [{**TEXT, "property": "setting.weight"}], "value": 900, "at": 0},
    ]
    assert lettering(made(*keys), 0).block.runs[0].choice.weight == 900


@pytest.mark.parametrize("pace", [i for i, _ in PACES])
def test_a_pace_runs_with_the_clock_and_reaches_both_ends(pace: Any) -> None:
    shares = np.linspace(0, 1, 41).tolist()
    passed = [paced(pace, share) for share in shares]
    assert passed[0] == 0.0 and passed[-1] == 1.0 and passed == sorted(passed)
    assert [clocked(pace, p) for p in passed] == pytest.approx(shares, abs=1e-5)

    def opacities(*, slot: str, by: str, at: int) -> list[float]:
        use = {"pace": by, "length": ticks(2), "spread": {"overlap": 1.0}}
        return [p.opacity for p in lettering(made({"edit": "use_move", "to": [TEXT], "slot": slot, "move": "dawn", "use": use}), at).parts]

    # A slow start has done less by the half of an entrance, and of an exit, too; with or without letters.
    early = np.mean(opacities(slot="entrance", by=pace, at=ticks(0.6))) - np.mean(opacities(slot="entrance", by="none", at=ticks(0.6)))
    late = np.mean(opacities(slot="exit", by=pace, at=LENGTH - ticks(1.4))) - np.mean(opacities(slot="exit", by="none", at=LENGTH - ticks(1.4)))
    sign = {"none": 0.0, "in": -1.0, "out": 1.0, "both": -1.0}[pace]
    assert (np.sign(early), np.sign(late)) == (sign, -sign)
    # As keyframes, a move is where its pace had it at each of its keys.
    keyed = made({"edit": "use_move", "to": [TEXT], "move": "drift", "use": {"pace": pace}}, {"edit": "unlink_move", "to": [TEXT]})
    linked = made({"edit": "use_move", "to": [TEXT], "move": "drift", "use": {"pace": pace}})
    for at in (0, LENGTH):
        assert (painted(keyed, at) == painted(linked, at)).all()


def test_what_is_right_on_one_text_is_carried_to_the_others() -> None:
    other = {"scene": "s2", "layer": "u"}
    document = made(
        {"edit": "add_scenes", "scenes": [{"id": "s2", "media": "m"}]},
        {"edit": "add_text", "scene": "s2", "id": "u", "text": "The dome"},
        {"edit": "use_style", "style": "frontispiece", "texts": [TEXT]},
        {"edit": "set_layers", "layers": [TEXT], "ink": {"outline": 0.02}},
        {"edit": "use_move", "to": [TEXT], "slot": "entrance", "move": "dawn", "use": {"spread": {"unit": "word"}}},
    )
    carried = apply_edits(document, parse_edits([{"edit": "carry", "source": TEXT, "what": ["style", "motion", "hold"], "to": ["s2"]}]))
    source, target = document.scenes["s"].layers["t"], carried.scenes[other["scene"]].layers[other["layer"]]
    for part in ("style", "setting", "ink", "panel", "shadow", "entrance"):
        assert getattr(target, part) == getattr(source, part), part
    assert target.text[0].text == "The dome" and carried.scenes["s2"].layers["photo"] == document.scenes["s2"].layers["photo"]  # type: ignore[union-attr]
    with pytest.raises(InvalidEdit, match="A text has no views to carry"):
        apply_edits(document, parse_edits([{"edit": "carry", "source": TEXT, "what": ["views"], "to": ["s2"]}]))
    # An own move keeps how it reaches letters, and brings it wherever it is put.
    mine = apply_edits(
        document,
        parse_edits(
            [
                {"edit": "add_keys", "lanes": [{**other, "property": "letters.y"}], "at": 0},
                {"edit": "save_move", "id": "mine", "name": "Mine", "source": other},
                {"edit": "set_move", "id": "mine", "spread": {"unit": "word", "order": "any"}},
                {"edit": "use_move", "to": [TEXT], "move": "mine"},
            ]
        ),
    )
    assert mine.moves["mine"].name == "Mine" and mine.scenes["s"].layers["t"].move.spread == Spread(unit="word", order="any")  # type: ignore[union-attr]


def test_motion_blur_knows_where_letters_are_when_the_shutter_closes() -> None:
    document = made({"edit": "use_move", "to": [TEXT], "slot": "entrance", "move": "shuttle"}, {"edit": "set_scenes", "ids": ["s"], "shutter": 180})
    items = scene_at(document, "s", ticks(0.3), LENGTH).items
    contents = [i.content for i in items if hasattr(i, "content") and isinstance(i.content, Lettering)]
    assert any(p.closes is not None for c in contents for p in c.parts)


def test_details_are_filled_in_where_they_stand_and_what_is_wrong_is_said() -> None:
    details = {"edit": "set_details", "author": "M. Lund", "own": {"h": {"name": "Height", "text": "2,912 m"}}}
    document = made(details, words="{title} · {author} · {scene}/{pages} {scene name} · {picture}, {captured:d MMMM y} · {height} {nobody} {place}")
    layer = document.scenes["s"].layers["t"]
    shown = filled(document, layer, "s")  # type: ignore[arg-type]
    assert shown.text == "Untitled film · M. Lund · 1/1 Opening · Dome, 9 March 2025 · 2,912 m {nobody} "
    assert shown.unknown == ("nobody",) and shown.empty == ("place",)
    (finding,) = text_findings(document, timeline_of(document))
    assert (finding.unknown, finding.empty) == (("nobody",), ("place",))
    assert called(document, layer, "s") == "Untitled film · M. Lund · 1/1 Opening · " and list(details_told(document)) == ["s"]  # type: ignore[arg-type]
    assert dated("no date", "y") == "no date" and dated(None, "y") == ""
    # While it is written its details are as they were typed, and each letter knows its place.
    writing = as_written(document, "s", "t")
    told = written_text(staged(writing, "s", 0, LENGTH), "s", "t")
    assert told is not None and max(c[1] for c in told.cells) == len(layer.text[0].text)  # type: ignore[union-attr]


def test_what_a_scene_shows_changes_with_what_its_texts_name() -> None:
    document = made(words="{title} {scene}")
    other = apply_edits(document, parse_edits([{"edit": "set_title", "title": "Another"}]))
    plain = made(words="No field")
    renamed = apply_edits(plain, parse_edits([{"edit": "set_title", "title": "Another"}]))
    assert marks(document) != marks(other) and marks(plain) == marks(renamed)
    restyled = [made({"edit": "use_style", "style": "star-chart", "texts": [TEXT]}, {"edit": "set_style", "id": "star-chart", "ink": {"colour": c}}) for c in ("#ff0000", "#00ff00")]
    assert marks(restyled[0]) != marks(restyled[1])


def test_styles_reach_all_that_are_linked_and_what_is_typed_keeps_its_looks() -> None:
    document = made(
        {"edit": "add_text", "scene": "s", "id": "u", "text": "Second"},
        {"edit": "use_style", "style": "frontispiece", "texts": [TEXT, {"scene": "s", "layer": "u"}]},
        {"edit": "set_style", "id": "frontispiece", "setting": {"size": 0.2}},
        {"edit": "set_letters", "text": TEXT, "start": 6, "stop": 11, "colour": "#ff0000", "weight": 900},
        {"edit": "set_text", "texts": [TEXT], "text": "First lights\nover the ridge"},
    )
    sizes = {staged(document, "s", 0, LENGTH).find("s", k).standing.content.size for k in ("t", "u")}  # type: ignore[union-attr]
    assert sizes == {0.2}
    spans = document.scenes["s"].layers["t"].text  # type: ignore[union-attr]
    assert [(s.text, s.colour) for s in spans] == [("First ", None), ("lights", "#ff0000"), ("\nover the ridge", None)]
    removed = apply_edits(document, parse_edits([{"edit": "remove_style", "id": "frontispiece"}]))
    assert scene_at(removed, "s", 0, LENGTH) == scene_at(document, "s", 0, LENGTH)


@pytest.mark.parametrize("title", TITLES, ids=[t.id for t in TITLES])
def test_every_title_setting_has_its_texts_comes_unseen_and_stays_in_the_frame(title: Any) -> None:
    document = apply_edits(EMPTY, parse_edits([{"edit": "add_title", "scene": "s", "id": "g", "title": title.id, "texts": ["One"]}]))
    layers = document.scenes["s"].layers
    assert sum(layer.kind == "text" for layer in layers.values()) == title.texts and 1 <= title.texts <= 3
    blank = painted(EMPTY, 0)
    assert np.abs(painted(document, 0).astype(int) - blank).mean() < 1.0
    middle = painted(document, LENGTH // 2)
    assert (middle != blank).mean() > 0.005
    # Nothing of it is cut off by the frame but bands that run across it.
    edges = np.concatenate([middle[0], middle[-1]])
    assert (edges != blank[0, 0]).mean() < 0.02
    assert dump_document(document)


WORDS = st.text(st.characters(codec="utf-8"), max_size=20)


@given(
    WORDS, st.sampled_from([i for i, _ in LETTERED]), st.sampled_from(["letter", "word", "line", "all"]), st.floats(0, 1), st.floats(0, 1), st.floats(0.004, 1.0),
    st.fixed_dictionaries({"tip": st.floats(-180, 180), "swing": st.floats(-180, 180), "z": st.floats(-5, 3), "size": st.floats(0.01, 20)}),
    st.sampled_from(["none", "whole", "lines", "band"]),
)  # fmt: skip
@example("Ridge", "draw-together", "letter", 0.5, 0.42051389776385595, 0.5, {"tip": -164.3618373255913, "swing": 139.15331866870594, "z": -4.57548186943411, "size": 20.0}, "none")  # fmt: skip
@settings(max_examples=40)
def test_any_text_in_any_style_at_any_time_is_painted(
    words: str, move: str, unit: str, overlap: float, share: float, size: float, placed: dict[str, float], panel: str
) -> None:
    slot = "entrance" if dict(LETTERED)[move].kind == "entrance" else "move"
    document = made(
        {"edit": "use_move", "to": [TEXT], "slot": slot, "move": move, "use": {"spread": {"unit": unit, "overlap": overlap}}},
        {"edit": "set_layers", "layers": [TEXT], "setting": {"size": size}, "placement": placed, "ink": {"outline": 0.1, "glow": 0.5, "fill": "linear"}, "panel": {"kind": panel}},
        words=words,
    )
    assert painted(document, round(LENGTH * share)).shape == (90, 160, 4)


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        ({"edit": "set_text", "texts": [TEXT], "text": "x" * 100_000}, "edit.value"),
        ({"edit": "set_text", "texts": [TEXT], "text": "a\ud800b"}, "edit.value"),
        ({"edit": "set_layers", "layers": [TEXT], "setting": {"size": 0}}, "edit.value"),
        ({"edit": "set_layers", "layers": [TEXT], "setting": {"family": "no such/../family"}}, "edit.value"),
        ({"edit": "set_letters", "text": TEXT, "start": 0, "stop": 3, "weight": 5000}, "edit.value"),
        ({"edit": "set_text", "texts": [{"scene": "s", "layer": "photo"}], "text": "x"}, "edit.no_text"),
        ({"edit": "use_move", "to": [{"scene": "s", "layer": "photo"}], "slot": "entrance", "move": "dawn"}, "edit.kind"),
        ({"edit": "add_title", "scene": "s", "id": "g", "title": "nothing"}, "edit.no_title"),
        ({"edit": "set_details", "own": {"a": {"name": "x{y"}}}, "edit.value"),
    ],
)
def test_what_cannot_be_is_refused_with_a_reason(edit: dict[str, Any], code: str) -> None:
    document = made()
    with pytest.raises(OakError) as refused:
        apply_edits(document, parse_edits([edit]))
    assert refused.value.code == code and isinstance(refused.value, InvalidEdit | OakError)


def test_odd_characters_boxes_of_no_width_and_extremes_are_painted() -> None:
    for words in ("\u202e\u2067\x00\x07\u200b\u200d\ufeff", "\u200b" * 40, "\n\n\n", "a\u0301\u0302\u0303\u0304" * 9, "\U000e0041x"):
        painted(made(words=words), 0)
    for setting in ({"wrap": "box", "box_width": 0, "box_height": 0}, {"wrap": "shrink", "box_width": 0.001}, {"size": 1.0, "letter_spacing": 3.0}, {"size": 0.004, "line_spacing": 0.5}):
        painted(made({"edit": "set_layers", "layers": [TEXT], "setting": setting}), 0)
