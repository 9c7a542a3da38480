"""Letters: text to glyphs, lines and outlines. Faces come through a port (`faces.py`), as pictures do."""

from .block import LONGEST_TEXT, Block, Run
from .faces import DEFAULT_FAMILY, FAMILIES, SHIPPED_FACES, FaceFiles, Family, FontFile, bring_faces, faces
from .fonts import Choice, Font, forget_fonts
from .layout import Cluster, Glyph, Layout, Line, lay_out
from .outlines import octave_for
from .pieces import ColourGlyph, Pieces, colour_glyphs, letter_pieces, outline_pieces, panel_pieces, underline_pieces

__all__ = [
    "Block",
    "Choice",
    "Cluster",
    "ColourGlyph",
    "DEFAULT_FAMILY",
    "FAMILIES",
    "FaceFiles",
    "Family",
    "Font",
    "FontFile",
    "Glyph",
    "LONGEST_TEXT",
    "Layout",
    "Line",
    "Pieces",
    "Run",
    "SHIPPED_FACES",
    "bring_faces",
    "colour_glyphs",
    "faces",
    "forget_fonts",
    "lay_out",
    "letter_pieces",
    "octave_for",
    "outline_pieces",
    "panel_pieces",
    "underline_pieces",
]
