"""What the services need from storage; implemented in `storage`."""

from collections.abc import Callable, Collection, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import IO, Any, Literal, Protocol

from ..core.document import Document
from ..core.edits import Change
from ..core.tables import Table


@dataclass(frozen=True, slots=True)
class ProjectHead:
    """A project as it stands in a list. `length` in ticks; `fault`: why it cannot be read, or empty."""

    id: str
    owner: str
    title: str
    revision: int
    created: datetime
    updated: datetime
    deleted: datetime | None
    width: int
    height: int
    rate: str
    scenes: int
    pictures: int
    length: int
    fault: str


@dataclass(frozen=True, slots=True)
class EditEntry:
    """One step of a project's history. `forward` makes it, `inverse` takes it back."""

    label: str
    forward: Change
    inverse: Change


@dataclass(frozen=True, slots=True)
class VersionHead:
    """A named version."""

    id: str
    name: str
    revision: int
    created: datetime


class OpenProject(Protocol):
    """A project held for one transaction: nobody else changes it meanwhile."""

    head: ProjectHead

    @property
    def document(self) -> Document:
        """Read when it is first asked for. Raises InvalidDocument."""
        ...

    def record(self, entry: EditEntry, author: str, document: Document, request: str | None = None) -> int:
        """Store a new step, asked for by this name; what was undone before is forgotten. Gives the new revision."""
        ...

    def parts_of_request(self, request: str) -> frozenset[str] | None:
        """Names of the parts that a step asked for by this name has changed; None if it was not done."""
        ...

    def parts_changed_since(self, revision: int) -> frozenset[str] | None:
        """Names of the parts changed after a revision; None if the history does not reach back so far."""
        ...

    def undoable(self) -> tuple[int, EditEntry] | None: ...

    def redoable(self) -> tuple[int, EditEntry] | None: ...

    def step(self, sequence: int, undone: bool, change: Change, document: Document, request: str | None = None) -> int:
        """Mark a step undone or done again and store the document. Gives the new revision."""
        ...

    def labels(self) -> tuple[str | None, str | None]:
        """What undo and redo would do."""
        ...

    def add_version(self, name: str) -> VersionHead: ...

    def versions(self) -> list[VersionHead]: ...

    def version_document(self, version: str) -> Document: ...

    def set_deleted(self, deleted: bool) -> None: ...


@dataclass(frozen=True, slots=True)
class TemplateUsed:
    """That a project uses version `version` of template `template` of a library, what is in which is named by `key`: by record `record` of its
    document."""

    project: str
    title: str
    record: str
    template: str
    version: str
    key: str


class ProjectStore(Protocol):
    def templates_used(self, owner: str) -> list[TemplateUsed]:
        """By projects not deleted, last changed first."""
        ...

    def heads(self, owner: str) -> list[ProjectHead]:
        """Projects not deleted, last changed first."""
        ...

    def create(self, owner: str, document: Document) -> ProjectHead: ...

    def read(self, project: str) -> tuple[ProjectHead, Document]:
        """Raises NotFound."""
        ...

    def hold(self, project: str) -> AbstractContextManager[OpenProject]:
        """Raises NotFound."""
        ...


@dataclass(frozen=True, slots=True)
class MediaState:
    """How far the work on a file is: `waiting`, `working` (`share` of it is done, 0 to 1), `ready`, or `failed` with a code and a message;
    one that waits may have a message, too."""

    sha256: str
    state: str
    message: str = ""
    share: float = 0.0
    code: str = ""


Work = Literal["prepare", "listen"]
"""What workers do with a file: its levels as a picture, or hearing it through. A clip's file can be music, too."""


