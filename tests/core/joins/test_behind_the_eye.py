"""Layers that reach behind the camera are valid: every join, outline and picture of them is made of finite numbers, without a warning."""

from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import film_at, layer_geometry, scene_at, staged, timeline_of
from oak_lens.core.joins import BUILTIN
from oak_lens.core.paint import Painter
from tests.conftest import Pictures, made_document

PLACES = [{"z": 1.38}, {"z": 5.0}, {"z": 1.2, "swing": 80}, {"z": 1.0, "tip": -75, "size": 3}, {"z": 1.3, "x": 9.0, "turn": 40, "size": 0.1}]


def behind(**join: Any) -> Document:
    document = made_document()
    first, second = (s.scene for s in timeline_of(document).spans[:2])
    edits: list[dict[str, Any]] = [{"edit": "set_scenes", "ids": [second], "join": join}]
    for scene in (first, second):
        photos = [{"id": f"b{n}", "media": "tall"} for n in range(len(PLACES))]
        edits += [
            {"edit": "add_photos", "scene": scene, "photos": photos},
            {"edit": "set_scenes", "ids": [scene], "shutter": 180, "camera": {"aperture": 0.4}},
            {"edit": "use_move", "to": [{"scene": scene, "layer": "b2"}], "move": "drift"},
            *(
                {"edit": "set_layers", "layers": [{"scene": scene, "layer": f"b{n}"}], "placement": place}
                for n, place in enumerate(PLACES)
            ),
            {"edit": "group_layers", "id": "g", "layers": [{"scene": scene, "layer": "b3"}, {"scene": scene, "layer": "b4"}]},
            {"edit": "set_layers", "layers": [{"scene": scene, "layer": "g"}], "placement": {"z": 0.6, "swing": 60}, "opacity": 0.5},
        ]
    return apply_edits(document, parse_edits(edits))


@pytest.mark.parametrize("kind", [spec.id for spec in BUILTIN if not spec.instant])
def test_every_join_of_scenes_that_reach_behind_the_camera_is_drawn_without_a_warning(kind: str, source: Pictures) -> None:
    document = behind(kind=kind, depth=1.0, length=705_600_000)
    timeline = timeline_of(document)
    span = timeline.spans[1]
    with np.errstate(all="raise", under="ignore"):
        for share in (0.02, 0.5, 0.98):
            drawn = film_at(document, timeline, span.join_start + round(share * (span.hold_start - span.join_start)))
            painted = Painter(source).paint(drawn, 64, 36)
            assert painted.shape == (36, 64, 4)


def test_outlines_of_what_reaches_behind_the_camera_are_made_without_a_warning() -> None:
    document = behind(kind="dissolve")
    with np.errstate(all="raise", under="ignore"):
        for span in timeline_of(document).spans[:2]:
            for at in (0, span.own_length // 2, span.own_length):
                assert scene_at(document, span.scene, at, span.own_length).items
                layer_geometry(staged(document, span.scene, at, span.own_length))
