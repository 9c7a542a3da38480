"""Templates as they are kept and put to use: their content, where it comes from, which pictures go where."""

from .casting import PICTURED, Cast, cast, cast_more, filled_in_order, left_over
from .clashes import without_clashes
from .content import DRAWING, TemplateContent, numbered, placeholder_media, zones_in
from .extraction import extracted
from .shelf import Shelf, bring_templates, shelved
from .songs import handed_on, scenes_of_use, song_in, with_song, without_zones
from .zones import Fills, fill_of, filled_scenes, filled_zones, fitted, placeholder, same_turn, tidied, zone_of

__all__ = [
    "DRAWING",
    "PICTURED",
    "Cast",
    "Fills",
    "Shelf",
    "TemplateContent",
    "bring_templates",
    "cast",
    "cast_more",
    "extracted",
    "fill_of",
    "filled_in_order",
    "filled_scenes",
    "filled_zones",
    "fitted",
    "handed_on",
    "left_over",
    "numbered",
    "placeholder",
    "placeholder_media",
    "same_turn",
    "scenes_of_use",
    "shelved",
    "song_in",
    "tidied",
    "with_song",
    "without_clashes",
    "without_zones",
    "zone_of",
    "zones_in",
]
