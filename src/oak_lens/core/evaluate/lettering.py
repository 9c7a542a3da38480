"""Texts as they stand at a moment: what is to be set, and where each letter is that moves by itself."""

from dataclasses import replace
from functools import lru_cache
from itertools import groupby
from math import cos, radians, sin

import numpy as np
from numpy.typing import NDArray

from ..document import Document, TextLayer, filled, resolved_text
from ..draw import REST, Lettering, LetterPart, Numbers9, homography_of
from ..letters import Block, Choice, Cluster, Layout, Run, lay_out
from ..looks import Ink, Setting, offset
from ..moves import Offsets, Unit, add, chance, offsets_within, paced_moment, progress, use_moment
from ..space import Matrix3, Matrix4, plane_homography, scaled, swung, tipped, translated, turned
from .motion import Beyond, Motion, SpreadUse
from .standing import Ground, Moment, Size, Standing, beyond_frame, ground_from_layer

PIVOT_ABOVE = 0.33
"""Ems above its base line that the middle of a letter lies: it turns and grows about that."""

INVISIBLE = 1e-4


def family_key(document: Document, family: str) -> str:
    """What a family's files go by: an own font of the project by its content."""
    font = document.fonts.get(family)
    return family if font is None else f"own-{font.sha256}"


def block_of(document: Document, layer: TextLayer, setting: Setting, container: str | None) -> Block:
    """The text with its details filled in, ready to be set; lengths in sizes."""
    shown, runs, first = filled(document, layer, container), list[Run](), 0
    for part in shown.spans:
        span = part.span
        choice = Choice(
            family_key(document, span.family or setting.family),
            setting.weight if span.weight is None else span.weight,
            setting.italic if span.italic is None else span.italic,
        )
        plain = part.sources == tuple(range(first, first + len(part.text)))
        runs.append(Run(part.text, choice, span.size or 1.0, span.colour, span.underline, first, None if plain else part.sources))
        first += len(span.text)
    if not runs:
        runs.append(Run("", Choice(family_key(document, setting.family), setting.weight, setting.italic)))
    boxed = setting.wrap != "none"
    width = setting.box_width * document.frame.aspect / setting.size if boxed else None
    height = setting.box_height / setting.size if boxed else None
    # Size and box are in `size`, `width` and `height`: what is set is the same for all of them.
    return Block(tuple(runs), _bare(setting), width, height)


@lru_cache(maxsize=512)
def _bare(setting: Setting) -> Setting:
    plain = Setting()
    return setting.model_copy(
        update={name: getattr(plain, name) for name in ("family", "weight", "italic", "size", "box_width", "box_height")}
    )


def text_block(document: Document, layer: TextLayer, container: str | None = None) -> tuple[Block, float]:
    """(block, size in frame heights) of a text at rest."""
    setting = resolved_text(document, layer)[0]
    return block_of(document, layer, setting, container), setting.size


@lru_cache(maxsize=64)
def units_of(layout: Layout, unit: Unit) -> tuple[NDArray[np.int64], tuple[float, ...]]:
    """(unit of each cluster, place -1..1 of each unit along its line), units in reading order. Letters that are joined go with their word."""
    clusters = layout.clusters

    def key(c: int) -> tuple[int, int]:
        cluster = clusters[c]
        if unit == "all":
            return (0, 0)
        if unit == "line":
            return (cluster.line, 0)
        if unit == "word":
            return (cluster.line, cluster.word)
        # Spaces count with the letter before: nobody sees them come.
        return (cluster.line, _letter_of(layout)[c])

    keys = [key(c) for c in range(len(clusters))]
    order = {k: i for i, k in enumerate(sorted(set(keys)))}
    units = np.array([order[k] for k in keys], np.int64)
    places = []
    members: list[list[Cluster]] = [[] for _ in order]
    for cluster, number in zip(clusters, units, strict=True):
        members[number].append(cluster)
    for mine in members:
        line = layout.lines[mine[0].line]
        middle = (min(c.x0 for c in mine) + max(c.x1 for c in mine)) / 2.0
        if unit == "line":
            half = max((len(layout.lines) - 1) / 2.0, 0.5)
            places.append((mine[0].line - (len(layout.lines) - 1) / 2.0) / half)
        else:
            places.append((middle - line.left - line.width / 2.0) / max(line.width / 2.0, 1e-6))
    units.setflags(write=False)
    return units, tuple(places)


@lru_cache(maxsize=64)
def _letter_of(layout: Layout) -> tuple[int, ...]:
    """For each cluster the place, in reading order, of the letter that it moves with: a joined word is one, a space goes with what it follows."""
    in_order = sorted(range(len(layout.clusters)), key=lambda c: (layout.clusters[c].line, layout.clusters[c].at))
    found = [0] * len(in_order)
    letter, before = -1, None
    for c in in_order:
        cluster = layout.clusters[c]
        same = before is not None and (
            cluster.space or (cluster.joined and before.joined and (before.word, before.line) == (cluster.word, cluster.line))
        )
        if not same:
            letter += 1
        found[c] = max(letter, 0)
        if not cluster.space or before is None:
            before = cluster
    return tuple(found)


