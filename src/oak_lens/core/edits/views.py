"""Edits of opening and closing views: by numbers, by drags on the picture, swapped, made equal, reset."""

from math import cos, radians, sin
from typing import Any, Literal

import numpy as np
from pydantic import Field

from ..curves import Keyframe, eased_keys
from ..curves.keyframes import Handle as EaseHandle
from ..document import Document, Media, PhotoLayer, View, in_order, resolved_hold
from ..document.records import Id
from ..errors import Fault, InvalidEdit
from ..framing import Wish, fit_of, fit_zoom, limited_view, plane_size, seen_aspect, suggested_views
from ..time import seconds
from .gestures import Gesture, along_one_axis, stepped, turned_by
from .registry import Edit, EditSpec, LayerRef, container_of, merged, photo_of, with_layers

Which = Literal["opening", "closing"]


class Ease(Edit):
    """Handles of the ease from the opening to the closing view; see `curves.Keyframe`."""

    leave: EaseHandle
    arrive: EaseHandle
    hold: bool = False


class SetViews(Edit):
    """Change numbers of the opening or closing view, or the ease between them, on every photo named."""

    photos: list[LayerRef] = Field(min_length=1)
    opening: dict[str, Any] | None = None
    closing: dict[str, Any] | None = None
    ease: Ease | None = None


def set_views(document: Document, edit: SetViews) -> Document:
    changed = []
    for ref in edit.photos:
        layer = photo_of(document, ref)
        which: Which
        for which in ("opening", "closing"):
            partial = getattr(edit, which)
            if partial is not None:
                path = f"scenes.{ref.scene}.layers.{ref.layer}.view.keys.{which}"
                layer = _with_view(document, layer, which, merged(_view(layer, which).value, partial, path))
        if edit.ease is not None:
            opening, closing = eased_keys(
                _view(layer, "opening"), _view(layer, "closing"), edit.ease.leave, edit.ease.arrive, edit.ease.hold
            )
            layer = _with_keys(layer, opening, closing)
        changed.append((ref, layer))
    return with_layers(document, changed)


class ArrangeViews(Edit):
    """`swap` the two views, make both `as_opening` or `as_closing` (no motion), or `suggest` them anew: by the picture's subject, at a
    like pace, neighbours differing; another `seed`, other suggestions."""

    photos: list[LayerRef] = Field(min_length=1)
    how: Literal["swap", "as_opening", "as_closing", "suggest"]
    seed: int = Field(0, ge=0, le=9999)


def arrange_views(document: Document, edit: ArrangeViews) -> Document:
    changed = []
    scene_ids = [k for k, _ in in_order(document.scenes)]
    for ref in edit.photos:
        layer = photo_of(document, ref)
        opening, closing = _view(layer, "opening").value, _view(layer, "closing").value
        if edit.how == "swap":
            opening, closing = closing, opening
        elif edit.how == "as_opening":
            closing = opening
        elif edit.how == "as_closing":
            opening = closing
        else:
            media, scene = document.media[layer.media], document.scenes.get(ref.scene)
            hold = document.defaults.hold if scene is None else resolved_hold(document, scene)
            number = scene_ids.index(ref.scene) if scene is not None else 0
            # Photos of one scene differ, too.
            number += 7 * sorted(container_of(document, ref.scene).layers).index(ref.layer) if ref.layer != "photo" else 0
            wish = wish_for(document, media, hold, number, edit.seed)
            opening, closing = suggested_views(fit_of(document, layer), media, seen_aspect(document, layer), wish)
        layer = _with_view(document, layer, "opening", opening)
        changed.append((ref, _with_view(document, layer, "closing", closing)))
    return with_layers(document, changed)


def wish_for(document: Document, media: Media, hold: int, variation: int, seed: int) -> Wish:
    """What a suggestion for a picture in a scene that stands for `hold` ticks depends on."""
    across, down = media.shown_size
    frame = document.frame
    sharpest = 1.0 / max(frame.width / across, frame.height / down)
    return Wish(seconds(hold), variation, seed, sharpest)


