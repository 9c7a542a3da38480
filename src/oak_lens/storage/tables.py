"""The tables. A document is a head row, a row per scene and per picture; every edit is a row."""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import BigInteger, Column, DateTime, ForeignKey, Index, LargeBinary, Text, UniqueConstraint
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlmodel import Field, SQLModel


def now() -> datetime:
    return datetime.now(UTC)


def _moment(nullable: bool = False) -> Any:
    return Column(DateTime(timezone=True), nullable=nullable)


def _parent(table: str, **options: Any) -> Any:
    return Column(Text, ForeignKey(f"{table}.id", ondelete="CASCADE"), nullable=False, **options)


class Account(SQLModel, table=True):
    id: str = Field(sa_column=Column(Text, primary_key=True))
    name: str = Field(sa_column=Column(Text, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())


class SignIn(SQLModel, table=True):
    """One browser that is signed in. `id`: SHA-256 of the word in its cookie; `token` goes with whatever changes something."""

    __tablename__ = "sign_in"
    id: str = Field(sa_column=Column(Text, primary_key=True))
    account: str = Field(sa_column=_parent("account", index=True))
    token: str = Field(sa_column=Column(Text, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    used: datetime = Field(default_factory=now, sa_column=_moment())


class Project(SQLModel, table=True):
    """`head`: everything of the document but its scenes and pictures, written in schema `schema_version`. What the list of projects shows
    stands in columns of its own; `length` (ticks) is null until the project has been read once. `fault`: why it could not be read."""

    id: str = Field(sa_column=Column(Text, primary_key=True))
    owner: str = Field(sa_column=_parent("account", index=True))
    title: str = Field(sa_column=Column(Text, nullable=False))
    revision: int = Field(sa_column=Column(BigInteger, nullable=False))
    head: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    schema_version: int
    width: int = 0
    height: int = 0
    rate: str = Field(default="", sa_column=Column(Text, nullable=False))
    scenes: int = 0
    pictures: int = 0
    length: int | None = Field(default=None, sa_column=Column(BigInteger, nullable=True))
    fault: str = Field(default="", sa_column=Column(Text, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    updated: datetime = Field(default_factory=now, sa_column=_moment())
    deleted: datetime | None = Field(default=None, sa_column=_moment(nullable=True))


class SceneRow(SQLModel, table=True):
    __tablename__ = "scene"
    project: str = Field(sa_column=_parent("project", primary_key=True))
    id: str = Field(sa_column=Column(Text, primary_key=True))
    body: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    schema_version: int


class MediaRow(SQLModel, table=True):
    __tablename__ = "media"
    project: str = Field(sa_column=_parent("project", primary_key=True))
    id: str = Field(sa_column=Column(Text, primary_key=True))
    body: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    schema_version: int


class EditRow(SQLModel, table=True):
    """One step: `undone` steps can be redone. `revision` is the one it last led to (by doing, undoing or redoing)."""

    __tablename__ = "edit"
    __table_args__ = (Index("edit_by_project", "project", "sequence"),)
    sequence: int | None = Field(default=None, sa_column=Column(BigInteger, primary_key=True, autoincrement=True))
    project: str = Field(sa_column=_parent("project"))
    label: str = Field(sa_column=Column(Text, nullable=False))
    author: str = Field(sa_column=Column(Text, nullable=False))
    at: datetime = Field(default_factory=now, sa_column=_moment())
    revision: int = Field(sa_column=Column(BigInteger, nullable=False))
    undone: bool = False
    schema_version: int
    forward: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    inverse: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))


class RevisionRow(SQLModel, table=True):
    """Which parts each revision changed. `request`: what the asker called the step, so that one asked for twice is done once."""

    __tablename__ = "revision"
    __table_args__ = (Index("revision_by_request", "project", "request", unique=True),)
    project: str = Field(sa_column=_parent("project", primary_key=True))
    revision: int = Field(sa_column=Column(BigInteger, primary_key=True))
    parts: list[str] = Field(sa_column=Column(ARRAY(Text), nullable=False))
    request: str | None = Field(default=None, sa_column=Column(Text, nullable=True))


class VersionRow(SQLModel, table=True):
    __tablename__ = "version"
    id: str = Field(sa_column=Column(Text, primary_key=True))
    project: str = Field(sa_column=_parent("project", index=True))
    name: str = Field(sa_column=Column(Text, nullable=False))
    revision: int = Field(sa_column=Column(BigInteger, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    document: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))


class MediaFile(SQLModel, table=True):
    """How far the `work` on one file is: the `share` of it that is done, or the `code` and `message` of what went wrong."""

    __tablename__ = "media_file"
    sha256: str = Field(sa_column=Column(Text, primary_key=True))
    work: str = Field(sa_column=Column(Text, primary_key=True))
    state: str = Field(sa_column=Column(Text, nullable=False))
    share: float = 0.0
    code: str = Field(default="", sa_column=Column(Text, nullable=False))
    message: str = Field(default="", sa_column=Column(Text, nullable=False))
    updated: datetime = Field(default_factory=now, sa_column=_moment())


class FilmTableRow(SQLModel, table=True):
    """The table of a project, of which each row makes a film. `content`: columns, rows, notes; `mapping`: what each column is for; `pattern`: what the
    films are called."""

    __tablename__ = "film_table"
    project: str = Field(sa_column=_parent("project", primary_key=True))
    name: str = Field(sa_column=Column(Text, nullable=False))
    content: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    mapping: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    pattern: str = Field(sa_column=Column(Text, nullable=False))
    updated: datetime = Field(default_factory=now, sa_column=_moment())


class FilmBatchRow(SQLModel, table=True):
    """Films of a table that were asked for together: what they are made of, as it was then. `numbers`: the rows, from 0; `made`: of how many of those
    an export is there. `state`: making, made, stopped, failed."""

    __tablename__ = "film_batch"
    id: str = Field(sa_column=Column(Text, primary_key=True))
    project: str = Field(sa_column=_parent("project", index=True))
    owner: str = Field(sa_column=_parent("account"))
    settings: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    document: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    content: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    mapping: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    pattern: str = Field(sa_column=Column(Text, nullable=False))
    numbers: list[Any] = Field(sa_column=Column(JSONB, nullable=False))
    made: int = 0
    state: str = Field(sa_column=Column(Text, nullable=False))
    message: str = Field(default="", sa_column=Column(Text, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())


class ExportRow(SQLModel, table=True):
    """`document`: as it was when the export was asked for, packed (see `exports.py`). `segments`: `[first frame, last frame, key, source]` of each (older ones without the source), null until a worker has planned them; `frames`: of all together.
    `batch`, `batch_row`: of which films of a table it is one."""

    __tablename__ = "export"
    __table_args__ = (Index("export_by_batch", "batch", "batch_row", unique=True),)
    id: str = Field(sa_column=Column(Text, primary_key=True))
    project: str = Field(sa_column=_parent("project", index=True))
    owner: str = Field(sa_column=_parent("account"))
    file_name: str = Field(sa_column=Column(Text, nullable=False))
    state: str = Field(sa_column=Column(Text, nullable=False))
    settings: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    document: bytes = Field(sa_column=Column(LargeBinary, nullable=False))
    segments: list[Any] | None = Field(sa_column=Column(JSONB(none_as_null=True), nullable=True))
    frames: int
    done_segments: int = 0
    message: str = Field(default="", sa_column=Column(Text, nullable=False))
    bytes: int = Field(default=0, sa_column=Column(BigInteger, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    started: datetime | None = Field(default=None, sa_column=_moment(nullable=True))
    finished: datetime | None = Field(default=None, sa_column=_moment(nullable=True))
    batch: str | None = Field(default=None, sa_column=Column(Text, ForeignKey("film_batch.id", ondelete="CASCADE"), nullable=True))
    batch_row: int | None = None


class TemplateRow(SQLModel, table=True):
    """A template that an account has besides those that ship. `template`, `version`: which it is; `key`: what is in it; `facts`: what the library shows
    of it; `source`: made here, or opened from a file; `project`, `made_as`: where it was made, and as which template there."""

    __tablename__ = "template"
    __table_args__ = (UniqueConstraint("account", "template", "version"),)
    id: str = Field(sa_column=Column(Text, primary_key=True))
    account: str = Field(sa_column=_parent("account", index=True))
    template: str = Field(sa_column=Column(Text, nullable=False))
    version: str = Field(sa_column=Column(Text, nullable=False))
    key: str = Field(sa_column=Column(Text, nullable=False))
    source: str = Field(sa_column=Column(Text, nullable=False))
    project: str = Field(default="", sa_column=Column(Text, nullable=False))
    made_as: str = Field(default="", sa_column=Column(Text, nullable=False))
    facts: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())


class FavouriteTemplate(SQLModel, table=True):
    """A template that an account likes, in whichever version."""

    __tablename__ = "favourite_template"
    account: str = Field(sa_column=_parent("account", primary_key=True))
    template: str = Field(sa_column=Column(Text, primary_key=True))


class SegmentRow(SQLModel, table=True):
    """Progress of one segment; `done` once its file is in place."""

    __tablename__ = "segment"
    export: str = Field(sa_column=_parent("export", primary_key=True))
    index: int = Field(primary_key=True)
    frames: int = 0
    done: bool = False


class KeptSegment(SQLModel, table=True):
    """A coded segment in its file, as it was when it was written: one that differs is rendered again. `used`: when it was last needed."""

    __tablename__ = "kept_segment"
    key: str = Field(sa_column=Column(Text, primary_key=True))
    bytes: int = Field(sa_column=Column(BigInteger, nullable=False))
    sha256: str = Field(sa_column=Column(Text, nullable=False))
    made: datetime = Field(default_factory=now, sa_column=_moment())
    used: datetime = Field(default_factory=now, sa_column=_moment())
