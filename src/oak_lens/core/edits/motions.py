"""Edits of moves: put on layers and cameras by rules, changed, saved from keyframes, copied into keyframes."""

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, ValidationError

from ..curves import AnyLane, PathLane, anchored, key_times
from ..document import Document, Layer, LayerBase, Scene, TextLayer, faults_from, move_of
from ..document.models import broken_links
from ..document.records import Id
from ..errors import InvalidEdit
from ..moves import FACTORS, PATHS, SHIPPED, Move, MoveUse, Side, Spread, clocked
from ..moves.motion import lane_sided
from ..moves.move import SHORTEST
from .lanes import KeyRef, LaneRef, at_rest, keys_by_lane, length_of, owner_of, with_owner
from .registry import Edit, EditSpec, containers, fresh, refused

Slot = Literal["move", "entrance", "exit"]
MoveName = Annotated[str, Field(min_length=1, max_length=100)]
SIDES: tuple[Side, ...] = ("left", "right", "top", "bottom")
SIDE_NAMES = ("left", "top", "right", "bottom")


class Target(Edit):
    """A layer, or (layer None) a scene's camera."""

    scene: Id
    layer: Id | None = None

    @property
    def ref(self) -> LaneRef:
        return LaneRef(scene=self.scene, layer=self.layer, property="")


class UseMove(Edit):
    """Put a move on layers or cameras; `move` None takes it away.

    `rule`, from target to target: `same`; `alternate` mirrors every second; `around` takes the sides in turn; `vary` chooses side,
    mirror and strength by `seed`. `stagger`: ticks that each starts after the one before. `linked` False: as keyframes of their own.
    """

    to: list[Target] = Field(min_length=1, max_length=5000)
    slot: Slot = "move"
    move: Id | None = None
    use: dict[str, Any] = Field(default_factory=dict)
    rule: Literal["same", "alternate", "around", "vary"] = "same"
    seed: int = Field(1, ge=0, le=9999)
    stagger: int = Field(0, ge=0, le=10**12)
    linked: bool = True


def use_move(document: Document, edit: UseMove) -> Document:
    chance = np.random.default_rng(edit.seed)
    for number, target in enumerate(edit.to):
        owner = owner_of(document, target.ref)
        field = slot_of(owner, edit.slot, target.ref.path)
        if edit.move is None:
            document = with_owner(document, target.ref, owner.model_copy(update={field: None}))
            continue
        move = _move(document, edit.move)
        if (move.kind == "camera") != isinstance(owner, Scene) or (move.kind == "entrance") != (edit.slot != "move"):
            raise refused("edit.kind", target.ref.path, f"“{move.name}” is no {'camera move' if isinstance(owner, Scene) else edit.slot}.")
        if move.spread is not None and not isinstance(owner, TextLayer):
            raise refused("edit.kind", target.ref.path, f"“{move.name}” moves letters: choose a text for it.")
        # Of a text, a move that is made for letters reaches them one by one, unless it is said otherwise.
        spread = {"spread": move.spread} if isinstance(owner, TextLayer) else {}
        use = _use({"move": edit.move, **spread, **edit.use}, target.ref.path)
        use = _ruled(use, edit, move, number, chance)
        if edit.linked:
            document = with_owner(document, target.ref, owner.model_copy(update={field: use}))
        else:
            document = _copied(document, target.ref, owner, use)
    return document


def slot_of(owner: Layer | Scene, slot: str, path: str) -> str:
    """The field a move goes into. Raises InvalidEdit for entrances of cameras."""
    if not isinstance(owner, Scene):
        return slot
    if slot != "move":
        raise refused("edit.kind", path, "A camera has no entrance or exit: give it a move.")
    return "camera_move"


def _move(document: Document, move_id: str) -> Move:
    found = document.moves.get(move_id) or SHIPPED.get(move_id)
    if found is None:
        raise refused("edit.no_move", f"moves.{move_id}", "There is no such move; it may have been deleted.")
    return found


