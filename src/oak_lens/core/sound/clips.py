"""The sound of clips: from where in their files, when in the film, and how it comes and goes with the joins."""

from dataclasses import dataclass

from ..document import Clip, Document, Layer, PhotoLayer, resolved_backdrop
from ..evaluate import Timeline, shown_layers


@dataclass(frozen=True, slots=True)
class ClipSound:
    """One clip heard in the film. `start`, `end`: ticks of the film; it swells over `fade_in` ticks and dies away over `fade_out`.

    What is heard at `start` lies at `clip.moment(0)` of the file, which is played `speed` times as fast, and so higher.
    """

    media: str
    clip: Clip
    start: int
    end: int
    fade_in: int
    fade_out: int
    speed: float = 1.0


def clip_sounds(document: Document, timeline: Timeline) -> tuple[ClipSound, ...]:
    """Every clip that is seen and not muted, once for each scene, in the order of the film."""
    found: list[ClipSound] = []
    for index, span in enumerate(timeline.spans):
        following = timeline.spans[index + 1] if index + 1 < len(timeline.spans) else None
        heard = _media_seen(document, document.scenes[span.scene].layers)
        backdrop = resolved_backdrop(document, document.scenes[span.scene])
        if backdrop.kind == "picture" and backdrop.media is not None:
            heard.append(backdrop.media)
        for media in dict.fromkeys(heard):
            clip = document.media[media].clip
            if clip is not None and clip.sound and not clip.muted:
                fade_out = following.join.length if following else span.end - span.hold_end
                found.append(ClipSound(media, clip, span.on_screen.start, span.on_screen.end, span.join.length, fade_out, span.speed))
    return tuple(found)


def _media_seen(document: Document, layers: dict[str, Layer]) -> list[str]:
    shown = shown_layers(layers)
    found: list[str] = []
    for layer_id, layer in layers.items():
        if layer.hidden or layer_id not in shown or layer.opacity <= 0.0:
            continue
        if isinstance(layer, PhotoLayer):
            found.append(layer.media)
        elif (shared := getattr(layer, "shared", None)) is not None:
            found += _media_seen(document, document.groups[shared].layers)
    return found
