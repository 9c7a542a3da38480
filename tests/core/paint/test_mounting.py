"""Mounts, shadows, surfaces and groups as they are painted."""

from pathlib import Path

import numpy as np
import pytest

from oak_lens.core.document import Document
from oak_lens.core.draw import (
    ColourItem,
    Composition,
    DrawList,
    GroupItem,
    LayerItem,
    MountedPhoto,
    Plate,
    ShadowItem,
    SurfaceItem,
    homography_of,
)
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import film_at, scene_at, timeline_of
from oak_lens.core.looks import SHIPPED_LOOKS, SURFACES, Form, Mount
from oak_lens.core.paint import Painter, surfaces
from oak_lens.core.paint.surfaces import TEXTURES, bring_textures, surface_texture
from oak_lens.core.time import ticks
from oak_lens.media.textures import FolderTextures, machine_textures
from tests.conftest import Pictures, made_document, mounted, picture

IDENTITY = homography_of(np.eye(3))


def disc() -> np.ndarray:
    """A cut-out: an opaque disc on nothing."""
    y, x = np.mgrid[:200, :200]
    pixels = np.zeros((200, 200, 4), np.uint8)
    pixels[np.hypot(x - 99.5, y - 99.5) < 80] = (200, 120, 40, 255)
    return pixels


def test_the_shadow_of_a_cut_out_follows_its_shape() -> None:
    photo = mounted("p", 1.0, 1.0)
    drawn = DrawList(1.0, (ColourItem("#ffffff"), ShadowItem(photo, IDENTITY, 0.01, 0.0, "#000000", 1.0)))
    pixels = Painter(Pictures(p=disc())).paint(drawn, 300, 300)[..., 0].astype(int)
    # Dark under the disc, light in the corners of the picture's rectangle.
    assert pixels[150, 150] < 10 and pixels[20, 20] > 245 and pixels[150, 40] < 80 and pixels[40, 40] > 245


def test_a_spread_shadow_reaches_further() -> None:
    def reach(photo: MountedPhoto, spread: float) -> int:
        drawn = DrawList(1.0, (ColourItem("#ffffff"), ShadowItem(photo, IDENTITY, 0.005, spread, "#000000", 1.0)))
        row = Painter(Pictures(p=disc(), q=picture(200, 200))).paint(drawn, 400, 400)[200, :, 0]
        return int((row < 128).sum())

    for photo in (mounted("p", 0.5, 0.5), mounted("q", 0.5, 0.5)):
        assert reach(photo, 0.05) - reach(photo, 0.0) == pytest.approx(2 * 0.05 * 400, abs=6)


def test_a_mount_has_its_parts_where_they_belong() -> None:
    mount = Mount(border=0.05, colour="#ff0000", mat=0.05, mat_colour="#0000ff", foot=0.1)
    photo = mounted("p", 0.5, 0.5, mount=mount)
    flat = np.full((200, 200, 4), (0, 255, 0, 255), np.uint8)
    pixels = Painter(Pictures(p=flat)).paint(DrawList(1.0, (ColourItem("#000000"), LayerItem(photo, IDENTITY, 1.0))), 1000, 1000)[..., :3]

    def at(x: float, y: float) -> tuple[int, ...]:
        return tuple(int(v) for v in pixels[round((y + 0.5) * 1000), round((x + 0.5) * 1000)])

    assert at(0, 0) == (0, 255, 0) and at(0, -0.275) == (0, 0, 255) and at(0, -0.325) == (255, 0, 0)
    assert at(0, -0.36) == (0, 0, 0) and at(0, 0.44) == (255, 0, 0) and at(0, 0.46) == (0, 0, 0)


@pytest.mark.parametrize("outline", ["ellipse", "polygon"])
def test_a_window_cuts_out_its_shape(outline: str) -> None:
    photo = mounted("p", 0.8, 0.6, outline=outline, sides=4)
    drawn = DrawList(1.0, (ColourItem("#000000"), LayerItem(photo, IDENTITY, 1.0)))
    pixels = Painter(Pictures(p=np.full((60, 80, 4), 255, np.uint8))).paint(drawn, 500, 500)[..., 0]
    share = {"ellipse": np.pi / 4, "polygon": 0.5}[outline] * 0.8 * 0.6
    assert (pixels / 255).mean() == pytest.approx(share, rel=0.01)


