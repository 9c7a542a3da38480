"""Edits of moves: put on layers and cameras by rules, changed, saved from keyframes, copied into keyframes."""

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, ValidationError

from ..curves import AnyLane, anchored, key_times
from ..document import Document, Layer, LayerBase, Scene, TextLayer, faults_from, move_of
from ..document.models import broken_links
from ..document.records import Id
from ..errors import InvalidEdit
from ..moves import PATHS, SHIPPED, Move, MoveUse, Side, Spread, clocked
from ..moves.motion import lane_sided
from .lanes import KeyRef, LaneRef, keys_by_lane, length_of, owner_of, with_owner
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
    """Keyframes become a move: those chosen, or all of the source's. `replace`: an own move of the project takes them over, and with it
    everything it is linked to. The source is linked to it, its keyframes go."""

    id: Id
    name: MoveName
    source: Target
    keys: list[KeyRef] = Field(default_factory=list, max_length=20_000)
    replace: bool = False


def save_move(document: Document, edit: SaveMove) -> Document:
    owner = owner_of(document, edit.source.ref)
    lanes: dict[str, AnyLane] = dict(owner.animation)
    if edit.keys:
        chosen = {
            ref.property: names
            for ref, _, names in keys_by_lane(document, edit.keys)
            if (ref.scene, ref.layer) == (edit.source.scene, edit.source.layer)
        }
        lanes = {n: lane.model_copy(update={"keys": {k: lane.keys[k] for k in chosen[n]}}) for n, lane in lanes.items() if n in chosen}
    if not lanes:
        raise refused("edit.no_key", edit.source.ref.path, "There are no keyframes here to make a move of.")
    if edit.replace:
        if edit.id not in document.moves:
            raise refused(
                "edit.no_move", f"moves.{edit.id}", "Only a move of this project can be changed: save it under a name of its own."
            )
    else:
        fresh({**document.moves, **SHIPPED}, (edit.id,), "moves")
    kind = "camera" if isinstance(owner, Scene) else "move"
    move = Move(name=edit.name, kind=kind, lanes=lanes)  # type: ignore[arg-type]
    document = document.model_copy(update={"moves": {**document.moves, edit.id: move}})
    slot = slot_of(owner, "move", edit.source.ref.path)
    animation = {} if not edit.keys else {k: v for k, v in owner.animation.items() if k not in lanes}
    return with_owner(document, edit.source.ref, owner.model_copy(update={"animation": animation, slot: MoveUse(move=edit.id)}))


class SetMove(Edit):
    """Rename a move of the project."""

    id: Id
    name: MoveName


def set_move(document: Document, edit: SetMove) -> Document:
    if edit.id not in document.moves:
        raise refused("edit.no_move", f"moves.{edit.id}", "There is no such move of this project.")
    moves = {**document.moves, edit.id: document.moves[edit.id].model_copy(update={"name": edit.name})}
    return document.model_copy(update={"moves": moves})


class RemoveMove(Edit):
    """Delete a move of the project; what it is linked to keeps it as keyframes."""

    id: Id


def remove_move(document: Document, edit: RemoveMove) -> Document:
    if edit.id not in document.moves:
        raise refused("edit.no_move", f"moves.{edit.id}", "There is no such move of this project.")
    for container_id, container in containers(document):
        owners: list[tuple[str | None, Layer | Scene]] = [(k, v) for k, v in container.layers.items()]
        if isinstance(container, Scene):
            owners.append((None, container))
        for layer_id, owner in owners:
            use = owner.camera_move if isinstance(owner, Scene) else owner.move
            if use is not None and use.move == edit.id and use.spread is not None:
                # Keyframes cannot say how it reaches letters.
                document = with_owner(
                    document, LaneRef(scene=container_id, layer=layer_id, property=""), owner.model_copy(update={"move": None})
                )
            elif use is not None and use.move == edit.id:
                ref = LaneRef(scene=container_id, layer=layer_id, property="")
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