def letter_parts(
    document: Document, layer: TextLayer, motion: Motion, block: Block, size: float, ink: Ink, frame_from_plane4: Matrix4, beyond: Beyond
) -> tuple[tuple[LetterPart, ...], float]:
    """(what each cluster is as it moves by itself, () if all rest; how much of the panel is there).

    `size`: plane units an em; `frame_from_plane4` (4, 4): the text's plane, as it stands in space, to the frame before projection.
    """
    shared = motion.parts.get("letters", {})
    if not motion.spreads and not any(shared.values()):
        return (), 1.0
    layout, aspect = lay_out(block), document.frame.aspect
    count = len(layout.clusters)
    changes: list[Offsets] = [{f"letters.{name}": value for name, value in shared.items()} for _ in range(count)]
    presence = 1.0
    for passing in motion.spreads:
        presence = min(presence, _spread_into(changes, passing, layout, aspect, beyond))
    if all(_changes_nothing(change) for change in changes):
        return (), 1.0
    per_em = size * layer.placement.size
    boxes = _pivots(layout, motion.spreads[0].spread.unit if motion.spreads else "all")
    from_em = frame_from_plane4 @ scaled(size)
    at_rest = plane_homography(from_em)
    back = np.asarray(np.linalg.inv(at_rest), np.float64) if abs(np.linalg.det(at_rest)) > 1e-12 else None
    parts, known, steps = list[LetterPart](), dict[object, LetterPart](), _steps_from_middle(layout)
    for index, change in enumerate(changes):
        pivot = boxes[index]
        spacing = change.get("letters.spacing", 0.0) * steps[index]
        key = (pivot, spacing, tuple(sorted(change.items())))
        part = known.get(key)
        if part is None:
            part = known[key] = _part(change, pivot, spacing, per_em, aspect, size, ink, from_em, back, layout.vertical)
        parts.append(part)
    return tuple(parts), presence


def _changes_nothing(change: Offsets) -> bool:
    return all(value == (1.0 if name in ("placement.size", "layer.opacity") else 0.0) for name, value in change.items())


def _spread_into(changes: list[Offsets], passing: SpreadUse, layout: Layout, aspect: float, beyond: Beyond) -> float:
    """One move's changes of each cluster added; how much of the text has come, 0..1."""
    use, move, spread = passing.use, passing.move, passing.spread
    local, takes = use_moment(use, move, passing.slot, passing.at, passing.length)
    units, places = units_of(layout, spread.unit)
    shares = progress(spread, places, local / max(takes, 1))
    scatters = {name: chance(spread.seed, len(places), salt + 1) for salt, name in enumerate(move.scattered)}
    found: dict[object, Offsets] = {}
    each = []
    for unit, share in enumerate(shares):
        own = {name: float(values[unit]) for name, values in scatters.items()}
        key = (float(share), tuple(own.values()))
        if key not in found:
            moment = paced_moment(use, passing.slot, round(float(share) * takes), takes)
            found[key] = offsets_within(use, move, moment, takes, aspect, beyond, own)
        each.append(found[key])
    for cluster, unit in enumerate(units):
        for name, value in each[int(unit)].items():
            add(changes[cluster], name, value)
    return 1.0 if passing.slot == "move" else min(float(np.mean(shares)) * 3.0, 1.0) if len(shares) else 1.0


@lru_cache(maxsize=64)
def _pivots(layout: Layout, unit: Unit) -> tuple[tuple[float, float], ...]:
    """The middle of what each cluster moves with, in ems."""
    units, _ = units_of(layout, unit)
    found: list[tuple[float, float]] = [(0.0, 0.0)] * len(layout.clusters)
    by_unit: list[list[int]] = [[] for _ in range(int(units.max(initial=-1)) + 1)]
    for c, number in enumerate(units):
        by_unit[number].append(c)
    for members in by_unit:
        seen = [layout.clusters[c] for c in members if not layout.clusters[c].space] or [layout.clusters[c] for c in members]
        along = (min(c.x0 for c in seen) + max(c.x1 for c in seen)) / 2.0
        across = float(np.mean([layout.lines[c.line].baseline for c in seen]))
        middle = (across, along) if layout.vertical else (along, across - PIVOT_ABOVE * layout.scale)
        for c in members:
            found[c] = middle
    return tuple(found)


@lru_cache(maxsize=64)
def _steps_from_middle(layout: Layout) -> tuple[float, ...]:
    """How many letters each cluster lies from the middle of its line, rightwards."""
    found = [0.0] * len(layout.clusters)
    for _, line in groupby(range(len(layout.clusters)), lambda c: layout.clusters[c].line):
        members = list(line)
        for step, c in enumerate(members):
            found[c] = step - (len(members) - 1) / 2.0
    return tuple(found)


