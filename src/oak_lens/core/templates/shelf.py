"""Where the contents of templates come from. A key names one content for ever, so whoever has it brought knows all there is to know."""

from typing import Protocol

from .content import TemplateContent


class Shelf(Protocol):
    def content(self, key: str) -> TemplateContent | None:
        """The template of this key; None if it is not there."""
        ...


class _Empty:
    def content(self, key: str) -> TemplateContent | None:
        return None


_shelf: Shelf = _Empty()


def bring_templates(shelf: Shelf) -> None:
    """Says where templates come from, once, as a process begins."""
    global _shelf
    _shelf = shelf


def shelved(key: str) -> TemplateContent | None:
    """A template by its key."""
    return _shelf.content(key)
