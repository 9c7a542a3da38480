"""Pictures of everything that ships: a sheet of all looks, of all layouts, of all surfaces, of all joins, of all title settings, of all faces, of all templates."""

import argparse
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from ..core.delivery import ExportSettings
from ..core.document import Document
from ..core.draw import REST, ColourItem, DrawList, LayerItem, Lettering, Picture, Picturing
from ..core.edits import apply_edits, parse_edits
from ..core.errors import MissingPicture
from ..core.evaluate import film_at, scene_at, timeline_of
from ..core.joins import BUILTIN as JOINS
from ..core.joins import JoinSettings, joined
from ..core.layouts import BUILTIN as LAYOUTS
from ..core.letters import FAMILIES, Block, Choice, Family, Run, lay_out
from ..core.looks import SHIPPED_LOOKS, SURFACES, Ink, Panel, Setting
from ..core.paint import Painter
from ..core.templates import filled_in_order
from ..core.time import ticks
from ..core.titles import BUILTIN as TITLES
from ..core.treatments import BUILTIN as TEMPLATES
from ..media.animations import join_webp, write_webp
from ..media.folders import pictures_in, pyramids_beside

CELL = (400, 225)
ACROSS = 4
LETTERS_PX = 15


def run_sheets(arguments: argparse.Namespace) -> int:
    folder: Path = arguments.pictures
    records, _ = pictures_in(folder, folder)
    document = apply_edits(Document(), parse_edits([{"edit": "add_pictures", "pictures": records}]))
    painter = Painter(pyramids_beside(document, folder))
    ids = [str(r["id"]) for r in records]
    arguments.out.mkdir(parents=True, exist_ok=True)
    looks = [(s.look.name, look_scene(document, ids[n % len(ids)], s.id)) for n, s in enumerate(SHIPPED_LOOKS)]
    layouts = [
        (spec.label, layout_scene(document, ids, spec.id, count)) for spec in LAYOUTS for count in layout_counts(spec.least, spec.most)
    ]
    surfaces = [(label, surface_scene(document, surface)) for surface, label in SURFACES]
    for name, entries in (("looks", looks), ("layouts", layouts), ("surfaces", surfaces)):
        frames = [(label, painter.paint(scene_at(shown, "s", 0, 1), CELL[0], CELL[1])) for label, shown in entries]
        write_sheet(arguments.out / f"{name}.jpg", frames)
        print(arguments.out / f"{name}.jpg")
    titles = [(t.name, title_frame(document, painter, ids[n % len(ids)], t.id)) for n, t in enumerate(TITLES)]
    write_sheet(arguments.out / "titles.jpg", titles)
    print(arguments.out / "titles.jpg")
    write_sheet(arguments.out / "faces.jpg", [(f"{f.name}, {', '.join(f.scripts)}", face_frame(f)) for f in FAMILIES], FACE_CELL)
    print(arguments.out / "faces.jpg")
    write_sheet(arguments.out / "joins.jpg", join_frames(document, painter, ids))
    print(arguments.out / "joins.jpg")
    write_join_film(arguments.out / "joins.webp", document, painter, ids)
    print(arguments.out / "joins.webp")
    write_template_film(arguments.out / "templates.webp", document, painter, ids)
    print(arguments.out / "templates.webp")
    return 0


FACE_CELL, FACE_PX = (400, 110), 40
PAPER, INK = (248, 244, 234), (43, 38, 32)

SPECIMENS = {
    "Arabic": "أول ضوء على القمة", "Hebrew": "אור ראשון ברכס", "Devanagari": "पहली रोशनी", "Thai": "แสงแรกบนสันเขา", "Chinese": "山脊上的初光",
    "Japanese": "尾根の最初の光", "Korean": "능선의 첫 번째 빛", "Emoji": "🌌🔭🏔️✨",
}  # fmt: skip
"""What faces for one script are shown in."""


def title_frame(document: Document, painter: Painter, media: str, title: str) -> NDArray[np.uint8]:
    """A title setting on a picture, when all of it is there."""
    edits = [
        {"edit": "add_scenes", "scenes": [{"id": "s", "media": media}]},
        {"edit": "set_details", "author": "The people of the ridge", "rights": "Free for anything"},
        {"edit": "add_title", "scene": "s", "id": "t", "title": title},
    ]
    shown = apply_edits(document, parse_edits(edits))
    return painter.paint(scene_at(shown, "s", ticks(4), ticks(8)), CELL[0], CELL[1])