def test_captions_and_tape_are_drawn() -> None:
    mount = Mount(border=0.03, foot=0.1, colour="#ffffff")
    bare, written, taped = (
        Painter(Pictures(p=picture(300, 200))).paint(
            DrawList(1.0, (ColourItem("#808080"), LayerItem(mounted("p", 0.6, 0.4, mount=m, caption=c), IDENTITY, 1.0))), 400, 400
        )
        for m, c in ((mount, ""), (mount, "First light"), (mount.model_copy(update={"tape": "corners"}), ""))
    )
    foot = slice(round((0.5 + 0.235) * 400), round((0.5 + 0.33) * 400))
    assert (written[foot] != bare[foot]).any() and (written[: foot.start - 6] == bare[: foot.start - 6]).all()
    # Tape reaches over the paper onto what is below.
    assert (taped[98:112, 52:66] != bare[98:112, 52:66]).any()


def test_small_pictures_have_sharp_mounts() -> None:
    photo = mounted("p", 0.6, 0.4, mount=Mount(border=0.05, mat=0.02, colour="#ffffff", mat_colour="#ffffff"))
    pixels = Painter(Pictures(p=np.full((20, 30, 4), (0, 0, 0, 255), np.uint8))).paint(
        DrawList(1.0, (ColourItem("#000000"), LayerItem(photo, IDENTITY, 1.0))), 800, 800
    )
    profile = pixels[400, :, 0].astype(int)
    outer = np.flatnonzero(profile > 128)[0]
    assert profile[outer - 2] < 30 and profile[outer + 2] > 225


def test_a_group_fades_as_one() -> None:
    """Two layers over each other at half: the upper hides the lower, and only then both fade."""
    red, blue = (mounted(name, size, size) for name, size in (("red", 0.8), ("blue", 0.4)))
    items = (LayerItem(red, IDENTITY, 1.0), LayerItem(blue, IDENTITY, 1.0))
    flat = {"red": np.full((9, 9, 4), (255, 0, 0, 255), np.uint8), "blue": np.full((9, 9, 4), (0, 0, 255, 255), np.uint8)}
    pixels = Painter(Pictures(**flat)).paint(DrawList(1.0, (ColourItem("#000000"), GroupItem(items, 0.5))), 100, 100)
    assert tuple(pixels[50, 50, :3]) == (0, 0, 128) and tuple(pixels[50, 20, :3]) == (128, 0, 0)


@pytest.mark.parametrize("surface", [s for s, _ in SURFACES])
def test_surfaces_tile_without_a_seam(surface: str) -> None:
    assert set(TEXTURES) == {s for s, _ in SURFACES}
    texture = surface_texture(surface).astype(int)
    for axis in (0, 1):
        steps = np.abs(np.diff(texture, axis=axis)).mean(axis=(2, 1 - axis))
        seam = np.abs(np.take(texture, 0, axis) - np.take(texture, -1, axis)).mean()
        assert seam <= steps.max() * 1.05


@pytest.mark.parametrize("frame", [{}, {"width": 1080, "height": 1920}, {"width": 1080, "height": 1080}, {"width": 1000, "height": 1234}])
@pytest.mark.parametrize("way", ["right", "down"])
def test_a_surface_runs_on_into_the_next_scene_without_a_seam(frame: dict[str, int], way: str) -> None:
    """A push joins the two scenes: the surface must look like one, wherever the frame is on its way."""
    direction = {"right": "left", "down": "up"}[way]
    document = apply_edits(
        made_document(**frame),
        parse_edits(
            [
                {"edit": "remove_layers", "layers": [{"scene": s, "layer": "photo"} for s in ("s-wide", "s-tall")]},
                {"edit": "set_scenes", "ids": ["s-wide"], "backdrop": {"kind": "surface", "surface": "oak"}},
                {
                    "edit": "set_scenes",
                    "ids": ["s-tall"],
                    "backdrop": {"kind": "surface", "surface": "slate", "runs_on": way},
                    "join": {"kind": "push", "direction": direction},
                },
            ]
        ),
    )
    timeline = timeline_of(document)
    span = timeline.spans[1]
    passage = film_at(document, timeline, (span.join_start + span.hold_start) // 2)
    assert isinstance(passage, Composition)
    width, height = (320, round(320 / document.frame.aspect))
    moving = Painter(Pictures()).paint(passage, width, height).astype(int)
    # The same surface painted at once, moved by as much as the frame is on its way.
    leaving = passage.parts[0]
    assert isinstance(leaving, Plate) and leaving.frame_from_plate is not None
    first = leaving.picture.items[0]
    assert isinstance(first, SurfaceItem)
    x, y = -leaving.frame_from_plate[2], -leaving.frame_from_plate[5]
    still = SurfaceItem(first.surface, first.scale, first.x + x, first.y + y, first.closer, first.grade)
    at_once = Painter(Pictures()).paint(DrawList(document.frame.aspect, (still,)), width, height).astype(int)
    assert np.abs(moving - at_once).mean() < 3.0
    # Nowhere a step that the surface itself has not.
    axis = 1 if way == "right" else 0
    steps = [np.abs(np.diff(p, axis=axis)).mean(axis=(2, 1 - axis)) for p in (moving, at_once)]
    assert steps[0].max() <= steps[1].max() * 1.3 + 1


@pytest.fixture(scope="module")
def on_table() -> Document:
    edits = [
        {
            "edit": "set_layers",
            "layers": [{"scene": "s-wide", "layer": "photo"}],
            "window": {},
            "placement": {"size": 0.7},
            "caption": "Frost",
        },
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "fit": None},
    ]
    return apply_edits(made_document(), parse_edits(edits))


