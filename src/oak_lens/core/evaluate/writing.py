"""A text while it is written: as it stands when nothing moves it, and where its letters are, for a caret to stand between them."""

from dataclasses import dataclass

import numpy as np

from ..document import Document, Layer, TextLayer, filled
from ..draw import Lettering, Numbers9, homography_of
from ..letters import lay_out
from ..space import scaled
from .lettering import text_block
from .staging import Staged
from .timeline import Timeline

Cell = tuple[int, int, int, float, float, int, int]
"""A cluster: characters from and to, line, from and to along it (ems), level, letters that share it evenly."""

Row = tuple[int, int, float, float, float, float, float]
"""A line: characters from and to, base line, above it, below it, where it begins, its length (ems)."""


@dataclass(frozen=True, slots=True)
class WrittenText:
    """`matrix`: ems of the text to fractions of the frame. `column`: whether its lines run down. `missing`: letters that no face has;
    `stood_in`: that another face than the chosen one has."""

    container: str
    layer: str
    matrix: Numbers9
    rows: list[Row]
    cells: list[Cell]
    column: bool
    missing: str
    stood_in: str
    shrunk: float


def as_written(document: Document, container: str, layer_id: str) -> Document:
    """The document in which a text stands as it is written: settled, seen, its details as they are named."""
    for table in ("scenes", "groups"):
        records = getattr(document, table)
        record = records.get(container)
        layer = None if record is None else record.layers.get(layer_id)
        if not isinstance(layer, TextLayer):
            continue
        lanes = {name: lane for name, lane in layer.animation.items() if not name.startswith(("letters.", "layer."))}
        shown = layer.model_copy(
            update={"entrance": None, "exit": None, "move": None, "hidden": False, "filled": False, "animation": lanes, "opacity": max(layer.opacity, 0.5)}
        )
        layers: dict[str, Layer] = {**record.layers, layer_id: shown}
        layers |= {k: _seen(v) for k, v in layers.items() if k in _above(layers, layer_id)}
        return document.model_copy(update={table: {**records, container: record.model_copy(update={"layers": layers})}})
    return document


def _above(layers: dict[str, Layer], layer_id: str) -> set[str]:
    found: set[str] = set()
    at = layers[layer_id].parent
    while at is not None and at in layers and at not in found:
        found.add(at)
        at = layers[at].parent
    return found


def _seen(group: Layer) -> Layer:
    return group.model_copy(update={"entrance": None, "exit": None, "move": None, "hidden": False})


def written_text(stage: Staged, container: str, layer_id: str) -> WrittenText | None:
    """Where the letters of a text are; None if it is not there, or seen from its edge."""
    placed = stage.find(container, layer_id)
    if placed is None or placed.standing is None or not isinstance(placed.standing.content, Lettering):
        return None
    content, aspect = placed.standing.content, stage.document.frame.aspect
    if abs(np.linalg.det(placed.frame_from_plane)) < 1e-12:
        return None
    to_fractions = np.array(((1.0 / aspect, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, 0.0, 1.0)))
    em = scaled(content.size)[np.ix_((0, 1, 3), (0, 1, 3))]
    layout = lay_out(content.block)
    return WrittenText(
        container,
        layer_id,
        homography_of(to_fractions @ placed.frame_from_plane @ em),
        [(n.start, n.stop, n.baseline, n.ascent, n.descent, n.left, n.width) for n in layout.lines],
        [(c.start, c.stop, c.line, c.x0, c.x1, c.level, c.letters) for c in layout.clusters],
        layout.vertical,
        layout.missing,
        layout.stood_in,
        layout.scale,
    )


@dataclass(frozen=True, slots=True)
class TextFinding:
    """What is worth knowing of a text: details that are not there or have nothing in them, letters that no face has, letters that another face
    than the chosen one has, whether it does not fit its box."""

    scene: str
    layer: str
    unknown: tuple[str, ...]
    empty: tuple[str, ...]
    missing: str
    stood_in: str
    overflows: bool


def text_findings(document: Document, timeline: Timeline, scene_ids: frozenset[str] | None = None) -> list[TextFinding]:
    """Findings for the texts of the scenes named (all by default)."""
    found = []
    for span in timeline.spans:
        if scene_ids is not None and span.scene not in scene_ids:
            continue
        for layer_id, layer in document.scenes[span.scene].layers.items():
            if not isinstance(layer, TextLayer):
                continue
            shown = filled(document, layer, span.scene)
            layout = lay_out(text_block(document, layer, span.scene)[0])
            finding = TextFinding(span.scene, layer_id, shown.unknown, shown.empty, layout.missing, layout.stood_in, layout.overflows)
            if any((shown.unknown, shown.empty, layout.missing, layout.stood_in, layout.overflows)):
                found.append(finding)
    return found
