"""What scenes and photos inherit from looks and from the project's defaults."""

from typing import Any

from ..looks import PLAIN, Backdrop, Correction, Ink, Look, Mount, Panel, Setting, Shadow, TextStyle
from ..looks.colours import rgb_of
from ..moves import SHIPPED, Move, MoveUse
from .layers import KIND_OF, GroupLayer, Layer, PhotoLayer, TextLayer
from .models import Document, Join, Scene, SharedGroup
from .ordering import in_order
from .properties import Property
from .records import LONGEST_TICKS
from .remembered import ByRecord
from .templates import SceneRule


def resolved_hold(document: Document, scene: Scene) -> int:
    """Ticks the scene stands between its joins: no less and no more than what it is made by leaves it."""
    hold = document.defaults.hold if scene.hold is None else scene.hold
    rule = rule_of(document, scene)
    return hold if rule is None else min(max(hold, rule.least or hold), rule.most or LONGEST_TICKS)


def rule_of(document: Document, scene: Scene) -> SceneRule | None:
    """What a scene that is made by a template may come to."""
    template = document.templates.get(scene.template.template) if scene.template else None
    return template.scenes.get(scene.template.part) if scene.template and template else None


def resolved_join(document: Document, scene: Scene) -> Join:
    """The join into the scene."""
    return document.defaults.join if scene.join is None else scene.join


def resolved_shutter(document: Document, scene: Scene) -> float:
    """Degrees of the scene's motion blur."""
    return document.defaults.shutter if scene.shutter is None else scene.shutter


def move_of(document: Document, use: MoveUse) -> Move:
    """The project's own move, or the shipped one."""
    return document.moves.get(use.move) or SHIPPED[use.move]


def look_of(document: Document, layer: PhotoLayer) -> Look | None:
    """The look a photo is linked to, or else the project's."""
    look = layer.look or document.defaults.look
    return document.looks.get(look) if look else None


_lowest_photo: ByRecord[Scene, PhotoLayer | None] = ByRecord(lambda scene: next((layer for _, layer in photos_of(scene)), None), 4096)


def resolved_backdrop(document: Document, scene: Scene) -> Backdrop:
    """The scene's own backdrop, or that of its lowest photo's look, or the project's."""
    if scene.backdrop is not None:
        return scene.backdrop
    photo = _lowest_photo.of(scene)
    look = look_of(document, photo) if photo else document.looks.get(document.defaults.look or "")
    return look.backdrop if look else document.defaults.backdrop


def _part(document: Document, layer: PhotoLayer, name: str) -> Any:
    own = getattr(layer, name)
    return own if own is not None else getattr(look_of(document, layer) or document.defaults, name)


def resolved_mount(document: Document, layer: PhotoLayer) -> Mount:
    """The photo's own mount, or its look's, or the project's."""
    mount: Mount = _part(document, layer, "mount")
    return mount


def resolved_shadow(document: Document, layer: PhotoLayer) -> Shadow:
    """The same of its shadow."""
    shadow: Shadow = _part(document, layer, "shadow")
    return shadow


def resolved_correction(document: Document, layer: PhotoLayer) -> Correction:
    """The same of its correction; the picture's own correction comes before it."""
    correction: Correction = _part(document, layer, "correction")
    return correction


def style_of(document: Document, layer: TextLayer) -> TextStyle:
    """The style a text is linked to, or that of texts which have none."""
    return document.styles.get(layer.style or "", PLAIN)


def resolved_text(document: Document, layer: TextLayer) -> tuple[Setting, Ink, Panel, Shadow]:
    """How a text looks: its own parts, or its style's."""
    style = style_of(document, layer)
    return layer.setting or style.setting, layer.ink or style.ink, layer.panel or style.panel, layer.shadow or style.shadow


def photos_of(scene: Scene | SharedGroup) -> list[tuple[str, PhotoLayer]]:
    """(layer id, photo) of a scene, lowest first, those in groups included."""
    return [(k, layer) for k, layer in in_order(scene.layers) if isinstance(layer, PhotoLayer)]


def shared_of(layer: Layer) -> str | None:
    """The shared group that a layer shows, if it shows one."""
    return layer.shared if isinstance(layer, GroupLayer) else None


def resolved_part(document: Document, owner: Layer | Scene, part: str) -> Any:
    """A part of a layer or scene as it applies: its own, or what it inherits; None where it has none."""
    if isinstance(owner, Scene):
        return resolved_backdrop(document, owner) if part == "backdrop" else getattr(owner, part, None)
    if isinstance(owner, PhotoLayer) and part in KIND_OF[owner.kind].inherited:
        return _part(document, owner, part)
    if isinstance(owner, TextLayer) and part in KIND_OF[owner.kind].inherited:
        return getattr(owner, part) or getattr(style_of(document, owner), part)
    return getattr(owner, part, None)


def base_value(document: Document, owner: Layer | Scene, prop: Property) -> float | None:
    """A number without its keyframes; None where the layer or scene has no such part."""
    if prop.part == "layer":
        return float(getattr(owner, prop.spec.id))
    if prop.part == "letters":
        # How far letters have moved: nowhere, but by their lanes.
        return 0.0
    part = resolved_part(document, owner, prop.part)
    if part is None:
        return None
    if prop.colour is not None:
        return rgb_of(getattr(part, prop.colour))[prop.channel]
    value = getattr(part, prop.spec.id)
    if value is None and isinstance(owner, PhotoLayer):
        # A window of the picture's own shape.
        value = document.media[owner.media].aspect
    return None if value is None else float(value)
