"""Where templates come from: those that ship, and those whose files are kept."""

from functools import lru_cache

from ..core.templates import TemplateContent
from ..core.treatments import ShippedShelf
from . import keys
from .ports import Blobs


class KeptShelf:
    """The templates that ship, and those whose files are kept: a key names one content for ever."""

    def __init__(self, blobs: Blobs, shipped: ShippedShelf):
        self._blobs, self._shipped = blobs, shipped
        self._opened = lru_cache(maxsize=64)(self._open)

    def content(self, key: str) -> TemplateContent | None:
        return self._shipped.content(key) or (self._opened(key) if self._blobs.has(keys.template(key)) else None)

    def _open(self, key: str) -> TemplateContent:
        from ..media.packages import Package
        from ..media.template_files import opened_template

        with self._blobs.local(keys.template(key)).open("rb") as file:
            return opened_template(Package(file))
