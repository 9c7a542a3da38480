"""How layers and scenes are changed by their lanes, moves, entrances and exits at a moment."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import TypeVar

from ..document import Document, Layer, LayerBase, PhotoLayer, Scene, TextLayer, move_of
from ..framing import seen_aspect
from ..looks.parameters import Parameters, offset
from ..moves import Move, MoveUse, Offsets, Slot, Spread, joined, lane_offsets, use_offsets, used_length

P = TypeVar("P", bound=Parameters)
Beyond = Callable[[], tuple[float, float, float, float]]


@dataclass(frozen=True, slots=True)
class SpreadUse:
    """A move that reaches the letters of a text one after another, `at` ticks into the `length` that it has."""

    slot: Slot
    use: MoveUse
    move: Move
    spread: Spread
    at: int
    length: int


@dataclass(frozen=True, slots=True)
class Motion:
    """Changes by part, then by number; empty where nothing moves. `spreads`: moves that letters of a text make by themselves."""

    parts: Mapping[str, Mapping[str, float]] = field(default_factory=dict)
    spreads: tuple[SpreadUse, ...] = ()

    def of(self, part: str, parameters: P) -> P:
        """The part as it is now."""
        changed = self.parts.get(part)
        return offset(parameters, changed) if changed else parameters

    def number(self, part: str, name: str, neutral: float = 0.0) -> float:
        """One change: added, or (neutral 1) multiplied."""
        return self.parts.get(part, {}).get(name, neutral)


STILL = Motion()


def layer_motion(document: Document, layer: LayerBase, at: int, length: int, beyond: Beyond) -> Motion:
    """What changes a layer `at` ticks after its scene came on screen for `length`."""
    if not layer.animation and layer.move is None and layer.entrance is None and layer.exit is None:
        return STILL
    aspect = document.frame.aspect
    offsets, spreads = lane_offsets(layer.animation, at, length, aspect), list[SpreadUse]()
    for slot, use, first, span in _uses(document, layer, length):
        if slot == "move" or (at < first + span if slot == "entrance" else at >= first):
            move = move_of(document, use)
            if use.spread is not None and isinstance(layer, TextLayer):
                spreads.append(SpreadUse(slot, use, move, use.spread, at - first, span))
            else:
                joined(offsets, use_offsets(use, move, slot, at - first, span, aspect, beyond))
    return Motion(_by_part(offsets).parts, tuple(spreads))


def _uses(document: Document, layer: LayerBase, length: int) -> list[tuple[Slot, MoveUse, int, int]]:
    """(slot, use, start, span): an entrance and an exit that do not both fit shrink alike; a move has all the time."""
    found: list[tuple[Slot, MoveUse, int, int]] = []
    if layer.move is not None:
        found.append(("move", layer.move, 0, length))
    passing: dict[Slot, MoveUse | None] = {"entrance": layer.entrance, "exit": layer.exit}
    needs = {s: u.delay + used_length(u, move_of(document, u), s, length) for s, u in passing.items() if u is not None}
    share = min(1.0, length / max(sum(needs.values()), 1)) if len(needs) == 2 else 1.0
    if layer.entrance is not None:
        found.append(("entrance", layer.entrance, 0, min(int(needs["entrance"] * share), length)))
    if layer.exit is not None:
        span = min(int(needs["exit"] * share), length)
        found.append(("exit", layer.exit, length - span, span))
    return found


def passages(document: Document, layer: LayerBase, length: int) -> dict[Slot, tuple[int, int]]:
    """(from, to) in ticks after the scene came on screen, of the entrance and exit that the layer has."""
    return {slot: (first, first + span) for slot, _, first, span in _uses(document, layer, length) if slot != "move"}


def scene_motion(document: Document, scene: Scene, at: int, length: int) -> Motion:
    """What changes a scene's camera, light and backdrop."""
    if not scene.animation and scene.camera_move is None:
        return STILL
    aspect = document.frame.aspect
    offsets = lane_offsets(scene.animation, at, length, aspect)
    if scene.camera_move is not None:
        use = scene.camera_move
        joined(offsets, use_offsets(use, move_of(document, use), "move", at, length, aspect, lambda: (1.0, 1.0, 1.0, 1.0)))
    return _by_part(offsets)


def _by_part(offsets: Offsets) -> Motion:
    parts: dict[str, dict[str, float]] = {}
    for name, value in offsets.items():
        part, _, number = name.partition(".")
        parts.setdefault(part, {})[number] = value
    return Motion(parts)


def moves_at_all(layer: Layer) -> bool:
    """Whether anything but its views moves the layer."""
    return bool(layer.animation) or any(use is not None for use in (layer.move, layer.entrance, layer.exit))


L = TypeVar("L", bound=LayerBase)


def moved_layer(document: Document, layer: L, motion: Motion) -> L:
    """The layer with the numbers that are its own as they are now; those of mount, shadow and correction may be inherited."""
    if not motion.parts:
        return layer
    update: dict[str, object] = {}
    for part in ("placement", "form", "mask"):
        own = getattr(layer, part, None)
        if own is not None and part in motion.parts:
            update[part] = motion.of(part, own)
    if "layer" in motion.parts:
        update["opacity"] = min(max(layer.opacity * motion.number("layer", "opacity", 1.0), 0.0), 1.0)
        update["blur"] = min(max(layer.blur + motion.number("layer", "blur"), 0.0), 0.3)
    if "window" in motion.parts and isinstance(layer, PhotoLayer) and layer.window is not None:
        aspect = seen_aspect(document, layer) * motion.number("window", "aspect", 1.0)
        update["window"] = layer.window.model_copy(update={"aspect": min(max(aspect, 0.02), 50.0)})
    return layer.model_copy(update=update) if update else layer
