"""Every change a person can make: (document, edit) -> document."""

from .application import apply_edit, apply_edits, edit_schema, label_of, parse_edit, parse_edits
from .carrying import CARRIED
from .catalogue import BUILTIN
from .changes import HEAD_FIELDS, Change, changed_parts, difference, parse_change, present_parts
from .pictures import PictureRecord, picture_records, shown_area
from .registry import Edit, EditSpec, LayerRef
from .snapping import SAFE_SHARE, SnapLine, touched_lines
from .summary import SceneChange, scene_changes
from .template_frames import in_frame, shapes_of

__all__ = [
    "BUILTIN",
    "CARRIED",
    "HEAD_FIELDS",
    "SAFE_SHARE",
    "Change",
    "Edit",
    "EditSpec",
    "LayerRef",
    "PictureRecord",
    "SceneChange",
    "SnapLine",
    "apply_edit",
    "apply_edits",
    "changed_parts",
    "difference",
    "edit_schema",
    "in_frame",
    "label_of",
    "parse_change",
    "parse_edit",
    "parse_edits",
    "picture_records",
    "present_parts",
    "scene_changes",
    "shapes_of",
    "shown_area",
    "touched_lines",
]