class Blobs(Protocol):
    """Bytes by key (`keys.py`): whole or not there, wherever they lie. Paths are of files of this machine, for as long as they are used."""

    def receive(self, stream: IO[bytes], limit: int) -> Path:
        """A temporary file with the stream's bytes. Raises LimitReached over `limit`, StorageFull."""
        ...

    def keep(self, received: Path, key: str) -> None:
        """A received file becomes the blob, durably; one that is there already stays."""
        ...

    def has(self, key: str) -> bool: ...

    def local(self, key: str) -> Path:
        """A copy to read. Raises FileNotFoundError."""
        ...

    def writing(self, key: str, durable: bool = True) -> AbstractContextManager[Path]:
        """A file to write, which becomes the blob when all went well; else nothing is left. Not `durable`: it may be lost with the machine,
        and is made again."""
        ...

    def forget(self, key: str) -> None: ...

    def trim(self, prefix: str, most_bytes: int) -> None:
        """Forgets what lies under a prefix and was made longest ago, until the rest is no larger."""
        ...

    def sweep(self, prefix: str, known: Collection[str], older_seconds: float) -> None:
        """Forgets what lies under a prefix and is not among the known keys, once nobody can be writing it any more."""
        ...


class MediaStore(Protocol):
    """Original files by content, what is made of them, and how far that is."""

    @property
    def blobs(self) -> Blobs: ...

    def state_of(self, work: Work, hashes: Sequence[str]) -> list[MediaState]: ...

    def request_preparation(self, sha256: str) -> None:
        """Have a worker prepare the picture, unless it is prepared or waiting."""
        ...

    def request_listening(self, sha256: str) -> None:
        """Have a worker listen to the sound, unless it is listened to or waiting."""
        ...

    def set_state(self, work: Work, state: MediaState) -> None: ...


@dataclass(frozen=True, slots=True)
class ExportRecord:
    """An export. Frames are counted at the export's rate; times are of the server's clock."""

    id: str
    project: str
    owner: str
    file_name: str
    state: str
    settings: dict[str, Any]
    frames: int
    done_frames: int
    message: str
    bytes: int
    created: datetime
    started: datetime | None
    finished: datetime | None


@dataclass(frozen=True, slots=True)
class KeptFile:
    """A coded segment as it was written: its length and the SHA-256 of its bytes."""

    bytes: int
    sha256: str


BatchPlace = tuple[str, int]
"""(batch, row) of a film of a table."""


class ExportStore(Protocol):
    """Exports and their segments; `state` is waiting, rendering, joining, done, failed or cancelled."""

    def create(
        self, project: str, owner: str, document: Document, settings: dict[str, Any], file_name: str, frames: int, of: BatchPlace | None = None
    ) -> ExportRecord:
        """Stores an export of so many frames, and asks a worker to plan it. `of`: the film of a table that it is; asked for twice, it is stored once."""
        ...

    def known_keys(self, export: str) -> dict[str, str]:
        """Keys of segments by their sources, as the project's latest exports have them."""
        ...

    def plan(self, export: str, segments: Sequence[tuple[int, int, str, str]], ready: Collection[str]) -> None:
        """`(first frame, last frame, key, source)` of each segment, and the keys of those that are there already: workers are asked to render
        the others. Once, however often it is done."""
        ...

    def listed(self, project: str) -> list[ExportRecord]:
        """Those of the project itself, the newest first; not the films of its table."""
        ...

    def read(self, export: str) -> ExportRecord:
        """Raises NotFound."""
        ...

    def document(self, export: str) -> Document: ...

    def segments(self, export: str) -> list[tuple[int, int, str]]:
        """Empty until it is planned."""
        ...

    @property
    def blobs(self) -> Blobs:
        """Where segments and films are kept."""
        ...

    def kept(self, keys: Collection[str]) -> dict[str, KeptFile]:
        """How segments were written, of those that are kept; they count as used now."""
        ...

    def forget_segment(self, key: str) -> None:
        """It is not what it was: its file goes."""
        ...

    def prune_segments(self, most_bytes: int) -> None:
        """Deletes the segments longest unused until the rest is no larger; those of exports under way stay."""
        ...

    def begin(self, export: str) -> bool:
        """Marks it rendering; False if it is over (cancelled or failed)."""
        ...

    def is_over(self, export: str) -> bool: ...

    def progress(self, export: str, index: int, frames: int) -> None:
        """Frames of segment `index` done so far."""
        ...

    def finish_segment(self, export: str, index: int, key: str, file: KeptFile) -> None:
        """Once, with its effect: the last one asks a worker to join them."""
        ...

    def render_again(self, export: str, indexes: Sequence[int]) -> None:
        """Segments that are not what they were are asked for once more; then it is joined."""
        ...

    def set_state(self, export: str, state: str, message: str = "", size: int = 0) -> None: ...

    def forget(self, export: str) -> None: ...


