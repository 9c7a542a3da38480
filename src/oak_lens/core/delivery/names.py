"""File names made of titles."""

import re
import unicodedata


def file_name(title: str, ending: str) -> str:
    """The title as a file name that every system takes.

    >>> file_name("First Light: at Ossel Ridge?", "mp4")
    'First Light at Ossel Ridge.mp4'
    """
    kept = re.sub(r'[\x00-\x1f\x7f<>:"/\\|?*]', "", unicodedata.normalize("NFC", title))
    kept = re.sub(r"\s+", " ", kept).strip(" .")[:120].rstrip(" .")
    return f"{kept or 'Film'}.{ending}"
