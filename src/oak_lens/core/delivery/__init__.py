"""What an export is: its settings, its segments, its name, its size beforehand."""

from .kinds import KINDS, Kind, kind_named
from .known_keys import KnownKeys
from .names import file_name
from .segments import Segment, segment_key, segments_of
from .settings import QUALITIES, SIZES, Dither, ExportSettings, Quality, estimated_bytes, even_size, notes_on

__all__ = [
    "KINDS",
    "QUALITIES",
    "SIZES",
    "Dither",
    "ExportSettings",
    "Kind",
    "KnownKeys",
    "Quality",
    "Segment",
    "estimated_bytes",
    "even_size",
    "file_name",
    "kind_named",
    "notes_on",
    "segment_key",
    "segments_of",
]