class DragView(Gesture):
    """A drag of a view's rectangle on its picture; positions in fractions of the picture.

    A corner keeps the opposite corner where it is; `constrain` keeps the centre instead.
    """

    scene: Id
    layer: Id
    which: Which


def drag_view(document: Document, edit: DragView) -> Document:
    ref = LayerRef(scene=edit.scene, layer=edit.layer)
    layer = photo_of(document, ref)
    view = _view(layer, edit.which).value
    picture, aspect = document.media[layer.media].aspect, seen_aspect(document, layer)
    plane = np.array(plane_size(picture, aspect))
    start, end = np.array(edit.start) * plane, np.array(edit.end) * plane
    centre = (np.array((view.x, view.y)) + 0.5) * plane
    if edit.handle == "inside":
        offset = along_one_axis(end - start) if edit.constrain else end - start
        partial = _centred(centre + offset, plane)
    elif edit.handle == "turn":
        turn = view.turn + turned_by(centre, start, end)
        partial = {"turn": stepped(turn) if edit.constrain else turn}
    else:
        fit = fit_of(document, layer)
        base = fit_zoom(fit, picture, aspect)
        index = int(edit.handle[-1])
        sign = np.array(((-1, -1), (1, -1), (1, 1), (-1, 1))[index])
        c, s = cos(radians(view.turn)), sin(radians(view.turn))
        to_corner = np.array(((c, -s), (s, c))) @ (sign * np.array((aspect, 1.0)) / 2.0)
        reach = to_corner / (view.zoom * base)
        fixed = centre if edit.constrain else centre - reach
        diagonal = to_corner / np.linalg.norm(to_corner)
        length = float(np.dot(centre + reach + (end - start) - fixed, diagonal))
        span = 1.0 if edit.constrain else 2.0
        zoom = float(np.clip(span * np.linalg.norm(to_corner) / max(length, 1e-6) / base, 0.05, 50.0))
        if limited := limited_view(view.model_copy(update={"zoom": zoom}), fit, picture, aspect):
            zoom = limited.zoom
        partial = {"zoom": zoom, **_centred(fixed if edit.constrain else fixed + to_corner / (zoom * base), plane)}
    moved = merged(view, {k: float(v) for k, v in partial.items()}, f"view.{edit.which}")
    return with_layers(document, [(ref, _with_view(document, layer, edit.which, moved))])


def _centred(centre: Any, plane: Any) -> dict[str, float]:
    x, y = np.clip(centre / plane - 0.5, -5.0, 5.0)
    return {"x": float(x), "y": float(y)}


def _view(layer: PhotoLayer, which: Which) -> Keyframe[View]:
    key = layer.view.keys.get(which)
    if key is None:
        raise InvalidEdit([Fault("edit.no_view", f"view.keys.{which}", f"This photo's view has no {which} key.")])
    return key


def _with_view(document: Document, layer: PhotoLayer, which: Which, view: View) -> PhotoLayer:
    """The layer with a view replaced, kept within what its fit allows."""
    kept = limited_view(view, fit_of(document, layer), document.media[layer.media].aspect, seen_aspect(document, layer))
    key = _view(layer, which).model_copy(update={"value": kept})
    return layer.model_copy(update={"view": layer.view.model_copy(update={"keys": {**layer.view.keys, which: key}})})


def _with_keys(layer: PhotoLayer, opening: Keyframe[View], closing: Keyframe[View]) -> PhotoLayer:
    keys = {**layer.view.keys, "opening": opening, "closing": closing}
    return layer.model_copy(update={"view": layer.view.model_copy(update={"keys": keys})})


VIEW_EDITS = (
    EditSpec("set_views", "Change views", SetViews, set_views),
    EditSpec("arrange_views", "Arrange views", ArrangeViews, arrange_views),
    EditSpec("drag_view", "Move view", DragView, drag_view),
)
