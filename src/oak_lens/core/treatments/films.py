"""Whole films: an opening, a body that goes on for as long as there are pictures, a closing; made of treatments, with dials that all of them share."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from ..document import Dial, DialValue, Join, Layer, PhotoLayer, TextLayer, Zone
from ..looks.links import Link
from . import lettered, openings, strips, tables, walls
from .treatment import SQUARE, UPRIGHT, Part, Shipped, seconds


@dataclass(frozen=True)
class Piece:
    """Scenes of a treatment as a part of a film. `mark` goes before the ids of its zones and `name` before their names; `dials`: what those of its
    dials are called here that would be another's; `part`: what else is said of each."""

    shipped: Shipped
    mark: str
    name: str
    dials: Mapping[str, str] = field(default_factory=dict)
    part: Mapping[str, Any] = field(default_factory=dict)

    def scenes(self, shape: float | None) -> tuple[Part, ...]:
        """As they stand in the film, for frames of a shape."""
        return tuple(replace(self._renamed(part), **self.part) for part in self.shipped.laid_out(shape))

    def zones(self) -> dict[str, Zone]:
        """Its zones, by what they are called in the film."""
        return {self.mark + k: zone.model_copy(update={"name": f"{self.name}: {zone.name[:1].lower()}{zone.name[1:]}"}) for k, zone in self.shipped.zones.items()}

    def _renamed(self, part: Part) -> Part:
        zone = self.mark + part.backdrop_zone if part.backdrop_zone else None
        return replace(part, layers={k: self._layer(layer) for k, layer in part.layers.items()}, links=self._links(part.links), backdrop_zone=zone, name=self.name)

    def _layer(self, layer: Layer) -> Layer:
        update: dict[str, Any] = {"links": self._links(layer.links)}
        if isinstance(layer, PhotoLayer | TextLayer) and layer.zone:
            update["zone"] = self.mark + layer.zone
        return layer.model_copy(update=update)

    def _links(self, links: Mapping[str, Link]) -> dict[str, Link]:
        return {k: link.model_copy(update={"id": self.dials.get(link.id or "", link.id)}) for k, link in links.items()}


def film(id: str, name: str, about: str, words: str, pieces: tuple[Piece, ...], *, moods: tuple[str, ...], dials: Mapping[str, DialValue]) -> Shipped:
    """A film of pieces. Dials of one name are one; `dials`: where some stand at first. A song may go with all of it."""
    zones, offered = dict[str, Zone](), dict[str, Dial]()
    for piece in pieces:
        zones |= piece.zones()
        for key, dial in piece.shipped.dials.items():
            offered.setdefault(piece.dials.get(key, key), dial)
    zones["music"] = Zone(order="V", name="Music", takes="song", required=False, empty="nothing", help="Heard over the whole film; it fades out with the last scene")
    made = {key: dial.model_copy(update={"default": dials.get(key, dial.default)}) for key, dial in offered.items()}
    scenes = {shape: tuple(scene for piece in pieces for scene in piece.scenes(shape)) for shape in (None, SQUARE, UPRIGHT)}
    return Shipped(
        id, name, about, words, zones, made, scenes[None], kind="film", moods=moods, others={SQUARE: scenes[SQUARE], UPRIGHT: scenes[UPRIGHT]}
    )


def join(kind: str, length: float = 1.0, **settings: Any) -> Join:
    """A join of so many seconds."""
    return Join.model_validate({"kind": kind, "length": seconds(length), **settings})


def opening(shipped: Shipped = lettered.OVER, **part: Any) -> Piece:
    """A title before the pictures."""
    return Piece(shipped, "open-", "Opening", {"ink": "title-ink"}, part={"fade_in": 1.0, **part})


def body(shipped: Shipped, mark: str = "body-", name: str = "Pictures", **part: Any) -> Piece:
    """What goes on for as long as there are pictures."""
    return Piece(shipped, mark, name, {"face": "words-face", "ink": "words-ink"}, part={"repeats": True, **part})


def closing(shipped: Shipped = lettered.CLOSING, **part: Any) -> Piece:
    """Last words."""
    return Piece(shipped, "end-", "Closing", {"ground": "end-ground", "size": "logo"}, part={"fade_out": 1.5, **part})


