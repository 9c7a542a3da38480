"""Shapes of requests and answers; OpenAPI and the TypeScript client are made from them."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, WithJsonSchema
from typing_extensions import TypedDict

from ..core.document import (
    Area,
    Defaults,
    Details,
    Document,
    Ends,
    Frame,
    Guide,
    Media,
    Mix,
    OwnFont,
    Poster,
    ProjectField,
    Scene,
    SharedGroup,
    Song,
    SoundFile,
    Template,
)
from ..core.looks import Look, TextStyle
from ..core.moves import Move
from ..core.sound import Wish

Json = dict[str, Any]

Edits = list[Annotated[Json, WithJsonSchema({"title": "AnyEdit"})]]
"""Edits as they come: the core reads them, `description.py` says what each may hold."""


class Request(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Answer(BaseModel):
    model_config = ConfigDict(json_schema_serialization_defaults_required=True)


class ProjectPath(BaseModel):
    project: str


class PicturePath(ProjectPath):
    media: str


class ScenePath(ProjectPath):
    scene: str


class ExportPath(BaseModel):
    export: str


class VersionPath(ProjectPath):
    version: str


class FaultModel(Answer):
    code: str
    path: str
    message: str


class Faults(Answer):
    faults: list[FaultModel]


class SessionAnswer(Answer):
    """`token` goes with every request that changes something, in the header X-Oak-Token."""

    account: str
    name: str
    token: str


class EndSession(Request):
    """`others`: all other browsers instead of this one."""

    others: bool = False


class ProjectSummary(Answer):
    """A project in the list. `length_seconds` of the film; `poster_key` names how its poster looks; `fault` says why it cannot be
    read."""

    id: str
    title: str
    revision: int
    updated: str
    width: int
    height: int
    rate: str
    scenes: int
    pictures: int
    length_seconds: float
    poster_key: str
    fault: str


class ProjectList(Answer):
    projects: list[ProjectSummary]


class NewProject(Request):
    title: str = Field("Untitled film", min_length=1, max_length=200)
    edits: Edits = []
    copy_of: str | None = None


class ProjectCreated(Answer):
    id: str


# A plain record: hundreds of them are answered with every edit.
class SpanModel(TypedDict):
    """Times of a scene in ticks of the film."""

    scene: str
    join_start: int
    hold_start: int
    hold_end: int
    end: int


class TimelineModel(Answer):
    """`length` in ticks; `frames` at the film's rate, each `frame_ticks` long."""

    spans: list[SpanModel]
    length: int
    frames: int
    frame_ticks: int


class PhotoFindingModel(Answer):
    scene: str
    layer: str
    fit: str
    largest_use: float
    sharp_zoom: float
    soft: bool


class TextFindingModel(Answer):
    """Of a text: details that are not there, or have nothing in them; letters that no face has, or another than the chosen one; whether it does not
    fit its box."""

    layer: str
    unknown: list[str]
    empty: list[str]
    missing: str
    stood_in: str
    overflows: bool


class SceneFindingModel(Answer):
    """Found when the scene had this mark."""

    scene: str
    mark: str
    photos: list[PhotoFindingModel]
    texts: list[TextFindingModel]


class WantedScenes(Request):
    scenes: list[str] = Field(min_length=1, max_length=40)


class FindingsAnswer(Answer):
    findings: list[SceneFindingModel]


class MediaStateModel(Answer):
    sha256: str
    state: Literal["waiting", "working", "ready", "failed", "missing"]
    message: str
    share: float
    code: str


class AppliedModel(Answer):
    """Values that may be inherited, as they apply: of scenes (`hold`, `shutter`, `join`, `backdrop`) and layers (by `container/layer`: `mount`,
    `shadow`, `correction`, `fit`; of texts `said`, the beginning of what they say), each by its index in `values`; and under `differing`, of
    both, which parts are not as a new one has them."""

    values: list[Any]
    scenes: dict[str, dict[str, int]]
    layers: dict[str, dict[str, int]]


class ProjectAnswer(Answer):
    """`marks` change with what scenes show."""

    id: str
    revision: int
    document: Document
    timeline: TimelineModel
    marks: dict[str, str]
    applied: AppliedModel
    undo: str | None
    redo: str | None


class EditRequest(Request):
    """Edits as one step, made on revision `base`."""

    base: int = Field(ge=0)
    edits: Edits = Field(min_length=1, max_length=10_000)


