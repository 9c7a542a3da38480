"""Every change a person can make: (document, edit) -> document."""

from .application import apply_edit, apply_edits, edit_schema, label_of, parse_edit, parse_edits
from .carrying import CARRIED
from .catalogue import BUILTIN
from .changes import HEAD_FIELDS, Change, changed_parts, difference, parse_change, present_parts
from .pictures import PictureRecord, picture_records, shown_area
from .registry import Edit, EditSpec, LayerRef
from .snapping import SAFE_SHARE, SnapLine, touched_lines
from .summary import SceneChange, scene_changes

__all__ = [
    "BUILTIN",
    "CARRIED",
    "Change",
    "Edit",
    "EditSpec",
    "HEAD_FIELDS",
    "LayerRef",
    "PictureRecord",
    "SAFE_SHARE",
    "SceneChange",
    "SnapLine",
    "apply_edit",
    "apply_edits",
    "changed_parts",
    "difference",
    "edit_schema",
    "shown_area",
    "label_of",
    "parse_change",
    "parse_edit",
    "parse_edits",
    "picture_records",
    "present_parts",
    "scene_changes",
    "touched_lines",
]
