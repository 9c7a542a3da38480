"""What a change changes, in words, for a preview before it is made."""

from dataclasses import dataclass

from ..document import (
    Document,
    PhotoLayer,
    Scene,
    in_order,
    resolved_backdrop,
    resolved_correction,
    resolved_hold,
    resolved_join,
    resolved_mount,
    resolved_shadow,
)
from ..time import seconds
from .motions import motion_of


@dataclass(frozen=True, slots=True)
class SceneChange:
    """A scene that looks or lasts otherwise afterwards, and how."""

    scene: str
    what: tuple[str, ...]


def scene_changes(before: Document, after: Document) -> list[SceneChange]:
    """Every scene that is changed, new or gone, in the order they have afterwards."""
    found = []
    listed = [k for k, _ in in_order(after.scenes)] + [k for k in before.scenes if k not in after.scenes]
    shared = before.frame != after.frame
    for key in listed:
        old, new = before.scenes.get(key), after.scenes.get(key)
        what = ["new"] if old is None else ["removed"] if new is None else _differences(before, after, old, new)
        if shared and old is not None and new is not None:
            what = ["frame", *what]
        if what:
            found.append(SceneChange(key, tuple(what)))
    return found


def _differences(before: Document, after: Document, old: Scene, new: Scene) -> list[str]:
    what = []
    holds = resolved_hold(before, old), resolved_hold(after, new)
    if holds[0] != holds[1]:
        what.append(f"hold {seconds(holds[0]):.1f} → {seconds(holds[1]):.1f} s")
    if resolved_join(before, old) != resolved_join(after, new):
        what.append("join")
    if resolved_backdrop(before, old) != resolved_backdrop(after, new):
        what.append("backdrop")
    parts = {"mount": resolved_mount, "shadow": resolved_shadow, "correction": resolved_correction}
    pairs = [(old.layers[k], layer) for k, layer in new.layers.items() if k in old.layers]
    photos = [(a, b) for a, b in pairs if isinstance(a, PhotoLayer) and isinstance(b, PhotoLayer)]
    what += [name for name, part in parts.items() if any(part(before, a) != part(after, b) for a, b in photos)]
    if any(a.view != b.view for a, b in photos):
        what.append("views")
    if any(motion_of(a) != motion_of(b) for a, b in pairs):
        what.append("motion")
    if any(getattr(old, n) != getattr(new, n) for n in ("camera", "camera_move", "travel", "animation", "shutter")):
        what.append("camera")
    if old.light != new.light:
        what.append("light")
    if any(a.media != b.media for a, b in photos):
        what.append("pictures")
    if any(a.placement != b.placement for a, b in pairs) or any(a.window != b.window for a, b in photos):
        what.append("places")
    if old.layers.keys() != new.layers.keys():
        what.append("layers")
    return what
