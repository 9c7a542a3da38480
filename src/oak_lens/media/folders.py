"""Documents with their pictures beside them, as files."""

import hashlib
import os
from pathlib import Path

from ..core.document import Document
from ..core.errors import Fault, InvalidPicture, MissingPicture
from .intake import CLIP_ENDINGS, PICTURE_ENDINGS, media_facts
from .pyramids import Pyramids, levels_in

ENDINGS = (*PICTURE_ENDINGS, *CLIP_ENDINGS)


def file_sha256(path: Path) -> str:
    """Hex digest of a file's bytes."""
    with path.open("rb") as stream:
        return hashlib.file_digest(stream, "sha256").hexdigest()


def is_there(path: Path) -> bool:
    """Whether a file is there; a name that no file can have names none."""
    try:
        return path.is_file()
    except (OSError, ValueError):
        return False


def picture_record(path: Path, media_id: str, file: str, name: str | None = None) -> dict[str, object]:
    """Parameters of `add_pictures` for one file. Raises InvalidPicture."""
    return {"id": media_id, "name": name or path.stem, "file": file, "sha256": file_sha256(path), **media_facts(path)}


def pictures_in(folder: Path, beside: Path) -> tuple[list[dict[str, object]], list[Fault]]:
    """Records of all pictures of a folder by name, and a fault for each that cannot be used. Files relative to `beside`."""
    records: list[dict[str, object]] = []
    faults: list[Fault] = []
    paths = sorted((p for p in folder.iterdir() if p.suffix.lower() in ENDINGS and p.is_file()), key=lambda p: p.name.casefold())
    for number, path in enumerate(paths, start=1):
        try:
            records.append(picture_record(path, f"p{number}", os.path.relpath(path, beside)))
        except InvalidPicture as error:
            faults.extend(Fault(f.code, path.name, f.message) for f in error.faults)
    return records, faults


def pyramids_beside(document: Document, folder: Path, kept: Path | None = None) -> Pyramids:
    """The document's pictures, found relative to `folder`. Raises MissingPicture listing every one that is not there."""
    files: dict[str, Path] = {}
    faults: list[Fault] = []
    for media_id, media in document.media.items():
        path = folder / media.file
        if is_there(path):
            files[media.sha256] = path
        else:
            faults.append(Fault("picture.missing", f"media.{media_id}", f"The picture file {media.file} is not beside the document."))
    if faults:
        raise MissingPicture(faults)
    return Pyramids(files.__getitem__, levels_in(kept) if kept else None)