def _part(
    change: Offsets,
    pivot: tuple[float, float],
    spacing: float,
    per_em: float,
    aspect: float,
    size: float,
    ink: Ink,
    from_em: Matrix4,
    back: Matrix3 | None,
    vertical: bool,
) -> LetterPart:
    x, y = change.get("letters.x", 0.0) + spacing, change.get("letters.y", 0.0)
    if vertical:
        x, y = -change.get("letters.y", 0.0), change.get("letters.x", 0.0) + spacing
    x += change.get("placement.x", 0.0) * aspect / per_em
    y += change.get("placement.y", 0.0) / per_em
    z = change.get("placement.z", 0.0) / per_em
    swing, tip, turn = (change.get(f"placement.{name}", 0.0) for name in ("swing", "tip", "turn"))
    grown = max(change.get("placement.size", 1.0), 0.0)
    opacity = min(max(change.get("layer.opacity", 1.0), 0.0), 1.0)
    blur = max(change.get("layer.blur", 0.0), 0.0) / per_em
    own = {name.removeprefix("ink."): value for name, value in change.items() if name.startswith("ink.")}
    colour = offset(ink, own).colour if any(own.values()) else None
    if grown < INVISIBLE or opacity < INVISIBLE:
        return LetterPart(REST, 0.0, blur, colour)
    if not z and not swing and not tip:
        c, s = cos(radians(turn)) * grown, sin(radians(turn)) * grown
        moved: Numbers9 = (
            c, -s, pivot[0] + x - c * pivot[0] + s * pivot[1],
            s, c, pivot[1] + y - s * pivot[0] - c * pivot[1],
            0.0, 0.0, 1.0,
        )  # fmt: skip
        return LetterPart(moved, opacity, blur, colour)
    if back is None:
        return LetterPart(REST, 0.0, blur, colour)
    place = translated(pivot[0] + x, pivot[1] + y, z) @ turned(turn) @ tipped(tip) @ swung(swing) @ scaled(grown)
    seen = plane_homography(from_em @ place @ translated(-pivot[0], -pivot[1], 0.0))
    if abs(np.linalg.det(seen)) < 1e-12:
        # Seen from its edge there is nothing of it.
        return LetterPart(REST, 0.0, blur, colour)
    return LetterPart(homography_of(np.asarray(back @ seen)), opacity, blur, colour)


def with_closing(now: Lettering, after: Lettering) -> Lettering:
    """A text whose letters know where they are when the shutter closes; `after`: the text then."""
    if not now.parts and not after.parts:
        return now
    count = max(len(now.parts), len(after.parts))
    opening, closing = (text.parts or (LetterPart(REST),) * count for text in (now, after))
    if len(opening) != len(closing):
        return now
    return replace(now, parts=tuple(_closing(a, b) for a, b in zip(opening, closing, strict=True)))


def _closing(part: LetterPart, after: LetterPart) -> LetterPart:
    still = part.moved == after.moved or part.opacity <= 0.0 or after.opacity <= 0.0
    return part if still else replace(part, closes=after.moved)


BAND_WIDTHS = 2.0
"""Frame widths that a panel across the frame goes on to either side of its text."""


def text_size(document: Document, layer: TextLayer) -> Size:
    """Of what lies about the point that the text hangs on: twice as far as it reaches to its farther side."""
    block, size = text_block(document, layer)
    left, top, right, bottom = lay_out(block).box
    return 2.0 * max(-left, right, 0.01) * size, 2.0 * max(-top, bottom, 0.01) * size


def standing_text(moment: Moment, layer: TextLayer, motion: Motion, ground: Ground, lifted: float) -> Standing:
    """The text as it is at the moment; its shadow keeps its lengths whatever its size."""
    document, aspect = moment.document, moment.document.frame.aspect
    setting, ink, panel, shadow = resolved_text(document, layer)
    setting, ink, panel = motion.of("setting", setting), motion.of("ink", ink), motion.of("panel", panel)
    block, size = block_of(document, layer, setting, moment.container), setting.size
    world = ground.world_from_ground @ ground_from_layer(layer.placement, aspect)
    from_plane = ground.seeing.frame_from_world @ world

    def beyond() -> tuple[float, float, float, float]:
        return beyond_frame(layer.placement, text_size(document, layer), aspect)

    parts, presence = letter_parts(document, layer, motion, block, size, ink, from_plane, beyond)
    content = Lettering(block, size, ink, panel, layer.mask, parts, presence, BAND_WIDTHS * aspect)
    plane_scale = 1.0 / layer.placement.size
    return Standing(
        content, world, plane_homography(from_plane), plane_scale, 1.0, motion.of("shadow", shadow), layer.opacity, layer.blur, lifted
    )