def _use(data: dict[str, Any], path: str) -> MoveUse:
    try:
        return MoveUse.model_validate(data)
    except ValidationError as error:
        raise InvalidEdit(faults_from(error, "edit.value", path)) from None


def _ruled(use: MoveUse, edit: UseMove, move: Move, number: int, chance: np.random.Generator) -> MoveUse:
    update: dict[str, Any] = {"delay": use.delay + edit.stagger * number}
    if edit.rule == "alternate" and number % 2:
        if move.sided:
            update["side"] = SIDE_NAMES[(SIDE_NAMES.index(use.side) + 2) % 4]
        else:
            update["mirrored"] = not use.mirrored
    elif edit.rule == "around":
        update["side"] = SIDES[(SIDES.index(use.side) + number) % 4] if move.sided else use.side
        update["mirrored"] = use.mirrored if move.sided else bool(number % 2) != use.mirrored
    elif edit.rule == "vary":
        update["mirrored"] = bool(chance.random() < 0.5)
        side = SIDES[int(chance.integers(len(SIDES)))]
        update["side"] = side if move.sided else use.side
        update["strength"] = min(use.strength * (0.8 + 0.4 * float(chance.random())), 4.0)
    return use.model_copy(update=update)


def _copied(document: Document, ref: LaneRef, owner: Layer | Scene, use: MoveUse) -> Document:
    """The move's lanes as the owner's own, over the time the move would take: keys where it passes them, also by a pace of its own."""
    move = move_of(document, use)
    if use.spread is not None:
        raise refused("edit.kind", ref.path, "This move reaches letters one after another and can only be linked.")
    if any(name.startswith("beyond.") for name in move.lanes):
        raise refused("edit.kind", ref.path, "This move depends on where a layer stands and can only be linked.")
    length = length_of(document, ref)
    own = use.length or move.length
    lanes: dict[str, AnyLane] = dict(owner.animation)
    for name, lane in lane_sided(move.lanes, use).items():
        if name not in owner.numbers and name not in PATHS:
            # Something that moves in layers of another kind.
            continue
        takes = min(own, length) if own else max(length - use.delay, 1)
        keys: dict[str, Any] = {}
        for at, key_id in key_times(lane.keys, takes):
            key = lane.keys[key_id]
            at = takes - at if use.backwards else at
            at = round(clocked(use.pace, at / max(takes, 1)) * takes)
            whole = not own and not use.delay
            keys[key_id] = (
                key
                if whole and not use.backwards and use.pace == "none"
                else anchored(key, use.delay + at, length, "fraction" if whole else "start")
            )
        lanes[name] = lane.model_copy(update={"keys": keys})
    slot = "camera_move" if isinstance(owner, Scene) else "move"
    return with_owner(document, ref, owner.model_copy(update={"animation": lanes, slot: None}))


class SetMoveUse(Edit):
    """Change how a move is used on every target that has one in the slot. Of `spread`, what is not said stays as it is."""

    to: list[Target] = Field(min_length=1, max_length=5000)
    slot: Slot = "move"
    use: dict[str, Any]


def set_move_use(document: Document, edit: SetMoveUse) -> Document:
    took = False
    for target in edit.to:
        owner = owner_of(document, target.ref)
        field = slot_of(owner, edit.slot, target.ref.path)
        present = getattr(owner, field)
        if present is not None:
            took = True
            changed = {**present.model_dump(), **edit.use}
            if isinstance(changed["spread"], dict):
                # Some of a spread: the rest stays as it is, or as the move would reach letters by itself.
                base = present.spread or move_of(document, present).spread or Spread()
                changed["spread"] = {**base.model_dump(), **changed["spread"]}
            use = _use(changed, f"{target.ref.path}.{field}")
            document = with_owner(document, target.ref, owner.model_copy(update={field: use}))
    if not took:
        raise refused("edit.no_move", edit.to[0].ref.path, "None of these has a move there.")
    return _linked(document)


class UnlinkMove(Edit):
    """The move on each target becomes keyframes of its own."""

    to: list[Target] = Field(min_length=1, max_length=5000)


