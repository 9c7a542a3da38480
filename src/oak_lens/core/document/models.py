"""The document of one project, schema 6. Format: `docs/document-format.md`.

`None` where a value may be inherited means "as the look or the project's defaults say".
"""

from collections.abc import Iterator, Mapping
from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field, field_validator, model_validator

from ..curves import AnyLane
from ..joins import JOINS, JoinSettings
from ..looks import Backdrop, Correction, Look, Mount, Shadow
from ..looks.parameters import parameters_of
from ..moves import BEYOND, SHIPPED, Move, MoveUse
from ..stage import CameraRig, Light, Travel
from ..time import RATES, TICKS_PER_SECOND, FrameRate, rate_named
from .layers import KIND_OF, LAYER_PROPERTIES, FitChoice, GroupLayer, Layer, Table
from .media import Media
from .properties import Property, known_lanes, properties_of
from .records import HoldTicks, Id, IdKey, Name, OrderKey, Record, Speed, Ticks
from .sounds import Mix, Song, SoundFile

SCHEMA_VERSION = 6


def _even(value: int) -> int:
    if value % 2:
        raise ValueError("must be an even number of pixels")
    return value


def _known_rate(value: str) -> str:
    if value not in {r.label for r in RATES}:
        raise ValueError("must be one of " + ", ".join(r.label for r in RATES))
    return value


EvenPixels = Annotated[int, Field(ge=64, le=4096), AfterValidator(_even)]
RateLabel = Annotated[str, AfterValidator(_known_rate)]


class Frame(Record):
    """Shape, size in pixels (even numbers) and rate of the film."""

    width: EvenPixels = 1920
    height: EvenPixels = 1080
    rate: RateLabel = "30"

    @property
    def aspect(self) -> float:
        """Width / height."""
        return self.width / self.height

    @property
    def frame_rate(self) -> FrameRate:
        return rate_named(self.rate)


class Join(JoinSettings):
    """What happens from the scene before into this one; `length` in ticks (0 where the kind is instant)."""

    kind: str = "dissolve"
    length: Ticks = TICKS_PER_SECOND

    @field_validator("kind")
    @classmethod
    def _known_kind(cls, value: str) -> str:
        if value not in JOINS:
            raise ValueError("must be one of " + ", ".join(JOINS))
        return value

    @property
    def wished_length(self) -> int:
        """Ticks the join lasts where the scenes it joins leave it so much."""
        return 0 if JOINS[self.kind].instant else self.length


class Ends(Record):
    """What leads into the first scene and out of the last: from and to a frame of the join's colour; None: they just begin and end."""

    beginning: Join | None = None
    ending: Join | None = None


class Fade(Record):
    """From (or to) a colour over so many ticks."""

    length: Ticks = TICKS_PER_SECOND
    colour: Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")] = "#000000"


SCENE_PROPERTIES = {
    **properties_of("camera", parameters_of(CameraRig)),
    **properties_of("light", parameters_of(Light)),
    **properties_of("backdrop", parameters_of(Backdrop)),
}
"""Every number of a scene that can be keyframed, by `part.name`."""

Shutter = Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)]
"""Degrees of motion blur: 360 is as long as a frame, 0 none."""


class Defaults(Record):
    """Project defaults; scenes and photos that say nothing of their own follow them. A look comes before the parts below it."""

    hold: HoldTicks = 3 * TICKS_PER_SECOND
    join: Join = Join()
    shutter: Shutter = 0.0
    fit: FitChoice = "auto"
    look: Id | None = None
    mount: Mount = Mount()
    shadow: Shadow = Shadow()
    backdrop: Backdrop = Backdrop()
    correction: Correction = Correction()


class Layout(Record):
    """How the photos of a scene were laid out: with the same seed and frame it gives the same places again. `gap` in frame heights."""

    kind: str
    seed: int = Field(1, ge=0, le=9999)
    gap: float = Field(0.02, ge=0, le=0.2, allow_inf_nan=False)


class Scene(Record):
    """One row of the run sheet. `join` leads from the scene before into this one.

    `light` None: it is evenly lit. `animation`: lanes of the camera, the light and the backdrop, relative to their own numbers.
    `shutter` None: as the project's defaults say. `speed`: how fast everything in it runs against the film; its hold is film time.
    """

    numbers: ClassVar[Mapping[str, Property]] = SCENE_PROPERTIES

    order: OrderKey
    name: Name = ""
    hold: HoldTicks | None = None
    speed: Speed = 1.0
    join: Join | None = None
    backdrop: Backdrop | None = None
    layout: Layout | None = None
    camera: CameraRig = CameraRig()
    light: Light | None = None
    shutter: Shutter | None = None
    fade_in: Fade | None = None
    fade_out: Fade | None = None
    travel: Travel | None = None
    animation: dict[str, AnyLane] = Field(default_factory=dict)
    camera_move: MoveUse | None = None
    layers: dict[IdKey, Layer] = Field(default_factory=dict)

    @field_validator("animation")
    @classmethod
    def _lanes_are_known(cls, value: dict[str, AnyLane]) -> dict[str, AnyLane]:
        return known_lanes(value, cls.numbers)


