"""All edits there are. To add one: write its model and function in the module of its subject, add it to that tuple."""

from .film import FILM_EDITS
from .photos import PHOTO_EDITS
from .pictures import PICTURE_EDITS
from .registry import registry
from .scenes import SCENE_EDITS
from .views import VIEW_EDITS

BUILTIN = registry(*FILM_EDITS, *PICTURE_EDITS, *SCENE_EDITS, *PHOTO_EDITS, *VIEW_EDITS)
