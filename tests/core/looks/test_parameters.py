"""Look parameters: what a spec declares holds for validation, inheritance and the picture."""

from typing import Any

import pytest

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edit, parse_edit
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import scene_at
from oak_lens.core.looks import LOOK_PARTS, ParameterSpec, parameters_of
from oak_lens.core.time import ticks
from tests.conftest import made_document

ALL = [(part, spec) for part, _, model in LOOK_PARTS for spec in parameters_of(model)]
NAMES = [f"{part}.{spec.id}" for part, spec in ALL]
START = made_document()
REF = [{"scene": "s-tall", "layer": "photo"}]


def other_value(spec: ParameterSpec) -> Any:
    """A valid value that is not the default."""
    if spec.kind == "number":
        assert spec.minimum is not None and spec.maximum is not None
        middle = (spec.minimum + spec.maximum) / 2
        return middle if abs(middle - spec.default) > 1e-6 else spec.maximum
    return {"colour": "#123456", "choice": next((v for v, _ in spec.choices if v != spec.default), None), "switch": not spec.default}[
        spec.kind
    ]


def needed(part: str, spec: ParameterSpec) -> dict[str, Any]:
    """The value with what must stand for it to matter."""
    return {**({spec.when[0]: spec.when[1]} if spec.when else {}), spec.id: other_value(spec)}


def drawn(document: Document, scene: str = "s-tall") -> Any:
    return scene_at(document, scene, ticks(1), ticks(4))


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_every_parameter_changes_what_is_drawn(part: str, spec: ParameterSpec) -> None:
    base = {spec.when[0]: spec.when[1]} if spec.when else {}
    before = apply_edit(START, parse_edit({"edit": "set_defaults", part: base}))
    after = apply_edit(START, parse_edit({"edit": "set_defaults", part: needed(part, spec)}))
    assert drawn(before) != drawn(after)


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_a_default_reaches_what_has_no_value_of_its_own_and_nothing_else(part: str, spec: ParameterSpec) -> None:
    own: dict[str, Any] = (
        {"edit": "set_scenes", "ids": ["s-tall"], part: {}} if part == "backdrop" else {"edit": "set_photos", "photos": REF, part: {}}
    )
    fixed = apply_edit(START, parse_edit(own))
    changed = apply_edit(fixed, parse_edit({"edit": "set_defaults", part: needed(part, spec)}))
    assert drawn(changed) == drawn(fixed) and drawn(changed, "s-square") != drawn(fixed, "s-square")
    back = apply_edit(changed, parse_edit({**own, part: None}))
    assert drawn(back) != drawn(changed)


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_values_out_of_range_are_refused_with_their_path(part: str, spec: ParameterSpec) -> None:
    wrong: list[Any] = ["nonsense", None, [1]]
    if spec.kind == "number":
        assert spec.minimum is not None and spec.maximum is not None
        wrong += [spec.minimum - 1, spec.maximum + 1, float("nan"), float("inf")]
    for value in wrong:
        with pytest.raises(InvalidEdit) as caught:
            apply_edit(START, parse_edit({"edit": "set_defaults", part: {spec.id: value}}))
        assert caught.value.faults[0].path == f"defaults.{part}.{spec.id}"


@pytest.mark.parametrize(("part", "spec"), ALL, ids=NAMES)
def test_controls_have_what_they_need(part: str, spec: ParameterSpec) -> None:
    assert spec.label and spec.kind in ("number", "colour", "choice", "switch")
    if spec.kind == "number":
        assert spec.minimum is not None and spec.maximum is not None and spec.step
        assert spec.minimum <= spec.default <= spec.maximum and (spec.maximum - spec.minimum) / (spec.step * spec.scale) >= 10
    if spec.when:
        assert spec.when[0] in {s.id for p, s in ALL if p == part}
