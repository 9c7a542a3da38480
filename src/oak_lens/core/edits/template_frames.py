"""A template in a film's frame: by those of its scenes that are made for frames of that shape, kept together where none quite is."""

from math import log

from ..document import Frame, SceneRule
from ..templates import TemplateContent
from .reframing import reframed
from .together import kept_together


def in_frame(content: TemplateContent, frame: Frame) -> TemplateContent:
    """A template in a film's own frame: its scenes of the shape nearest to that."""
    if content.document.frame == frame and len(shapes_of(content)) == 1:
        return content
    known = (content.key, frame)
    if known not in _IN_FRAMES:
        if len(_IN_FRAMES) >= MOST_KEPT:
            _IN_FRAMES.clear()
        _IN_FRAMES[known] = _framed(content, frame)
    return _IN_FRAMES[known]


MOST_KEPT = 256
_IN_FRAMES: dict[tuple[str, Frame], TemplateContent] = {}


def shapes_of(content: TemplateContent) -> list[float]:
    """Width / height of the frames that its scenes are made for, its own first."""
    own = content.document.frame.aspect
    return list(dict.fromkeys([own, *(shape_of(content, content.record.scenes[k]) for k, _ in content.parts)]))


def shape_of(content: TemplateContent, rule: SceneRule) -> float:
    """Width / height of the frames that a scene is made for."""
    return content.document.frame.aspect if rule.shape is None else rule.shape


def _framed(content: TemplateContent, frame: Frame) -> TemplateContent:
    rules = content.record.scenes
    # Its own shape is the first, so that it wins where two are equally near.
    shape = min(shapes_of(content), key=lambda s: round(abs(log(s / frame.aspect)), 6))
    scenes = {k: scene for k, scene in content.parts if shape_of(content, rules[k]) == shape}
    own = content.document.frame
    if shape != own.aspect:
        own = own.model_copy(update={"width": max(round(own.height * shape / 2) * 2, 2)})
    before = content.document.model_copy(update={"scenes": scenes, "frame": own})
    after = before.model_copy(update={"frame": frame})
    return TemplateContent(reframed(before, kept_together(before, after)), content.id, content.version)
