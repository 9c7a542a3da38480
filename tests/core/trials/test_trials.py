"""Trials: every shipped template stands all of them; what is wrong with a template is found and told."""

from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document, dump_document, parse_document
from oak_lens.core.draw import Picture
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import scene_at, timeline_of
from oak_lens.core.paint import Painter, level_size
from oak_lens.core.templates import extracted
from oak_lens.core.treatments import BUILTIN as TEMPLATES
from oak_lens.core.trials import BUILTIN, PICTURES, TRIALS, TrialPictures, examined, tried
from tests.conftest import Pictures, made_document, picture

STAND_IN = Pictures(any=picture(150, 100))


@pytest.mark.parametrize("shipped", TEMPLATES, ids=lambda s: s.id)
def test_every_shipped_template_stands_every_trial(shipped: Any) -> None:
    for trial in (TRIALS[name] for name in ("usual", "edge", "none", "word", "upright", "square")):
        document = tried(shipped.content, trial)
        assert parse_document(dump_document(document)) == document
        kinds = {f.kind for f in examined(shipped.content, trial, document)}
        # On usual pictures nothing is wrong, but where the camera comes very near; words that cannot be broken are shrunk.
        assert trial.id != "usual" or kinds <= {"soft"}, kinds
        assert not kinds & {"left_over", "overflows", "unreadable"}, (trial.id, kinds)
        assert trial.frame is None or not kinds & {"covered", "beyond"}, (trial.id, kinds)


def test_trials_are_painted_and_differ() -> None:
    painter = Painter(TrialPictures(STAND_IN))
    content = next(t for t in TEMPLATES if t.id == "quiet-frame").content
    seen = set()
    for trial in (t for t in BUILTIN if t.id != "sixty"):
        document = tried(content, trial)
        span = timeline_of(document).spans[0]
        pixels = painter.paint(scene_at(document, span.scene, span.own_length // 2, span.own_length), 96, round(96 / document.frame.aspect))
        assert (pixels[..., 3] == 255).all()
        seen.add(pixels.tobytes())
    assert len(seen) >= 10
    source = TrialPictures(STAND_IN)
    for p in PICTURES:
        shown = Picture(p.key, p.width, p.height, False, 0)
        width, height = level_size(p.width, p.height, 3)
        assert source.size(shown) == (p.width, p.height) and source.level(shown, 3).shape[:2] == (height, width)
    assert source.size(Picture("other", 0, 0, False, 0)) == (150, 100)


def made(*edits: dict[str, Any]) -> Document:
    return apply_edits(made_document(), parse_edits([*edits, {"edit": "make_template", "id": "mine", "name": "Mine", "scenes": ["s-wide"]}]))


def found(document: Document, trial: str) -> dict[str, str]:
    content = extracted(document, "mine", "mine")
    return {f.kind: f.message for f in examined(content, TRIALS[trial], tried(content, TRIALS[trial]))}


def test_what_is_wrong_with_a_template_is_found() -> None:
    photo = {"scene": "s-wide", "layer": "photo"}
    close = made({"edit": "set_views", "photos": [photo], "opening": {"zoom": 3.0, "x": -0.3, "y": -0.3}})
    assert "Very tall" in found(close, "tall")["cut"]
    assert "soft" in found(close, "tiny") and "empty" in found(close, "none")
    small = made({"edit": "add_text", "scene": "s-wide", "id": "t", "text": "Notes"}, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "t"}], "setting": {"size": 0.012}})
    assert "too small" in found(small, "usual")["unreadable"]
    boxed = made({"edit": "add_text", "scene": "s-wide", "id": "t", "text": "Notes"},
                 {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "t"}], "setting": {"size": 0.1, "wrap": "box", "box_width": 0.3, "box_height": 0.2}})  # fmt: skip
    assert "overflows" in found(boxed, "long") and "overflows" not in found(boxed, "empty-words")
    beside = made({"edit": "add_photos", "scene": "s-wide", "photos": [{"id": "p", "media": "tall"}]}, {"edit": "add_text", "scene": "s-wide", "id": "t", "text": "Notes", "x": 0.1},
                  {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "p"}], "placement": {"x": -0.25, "size": 0.6}},
                  {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "t"}], "setting": {"size": 0.09, "across": "middle"}})  # fmt: skip
    assert "reaches out" in found(beside, "long")["beyond"] and "lies over a picture" in found(beside, "long")["covered"]
    assert not found(beside, "upright").keys() & {"covered", "beyond"}, "what stands in it is made smaller as one"
    once = apply_edits(close, parse_edits([{"edit": "set_template", "id": "mine", "kind": "opening"}]))
    assert "59 of 60 pictures go nowhere." in found(once, "sixty").values()
    assert np.isfinite(len(found(close, "square")))