def face_frame(family: Family) -> NDArray[np.uint8]:
    """A line in a face, on paper."""
    words = SPECIMENS.get(family.scripts[0], "First Light at Ossel Ridge")
    block = Block((Run(words, Choice(family.id, 400.0, False), colour="#{:02x}{:02x}{:02x}".format(*INK)),), Setting(across="middle"))
    size = min(FACE_PX / FACE_CELL[1], 0.9 * FACE_CELL[0] / FACE_CELL[1] / max(lay_out(block).box[2] * 2, 0.1))
    text = LayerItem(Lettering(block, size, Ink(), Panel()), REST, 1.0)
    drawn = DrawList(FACE_CELL[0] / FACE_CELL[1], (ColourItem("#{:02x}{:02x}{:02x}".format(*PAPER)), text))
    return Painter(Nothing()).paint(drawn, *FACE_CELL)


class Nothing:
    """No pictures: faces need none."""

    def size(self, picture: Picture) -> tuple[int, int]:
        raise MissingPicture.of("picture.missing", "There is no picture here.")

    def level(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        raise MissingPicture.of("picture.missing", "There is no picture here.")


MOMENTS = (0.2, 0.4, 0.6, 0.8)

FILM_CELL, FILM_ACROSS, FILM_RATE = (216, 122), 5, "12"
FILM_MOMENTS = (*(0.0,) * 6, *(n / 16 for n in range(1, 16)), *(1.0,) * 6)
"""How far the joins are at each frame of their film."""


def join_frames(document: Document, painter: Painter, ids: list[str]) -> list[tuple[str, NDArray[np.uint8]]]:
    """Each join on its way from one scene to the next, four moments in a cell."""
    moments = [joins_at(document, painter, ids, p, (CELL[0] // 2, CELL[1] // 2)) for p in MOMENTS]
    return [(label, np.vstack([np.hstack([a, b]), np.hstack([c, d])])) for (label, a), (_, b), (_, c), (_, d) in zip(*moments, strict=True)]


def joins_at(
    document: Document, painter: Painter, ids: list[str], progress: float, size: tuple[int, int]
) -> list[tuple[str, NDArray[np.uint8]]]:
    """(label, frame) of every join after a share of its time."""
    before = scene_at(layout_scene(document, ids, "table", 4), "s", 0, 1)
    after = scene_at(look_scene(document, ids[1], SHIPPED_LOOKS[0].id), "s", 0, 1)
    return [
        (spec.label, painter.paint(joined(spec.id, before, after, progress, JoinSettings.model_validate(spec.preset)), *size))
        for spec in JOINS
    ]


def write_join_film(path: Path, document: Document, painter: Painter, ids: list[str]) -> None:
    """All joins side by side as a film that begins again at its end."""
    painted = {p: sheet_of(joins_at(document, painter, ids, p, FILM_CELL), FILM_CELL, FILM_ACROSS) for p in dict.fromkeys(FILM_MOMENTS)}
    pictures = [painted[p] for p in FILM_MOMENTS]
    width, height = pictures[0].size
    settings = ExportSettings(kind="webp", width=width, height=height, rate=FILM_RATE, quality="draft")
    part = path.with_name(f".{path.name}.part")
    write_webp(part, (np.asarray(picture.convert("RGBA")) for picture in pictures), settings)
    join_webp([(part, len(pictures))], path, settings, "Joins")
    part.unlink()


TEMPLATE_CELL, TEMPLATE_ACROSS, TEMPLATE_RATE, TEMPLATE_FRAMES = (240, 136), 4, "12", 30


def write_template_film(path: Path, document: Document, painter: Painter, ids: list[str]) -> None:
    """All shipped templates side by side as a film that begins again at its end: the first scene of each, or a whole film, with the folder's pictures."""
    made = [template_moments(document, ids, number) for number in range(len(TEMPLATES))]
    shots = []
    for n in range(TEMPLATE_FRAMES):
        share = n / (TEMPLATE_FRAMES - 1)
        frames = [(label, painter.paint(moment(share), *TEMPLATE_CELL)) for label, moment in made]
        shots.append(sheet_of(frames, TEMPLATE_CELL, TEMPLATE_ACROSS))
    width, height = shots[0].size
    settings = ExportSettings(kind="webp", width=width, height=height, rate=TEMPLATE_RATE, quality="draft")
    part = path.with_name(f".{path.name}.part")
    write_webp(part, (np.asarray(shot.convert("RGBA")) for shot in shots), settings)
    join_webp([(part, len(shots))], path, settings, "Templates")
    part.unlink()


def template_moments(document: Document, ids: list[str], number: int) -> tuple[str, Callable[[float], Picturing]]:
    """(name, what is seen after a share of its time) of a shipped template with pictures in all of its zones: of its first scene, or of the film."""
    content = TEMPLATES[number].content
    pictures = [ids[(3 * number + n) % len(ids)] for n in range(len(filled_in_order(content)))]
    shown = apply_edits(document, parse_edits([{"edit": "put_on", "key": content.key, "id": "t", "pictures": pictures}]))
    shown = shown.model_copy(update={"scenes": {k: scene for k, scene in shown.scenes.items() if scene.template}})
    timeline = timeline_of(shown)
    if content.record.kind == "film":
        return content.record.name, lambda share: film_at(shown, timeline, round((timeline.length - 1) * share))
    length = timeline.spans[0].own_length
    return content.record.name, lambda share: scene_at(shown, "t-1", round(length * share), length)


def layout_counts(least: int, most: int) -> tuple[int, ...]:
    """How many photos a layout is shown with."""
    return tuple(sorted({max(least, 3), min(most, 7)}))


def look_scene(document: Document, media: str, look: str) -> Document:
    """One photo in a look, in a scene `s`."""
    return apply_edits(
        document,
        parse_edits(
            [
                {"edit": "add_composition", "id": "s", "photos": [{"layer": "a", "media": media}, {"layer": "b", "media": media}]},
                {"edit": "remove_layers", "layers": [{"scene": "s", "layer": "b"}]},
                {"edit": "set_layers", "layers": [{"scene": "s", "layer": "a"}], "placement": {"x": 0, "y": -0.01, "size": 0.68}, "window": {"aspect": None},
                 "caption": "First light" if look == "instant-card" else ""},
                {"edit": "use_look", "look": look, "photos": [{"scene": "s", "layer": "a"}]},
            ]
        ),
    )  # fmt: skip


def layout_scene(document: Document, ids: list[str], layout: str, count: int) -> Document:
    """Photos in a layout, in a scene `s`."""
    photos = [{"layer": f"l{n}", "media": ids[(3 * n + 1) % len(ids)]} for n in range(count)]
    surface = {"kind": "surface", "surface": "linen" if layout in ("table", "pile", "fan", "steps") else "plaster", "brightness": 0.9}
    return apply_edits(
        document,
        parse_edits(
            [
                {"edit": "add_composition", "id": "s", "photos": photos, "layout": {"kind": layout}},
                {"edit": "set_scenes", "ids": ["s"], "backdrop": surface},
            ]
        ),
    )


def surface_scene(document: Document, surface: str) -> Document:
    """A surface alone, in a scene `s`."""
    backdrop = {"kind": "surface", "surface": surface, "brightness": 1.0, "saturation": 1.0}
    return apply_edits(
        document,
        parse_edits(
            [
                {"edit": "add_scenes", "scenes": [{"id": "s", "media": next(iter(document.media))}]},
                {"edit": "set_scenes", "ids": ["s"], "backdrop": backdrop},
                {"edit": "remove_layers", "layers": [{"scene": "s", "layer": "photo"}]},
            ]
        ),
    )


def write_sheet(path: Path, frames: list[tuple[str, NDArray[np.uint8]]], cell: tuple[int, int] = CELL) -> None:
    """All frames with their labels in one JPEG."""
    sheet_of(frames, cell, ACROSS).save(path, "JPEG", quality=88)


def sheet_of(frames: list[tuple[str, NDArray[np.uint8]]], cell: tuple[int, int], across: int) -> Image.Image:
    """All frames with their labels side by side; its sides are even."""
    gap, foot = 14, 26
    rows = -(-len(frames) // across)
    sheet = Image.new("RGB", (gap + across * (cell[0] + gap), gap + rows * (cell[1] + foot + gap)), "#f2ede3")
    draw = ImageDraw.Draw(sheet)
    for number, (label, pixels) in enumerate(frames):
        x = gap + number % across * (cell[0] + gap)
        y = gap + number // across * (cell[1] + foot + gap)
        sheet.paste(Image.fromarray(pixels[..., :3]), (x, y))
        draw.text((x, y + cell[1] + 5), label, fill="#2b2620", font=ImageFont.load_default(LETTERS_PX))
    return sheet
