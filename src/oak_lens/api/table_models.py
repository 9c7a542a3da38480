"""What the page of a project's table asks for and is told."""

from typing import Literal

from pydantic import BaseModel, Field

from .models import Answer, ExportModel, ExportRequest, ProjectPath, Request

RowNumber = int
"""Of a row of the table, from 0."""


class ColumnModel(Answer):
    """A column; `target`: what it is for, by id, empty nothing; `sample`: what is in its first row."""

    name: str
    target: str
    sample: str


class TargetModel(Answer):
    """What a column may be for; `about`: what its cells are to hold."""

    id: str
    label: str
    kind: Literal["title", "detail", "field", "text", "picture", "pictures", "song", "dial"]
    about: str


class CellFaultModel(Answer):
    """What is wrong with a row; `column` is empty where it is not one cell alone."""

    column: str
    sentence: str


class FaultyRow(Answer):
    """`line`: of the table's text."""

    number: RowNumber
    line: int
    name: str
    faults: list[CellFaultModel]


class TableModel(Answer):
    """The table of a project. `rows`: how many; `names` of the films of the first ones; `faulty`: how many rows cannot be made into films, of which the
    first are listed; `notes`: how it was read, where that is not plain."""

    name: str
    columns: list[ColumnModel]
    targets: list[TargetModel]
    pattern: str
    rows: int
    names: list[str]
    faulty: int
    faults: list[FaultyRow]
    notes: list[str]


class TableChange(Request):
    mapping: dict[str, str] | None = Field(None, max_length=200)
    pattern: str | None = Field(None, max_length=200)


class RowPath(ProjectPath):
    number: RowNumber


class RowFilmModel(Answer):
    """The film of a row: what it is called, its scenes in order, what is wrong, what one may want to look at."""

    name: str
    aspect: float
    scenes: list[str]
    faults: list[CellFaultModel]
    notes: list[str]


class RowFrameQuery(BaseModel):
    scene: str
    share: float = Field(0.7, ge=0, le=1)
    width: int = Field(480, ge=16, le=1920)


class FilmsRequest(Request):
    """`rows` null: all that nothing is wrong with."""

    settings: ExportRequest
    rows: list[RowNumber] | None = Field(None, max_length=5000)


class BatchModel(Answer):
    """Films asked for together. `total`: how many; `made`: of how many the export is begun; `state`: of beginning them; `done`, `failed`: how many are."""

    id: str
    created: str
    total: int
    made: int
    state: Literal["making", "made", "stopped", "failed"]
    message: str
    done: int
    failed: int
    live: bool
    frames: int
    done_frames: int
    films: list[ExportModel]


class BatchList(Answer):
    batches: list[BatchModel]


class BatchPath(BaseModel):
    batch: str