class EditAnswer(Answer):
    """What changed: new values of head fields, and records by id (null: gone); new marks of the scenes that may
    look different; what applies in those that may inherit otherwise."""

    revision: int
    title: str | None
    frame: Frame | None
    defaults: Defaults | None
    ends: Ends | None
    details: Details | None
    looks: dict[str, Look] | None
    styles: dict[str, TextStyle] | None
    fonts: dict[str, OwnFont] | None
    moves: dict[str, Move] | None
    groups: dict[str, SharedGroup] | None
    guides: tuple[Guide, ...] | None
    poster: Poster | None
    sounds: dict[str, SoundFile] | None
    songs: dict[str, Song] | None
    mix: Mix | None
    fields: dict[str, ProjectField] | None
    templates: dict[str, Template] | None
    media: dict[str, Media | None]
    scenes: dict[str, Scene | None]
    timeline: TimelineModel
    marks: dict[str, str]
    applied: AppliedModel
    undo: str | None
    redo: str | None


class StateAnswer(Answer):
    """What a page asks for now and then: has anybody changed the project, how far are its pictures."""

    revision: int
    pictures: list[MediaStateModel]


class PictureAnswer(Answer):
    """A received file; its `record` goes into the edit `add_pictures`."""

    record: Json


class DevelopRequest(Request):
    """`width`: most pixels on a side."""

    edits: Edits = []
    width: int = Field(900, ge=16, le=1920)
    uncropped: bool = False


class ShapeRequest(Request):
    """Where the crop and the subject lie, with edits tried."""

    edits: Edits = []


class ShapeAnswer(Answer):
    """In fractions of the whole picture as it is turned by quarters; `turn`: of the crop, in degrees clockwise."""

    crop: Area
    subject: Area
    turn: float


class HistogramAnswer(Answer):
    """Heights 0..1 of red, green and blue from black to white; shares 0..1 of the picture that are clipped at black and at white."""

    channels: list[list[float]]
    dark: float
    light: float


class SuggestionAnswer(Answer):
    """Numbers of a correction."""

    correction: dict[str, float]


class PictureIds(Request):
    ids: list[str] = Field(min_length=1, max_length=2000)


class BorderModel(Answer):
    id: str
    crop: Area | None


class BordersAnswer(Answer):
    found: list[BorderModel]


class TriedFrame(Request):
    """One frame of a scene as it would be after some edits. `which`: its opening or closing frame, or where its hold begins; or, if given,
    the frame after a `share` of its time on screen (`join`: of the time of the join into it; `end`: out of it)."""

    edits: Edits = []
    scene: str
    which: Literal["opening", "closing", "hold", "join", "end"] = "hold"
    share: float | None = Field(None, ge=0, le=1, allow_inf_nan=False)
    width: int = Field(320, ge=16, le=1920)


class TriedEdits(Request):
    edits: Edits = Field(min_length=1, max_length=10_000)


class SceneChangeModel(Answer):
    """A scene that would be changed, and what of it."""

    scene: str
    what: list[str]


class ChangesAnswer(Answer):
    changes: list[SceneChangeModel]


class VersionModel(Answer):
    id: str
    name: str
    revision: int
    created: str


class VersionList(Answer):
    versions: list[VersionModel]


class NewVersion(Request):
    name: str = Field(min_length=1, max_length=200)


class FrameQuery(BaseModel):
    """`width` in pixels; `key` only tells one look from another in the browser's cache."""

    width: int = Field(320, ge=16, le=1920)
    which: Literal["opening", "settled", "closing"] = "opening"
    key: str = ""


class ShareQuery(BaseModel):
    """A moment of a scene, as a share of its time on screen."""

    share: float = Field(0.5, ge=0.0, le=1.0)


class MomentQuery(BaseModel):
    """A moment of a scene, as a share of its time on screen; `width` in pixels."""

    scene: str
    share: float = Field(0.5, ge=0.0, le=1.0)
    width: int = Field(960, ge=16, le=1920)


class SoundPath(ProjectPath):
    sound: str


class SoundAnswer(Answer):
    """How far a worker is with listening (0 to 1) to a file named by its content; when it is done, the record for `add_sounds`, and in
    `note` a sentence about what is odd with it, or nothing."""

    sha256: str
    share: float
    record: Json | None
    note: str


class FontAnswer(Answer):
    """A font that was let in: the record for `add_fonts`, without its id."""

    record: Json


class FaceSampleQuery(BaseModel):
    """A line of `text` in a face; `ink`: colour as rrggbb; `height` of the picture in pixels."""

    family: str = Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")
    text: str = Field("", max_length=60)
    weight: float = Field(400, ge=100, le=900)
    italic: bool = False
    ink: str = Field("222222", pattern=r"^[0-9a-f]{6}$")
    height: int = Field(44, ge=16, le=200)


class ListeningPath(BaseModel):
    project: str
    sha256: str = Field(pattern="^[0-9a-f]{64}$")


class ListeningQuery(BaseModel):
    """`name`: the file's, for its record."""

    name: str = Field("sound", max_length=300)


class MusicWish(Wish):
    """Music made to length."""