def unlink_move(document: Document, edit: UnlinkMove) -> Document:
    for target in edit.to:
        owner = owner_of(document, target.ref)
        use = getattr(owner, slot_of(owner, "move", target.ref.path))
        if use is not None:
            document = _copied(document, target.ref, owner, use)
    return document


class SaveMove(Edit):
    """Keyframes become a move: those chosen, or all of the source's. `kind` entrance: it ends as they end, and takes their time; backwards
    it is an exit. `replace`: an own move of the project takes them over, as what it is, and with it everything it is linked to. The source
    is linked to it; its keyframes go, and it stays where they ended."""

    id: Id
    name: MoveName
    source: Target
    keys: list[KeyRef] = Field(default_factory=list, max_length=20_000)
    kind: Literal["move", "entrance"] = "move"
    replace: bool = False


def save_move(document: Document, edit: SaveMove) -> Document:
    ref = edit.source.ref
    owner = owner_of(document, ref)
    lanes: dict[str, AnyLane] = dict(owner.animation)
    if edit.keys:
        chosen = {
            ref.property: names
            for ref, _, names in keys_by_lane(document, edit.keys)
            if (ref.scene, ref.layer) == (edit.source.scene, edit.source.layer)
        }
        lanes = {n: lane.model_copy(update={"keys": {k: lane.keys[k] for k in chosen[n]}}) for n, lane in lanes.items() if n in chosen}
    if not lanes:
        raise refused("edit.no_key", ref.path, "There are no keyframes here to make a move of.")
    present = document.moves.get(edit.id) if edit.replace else None
    if edit.replace and present is None:
        raise refused("edit.no_move", f"moves.{edit.id}", "Only a move of this project can be changed: save it under a name of its own.")
    if present is not None and (present.kind == "camera") != isinstance(owner, Scene):
        whose = "a camera's" if present.kind == "camera" else "for layers"
        raise refused("edit.kind", ref.path, f"“{present.name}” is {whose}: it takes over keyframes of its own kind only.")
    if not edit.replace:
        fresh({**document.moves, **SHIPPED}, (edit.id,), "moves")
    spread = present.spread if present is not None and isinstance(owner, TextLayer) else None
    kept = {k: v for k, v in owner.animation.items() if k not in lanes}
    if isinstance(owner, Scene) or (present.kind if present else edit.kind) != "entrance":
        move = Move(name=edit.name, kind="camera" if isinstance(owner, Scene) else "move", lanes=lanes, spread=present.spread if present else None)
        slot, use = slot_of(owner, "move", ref.path), MoveUse(move=edit.id, spread=spread)
    else:
        began, takes, coming, staying = _coming(lanes, length_of(document, ref), ref.path)
        move = Move(name=edit.name, kind="entrance", length=takes, lanes=coming, spread=present.spread if present else None)
        slot, use = "entrance", MoveUse(move=edit.id, delay=began, spread=spread)
        kept |= staying
    document = document.model_copy(update={"moves": {**document.moves, edit.id: move}})
    return with_owner(document, ref, owner.model_copy(update={"animation": kept, slot: use}))


def _coming(lanes: dict[str, AnyLane], length: int, path: str) -> tuple[int, int, dict[str, AnyLane], dict[str, AnyLane]]:
    """(when they begin, ticks that they take, lanes over that time that end where nothing is changed, lanes of what they end with)."""
    times = {name: key_times(lane.keys, length) for name, lane in lanes.items()}
    first, last = min(t[0][0] for t in times.values()), max(t[-1][0] for t in times.values())
    if last - first < SHORTEST:
        raise refused("edit.no_key", path, "An entrance takes a while: its first and last keyframe must lie apart.")
    coming: dict[str, AnyLane] = {}
    staying: dict[str, AnyLane] = {}
    for name, lane in lanes.items():
        ending = lane.keys[times[name][-1][1]]
        if isinstance(lane, PathLane) and lane.turn_along:
            raise refused("edit.kind", path, "What turns along its path does not end as it stands: turn that off to save it as an entrance.")
        if isinstance(ending.value, float) and name in FACTORS and abs(ending.value) < NOTHING:
            raise refused("edit.kind", path, "An entrance ends with the thing seen; these keyframes end with nothing of it.")
        keys = {
            key_id: lane.keys[key_id].model_copy(
                update={"anchor": "fraction", "at": (at - first) / (last - first), "value": _since(name, lane.keys[key_id].value, ending.value)}
            )
            for at, key_id in times[name]
        }
        coming[name] = lane.model_copy(update={"keys": keys})
        if ending.value != at_rest(name):
            staying[name] = lane.model_copy(update={"keys": {"k1": ending.model_copy(update={"anchor": "start", "at": 0})}})
    return first, last - first, coming, staying


