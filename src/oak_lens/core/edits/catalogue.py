"""All edits there are. To add one: write its model and function in the module of its subject, add it to that tuple."""

from .cameras import CAMERA_EDITS
from .carrying import CARRY_EDITS
from .filling import FILLING_EDITS
from .film import FILM_EDITS
from .joins import JOIN_EDITS
from .keys import KEY_EDITS
from .layers import LAYER_EDITS
from .layouts import LAYOUT_EDITS
from .links import LINK_EDITS
from .looks import LOOK_EDITS
from .making import MAKING_EDITS
from .motions import MOVE_EDITS
from .overlaying import OVERLAYING_EDITS
from .pasting import PASTE_EDITS
from .paths import PATH_EDITS
from .pictures import PICTURE_EDITS
from .placing import PLACING_EDITS
from .pouring import POURING_EDITS
from .recording import RECORDING_EDITS
from .registry import registry
from .renewing import RENEWING_EDITS
from .scenes import SCENE_EDITS
from .song_drags import SONG_DRAG_EDITS
from .sounds import SOUND_EDITS
from .styles import STYLE_EDITS
from .templates import TEMPLATE_EDITS
from .texts import TEXT_EDITS
from .timing import TIMING_EDITS
from .values import VALUE_EDITS
from .views import VIEW_EDITS

BUILTIN = registry(
    *FILM_EDITS,
    *PICTURE_EDITS,
    *SCENE_EDITS,
    *JOIN_EDITS,
    *LAYER_EDITS,
    *TEXT_EDITS,
    *STYLE_EDITS,
    *PLACING_EDITS,
    *LAYOUT_EDITS,
    *LOOK_EDITS,
    *LINK_EDITS,
    *CARRY_EDITS,
    *VIEW_EDITS,
    *VALUE_EDITS,
    *KEY_EDITS,
    *PASTE_EDITS,
    *PATH_EDITS,
    *RECORDING_EDITS,
    *MOVE_EDITS,
    *CAMERA_EDITS,
    *SOUND_EDITS,
    *SONG_DRAG_EDITS,
    *TIMING_EDITS,
    *TEMPLATE_EDITS,
    *MAKING_EDITS,
    *POURING_EDITS,
    *FILLING_EDITS,
    *OVERLAYING_EDITS,
    *RENEWING_EDITS,
)
