"""Edits of photos: fit, placement, opacity, mount, shadow; and drags of a photo on the easel."""

from typing import Any

import numpy as np
from pydantic import Field

from ..document import Document, FitChoice, PhotoLayer, Placement
from ..document.models import Amount, Id
from ..errors import Fault, InvalidEdit
from ..framing import chosen_fit, fit_zoom
from .gestures import Gesture, along_one_axis, stepped, turned_by
from .registry import Edit, EditSpec, PhotoRef, merged, photo_of, with_photos


class SetPhotos(Edit):
    """Change what is given on every photo named; an explicit null of fit, mount or shadow goes back to the default."""

    photos: list[PhotoRef] = Field(min_length=1)
    fit: FitChoice | None = None
    placement: dict[str, Any] | None = None
    opacity: Amount | None = None
    mount: dict[str, Any] | None = None
    shadow: dict[str, Any] | None = None


def set_photos(document: Document, edit: SetPhotos) -> Document:
    changed = []
    for ref in edit.photos:
        layer, path = photo_of(document, ref), f"scenes.{ref.scene}.layers.{ref.layer}"
        update: dict[str, Any] = {}
        if "fit" in edit.model_fields_set:
            layer = _refitted(document, layer, edit.fit)
        if edit.placement is not None:
            update["placement"] = merged(layer.placement, edit.placement, f"{path}.placement")
        if edit.opacity is not None:
            update["opacity"] = edit.opacity
        for part in ("mount", "shadow"):
            if part in edit.model_fields_set:
                partial = getattr(edit, part)
                current = getattr(layer, part) or getattr(document.defaults, part)
                update[part] = None if partial is None else merged(current, partial, f"{path}.{part}")
        changed.append((ref, layer.model_copy(update=update)))
    return with_photos(document, changed)


def _refitted(document: Document, layer: PhotoLayer, fit: FitChoice | None) -> PhotoLayer:
    """The layer under another fit, its views keeping what they show as far as the new fit allows."""
    picture, aspect = document.media[layer.media].aspect, document.frame.aspect
    old = fit_zoom(chosen_fit(layer.fit or document.defaults.fit, picture, aspect), picture, aspect)
    new = fit_zoom(chosen_fit(fit or document.defaults.fit, picture, aspect), picture, aspect)
    keys = {
        name: key.model_copy(update={"value": key.value.model_copy(update={"zoom": min(50.0, max(0.05, key.value.zoom * old / new))})})
        for name, key in layer.view.keys.items()
    }
    return layer.model_copy(update={"fit": fit, "view": layer.view.model_copy(update={"keys": keys})})


class ResetPlacement(Edit):
    """Back to the middle, as the fit shows it, upright."""

    photos: list[PhotoRef] = Field(min_length=1)


def reset_placement(document: Document, edit: ResetPlacement) -> Document:
    return with_photos(document, [(ref, photo_of(document, ref).model_copy(update={"placement": Placement()})) for ref in edit.photos])


class DragPhoto(Gesture):
    """A drag of a photo on the easel; positions in fractions of the frame. Corners size about the photo's place."""

    scene: Id
    layer: Id


def drag_photo(document: Document, edit: DragPhoto) -> Document:
    ref = PhotoRef(scene=edit.scene, layer=edit.layer)
    layer = photo_of(document, ref)
    placement = layer.placement
    x, y, size, turn = (_literal(placement, name) for name in ("x", "y", "size", "turn"))
    square = np.array((document.frame.aspect, 1.0))
    centre = np.array((x + 0.5, y + 0.5))
    start, end = np.array(edit.start), np.array(edit.end)
    if edit.handle == "inside":
        offset = (end - start) * square
        offset = (along_one_axis(offset) if edit.constrain else offset) / square
        partial = {"x": x + offset[0], "y": y + offset[1]}
    elif edit.handle == "turn":
        new_turn = turn + turned_by(centre * square, start * square, end * square)
        partial = {"turn": stepped(new_turn) if edit.constrain else new_turn}
    else:
        before = float(np.linalg.norm((start - centre) * square))
        after = float(np.linalg.norm((end - centre) * square))
        partial = {"size": min(20.0, max(0.02, size * after / max(before, 1e-6)))}
    limits = {"x": 10.0, "y": 10.0, "turn": 3600.0}
    partial = {k: float(np.clip(v, -limits[k], limits[k])) if k in limits else float(v) for k, v in partial.items()}
    return with_photos(document, [(ref, layer.model_copy(update={"placement": merged(placement, partial, "placement")}))])


def _literal(placement: Placement, name: str) -> float:
    value = getattr(placement, name)
    if not isinstance(value, float | int):
        raise InvalidEdit([Fault("edit.animated", f"placement.{name}", "This photo's placement is keyframed; change its keys instead.")])
    return float(value)


PHOTO_EDITS = (
    EditSpec("set_photos", "Change photos", SetPhotos, set_photos),
    EditSpec("reset_placement", "Reset placement", ResetPlacement, reset_placement),
    EditSpec("drag_photo", "Move photo", DragPhoto, drag_photo),
)
