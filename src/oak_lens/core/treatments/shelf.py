"""The shelf of the templates that ship."""

from ..templates import TemplateContent
from .treatment import Shipped


class ShippedShelf:
    """Templates that are made when they are first asked for."""

    def __init__(self, shipped: tuple[Shipped, ...]) -> None:
        self._shipped = shipped
        self._by_key: dict[str, TemplateContent] = {}

    def content(self, key: str) -> TemplateContent | None:
        if not self._by_key:
            self._by_key = {shipped.content.key: shipped.content for shipped in self._shipped}
        return self._by_key.get(key)

    def listed(self) -> list[TemplateContent]:
        """All of them, in the order in which they are shown."""
        return [shipped.content for shipped in self._shipped]
