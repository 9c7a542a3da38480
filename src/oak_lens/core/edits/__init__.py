"""Every change a person can make: (document, edit) -> document."""

from .application import apply_edit, apply_edits, edit_schema, label_of, parse_edit, parse_edits
from .catalogue import BUILTIN
from .changes import Change, changed_parts, difference, parse_change
from .pictures import PictureRecord, picture_records
from .registry import Edit, EditSpec, PhotoRef

__all__ = [
    "BUILTIN",
    "Change",
    "Edit",
    "EditSpec",
    "PhotoRef",
    "PictureRecord",
    "apply_edit",
    "apply_edits",
    "changed_parts",
    "difference",
    "edit_schema",
    "label_of",
    "parse_change",
    "parse_edit",
    "parse_edits",
    "picture_records",
]
