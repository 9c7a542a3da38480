"""What scenes and photos inherit from the project's defaults."""

from .models import Backdrop, Document, Join, PhotoLayer, Scene
from .ordering import in_order


def resolved_hold(document: Document, scene: Scene) -> int:
    """Ticks the scene stands between its joins."""
    return document.defaults.hold if scene.hold is None else scene.hold


def resolved_join(document: Document, scene: Scene) -> Join:
    """The join into the scene."""
    return document.defaults.join if scene.join is None else scene.join


def resolved_backdrop(document: Document, scene: Scene) -> Backdrop:
    return document.defaults.backdrop if scene.backdrop is None else scene.backdrop


def resolved_photo(document: Document, layer: PhotoLayer) -> PhotoLayer:
    """The layer with every inherited value filled in (fit may still be `auto`)."""
    defaults = document.defaults
    return layer.model_copy(
        update={"fit": layer.fit or defaults.fit, "mount": layer.mount or defaults.mount, "shadow": layer.shadow or defaults.shadow}
    )


def photos_of(scene: Scene) -> list[tuple[str, PhotoLayer]]:
    """(layer id, photo) of a scene, lowest first."""
    return in_order(scene.layers)
