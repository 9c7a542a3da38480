"""Trying a template: a film made of it with a trial's pictures and words, and what is wrong with that."""

from dataclasses import dataclass

import numpy as np

from ..document import Document, Frame, PhotoLayer, Scene, TextLayer, in_order, order_keys_between, photos_of
from ..draw import Lettering
from ..edits.template_frames import in_frame
from ..edits.templates import PutOn, put_content_on
from ..evaluate import SETTLED, bounds_of, photo_findings, staged, text_findings, timeline_of
from ..framing import fit_of, seen_aspect, shown_subject, shows
from ..letters import lay_out
from ..space import box_corners, map_points
from ..templates import PICTURED, TemplateContent, cast, filled_in_order, filled_zones, left_over, zones_in
from .trials import Trial

USE = "tried"
LEAST_LETTERS = 0.018
"""Frame heights below which letters are hardly read on a screen."""

MOST_SOFT = 1.5


@dataclass(frozen=True, slots=True)
class TrialFinding:
    """One thing that is wrong: `kind` (soft, cut, unreadable, overflows, covered, beyond, empty, left_over); `scene` None: with the whole; `share` of the scene's time
    at which it is seen."""

    kind: str
    scene: str | None
    share: float
    message: str


def tried(content: TemplateContent, trial: Trial) -> Document:
    """A film of the template alone, with a trial's pictures and words in its zones, in the trial's frame. Raises InvalidEdit."""
    own = content.document.frame
    frame = Frame(width=trial.frame[0], height=trial.frame[1], rate=own.rate) if trial.frame else own
    count = pictures_in(content, trial)
    orders = order_keys_between(None, None, count)
    media = {f"p{n}": trial.pictures[n % len(trial.pictures)].media(orders[n]) for n in range(count)}
    document = put_content_on(Document(frame=frame, media=media), content, PutOn(key=content.key, id=USE, pictures=list(media)))
    if trial.words is not None:
        template = next(iter(document.templates.values()))
        for key, scene in in_order(document.scenes):
            zones = [z for z in zones_in(scene, template) if template.zones[z].takes == "text"]
            if zones:
                document = filled_zones(document, key, {z: trial.words[n % len(trial.words)] for n, z in enumerate(zones)})
    return document


def pictures_in(content: TemplateContent, trial: Trial) -> int:
    """How many pictures a trial puts into a template."""
    return len(filled_in_order(content)) if trial.count is None else trial.count


EXAMINED = 6
"""Scenes that are looked at: what repeats shows the same faults again."""


def examined(content: TemplateContent, trial: Trial, document: Document) -> list[TrialFinding]:
    """What is wrong with a tried film, the worst first."""
    timeline, count = timeline_of(document), pictures_in(content, trial)
    found: list[TrialFinding] = []
    if lost := left_over(cast(in_frame(content, document.frame), count), count):
        found.append(TrialFinding("left_over", None, 0.0, f"{len(lost)} of {count} pictures go nowhere."))
    looked_at = timeline.spans[:EXAMINED]
    scenes = frozenset(span.scene for span in looked_at)
    for span in looked_at:
        scene = document.scenes[span.scene]
        found += _empty(document, span.scene, scene)
        found += _cut(document, span.scene, scene)
        found += _small(document, span.scene, span.own_length)
        found += _crowded(document, span.scene, span.own_length, content)
    for photo in photo_findings(document, timeline, scenes):
        if photo.largest_use > MOST_SOFT and not document.media[_photo(document, photo.scene, photo.layer).media].placeholder:
            name = document.media[_photo(document, photo.scene, photo.layer).media].name
            found.append(TrialFinding("soft", photo.scene, 0.9, f"“{name}” is spread {photo.largest_use:.1f} times over its own pixels."))
    for text in text_findings(document, timeline, scenes):
        if text.overflows:
            found.append(TrialFinding("overflows", text.scene, SETTLED, "A text is larger than its box."))
    rank = ("left_over", "covered", "beyond", "overflows", "cut", "unreadable", "empty", "soft")
    return sorted(found, key=lambda f: rank.index(f.kind))


