"""The tables. A document is a head row, a row per scene and per picture; every edit is a row."""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import BigInteger, Column, DateTime, ForeignKey, Index, Text
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


class Project(SQLModel, table=True):
    id: str = Field(sa_column=Column(Text, primary_key=True))
    owner: str = Field(sa_column=_parent("account", index=True))
    title: str = Field(sa_column=Column(Text, nullable=False))
    revision: int = Field(sa_column=Column(BigInteger, nullable=False))
    head: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    updated: datetime = Field(default_factory=now, sa_column=_moment())
    deleted: datetime | None = Field(default=None, sa_column=_moment(nullable=True))


class SceneRow(SQLModel, table=True):
    __tablename__ = "scene"
    project: str = Field(sa_column=_parent("project", primary_key=True))
    id: str = Field(sa_column=Column(Text, primary_key=True))
    body: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))


class MediaRow(SQLModel, table=True):
    __tablename__ = "media"
    project: str = Field(sa_column=_parent("project", primary_key=True))
    id: str = Field(sa_column=Column(Text, primary_key=True))
    body: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))


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
    forward: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    inverse: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))


class RevisionRow(SQLModel, table=True):
    """Which parts each revision changed."""

    __tablename__ = "revision"
    project: str = Field(sa_column=_parent("project", primary_key=True))
    revision: int = Field(sa_column=Column(BigInteger, primary_key=True))
    parts: list[str] = Field(sa_column=Column(ARRAY(Text), nullable=False))


class VersionRow(SQLModel, table=True):
    __tablename__ = "version"
    id: str = Field(sa_column=Column(Text, primary_key=True))
    project: str = Field(sa_column=_parent("project", index=True))
    name: str = Field(sa_column=Column(Text, nullable=False))
    revision: int = Field(sa_column=Column(BigInteger, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    document: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))


class MediaFile(SQLModel, table=True):
    """How far the preparation of one file is."""

    __tablename__ = "media_file"
    sha256: str = Field(sa_column=Column(Text, primary_key=True))
    state: str = Field(sa_column=Column(Text, nullable=False))
    message: str = Field(default="", sa_column=Column(Text, nullable=False))
    updated: datetime = Field(default_factory=now, sa_column=_moment())


class ExportRow(SQLModel, table=True):
    __tablename__ = "export"
    id: str = Field(sa_column=Column(Text, primary_key=True))
    project: str = Field(sa_column=_parent("project", index=True))
    owner: str = Field(sa_column=_parent("account"))
    file_name: str = Field(sa_column=Column(Text, nullable=False))
    state: str = Field(sa_column=Column(Text, nullable=False))
    settings: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    document: dict[str, Any] = Field(sa_column=Column(JSONB, nullable=False))
    segments: list[Any] = Field(sa_column=Column(JSONB, nullable=False))
    done_segments: int = 0
    message: str = Field(default="", sa_column=Column(Text, nullable=False))
    bytes: int = Field(default=0, sa_column=Column(BigInteger, nullable=False))
    created: datetime = Field(default_factory=now, sa_column=_moment())
    started: datetime | None = Field(default=None, sa_column=_moment(nullable=True))
    finished: datetime | None = Field(default=None, sa_column=_moment(nullable=True))


class SegmentRow(SQLModel, table=True):
    """Progress of one segment; `done` once its file is in place."""

    __tablename__ = "segment"
    export: str = Field(sa_column=_parent("export", primary_key=True))
    index: int = Field(primary_key=True)
    frames: int = 0
    done: bool = False