def test_every_shipped_look_is_painted_and_differs_clearly_from_every_other(on_table: Document, source: Pictures) -> None:
    painted = {}
    painter = Painter(source)
    for shipped in SHIPPED_LOOKS:
        used = apply_edits(
            on_table, parse_edits([{"edit": "use_look", "look": shipped.id, "photos": [{"scene": "s-wide", "layer": "photo"}]}])
        )
        painted[shipped.id] = painter.paint(scene_at(used, "s-wide", ticks(1), ticks(4)), 320, 180)[..., :3].astype(int)
    assert len(painted) >= 10
    names = list(painted)
    for i, a in enumerate(names):
        for b in names[i + 1 :]:
            assert np.abs(painted[a] - painted[b]).mean() > 3.0, (a, b)


def test_shapes_are_filled_stroked_and_fade() -> None:
    def painted(**form: object) -> np.ndarray:
        edits = [
            {"edit": "remove_layers", "layers": [{"scene": "s-wide", "layer": "photo"}]},
            {"edit": "set_scenes", "ids": ["s-wide"], "backdrop": {"kind": "colour", "colour": "#000000"}},
            {"edit": "add_shape", "scene": "s-wide", "id": "a", "form": form},
        ]
        document = apply_edits(made_document(), parse_edits(edits))
        return Painter(Pictures()).paint(scene_at(document, "s-wide", 0, 1), 320, 180)[..., :3].astype(int)

    disc = painted(outline="ellipse", aspect=1.0, colour="#ffffff")
    assert disc[90, 160].tolist() == [255, 255, 255] and (disc[..., 0] / 255).sum() == pytest.approx(np.pi * 36**2, rel=0.02)
    ring = painted(outline="ellipse", aspect=1.0, fill="none", stroke=0.05, stroke_colour="#00ff00")
    assert ring[90, 160].tolist() == [0, 0, 0] and ring[90, 160 + 36].tolist() == [0, 255, 0]
    line = painted(outline="line", stroke=0.04)
    assert (line[..., 0] > 128).any(axis=1).sum() == pytest.approx(0.04 * 180, abs=2)
    sheet = painted(outline="sheet", fill="linear", colour="#000000", second_colour="#ffffff", angle=90)
    assert sheet[90, 2, 0] < 6 and sheet[90, 317, 0] > 249 and (np.diff(sheet[90, :, 0]) >= -1).all()
    assert Form(outline="polygon").sides == 6


def test_textures_are_made_once_and_one_that_is_cut_short_is_made_anew(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(surfaces, "TEXTURES", {name: surfaces.TEXTURES[name] for name in ("slate", "cork")})
    made = surface_texture("slate").copy()
    try:
        for cut in (None, 0, 900):
            kept = FolderTextures(tmp_path)
            bring_textures(kept)
            np.testing.assert_array_equal(surface_texture("slate"), made)
            (file,) = tmp_path.rglob("*.npy")
            assert np.load(file).shape == made.shape
            file.write_bytes(file.read_bytes()[:cut])
        (tmp_path / "closed").write_text("no folder")
        bring_textures(FolderTextures(tmp_path / "closed"))
        np.testing.assert_array_equal(surface_texture("slate"), made)
        assert not FolderTextures(tmp_path / "closed").make_one(), "no room, and no way round it"
        kept = FolderTextures(tmp_path / "ahead")
        bring_textures(kept)
        assert [kept.make_one() for _ in range(2)] == [True] * 2 and not kept.make_one()
    finally:
        bring_textures(machine_textures())
