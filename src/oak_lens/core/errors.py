"""Errors a person can act on.

    OakError
    ├── InvalidDocument     a document that cannot be read (all faults at once)
    ├── InvalidEdit         an edit that cannot be applied (the document is unchanged)
    ├── InvalidPicture      a file that cannot become a picture
    ├── InvalidSound        a file that holds no sound we can use
    ├── MissingPicture      a picture whose file is not there
    ├── InvalidFont         a file that holds no font we can use
    ├── MissingFace         a font whose file is not there
    ├── InvalidPackage      a file that is no template we can open
    ├── InvalidTable        a text that is no table we can read
    ├── NotFound            what does not exist, or belongs to somebody else
    ├── Conflict            somebody else was first
    ├── LimitReached        more than this installation allows
    │   └── StorageFull     no room on the disk: goes on once there is
    └── ExportFailed        an export that could not be made or written

Each error carries one or more faults; a fault has a stable code, the path of the
value it speaks of, and a sentence that says what to do.
"""

import errno
from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is wrong: `code` is stable, `path` like `scenes.a1.hold`, `message` a sentence."""

    code: str
    path: str
    message: str

    def __str__(self) -> str:
        return f"{self.path}: {self.message} [{self.code}]" if self.path else f"{self.message} [{self.code}]"


class OakError(Exception):
    """Base of every error the application raises on purpose."""

    def __init__(self, faults: Iterable[Fault]):
        self.faults = tuple(faults)
        super().__init__("; ".join(str(f) for f in self.faults))

    @property
    def code(self) -> str:
        return self.faults[0].code

    @classmethod
    def of(cls, code: str, message: str, path: str = "") -> "OakError":
        """One-fault error of this class."""
        return cls([Fault(code, path, message)])


class InvalidDocument(OakError):
    """The document breaks its format; every fault is listed."""


class InvalidEdit(OakError):
    """The edit cannot be applied to this document."""


class InvalidPicture(OakError):
    """The file is not a picture we can use."""


class InvalidSound(OakError):
    """The file holds no sound we can use."""


class MissingPicture(OakError):
    """A document names a picture whose file is not there."""


class InvalidFont(OakError):
    """The file holds no font we can use."""


class MissingFace(OakError):
    """A text names a font whose file is not there."""


class InvalidPackage(OakError):
    """The file is no template we can open."""


class InvalidTable(OakError):
    """The text is no table we can read."""


class NotFound(OakError):
    """What was asked for does not exist, or belongs to somebody else."""


class Conflict(OakError):
    """Somebody else changed the same thing first."""


class LimitReached(OakError):
    """More than this installation allows."""


class StorageFull(LimitReached):
    """There is no room left where files or projects are kept."""


def is_full(error: BaseException) -> bool:
    """Whether a failure of the system means that a disk or a quota is full."""
    return getattr(error, "errno", None) in (errno.ENOSPC, errno.EDQUOT)


class ExportFailed(OakError):
    """An export could not be made or written."""