EVENING = film(
    "evening-table", "Evening at the table", "A title, then prints dealt onto a walnut table by fours, twos and ones, and a last word", "prints table warm family year pile film",
    (opening(), body(tables.FALLING, join=join("dissolve", 1.2)), closing(openings.SEEN_OFF, join=join("dissolve", 1.5))), moods=("warm",), dials={"face": "playfair-display", "tint": "#2a1a10", "end-veil": 0.5},
)  # fmt: skip

GALLERY = film(
    "gallery-walk", "A walk through the rooms", "Framed pictures hang on plaster walls; the camera walks along five at a time, then stands before single ones", "gallery exhibition wall frames quiet museum film",
    (opening(openings.WALL_TEXT), body(walls.WALKED, "wall-", "Wall", join=join("dip", 1.4, colour="#f1ede6")), body(walls.LAMPLIT, "single-", "Single", optional=True, join=join("dissolve", 1.6)), closing(join=join("dip", 1.4, colour="#f1ede6"))),
    moods=("calm", "grand"), dials={"end-ground": "#f4f1ea", "second": "#e2ddd2"},
)  # fmt: skip

BRIGHT = film(
    "bright-windows", "Bright windows", "Pictures side by side from edge to edge that push one another on; quick and light", "modern quick strips light lively report film",
    (opening(openings.HALVED), body(strips.TALL, join=join("push", 0.6, direction="left")), closing(join=join("push", 0.8, direction="up"))),
    moods=("lively",), dials={"end-ground": "#f2ece0", "second": "#f2ece0"},
)  # fmt: skip

NIGHT = film(
    "night-sky", "Under the night sky", "Pictures hang in the dark, one behind another; the camera pushes past them, and a lamp finds single ones", "night dark depth space grand slow stars film",
    (opening(), body(walls.PASSED, "deep-", "Depths", join=join("dip", 1.6)), body(walls.LAMPLIT, "lamp-", "Lamp", optional=True, join=join("dip", 1.6)), closing(openings.SEEN_OFF, join=join("dip", 2.0))),
    moods=("grand", "calm"), dials={"face": "abril-fatface", "tint": "#060a14", "veil": 0.7, "end-veil": 0.7, "accent": "#8fb4d8"},
)  # fmt: skip

JOURNEY = film(
    "field-journey", "Field journey", "A title, a paper map with its stops, and the pictures brought home leafed through as a stack", "travel journey map route trip notes film",
    (opening(), Piece(tables.MAPPED, "map-", "Map", part={"join": join("fold", 1.2)}), Piece(tables.LEAFED, "leaf-", "Stack", {"border": "card-border", "table": "cloth"}, part={"repeats": True, "join": join("turn", 1.1)}), closing(join=join("dissolve", 1.4))),
    moods=("warm", "lively"), dials={"face": "roboto-slab", "tint": "#3a2c1a", "end-ground": "#e9dcc0", "second": "#cdb68a"},
)  # fmt: skip

ALBUM = film(
    "plain-album", "Plain album", "One picture after another, whole, on a soft copy of itself; nothing else", "simple single calm album any pictures film",
    (opening(), body(lettered.CALM, join=join("dissolve", 1.5)), closing(join=join("dissolve", 2.0))),
    moods=("calm",), dials={"face": "source-serif-4", "veil": 0.5, "end-ground": "#1d2328", "second": "#101418", "ink": "#f2ede3"},
)  # fmt: skip

CHANGES = film(
    "what-changed", "What changed", "Pairs of pictures of one place, wiped from then to now; what was done in four lines; a last page", "before after building repair report progress list film",
    (opening(openings.HALVED, hold=4.0), Piece(lettered.LISTED, "list-", "List", {"ink": "words-ink", "face": "words-face"}, part={"optional": True, "join": join("slide", 0.9, direction="left")}),
     body(strips.COMPARED, "pair-", "Pair", join=join("wipe", 0.9)), closing(join=join("dissolve", 1.2))),
    moods=("lively",), dials={"face": "inter", "ground": "#1b2a33", "title-ink": "#eef1f2", "accent": "#e2a94a", "words-face": "inter", "end-ground": "#eef1f2", "second": "#d5dde0"},
)  # fmt: skip

TREATMENTS = (ALBUM, EVENING, BRIGHT, GALLERY, NIGHT, JOURNEY, CHANGES)
