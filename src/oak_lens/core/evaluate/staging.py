"""A scene (or a shared group by itself) staged at a moment: how it is seen, and every layer where it stands, as it is then. Draw lists,
outlines, paths, snapping, findings, lanes and the plan all read this."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property, partial

from ..document import Document, Layer, Scene, in_order, shared_of
from ..space import Matrix3, plane_homography
from .cameras import Seeing, seeing_at
from .kinds import STANDS
from .motion import Motion, layer_motion, moved_layer
from .standing import Ground, Moment, Standing, frame_ground, ground_in
from .travels import travel_at


@dataclass(frozen=True, slots=True)
class Placed:
    """A layer where it stands. `container`: the scene or shared group that lists it; `now`: the layer with its numbers as they are.

    `ground`: what it is placed on. `standing`: what it shows, None for a group; `inner`: the ground that a group makes for its layers,
    `inside`. `frame_from_plane`: of the layer's own plane, for a group that of its ground. `in_sight`: neither hidden nor kept out by
    another's solo; `locked`: it or a group that it is in must not be moved.
    """

    container: str
    layer_id: str
    layer: Layer
    now: Layer
    motion: Motion
    ground: Ground
    standing: Standing | None
    inner: Ground | None
    frame_from_plane: Matrix3
    in_sight: bool
    locked: bool
    inside: tuple["Placed", ...] = ()


@dataclass(frozen=True)
class Staged:
    """`at` ticks of a container's own time after it came on screen for `length` ticks. `layers`: lowest first, those of groups inside."""

    document: Document
    container: str
    at: int
    length: int
    seeing: Seeing
    ground: Ground
    layers: tuple[Placed, ...]

    @cached_property
    def every_layer(self) -> tuple[Placed, ...]:
        """All layers, a group after what is in it."""
        return tuple(flattened(self.layers))

    def find(self, container: str, layer_id: str) -> Placed | None:
        """The layer, if it is seen here."""
        return next((p for p in self.every_layer if (p.container, p.layer_id) == (container, layer_id)), None)


def scene_seeing(document: Document, scene: Scene, at: int, length: int) -> Seeing:
    """How the scene's camera sees it at a moment, on its travel if it has one."""
    return seeing_at(document, scene, at, length, travel_at(document, scene, at, length))


def staged(document: Document, container: str, at: int, length: int, *, in_sight_only: bool = False) -> Staged:
    """The scene as its camera sees it, or the shared group as the home camera would. `in_sight_only`: without layers that cannot be seen."""
    scene = document.scenes.get(container)
    ground = frame_ground(document, None if scene is None else scene_seeing(document, scene, at, length))
    layers = document.groups[container].layers if scene is None else scene.layers
    placed = _placed(Moment(document, at, length, container), container, layers, None, ground, shown_layers(layers), in_sight_only)
    return Staged(document, container, at, length, ground.seeing, ground, placed)


def _placed(
    moment: Moment,
    container: str,
    layers: Mapping[str, Layer],
    parent: str | None,
    ground: Ground,
    shown: frozenset[str],
    in_sight_only: bool,
    locked: bool = False,
) -> tuple[Placed, ...]:
    document, found = moment.document, []
    for layer_id, layer in in_order(layers):
        in_sight = not layer.hidden and layer_id in shown
        if layer.parent != parent or (in_sight_only and not in_sight):
            continue
        kind, fixed = STANDS[layer.kind], locked or layer.locked
        motion = layer_motion(document, layer, moment.at, moment.length, partial(kind.beyond, document, layer))
        now = moved_layer(document, layer, motion)
        if kind.standing is not None:
            standing = kind.standing(moment, now, motion, ground, max(now.placement.z - layer.placement.z, 0.0))
            found.append(
                Placed(container, layer_id, layer, now, motion, ground, standing, None, standing.frame_from_plane, in_sight, fixed)
            )
            continue
        inner = ground_in(document, ground, now.placement)
        listing, listed, seen = container, layers, shown
        within: str | None = layer_id
        if (shared := shared_of(layer)) is not None:
            listing, listed, within = shared, document.groups[shared].layers, None
            seen = shown_layers(listed)
        inside = _placed(moment, listing, listed, within, inner, seen, in_sight_only, fixed)
        plane = plane_homography(inner.frame_from_ground)
        found.append(Placed(container, layer_id, layer, now, motion, ground, None, inner, plane, in_sight, fixed, inside))
    return tuple(found)


def flattened(placed: tuple[Placed, ...]) -> Iterator[Placed]:
    """Every layer, a group after what is in it."""
    for entry in placed:
        yield from flattened(entry.inside)
        yield entry


def shown_layers(layers: Mapping[str, Layer]) -> frozenset[str]:
    """Ids of the layers that solo leaves in sight: all, or the solo ones with what they are in and what is in them."""
    solo = {k for k, layer in layers.items() if layer.solo}
    if not solo:
        return frozenset(layers)

    def above(layer_id: str) -> set[str]:
        parent = layers[layer_id].parent
        return {layer_id} | (above(parent) if parent is not None and parent in layers else set())

    return frozenset(k for k in layers if above(k) & solo).union(*(above(k) for k in solo))
