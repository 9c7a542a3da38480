"""Templates as they are kept and put to use: their content, where it comes from, which pictures go where."""

from .casting import PICTURED, Cast, cast, cast_more, filled_in_order, left_over, repeating
from .clashes import without_clashes
from .content import DRAWING, TemplateContent, numbered, placeholder_media, zones_in
from .dealing import DealtBy, dealt, seats
from .extraction import extracted
from .film import (
    FilmDial,
    FilmZone,
    empty_zones,
    film_dials,
    film_zones,
    spare_scenes,
    standing,
    templates_used,
    unused_pictures,
    zone_fault,
)
from .shelf import Shelf, bring_templates, shelved
from .songs import handed_on, scenes_of_use, song_in, with_song, without_zones
from .zones import Fills, fill_of, filled_film, filled_scenes, filled_zones, fitted, placeholder, same_turn, tidied, zone_of

__all__ = [
    "Cast",
    "DRAWING",
    "DealtBy",
    "Fills",
    "FilmDial",
    "FilmZone",
    "PICTURED",
    "Shelf",
    "TemplateContent",
    "bring_templates",
    "cast",
    "cast_more",
    "dealt",
    "empty_zones",
    "extracted",
    "fill_of",
    "filled_film",
    "filled_in_order",
    "filled_scenes",
    "filled_zones",
    "film_dials",
    "film_zones",
    "fitted",
    "handed_on",
    "left_over",
    "numbered",
    "placeholder",
    "placeholder_media",
    "repeating",
    "same_turn",
    "scenes_of_use",
    "seats",
    "shelved",
    "song_in",
    "spare_scenes",
    "standing",
    "templates_used",
    "tidied",
    "unused_pictures",
    "with_song",
    "without_clashes",
    "without_zones",
    "zone_fault",
    "zone_of",
    "zones_in",
]