class PeaksQuery(BaseModel):
    """`count` even stretches between two ticks of the file."""

    start: int = Field(0, ge=0)
    end: int = Field(ge=1)
    count: int = Field(600, ge=1, le=8000)


class PeaksAnswer(Answer):
    """[least, greatest] of each stretch, in 127ths of full scale."""

    peaks: list[tuple[int, int]]


class PlacedSong(Answer):
    song: str
    start: int
    end: int


class HeardAnswer(Answer):
    songs: list[PlacedSong]
    beats: list[int]
    bars: list[int]


class TriedAnswer(Answer):
    """What edits would make of the film's times and its songs."""

    timeline: TimelineModel
    heard: HeardAnswer
    songs: dict[str, Song]


class PieceQuery(BaseModel):
    """Samples at 48 kHz."""

    first: int = Field(0, ge=0)
    count: int = Field(240_000, ge=1, le=2_880_000)


class ExportRequest(Request):
    """See core/delivery/settings.py; times in ticks of the film."""

    kind: str = "mp4"
    width: int
    height: int
    rate: str
    quality: str = "good"
    start: int = Field(0, ge=0)
    end: int | None = None
    transparent: bool = False
    dither: str = "spread"
    repeat: bool = True


class EstimateAnswer(Answer):
    """`notes`: sentences about what will be otherwise than asked for."""

    frames: int
    length_seconds: float
    bytes: int
    file_name: str
    notes: list[str]


class ExportModel(Answer):
    """`seconds_left` is null until it can be told."""

    id: str
    file_name: str
    state: Literal["waiting", "rendering", "joining", "done", "failed", "cancelled"]
    settings: Json
    frames: int
    done_frames: int
    seconds_left: float | None
    message: str
    bytes: int
    created: str


class ExportList(Answer):
    exports: list[ExportModel]


class TemplateFactsModel(Answer):
    """A template as it stands in the library. `pictures`, `texts`: how many zones it has of them; `required`: pictures it asks for; `scenes`: how
    many it has; `repeats`: whether it takes any number of pictures; `length` in seconds; `shapes`: width / height of the zones of its first scene, `frames`
    of the frames it has scenes for.
    `kept`: the id it is kept by, empty for one that ships."""

    key: str
    id: str
    version: str
    name: str
    kind: str
    about: str
    words: str
    pictures: int
    required: int
    texts: int
    dials: int
    scenes: int
    repeats: bool
    length: float
    shapes: list[float]
    moods: list[str]
    songs: int
    frames: list[float]
    kept: str
    source: Literal["shipped", "made", "opened"]
    favourite: bool


class TemplateList(Answer):
    templates: list[TemplateFactsModel]


class OutlineModel(Answer):
    """Corners of a layer with its mount, in fractions of the frame from its top left; `container`: the scene or shared group that lists it."""

    container: str
    layer: str
    corners: list[tuple[float, float]]


class OutlineList(Answer):
    outlines: list[OutlineModel]


class TemplateUsedModel(Answer):
    """That a project uses a version of a template, by record `record` of its document; `keeps`: what was changed by hand there would stay with
    another version."""

    project: str
    title: str
    record: str
    template: str
    version: str
    keeps: bool


class TemplatesUsed(Answer):
    used: list[TemplateUsedModel]


class OfferModel(Answer):
    """A newer version (`newest`, by its `key`) of template `record` of a film, which uses `version`; `keeps`: what was changed by hand can be kept."""

    record: str
    template: str
    name: str
    version: str
    newest: str
    key: str
    keeps: bool


class OfferList(Answer):
    offers: list[OfferModel]


class TakenEverywhere(Answer):
    """In how many films."""

    films: int


class SavedTemplate(Request):
    """The template of the project that is saved, by its id there."""

    template: str


class Liked(Request):
    on: bool


class KeptTemplatePath(BaseModel):
    kept: str


class TemplateKeyPath(BaseModel):
    key: str = Field(pattern=r"^[0-9a-f]{64}$")


class TemplateIdPath(BaseModel):
    template: str = Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")


class ProjectTemplatePath(ProjectPath):
    template: str


class TrialPath(ProjectTemplatePath):
    trial: str


class TrialFrameQuery(BaseModel):
    scene: str
    share: float = Field(0.7, ge=0, le=1)
    width: int = Field(240, ge=16, le=1920)


class TrialModel(Answer):
    id: str
    label: str
    about: str


class TrialList(Answer):
    trials: list[TrialModel]


class TrialFindingModel(Answer):
    """One thing that is wrong; `scene` null: with the whole; `share` of the scene's time at which it is seen."""

    kind: str
    scene: str | None
    share: float
    message: str


class TrialReport(Answer):
    """`aspect`: width / height of its frame; `scenes` in order."""

    aspect: float
    scenes: list[str]
    findings: list[TrialFindingModel]