def _crowded(document: Document, key: str, length: int, content: TemplateContent) -> list[TrialFinding]:
    """Words that lie over a picture or over other words, or reach out of the frame, where they do not in the template's own scene."""
    own = in_frame(content, content.document.frame).document
    layers = document.scenes[key].layers.keys()
    part, scene = max(own.scenes.items(), key=lambda one: (len(layers & one[1].layers.keys()), one[0]))
    here, there = _words_and_pictures(document, key, length), _words_and_pictures(own, part, scene.hold or length)
    found = []
    for name, (words, box) in here.items():
        if not words or name not in there:
            continue
        if _outside(box, document.frame.aspect) and not _outside(there[name][1], own.frame.aspect):
            found.append(TrialFinding("beyond", key, SETTLED, "A text reaches out of the frame."))
        for other, (also_words, behind) in here.items():
            if other != name and other in there and not (also_words and other < name) and _over(box, behind) and not _over(there[name][1], there[other][1]):
                what = "another text" if also_words else "a picture"
                found.append(TrialFinding("covered", key, SETTLED, f"A text lies over {what}, which it does not in the template’s own frame."))
    return found


Box = tuple[float, float, float, float]


def _words_and_pictures(document: Document, key: str, length: int) -> dict[str, tuple[bool, Box]]:
    """(whether it is a text, left, top, right and bottom in frame heights) of the texts and framed pictures of a scene, by layer."""
    found = {}
    for placed in staged(document, key, round(length * SETTLED), length).layers:
        layer = placed.layer
        if layer.hidden or not (isinstance(layer, TextLayer) or (isinstance(layer, PhotoLayer) and layer.window is not None)):
            continue
        content = None if placed.standing is None else placed.standing.content
        if isinstance(content, Lettering):
            # What is written, not the box that it has room in.
            corners = map_points(placed.frame_from_plane, box_corners(*lay_out(content.block).written) * content.size)
            (left, top), (right, bottom) = corners.min(axis=0), corners.max(axis=0)
        else:
            left, top, right, bottom = bounds_of(placed)
        found[placed.layer_id] = (isinstance(layer, TextLayer), (float(left), float(top), float(right), float(bottom)))
    return found


LEAST_OVER = 0.04
"""Share of a text's area that may lie over something else without a word: letters overhang their boxes a little."""


def _over(box: Box, behind: Box) -> bool:
    width = min(box[2], behind[2]) - max(box[0], behind[0])
    height = min(box[3], behind[3]) - max(box[1], behind[1])
    area = max((box[2] - box[0]) * (box[3] - box[1]), 1e-9)
    return width > 0 and height > 0 and width * height > LEAST_OVER * area


def _outside(box: Box, aspect: float) -> bool:
    return box[0] < -aspect / 2 or box[2] > aspect / 2 or box[1] < -0.5 or box[3] > 0.5


def _photo(document: Document, scene: str, layer: str) -> PhotoLayer:
    photo = document.scenes[scene].layers[layer]
    assert isinstance(photo, PhotoLayer)
    return photo


def _empty(document: Document, key: str, scene: Scene) -> list[TrialFinding]:
    use = scene.template
    template = document.templates[use.template] if use else None
    if template is None:
        return []
    empty = {p.zone for _, p in photos_of(scene) if document.media[p.media].placeholder and not p.hidden}
    names = [template.zones[z].name for z in zones_in(scene, template) if z in empty and template.zones[z].takes in PICTURED and template.zones[z].required]
    return [TrialFinding("empty", key, 0.7, f"{', '.join(names)}: no picture.")] if names else []


def _cut(document: Document, key: str, scene: Scene) -> list[TrialFinding]:
    """Photos whose subject is not wholly in view where the scene begins or ends."""
    found = []
    for _, layer in photos_of(scene):
        media = document.media[layer.media]
        subject = shown_subject(media)
        if subject is None or layer.hidden:
            continue
        fit, aspect = fit_of(document, layer), seen_aspect(document, layer)
        views = list(layer.view.keys.values())
        if fit != "whole" and not all(shows(k.value, fit, media, aspect, subject) for k in (views[0], views[-1])):
            found.append(TrialFinding("cut", key, 0.9, f"What “{media.name}” is about is cut off."))
    return found


def _small(document: Document, key: str, length: int) -> list[TrialFinding]:
    """Texts whose letters are too small to be read."""
    found = []
    stage = staged(document, key, round(length * 0.7), length)
    for placed in stage.every_layer:
        layer = placed.layer
        content = None if placed.standing is None else placed.standing.content
        if not isinstance(layer, TextLayer) or not isinstance(content, Lettering) or layer.hidden or not layer.text:
            continue
        corners = map_points(placed.frame_from_plane, np.array(((0.0, 0.0), (0.0, 1.0))))
        height = float(np.linalg.norm(corners[1] - corners[0])) * content.size * lay_out(content.block).scale
        if height < LEAST_LETTERS:
            found.append(TrialFinding("unreadable", key, 0.7, f"A text is {height * 100:.1f} % of the frame high: too small to read."))
    return found

