"""Clusters of a paragraph to lines."""

from .shaping import Group, Paragraph


def wrapped(paragraph: Paragraph, room: float | None, spacing: float) -> list[list[Group]]:
    """The lines of a paragraph, each as full as it may be; `room` None: one. What cannot be parted is parted anywhere if it is longer than
    a whole line."""
    if room is None or not paragraph.groups:
        return [paragraph.groups]
    lines: list[list[Group]] = []
    line: list[Group] = []
    tail: list[Group] = []
    used = 0.0
    for group in paragraph.groups:
        tail.append(group)
        if group.end not in paragraph.stops and group is not paragraph.groups[-1]:
            continue
        solid = sum(g.advance for g in without_spaces(tail)) - spacing
        if line and used + solid > room:
            lines.append(line)
            line, used = [], 0.0
        if solid > room and len(tail) > 1:
            for piece in tail:
                if line and used + piece.advance - spacing > room and not piece.space:
                    lines.append(line)
                    line, used = [], 0.0
                line.append(piece)
                used += piece.advance
        else:
            line += tail
            used += sum(g.advance for g in tail)
        tail = []
    return [*lines, line]


def without_spaces(groups: list[Group]) -> list[Group]:
    last = max((n + 1 for n, g in enumerate(groups) if not g.space), default=0)
    return groups[:last]
