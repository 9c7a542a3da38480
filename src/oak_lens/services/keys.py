"""Keys of all that is kept as blobs."""

from ..core.delivery.segments import CODING_VERSION
from ..core.templates import DRAWING


def original(sha256: str) -> str:
    """A file as it was received, by its content."""
    return f"media/originals/{sha256[:2]}/{sha256[2:4]}/{sha256}"


def thumbnail(sha256: str) -> str:
    return f"media/thumbs/{sha256[:2]}/{sha256}.jpg"


LEVELS = "media/levels"
OLD_LEVELS = "media/pyramids"
"""Where levels were kept that were all reduced from the whole picture."""


def level(sha256: str, number: int) -> str:
    """One level of a picture's pyramid."""
    return f"{LEVELS}/{sha256[:2]}/{sha256}/{number}.npy"


def samples(sha256: str) -> str:
    """A sound file's samples, ready to be mixed."""
    return f"media/sounds/{sha256[:2]}/{sha256}.s16"


def peaks(sha256: str) -> str:
    return f"media/sounds/{sha256[:2]}/{sha256}.npy"


def heard(sha256: str) -> str:
    """What a sound file sounds like; kept last, so that where it is, samples and peaks are."""
    return f"media/sounds/{sha256[:2]}/{sha256}.json"


SEEN = "media/seen"


def seen(mark: str, which: str, width: int) -> str:
    """A moment of a scene as a small picture, by the mark of what it shows: scenes that show the same share it."""
    return f"{SEEN}/{CODING_VERSION}/{mark[:2]}/{mark}-{which}-{width}.jpg"


SEGMENTS = "exports/segments"


def segment(key: str) -> str:
    """A coded part of a film, by what is in it."""
    return f"{SEGMENTS}/{key[:2]}/{key}"


def film(export: str, file_name: str) -> str:
    """A finished film, with the ending of its file's name."""
    dot = file_name.rfind(".")
    return f"exports/films/{export}{file_name[dot:] if dot > 0 else ''}"


def template(key: str) -> str:
    """A template's file, by the key of what is in it."""
    return f"templates/{key[:2]}/{key}.oaktemplate"


def template_poster(key: str) -> str:
    """What a template looks like, by its key and how that is drawn."""
    return f"templates/{key[:2]}/{key}-{CODING_VERSION}-{DRAWING}.jpg"


def font(sha256: str) -> str:
    """A font of a project, as it was checked, by its content."""
    return f"media/fonts/{sha256[:2]}/{sha256}.ttf"
