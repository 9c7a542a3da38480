"""Look parameters: what a spec declares holds for validation, inheritance and the picture."""

from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edit, apply_edits, parse_edit, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import scene_at
from oak_lens.core.looks import LOOK_PARTS, ParameterSpec, parameters_of
from oak_lens.core.looks.colours import rgb_of
from oak_lens.core.looks.parameters import channels_of
from oak_lens.core.paint import Painter
from oak_lens.core.time import ticks
from tests.conftest import Pictures, made_document

ALL = [(part, spec) for part, _, model in LOOK_PARTS for spec in parameters_of(model)]
NAMES = [f"{part}.{spec.id}" for part, spec in ALL]
START = made_document()
REF = [{"scene": "s-tall", "layer": "photo"}]


def other_value(spec: ParameterSpec) -> Any:
    """A valid value that is not the default."""
    if spec.kind == "number":
        assert spec.minimum is not None and spec.maximum is not None
        middle = (spec.minimum + spec.maximum) / 2
        whole = isinstance(spec.default, int)
        return (round(middle) if whole else middle) if abs(middle - spec.default) > 1e-6 else spec.maximum
    other = next((v for v, _ in reversed(spec.choices) if v != spec.default), None)
    return {"colour": "#123456", "choice": other, "switch": not spec.default, "picture": "wide"}[spec.kind]


SHOWING: dict[str, dict[str, Any]] = {
    "mount": {"border": 0.03, "mat": 0.02, "foot": 0.08},
    "shadow": {"distance": 0.06, "softness": 0.015},
    "backdrop": {"media": "square"},
    "correction": {"grain": 0.8},
    "vignette_reach": {"vignette": 0.8},
    "surface_scale": {"kind": "surface"},
    "tint": {"tint_amount": 0.8},
}
"""What else must stand for the parameters of a part (or for one of them) to be seen."""


def needed(part: str, spec: ParameterSpec) -> dict[str, Any]:
    """The values under which a parameter matters."""
    found = {**SHOWING.get(part, {}), **SHOWING.get(spec.id, {})}
    specs = {s.id: s for p, s in ALL if p == part}
    at: ParameterSpec | None = spec
    while at is not None and at.when is not None:
        found[at.when[0]] = at.when[1][0]
        at = specs.get(at.when[0])
    return found


def drawn(document: Document, scene: str = "s-tall") -> Any:
    return scene_at(document, scene, ticks(1), ticks(4))


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_every_parameter_is_seen_in_the_picture(part: str, spec: ParameterSpec, source: Pictures) -> None:
    base = needed(part, spec)
    # The bar of SHOWING may be the very parameter: then its other value is set against the default.
    frames = []
    for values in ({**base, **({} if spec.id not in base else {spec.id: spec.default})}, {**base, spec.id: other_value(spec)}):
        edits = [
            {"edit": "set_layers", "layers": REF, "window": {}, "caption": "Frost", "placement": {"size": 0.7, "turn": 4}},
            {"edit": "set_defaults", part: values},
        ]
        if part == "correction" or (part, spec.id) == ("mount", "paper_strength"):
            edits.append({"edit": "set_layers", "layers": REF, "placement": {"size": 1.3, "turn": 0}})
        frames.append(Painter(source).paint(drawn(apply_edits(START, parse_edits(edits))), 320, 180).astype(int))
    assert np.abs(frames[0] - frames[1]).max() >= 2


KEYED = [(part, spec) for part, spec in ALL if spec.animated]


@pytest.mark.parametrize(("part", "spec"), KEYED, ids=[f"{part}.{spec.id}" for part, spec in KEYED])
def test_what_keyframes_make_of_a_value_looks_as_if_it_had_been_set(part: str, spec: ParameterSpec) -> None:
    on_scene = part == "backdrop"
    other = other_value(spec)

    def having(value: Any) -> Document:
        values = {**needed(part, spec), spec.id: value}
        edit = {"edit": "set_scenes", "ids": ["s-tall"]} if on_scene else {"edit": "set_layers", "layers": REF, "window": {}, "caption": "Frost"}
        return apply_edits(START, parse_edits([{**edit, part: values}]))

    numbers = dict(zip(channels_of(spec), rgb_of(other), strict=True)) if spec.kind == "colour" else {spec: other}
    keyed = having(spec.default)
    for number, value in numbers.items():
        lane = {"scene": "s-tall", "layer": None if on_scene else "photo", "property": f"{part}.{number.id}"}
        keyed = apply_edits(keyed, parse_edits([
            {"edit": "add_keys", "lanes": [lane], "at": 0},
            {"edit": "set_keys", "keys": [{**lane, "key": "k1"}], "value": value},
        ]))  # fmt: skip
    plain, wanted = having(spec.default), having(other)
    assert repr(drawn(keyed)) == repr(drawn(wanted)) != repr(drawn(plain))


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_a_default_reaches_what_has_no_value_of_its_own_and_nothing_else(part: str, spec: ParameterSpec) -> None:
    own: dict[str, Any] = (
        {"edit": "set_scenes", "ids": ["s-tall"], part: {}} if part == "backdrop" else {"edit": "set_layers", "layers": REF, part: {}}
    )
    fixed = apply_edit(START, parse_edit(own))
    changed = apply_edit(fixed, parse_edit({"edit": "set_defaults", part: {**needed(part, spec), spec.id: other_value(spec)}}))
    assert drawn(changed) == drawn(fixed) and drawn(changed, "s-square") != drawn(fixed, "s-square")
    back = apply_edit(changed, parse_edit({**own, part: None}))
    assert drawn(back) != drawn(changed)


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_values_out_of_range_are_refused_with_their_path(part: str, spec: ParameterSpec) -> None:
    wrong: list[Any] = ["nonsense?", [1]] + ([] if spec.kind == "picture" else [None])
    if spec.kind == "number":
        assert spec.minimum is not None and spec.maximum is not None
        wrong += [spec.minimum - 1, spec.maximum + 1, float("nan"), float("inf")]
    for value in wrong:
        with pytest.raises(InvalidEdit) as caught:
            apply_edit(START, parse_edit({"edit": "set_defaults", part: {spec.id: value}}))
        assert caught.value.faults[0].path == f"defaults.{part}.{spec.id}"


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_controls_have_what_they_need(part: str, spec: ParameterSpec) -> None:
    assert spec.label and spec.kind in ("number", "colour", "choice", "switch", "picture")
    if spec.kind == "number":
        assert spec.minimum is not None and spec.maximum is not None and spec.step
        assert spec.minimum <= spec.default <= spec.maximum and (spec.maximum - spec.minimum) / (spec.step * spec.scale) >= 10
    if spec.when:
        assert spec.when[0] in {s.id for p, s in ALL if p == part}
