"""What layers are called: by their name, or by what they show."""

from .filling import filled
from .layers import KIND_OF, Layer, PhotoLayer, TextLayer
from .models import Document

LONGEST_CALLED = 40
"""Letters of a text that stand for it."""


def called(document: Document, layer: Layer, container: str | None) -> str:
    """A layer's name: its own, that of its picture, the words it shows in its scene (or shared group), or what its kind is called."""
    if layer.name:
        return layer.name
    if isinstance(layer, PhotoLayer):
        return document.media[layer.media].name or KIND_OF[layer.kind].label
    return (said(document, layer, container) if isinstance(layer, TextLayer) else "") or KIND_OF[layer.kind].label


def said(document: Document, text: TextLayer, container: str | None) -> str:
    """The beginning of what a text says, on one line, its details filled in."""
    return " ".join(filled(document, text, container).text.split())[:LONGEST_CALLED]