@dataclass(frozen=True, slots=True)
class KeptTemplate:
    """A template that an account has. `facts`: what the library shows of it; `source`: `made` here, or `opened` from a file; `project` and `made_as`:
    where it was made."""

    id: str
    template: str
    version: str
    key: str
    source: Literal["made", "opened"]
    project: str
    made_as: str
    facts: dict[str, Any]
    created: datetime


class TemplateStore(Protocol):
    """Templates of accounts, by what they are; their files are blobs."""

    @property
    def blobs(self) -> Blobs: ...

    def listed(self, account: str) -> list[KeptTemplate]:
        """The newest first."""
        ...

    def add(self, account: str, kept: KeptTemplate) -> None:
        """Raises Conflict if the account has this version of the template already."""
        ...

    def remove(self, account: str, id: str) -> bool:
        """Whether there was one."""
        ...

    def favourites(self, account: str) -> set[str]: ...

    def set_favourite(self, account: str, template: str, on: bool) -> None: ...


@dataclass(frozen=True, slots=True)
class KeptTable:
    """The table of a project. `mapping`: what each column is for; `pattern`: what the films are called."""

    name: str
    table: Table
    mapping: dict[str, str]
    pattern: str


@dataclass(frozen=True, slots=True)
class FilmBatch:
    """Films of a table asked for together. `numbers`: the rows, from 0; `made`: of how many of those there is an export; `state` is making, made,
    stopped or failed."""

    id: str
    project: str
    owner: str
    settings: dict[str, Any]
    numbers: tuple[int, ...]
    made: int
    state: str
    message: str
    created: datetime


class TableStore(Protocol):
    """Tables of projects, and the films that were asked for of them."""

    def read(self, project: str) -> KeptTable | None: ...

    def keep(self, project: str, made: Callable[[KeptTable | None], KeptTable]) -> KeptTable:
        """Keeps what is made of the one before, which nobody changes meanwhile."""
        ...

    def change(self, project: str, mapping: dict[str, str] | None, pattern: str | None) -> None:
        """What columns are for, and what films are called; None: as it is."""
        ...

    def forget(self, project: str) -> None: ...

    def begin(self, project: str, owner: str, document: Document, table: KeptTable, settings: dict[str, Any], numbers: Sequence[int]) -> FilmBatch:
        """Stores what films are to be made of, and asks a worker to make them."""
        ...

    def batch(self, id: str) -> FilmBatch:
        """Raises NotFound."""
        ...

    def made_of(self, id: str) -> tuple[Document, KeptTable]:
        """What the films of a batch are made of."""
        ...

    def batches(self, project: str) -> list[FilmBatch]:
        """The newest first."""
        ...

    def count(self, id: str, made: int) -> None: ...

    def set_state(self, id: str, state: str, message: str = "") -> None:
        """Of one that is still being made."""
        ...

    def remove(self, id: str) -> None: ...

    def films(self, id: str) -> list[tuple[int, ExportRecord]]:
        """(row, export) of its films so far, in order."""
        ...


class SignInStore(Protocol):
    def add(self, key: str, account: str, token: str) -> None: ...

    def find(self, key: str) -> tuple[str, str] | None:
        """(account, token); it counts as used now."""
        ...

    def end(self, account: str, key: str, others: bool) -> None:
        """One sign-in of an account, or all but that one."""
        ...
