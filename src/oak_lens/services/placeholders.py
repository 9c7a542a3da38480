"""What stands in empty zones of templates: drawn here, kept like any picture, by the name of what is on it."""

from ..core.document import Document, Media, PhotoLayer
from ..media.placeholders import placeholder_file
from . import keys
from .ports import MediaStore


class Placeholders:
    """Pictures of empty zones, made where a document first shows them."""

    def __init__(self, store: MediaStore):
        self._store, self._there = store, set[str]()

    def bring(self, document: Document, scene: str | None = None) -> None:
        """All that a document shows, or one scene of it, are there when this returns. Raises StorageFull."""
        for media in _shown(document, scene):
            if media.sha256 in self._there:
                continue
            key = keys.original(media.sha256)
            if not self._store.blobs.has(key):
                with self._store.blobs.writing(key) as path:
                    path.write_bytes(placeholder_file(media))
                self._store.request_preparation(media.sha256)
            self._there.add(media.sha256)


def _shown(document: Document, only: str | None) -> list[Media]:
    """What stands in empty zones that are seen, in all scenes or one."""
    if not any(m.placeholder for m in document.media.values()):
        return []
    scenes = [s for k, s in document.scenes.items() if only is None or k == only]
    layers = [*(s.layers for s in scenes), *(g.layers for g in document.groups.values())]
    ids = {layer.media for own in layers for layer in own.values() if isinstance(layer, PhotoLayer) and not layer.hidden}
    ids |= {scene.backdrop.media for scene in scenes if scene.backdrop is not None and scene.backdrop.media is not None}
    return [m for k, m in document.media.items() if m.placeholder and k in ids]
