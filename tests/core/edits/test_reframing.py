"""A late change of the frame: what filled it fills it, there and back; what stood in it stands in it; subjects stay in view."""

from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document, Frame, PhotoLayer
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import Placed, bounds_of, staged, timeline_of
from oak_lens.core.framing import fit_of, shown_subject
from oak_lens.core.space import map_points, rectangle_corners

FRAMES = [(1920, 1080), (1080, 1920), (1080, 1080), (1080, 1350), (1440, 1080), (1620, 1080), (2560, 1080)]
PICTURES = {
    "wide": (1920, 1080), "tall": (1080, 1920), "square": (1000, 1000), "portrait": (1080, 1350), "screen": (1440, 1080),
    "film": (1620, 1080), "upright": (1000, 1500), "panorama": (2600, 900), "strip": (600, 1800), "nearly": (1900, 1100),
}  # fmt: skip
SUBJECT = {"x": 0.62, "y": 0.28, "width": 0.2, "height": 0.22}


def edited(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def to(frame: tuple[int, int], **how: Any) -> dict[str, Any]:
    return {"edit": "set_frame", "width": frame[0], "height": frame[1], **how}


def ref(name: str) -> dict[str, str]:
    return {"scene": f"s-{name}", "layer": "photo"}


def film(frame: tuple[int, int], fit: str, subject: dict[str, float] | None, still: bool, border: float) -> Document:
    pictures = [
        {"id": n, "name": n, "file": n, "sha256": f"{i:064x}", "width": w, "height": h, "subject": subject}
        for i, (n, (w, h)) in enumerate(PICTURES.items())
    ]
    view = {"zoom": 1.0, "x": 0.0, "y": 0.0, "turn": 0.0}
    return edited(
        Document(frame=Frame(width=frame[0], height=frame[1])),
        {"edit": "set_defaults", "fit": fit, "mount": {"border": border}},
        {"edit": "add_pictures", "pictures": pictures},
        {"edit": "add_scenes", "scenes": [{"id": f"s-{n}", "media": n} for n in PICTURES]},
        *([{"edit": "set_views", "photos": [ref(n) for n in PICTURES], "opening": view, "closing": view}] if still else []),
    )


_STOOD: list[tuple[Document, dict[tuple[str, float], Placed]]] = []


def standing(document: Document, name: str, share: float) -> Placed:
    """How a photo stands at a share of its scene; of the document asked about last it is worked out once."""
    if not _STOOD or _STOOD[0][0] is not document:
        _STOOD[:] = [(document, {})]
    stood = _STOOD[0][1]
    if (name, share) not in stood:
        stood[name, share] = _standing(document, name, share)
    return stood[name, share]


def _standing(document: Document, name: str, share: float) -> Placed:
    span = timeline_of(document).span_of(f"s-{name}")
    assert span is not None
    return staged(document, f"s-{name}", round(share * span.own_length), span.own_length).layers[0]


def fills(document: Document, name: str) -> bool:
    """Whether the photo covers the frame at every moment looked at."""
    aspect = document.frame.aspect
    for share in (0.0, 0.5, 1.0):
        placed = standing(document, name, share)
        content = placed.standing.content  # type: ignore[union-attr]
        (left, top), _, (right, bottom), _ = map_points(placed.frame_from_plane, rectangle_corners(content.width, content.height))
        if left > -aspect / 2 + 1e-6 or right < aspect / 2 - 1e-6 or top > -0.5 + 1e-6 or bottom < 0.5 - 1e-6:
            return False
    return True


def subject_is_seen(document: Document, name: str, share: float) -> bool:
    placed, box = standing(document, name, share), shown_subject(document.media[name])
    assert box is not None
    content = placed.standing.content  # type: ignore[union-attr]
    corners = (np.array(((box[0], box[1]), (box[2], box[3]))) - 0.5) * (content.width, content.height)
    (left, top), (right, bottom) = map_points(placed.frame_from_plane, corners)
    half = document.frame.aspect / 2
    return bool(left >= -half - 2e-3 and right <= half + 2e-3 and top >= -0.502 and bottom <= 0.502)


@pytest.mark.parametrize("start", FRAMES, ids=str)
@pytest.mark.parametrize(
    ("fit", "border", "still"), [("fill", 0.018, True), ("auto", 0.018, False), ("auto", 0.0, True), ("free", 0.0, True)]
)
def test_every_photo_that_filled_fills_in_every_later_shape_there_and_back(
    start: tuple[int, int], fit: str, border: float, still: bool
) -> None:
    document = film(start, fit, SUBJECT, still, border)
    filled = {n for n in PICTURES if fills(document, n)}
    seen = {(n, share) for n in PICTURES for share in (0.0, 1.0) if subject_is_seen(document, n, share)}
    # A subject this small fits into every cut but that of the longest pictures.
    assert filled >= (set(PICTURES) if fit == "fill" else set())
    for frame in FRAMES:
        there = edited(document, to(frame))
        back = edited(there, to(start))
        for where, found in ((frame, there), (start, back)):
            for name in filled:
                layer = found.scenes[f"s-{name}"].layers["photo"]
                assert isinstance(layer, PhotoLayer)
                whole = fit == "auto" and fit_of(found, layer) == "whole"
                assert fills(found, name) or (whole and not could_be_shown(found, name)), (where, name)
            gone = {(n, share) for n, share in seen if not subject_is_seen(found, n, share)}
            assert not {(n, s) for n, s in gone if n in filled and could_be_shown(found, n)}, (where, gone)


def could_be_shown(document: Document, name: str) -> bool:
    """Whether the subject fits into a view that fills the frame."""
    frame, picture, subject = document.frame.aspect, document.media[name].aspect, SUBJECT
    across, down = min(1.0, frame / picture), min(1.0, picture / frame)
    return subject["width"] <= across and subject["height"] <= down


def test_the_fit_is_found_anew_where_that_is_asked_for() -> None:
    document = film((1920, 1080), "auto", None, False, 0.018)
    keeps, anew = (edited(document, to((1080, 1920), filling=how)).scenes["s-film"].layers["photo"] for how in ("keep", "anew"))
    assert (keeps.fit, anew.fit) == ("fill", None)  # type: ignore[union-attr]


@pytest.mark.parametrize("frame", FRAMES, ids=str)
def test_what_stood_free_in_the_frame_stands_in_it_and_is_not_cut_by_a_hair(frame: tuple[int, int]) -> None:
    document = film((1920, 1080), "auto", None, True, 0.018)
    places = {"wide": (0.25, 0.2, 0.45), "tall": (-0.3, 0.0, 0.9), "square": (0.0, 0.0, 0.7), "panorama": (0.0, -0.2, 0.7)}
    for name, (x, y, size) in places.items():
        document = edited(
            document, {"edit": "set_layers", "layers": [ref(name)], "window": {}, "placement": {"x": x, "y": y, "size": size, "turn": 3}}
        )
    after = edited(document, to(frame))
    aspect = after.frame.aspect
    for name in places:
        left, top, right, bottom = bounds_of(standing(after, name, 0.5))
        assert left >= -aspect / 2 - 1e-6 and right <= aspect / 2 + 1e-6 and top >= -0.5 - 1e-6 and bottom <= 0.5 + 1e-6, name
        assert min(right - left, bottom - top) > 0.15 * min(aspect, 1.0), name


def test_a_window_or_sheet_that_covers_the_frame_goes_on_covering_it() -> None:
    document = film((1080, 1080), "auto", None, True, 0.0)
    document = edited(
        document,
        {"edit": "set_layers", "layers": [ref("square")], "window": {}},
        {"edit": "add_shape", "scene": "s-film", "id": "paper", "form": {"outline": "sheet"}},
    )
    for frame in FRAMES:
        after = edited(document, to(frame))
        assert fills(after, "square")
        sheet = after.scenes["s-film"].layers["paper"].placement
        assert (sheet.x, sheet.y, sheet.size) == (0.0, 0.0, 1.0)
