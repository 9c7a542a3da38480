"""What a move changes at a moment."""

from collections.abc import Callable, Mapping
from typing import Literal

from ..curves import AnyLane, PathLane, lerp_number, path_point, sample
from ..time import TICKS_PER_SECOND
from .move import BEYOND, Move, MoveUse
from .paces import paced

Offsets = dict[str, float]
"""By property: how much is added, or for factors, how often it is multiplied."""

Slot = Literal["move", "entrance", "exit"]

FACTORS = frozenset({"placement.size", "layer.opacity", "window.aspect", "camera.focal"})
"""Properties that lanes multiply."""

PATHS = {
    "placement.path": ("placement.x", "placement.y", "placement.z", "placement.turn"),
    "camera.path": ("camera.x", "camera.y", "camera.dolly", "camera.roll"),
}
"""Path lanes: the properties that their x, y, z and heading change. Of a camera, z is its dolly forwards."""

ENTRANCE_LENGTH = round(0.9 * TICKS_PER_SECOND)
SIDES = ("left", "top", "right", "bottom")


def lane_offsets(lanes: Mapping[str, AnyLane], at: int, length: int, aspect: float) -> Offsets:
    """What lanes change `at` ticks into a span of `length`."""
    found: Offsets = {}
    for name, lane in lanes.items():
        if isinstance(lane, PathLane):
            place, heading = path_point(lane, at, length, aspect)
            for part, value in zip(PATHS[name], (*place, heading if lane.turn_along else 0.0), strict=True):
                if value:
                    add(found, part, value)
        else:
            add(found, name, sample(lane, at, length, lerp_number))
    return found


def add(offsets: Offsets, name: str, value: float) -> None:
    """One more change of a property."""
    if name in FACTORS:
        offsets[name] = offsets.get(name, 1.0) * value
    else:
        offsets[name] = offsets.get(name, 0.0) + value


def joined(offsets: Offsets, more: Offsets) -> None:
    """More changes into `offsets`."""
    for name, value in more.items():
        add(offsets, name, value)


def used_length(use: MoveUse, move: Move, slot: Slot, length: int) -> int:
    """Ticks the move takes in a span of `length`."""
    own = use.length or move.length
    if slot == "move":
        return min(own or length, max(length - use.delay, 1)) if own else max(length - use.delay, 1)
    return min(own or ENTRANCE_LENGTH, max(length, 1))


def use_offsets(
    use: MoveUse, move: Move, slot: Slot, at: int, length: int, aspect: float, beyond: Callable[[], tuple[float, float, float, float]]
) -> Offsets:
    """What a used move changes `at` ticks into a span of `length`.

    `beyond`: how far (left, up, right, down; fractions of the frame) the thing must go to be just out of sight.
    """
    local, takes = use_moment(use, move, slot, at, length)
    return offsets_within(use, move, paced_moment(use, slot, local, takes), takes, aspect, beyond)


def use_moment(use: MoveUse, move: Move, slot: Slot, at: int, length: int) -> tuple[int, int]:
    """(ticks into the move, ticks that it takes) `at` ticks into a span of `length`."""
    takes = used_length(use, move, slot, length)
    # A delay leaves an entrance and an exit their time where the span has it.
    delay = use.delay if slot == "move" else min(use.delay, max(length - takes, 0))
    local = at - delay if slot != "exit" else length - delay - at
    local = min(max(local, 0), takes)
    return (takes - local if use.backwards else local), takes


def paced_moment(use: MoveUse, slot: Slot, local: int, takes: int) -> int:
    """Ticks into a move by the use's own pace, which runs with the clock: in an exit, or backwards, from the move's end."""
    if use.pace == "none" or takes < 1:
        return local
    from_end = (slot == "exit") != use.backwards
    passed = paced(use.pace, 1.0 - local / takes if from_end else local / takes)
    return round((1.0 - passed if from_end else passed) * takes)