class SharedGroup(Record):
    """Layers that several scenes show through groups; a change reaches all of them."""

    name: Name = ""
    layers: dict[IdKey, Layer] = Field(default_factory=dict)


class Guide(Record):
    """A line to lay out by. `at`: fraction of the frame from its left (axis x) or top (axis y) edge."""

    axis: Literal["x", "y"]
    at: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Document(Record):
    """A whole project."""

    schema_version: Literal[6] = Field(6, alias="schema")
    title: Annotated[str, Field(min_length=1, max_length=200)] = "Untitled film"
    frame: Frame = Frame()
    defaults: Defaults = Defaults()
    ends: Ends = Ends()
    looks: dict[IdKey, Look] = Field(default_factory=dict)
    moves: dict[IdKey, Move] = Field(default_factory=dict)
    groups: dict[IdKey, SharedGroup] = Field(default_factory=dict)
    guides: tuple[Guide, ...] = ()
    sounds: dict[IdKey, SoundFile] = Field(default_factory=dict)
    songs: dict[IdKey, Song] = Field(default_factory=dict)
    mix: Mix = Mix()
    media: dict[IdKey, Media] = Field(default_factory=dict)
    scenes: dict[IdKey, Scene] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _everything_named_is_there(self) -> "Document":
        faults = broken_links(self)
        if faults:
            raise ValueError("; ".join(faults))
        return self


TABLES: Mapping[Table, str] = {"media": "picture", "looks": "look", "groups": "shared group"}
"""What a record of each table is called."""


def broken_links(document: Document) -> list[str]:
    """Sentences about everything a document names that is not there, and about groups that hold themselves."""
    found: list[str] = []

    def missing(path: str, what: str) -> None:
        found.append(f"at {path} a {what} is named that the document does not list")

    def backdrop(path: str, value: Backdrop | None) -> None:
        if value is not None and value.media is not None and value.media not in document.media:
            missing(f"{path}.media", "picture")

    backdrop("defaults.backdrop", document.defaults.backdrop)
    for look_id, look in document.looks.items():
        backdrop(f"looks.{look_id}.backdrop", look.backdrop)
    if document.defaults.look is not None and document.defaults.look not in document.looks:
        missing("defaults.look", "look")
    for move_id, move in document.moves.items():
        try:
            known_lanes({k: v for k, v in move.lanes.items() if k not in BEYOND}, {**LAYER_PROPERTIES, **SCENE_PROPERTIES})
        except ValueError as error:
            found.append(f"at moves.{move_id}.lanes {error}")

    def move_use(path: str, use: MoveUse | None) -> None:
        if use is not None and use.move not in document.moves and use.move not in SHIPPED:
            missing(f"{path}.move", "move")

    for song_id, song in document.songs.items():
        if song.sound not in document.sounds:
            missing(f"songs.{song_id}.sound", "sound")
    for scene_id, scene in document.scenes.items():
        backdrop(f"scenes.{scene_id}.backdrop", scene.backdrop)
        move_use(f"scenes.{scene_id}.camera_move", scene.camera_move)
        for stop_id, stop in (scene.travel.stops if scene.travel else {}).items():
            if stop.layer is not None and stop.layer not in scene.layers:
                missing(f"scenes.{scene_id}.travel.stops.{stop_id}.layer", "layer")
    for root, layers in _layer_maps(document):
        for layer_id, layer in layers.items():
            path = f"{root}.layers.{layer_id}"
            for slot in ("move", "entrance", "exit"):
                move_use(f"{path}.{slot}", getattr(layer, slot))
            if layer.parent is not None and not _is_inside_groups(layers, layer_id):
                found.append(f"at {path}.parent must stand a group of the same scene that does not hold itself")
            for name, table in KIND_OF[layer.kind].named:
                named = getattr(layer, name)
                if named is not None and named not in getattr(document, table):
                    missing(f"{path}.{name}", TABLES[table])
    for group_id in document.groups:
        if group_id in document.scenes:
            found.append(f"at groups.{group_id} a shared group has the id of a scene")
        if group_id in _shared_within(document, group_id, frozenset()):
            found.append(f"at groups.{group_id} a shared group holds itself")
    return found


def _layer_maps(document: Document) -> Iterator[tuple[str, Mapping[str, Layer]]]:
    for scene_id, scene in document.scenes.items():
        yield f"scenes.{scene_id}", scene.layers
    for group_id, group in document.groups.items():
        yield f"groups.{group_id}", group.layers


def _is_inside_groups(layers: Mapping[str, Layer], layer_id: str) -> bool:
    """Whether the chain of parents ends at the top and has own groups only."""
    seen = {layer_id}
    parent = layers[layer_id].parent
    while parent is not None:
        group = layers.get(parent)
        if parent in seen or not isinstance(group, GroupLayer) or group.shared is not None:
            return False
        seen.add(parent)
        parent = group.parent
    return True


def _shared_within(document: Document, group_id: str, above: frozenset[str]) -> frozenset[str]:
    """Ids of the shared groups reached from one."""
    group = document.groups.get(group_id)
    if group is None or group_id in above:
        return frozenset()
    direct = {layer.shared for layer in group.layers.values() if isinstance(layer, GroupLayer) and layer.shared}
    return frozenset(direct).union(*(_shared_within(document, d, above | {group_id}) for d in direct))
