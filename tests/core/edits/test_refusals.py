"""What an edit cannot do is said by a code and a sentence, and nothing has changed."""

from typing import Any

import pytest

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.time import ticks
from tests.conftest import made_document

from .test_timing import SONG

WIDE = {"scene": "s-wide", "layer": "photo"}
TALL = {"scene": "s-tall", "layer": "photo"}
SHAPE = {"scene": "s-wide", "layer": "drawn"}
GROUP = {"scene": "s-wide", "layer": "both"}
SILENT = {k: v for k, v in SONG.items() if k != "beats"}


def changed(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


FILM = changed(
    made_document(),
    {"edit": "add_shape", "scene": "s-wide", "id": "drawn"},
    {"edit": "group_layers", "layers": [WIDE, SHAPE], "id": "both"},
)
WITH_MUSIC = changed(FILM, {"edit": "add_sounds", "sounds": [{"id": "m", **SONG}, {"id": "quiet", **SILENT}]})
EMPTY = changed(FILM, {"edit": "remove_scenes", "ids": list(FILM.scenes)})
MOVING = changed(FILM, {"edit": "use_move", "to": [GROUP], "move": "drift"})
TURNED = changed(FILM, {"edit": "set_layers", "layers": [GROUP], "placement": {"swing": 20}})


@pytest.mark.parametrize(
    ("document", "edit", "code"),
    [
        (MOVING, {"edit": "ungroup_layers", "layers": [GROUP]}, "edit.animated"),
        (TURNED, {"edit": "ungroup_layers", "layers": [GROUP]}, "edit.animated"),
        (FILM, {"edit": "move_boundary", "scene": next(iter(FILM.scenes)), "to": ticks(1)}, "edit.boundary"),
        (WITH_MUSIC, {"edit": "change_beats", "sound": "m", "how": "remove", "at": ticks(39.9)}, "edit.no_beat"),
        (FILM, {"edit": "cut_on_beats"}, "edit.no_beats"),
        (FILM, {"edit": "add_group", "scene": "s-wide", "layer": "g", "shared": "gone"}, "edit.no_group"),
        (FILM, {"edit": "vary_joins", "ids": ["s-tall"], "kinds": ["teleport"]}, "edit.no_join"),
        (FILM, {"edit": "apply_layout", "scenes": ["s-wide"], "layout": {"kind": "spiral"}}, "edit.no_layout"),
        (FILM, {"edit": "fit_film"}, "edit.no_music"),
        (FILM, {"edit": "fit_music"}, "edit.no_music"),
        (FILM, {"edit": "set_views", "photos": [SHAPE], "opening": {"zoom": 1}}, "edit.no_photo"),
        (FILM, {"edit": "add_keys", "lanes": [{**SHAPE, "property": "view"}], "at": 0}, "edit.no_photo"),
        (EMPTY, {"edit": "fit_film", "length": ticks(9)}, "edit.no_scenes"),
        (WITH_MUSIC, {"edit": "set_songs", "ids": ["gone"], "song": {"gain": 3}}, "edit.no_song"),
        (WITH_MUSIC, {"edit": "change_beats", "sound": "gone", "how": "half"}, "edit.no_sound"),
        (FILM, {"edit": "drag_layer", **WIDE, "handle": "edge1", "start": [0, 0], "end": [0.1, 0], "at": 0}, "edit.no_window"),
        (FILM, {"edit": "group_layers", "layers": [WIDE, TALL], "id": "over"}, "edit.two_scenes"),
        (FILM, {"edit": "add_keys", "lanes": [{**WIDE, "property": "mount.colour"}], "at": 0}, "edit.no_property"),
        (FILM, {"edit": "add_keys", "lanes": [{"scene": "s-wide", "layer": None, "property": "light.colour_red"}], "at": 0}, "edit.kind"),
    ],
    ids=lambda value: value["edit"] if isinstance(value, dict) else None,
)
def test_what_cannot_be_done_says_so_and_changes_nothing(document: Document, edit: dict[str, Any], code: str) -> None:
    before = document.model_dump_json()
    with pytest.raises(InvalidEdit) as refused:
        changed(document, edit)
    (fault,) = refused.value.faults
    assert fault.code == code and fault.message[0].isupper() and fault.message.endswith(".") and len(fault.message) > 20
    assert document.model_dump_json() == before