def _since(name: str, value: Any, ending: Any) -> Any:
    """What is changed where a lane holds `value`, once it has been told from what it ends with."""
    if name in PATHS:
        return tuple(v - e for v, e in zip(value, ending, strict=True))
    return value / ending if name in FACTORS else value - ending


NOTHING = 1e-6
"""Of a factor: so little is nothing."""


class SetMove(Edit):
    """Rename a move of the project, or say how it reaches the letters of a text by itself."""

    id: Id
    name: MoveName | None = None
    spread: Spread | None = None


def set_move(document: Document, edit: SetMove) -> Document:
    if edit.id not in document.moves:
        raise refused("edit.no_move", f"moves.{edit.id}", "There is no such move of this project.")
    update = {name: value for name in ("name", "spread") if (value := getattr(edit, name)) is not None}
    return document.model_copy(update={"moves": {**document.moves, edit.id: document.moves[edit.id].model_copy(update=update)}})


class RemoveMove(Edit):
    """Delete a move of the project; what it is linked to keeps it as keyframes. Where it is an entrance or exit, there is none any more."""

    id: Id


def remove_move(document: Document, edit: RemoveMove) -> Document:
    if edit.id not in document.moves:
        raise refused("edit.no_move", f"moves.{edit.id}", "There is no such move of this project.")
    for container_id, container in containers(document):
        owners: list[tuple[str | None, Layer | Scene]] = [(k, v) for k, v in container.layers.items()]
        if isinstance(container, Scene):
            owners.append((None, container))
        for layer_id, owner in owners:
            ref = LaneRef(scene=container_id, layer=layer_id, property="")
            passing = {} if isinstance(owner, Scene) else {slot: getattr(owner, slot) for slot in ("entrance", "exit")}
            gone = [slot for slot, used in passing.items() if used is not None and used.move == edit.id]
            if gone:
                owner = owner.model_copy(update=dict.fromkeys(gone))
                document = with_owner(document, ref, owner)
            use = owner.camera_move if isinstance(owner, Scene) else owner.move
            if use is not None and use.move == edit.id and use.spread is not None:
                # Keyframes cannot say how it reaches letters.
                document = with_owner(document, ref, owner.model_copy(update={"move": None}))
            elif use is not None and use.move == edit.id:
                document = _copied(document, ref, owner_of(document, ref), use)
    return document.model_copy(update={"moves": {k: v for k, v in document.moves.items() if k != edit.id}})


def _linked(document: Document) -> Document:
    faults = broken_links(document)
    if faults:
        raise refused("edit.no_move", "move", faults[0][:1].upper() + faults[0][1:] + ".")
    return document


MOTION = ("animation", "move", "entrance", "exit")


def motion_of(layer: LayerBase) -> dict[str, Any]:
    """What moves a layer, apart from its views: relative, so that it fits any other."""
    return {name: getattr(layer, name) for name in MOTION}


MOVE_EDITS = (
    EditSpec("use_move", "Use a move", UseMove, use_move),
    EditSpec("set_move_use", "Change a move's use", SetMoveUse, set_move_use),
    EditSpec("unlink_move", "Make keyframes of a move", UnlinkMove, unlink_move),
    EditSpec("save_move", "Save a move", SaveMove, save_move),
    EditSpec("set_move", "Rename a move", SetMove, set_move),
    EditSpec("remove_move", "Delete a move", RemoveMove, remove_move),
)
