"""Films from tables: each row says what is other in one film."""

from .films import CellFault, Films, RowFilm, faulty_rows
from .reading import MOST_BYTES, MOST_ROWS, Row, Table, read_table
from .targets import Target, TargetKind, matched, targets_of

__all__ = ["MOST_BYTES", "MOST_ROWS", "CellFault", "Films", "Row", "RowFilm", "Table", "Target", "TargetKind", "faulty_rows", "matched", "read_table", "targets_of"]
