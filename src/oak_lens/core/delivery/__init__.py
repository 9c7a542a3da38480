"""What an export is: its settings, its segments, its name, its size beforehand."""

from .names import file_name
from .segments import Segment, segment_key, segments_of
from .settings import QUALITIES, SIZES, ExportSettings, Quality, estimated_bytes, even_size

__all__ = [
    "QUALITIES",
    "SIZES",
    "ExportSettings",
    "Quality",
    "Segment",
    "estimated_bytes",
    "even_size",
    "file_name",
    "segment_key",
    "segments_of",
]