def offsets_within(
    use: MoveUse,
    move: Move,
    local: int,
    takes: int,
    aspect: float,
    beyond: Callable[[], tuple[float, float, float, float]],
    scatter: Mapping[str, float] | None = None,
) -> Offsets:
    """What a used move changes `local` ticks into the `takes` that it takes. `scatter`: by what its scattered lanes are multiplied."""
    found = lane_offsets(move.lanes, local, takes, aspect)
    if scatter:
        found = {k: v * scatter[k] if k in scatter else v for k, v in found.items()}
    turned: Offsets = {}
    for name, value in _sided(found, use).items():
        if name in BEYOND:
            left, up, right, down = beyond()
            way = (right if value > 0 else left) if name == "beyond.x" else (down if value > 0 else up)
            add(turned, "placement.x" if name == "beyond.x" else "placement.y", value * way)
        else:
            add(turned, name, scaled_factor(value, use.strength) if name in FACTORS else value * use.strength)
    return turned


LARGEST_FACTOR = 1e4


def scaled_factor(value: float, strength: float) -> float:
    """A factor at a strength: its power. A curve may swing below nothing, which no power is taken of."""
    return float(min(max(value, 0.0), LARGEST_FACTOR) ** strength)


def _sided(offsets: Offsets, use: MoveUse) -> Offsets:
    """Turned by quarters to the use's side, then mirrored."""
    quarters = SIDES.index(use.side)
    found = dict(offsets)
    for _ in range(quarters):
        found = _quarter(found)
    if use.mirrored:
        found = {k: -v if k in MIRRORED else v for k, v in found.items()}
    return found


MIRRORED = frozenset(
    {"placement.x", "letters.x", "placement.turn", "placement.swing", "beyond.x", "camera.x", "camera.pan", "camera.roll", "camera.orbit"}
)
"""What changes its sign where left and right are swapped."""

TURNED_PAIRS = (
    ("placement.x", "placement.y", -1.0),
    ("letters.x", "letters.y", -1.0),
    ("beyond.x", "beyond.y", -1.0),
    ("placement.swing", "placement.tip", 1.0),
    ("camera.x", "camera.y", -1.0),
    ("camera.pan", "camera.tilt", 1.0),
    ("camera.orbit", "camera.rise", 1.0),
)
"""(across, down, sign): what changes places in a quarter turn clockwise. y points down; tip lifts the top away, tilt and rise go up."""


def _quarter(offsets: Offsets) -> Offsets:
    found = {k: v for k, v in offsets.items() if not any(k in pair for pair in TURNED_PAIRS)}
    for across, down, sign in TURNED_PAIRS:
        x, y = offsets.get(across, 0.0), offsets.get(down, 0.0)
        # A vector (x, y), y down, becomes (-y, x); of those that count upwards, y is -down.
        if x or y:
            found |= {k: v for k, v in ((across, sign * y), (down, -sign * x)) if v}
    return found


def lane_sided(lanes: Mapping[str, AnyLane], use: MoveUse) -> dict[str, AnyLane]:
    """Lanes as a use turns, mirrors and scales them."""
    found: dict[str, AnyLane] = {}
    for name, lane in lanes.items():
        if isinstance(lane, PathLane):
            fields = ("value", "tangent_in", "tangent_out")
            points = {
                k: key.model_copy(update={f: _sided_point(name, getattr(key, f), use) for f in fields}) for k, key in lane.keys.items()
            }
            found[name] = lane.model_copy(update={"keys": points})
            continue
        # Where one number goes, all its keys go: ask with a value of 1.
        probe = name if name in FACTORS else next(iter(_sided({name: 1.0}, use)), name)
        numbers = {
            key_id: key.model_copy(
                update={
                    "value": scaled_factor(key.value, use.strength)
                    if name in FACTORS
                    else _sided({name: key.value}, use).get(probe, 0.0) * use.strength
                }
            )
            for key_id, key in lane.keys.items()
        }
        found[probe] = lane.model_copy(update={"keys": numbers})
    return found


def _sided_point(path: str, point: tuple[float, float, float], use: MoveUse) -> tuple[float, float, float]:
    parts = PATHS[path][:3]
    turned = _sided(dict(zip(parts, point, strict=True)), use)
    x, y, z = (turned.get(p, 0.0) * use.strength for p in parts)
    return x, y, z
