"""What a document names must be there; groups never hold themselves; looks and defaults are followed in their order."""

from typing import Any

import pytest

from oak_lens.core.document import (
    Document,
    dump_document,
    parse_document,
    resolved_backdrop,
    resolved_correction,
    resolved_mount,
    resolved_shadow,
)
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidDocument
from tests.conftest import made_document


def grouped() -> dict[str, Any]:
    """A document with a group in a scene and a shared group, as plain data."""
    document = apply_edits(
        made_document(),
        parse_edits(
            [
                {"edit": "add_photos", "scene": "s-wide", "photos": [{"id": "a", "media": "tall"}, {"id": "b", "media": "square"}]},
                {"edit": "group_layers", "id": "g", "layers": [{"scene": "s-wide", "layer": "a"}]},
                {"edit": "group_layers", "id": "h", "layers": [{"scene": "s-wide", "layer": "b"}]},
                {"edit": "share_group", "scene": "s-wide", "layer": "h", "id": "shared"},
                {"edit": "use_look", "look": "slate", "photos": [{"scene": "s-tall", "layer": "photo"}]},
            ]
        ),
    )
    return dump_document(document)


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        (("scenes", "s-wide", "layers", "a", "media"), "gone", "layers.a.media a picture is named"),
        (("scenes", "s-wide", "layers", "a", "parent"), "gone", "parent must stand a group of the same scene"),
        (("scenes", "s-wide", "layers", "g", "parent"), "g", "does not hold itself"),
        (("scenes", "s-wide", "layers", "a", "parent"), "h", "parent must stand a group of the same scene"),
        (("scenes", "s-wide", "layers", "h", "shared"), "gone", "a shared group is named"),
        (("scenes", "s-tall", "layers", "photo", "look"), "gone", "a look is named"),
        (("defaults", "look"), "gone", "At defaults.look a look is named"),
        (("defaults", "backdrop", "media"), "gone", "At defaults.backdrop.media a picture"),
        (("looks", "slate", "backdrop", "media"), "gone", "At looks.slate.backdrop.media a picture"),
        (("scenes", "s-tall", "backdrop"), {"kind": "picture", "media": "gone"}, "At scenes.s-tall.backdrop.media a picture"),
    ],
)
def test_what_is_named_but_not_there_is_refused_with_its_place(path: tuple[str, ...], value: Any, words: str) -> None:
    data = grouped()
    at = data
    for step in path[:-1]:
        at = at[step]
    at[path[-1]] = value
    with pytest.raises(InvalidDocument, match=words):
        parse_document(data)


def test_shared_groups_that_hold_each_other_are_refused() -> None:
    data = grouped()
    inner = {"kind": "group", "order": "V", "shared": "shared"}
    data["groups"]["other"] = {"name": "Other", "layers": {"x": inner}}
    parse_document(data)
    data["groups"]["shared"]["layers"]["y"] = {**inner, "shared": "other"}
    with pytest.raises(InvalidDocument, match="holds itself"):
        parse_document(data)


@pytest.mark.parametrize(
    ("record", "wrong"),
    [
        ({"kind": "clip"}, "A clip states its times"),
        ({"clip": {"length": 10, "frames": 1}}, "A clip states its times"),
        ({"crop": {"x": 0.6, "width": 0.6}}, "The rectangle reaches beyond the picture"),
        ({"kind": "clip", "clip": {"length": 10, "frames": 1, "start": 9, "end": 3}}, "A clip is trimmed to a part of itself"),
        ({"turned": 4}, "less than or equal to 3"),
        ({"straighten": 90}, "less than or equal to 45"),
    ],
)
def test_impossible_pictures_are_refused(record: dict[str, Any], wrong: str) -> None:
    data = grouped()
    data["media"]["wide"] |= record
    with pytest.raises(InvalidDocument, match=wrong):
        parse_document(data)


def test_own_values_come_before_the_looks_and_the_looks_before_the_defaults() -> None:
    ref = [{"scene": "s-wide", "layer": "photo"}]

    def borders(*edits: dict[str, Any]) -> tuple[float, str]:
        document: Document = apply_edits(made_document(), parse_edits([{"edit": "set_defaults", "mount": {"border": 0.011}}, *edits]))
        scene = document.scenes["s-wide"]
        layer = scene.layers["photo"]
        assert resolved_shadow(document, layer) and resolved_correction(document, layer)  # type: ignore[arg-type]
        return resolved_mount(document, layer).border, resolved_backdrop(document, scene).kind  # type: ignore[arg-type]

    default_look = {"edit": "default_look", "look": "gallery"}
    look = {"edit": "use_look", "look": "newsprint", "photos": ref}
    own = {"edit": "set_layers", "layers": ref, "mount": {"border": 0.07}}
    assert borders() == (0.011, "blur")
    assert borders(default_look) == (0.016, "surface")
    assert borders(default_look, look) == (0.01, "colour")
    assert borders(default_look, look, own) == (0.07, "colour")
    assert borders(default_look, look, own, {"edit": "set_layers", "layers": ref, "mount": None}) == (0.01, "colour")
    assert borders(default_look, look, {"edit": "set_layers", "layers": ref, "look": None}) == (0.016, "surface")
