"""The contact sheet's edits: put in order, removed, replaced, trimmed."""

from typing import Any

import pytest

from oak_lens.core.document import Document, in_order
from oak_lens.core.edits import apply_edits, parse_edits, picture_records
from oak_lens.core.errors import InvalidEdit
from tests.conftest import SHAPES, made_document


def edited(*edits: dict[str, Any]) -> Document:
    return apply_edits(made_document(), parse_edits(list(edits)))


def order(document: Document) -> list[str]:
    return [k for k, _ in in_order(document.media)]


def test_reversed_twice_is_as_it_was() -> None:
    reverse = {"edit": "arrange_pictures", "how": "reverse"}
    assert order(edited(reverse)) == list(SHAPES)[::-1] and order(edited(reverse, reverse)) == list(SHAPES)


def test_a_shuffle_is_repeated_by_its_seed_whatever_the_order_before() -> None:
    def shuffled(seed: int, *before: dict[str, Any]) -> list[str]:
        return order(edited(*before, {"edit": "arrange_pictures", "how": "shuffle", "seed": seed}))

    assert shuffled(3) == shuffled(3, {"edit": "arrange_pictures", "how": "reverse"}) and sorted(shuffled(3)) == sorted(SHAPES)
    assert len({tuple(shuffled(seed)) for seed in range(8)}) > 4


def test_shapes_are_sorted_as_they_are_shown() -> None:
    turned = edited({"edit": "turn_pictures", "ids": ["panorama"], "quarters": 1}, {"edit": "sort_pictures", "by": "shape"})
    assert order(turned)[0] == "panorama" and order(turned)[1] == "tall"


@pytest.mark.parametrize(
    "use",
    [
        [{"edit": "set_scenes", "ids": ["s-tall"], "backdrop": {"kind": "picture", "media": "small"}}],
        [{"edit": "set_defaults", "backdrop": {"kind": "picture", "media": "small"}}],
        [
            {"edit": "add_photos", "scene": "s-tall", "photos": [{"id": "x", "media": "small"}]},
            {"edit": "group_layers", "id": "g", "layers": [{"scene": "s-tall", "layer": "x"}]},
            {"edit": "share_group", "scene": "s-tall", "layer": "g", "id": "shared"},
        ],
    ],
    ids=["a backdrop", "the defaults", "a shared group"],
)
def test_a_picture_that_is_used_elsewhere_is_not_pulled_away(use: list[dict[str, Any]]) -> None:
    with pytest.raises(InvalidEdit) as caught:
        edited(*use, {"edit": "remove_scenes", "ids": ["s-small"]}, {"edit": "remove_pictures", "ids": ["small"], "with_scenes": True})
    assert caught.value.code == "edit.in_use"


def test_a_replaced_file_keeps_name_place_and_correction_and_every_use() -> None:
    record = {
        "id": "any",
        "name": "new",
        "file": "new.png",
        "sha256": "a" * 64,
        "width": 640,
        "height": 640,
        "subject": {"x": 0.1, "y": 0.1, "width": 0.2, "height": 0.2},
    }
    before = edited(
        {
            "edit": "set_pictures",
            "ids": ["wide"],
            "correction": {"exposure": 1},
            "crop": {"x": 0, "y": 0, "width": 0.5, "height": 0.5},
            "straighten": 4,
        }
    )
    after = apply_edits(before, parse_edits([{"edit": "replace_file", "id": "wide", "picture": record}]))
    media = after.media["wide"]
    assert (media.name, media.order, media.correction) == ("wide", before.media["wide"].order, before.media["wide"].correction)
    assert (media.file, media.width, media.crop, media.straighten) == ("new.png", 640, None, 0.0) and media.subject is not None
    assert after.scenes == before.scenes


def test_changes_reach_all_pictures_named_and_nulls_take_away() -> None:
    ids = ["wide", "tall"]
    changed = edited(
        {"edit": "set_pictures", "ids": ids, "correction": {"exposure": 0.5}},
        {"edit": "set_pictures", "ids": ids, "correction": {"contrast": 0.2}},
    )
    assert all((changed.media[k].correction.exposure, changed.media[k].correction.contrast) == (0.5, 0.2) for k in ids)  # type: ignore[union-attr]
    plain = apply_edits(changed, parse_edits([{"edit": "set_pictures", "ids": ids, "correction": None}]))
    assert plain == made_document()


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        ({"edit": "set_pictures", "ids": ["gone"], "straighten": 1}, "edit.no_picture"),
        ({"edit": "set_pictures", "ids": ["wide"], "clip": {"start": 1}}, "edit.kind"),
        ({"edit": "set_pictures", "ids": ["wide"], "correction": {"exposure": 9}}, "edit.value"),
        ({"edit": "set_pictures", "ids": ["wide"], "crop": {"x": 0.5, "width": 0.6}}, "edit.value"),
        ({"edit": "straighten_picture", "id": "wide", "start": [0, float("nan")], "end": [1, 1]}, "edit.value"),
        ({"edit": "turn_pictures", "ids": ["wide"], "quarters": 7}, "edit.value"),
        ({"edit": "trim_pictures", "pictures": [{"id": "gone", "crop": {}}]}, "edit.no_picture"),
    ],
)
def test_what_cannot_be_done_to_a_picture_says_why(edit: dict[str, Any], code: str) -> None:
    with pytest.raises(InvalidEdit) as caught:
        edited(edit)
    assert caught.value.code == code


def test_pictures_survive_as_parameters() -> None:
    document = made_document()
    again = apply_edits(
        Document(), parse_edits([{"edit": "add_pictures", "pictures": [r.model_dump(mode="json") for r in picture_records(document)]}])
    )
    assert {k: m.model_copy(update={"order": "V"}) for k, m in again.media.items()} == {
        k: m.model_copy(update={"order": "V"}) for k, m in document.media.items()
    }
