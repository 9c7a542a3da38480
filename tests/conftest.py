"""Shared means: a browser, a database, a document with pictures."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import pytest
from hypothesis import settings
from PIL import Image
from sqlalchemy import Engine

from oak_lens.core.document import Document
from oak_lens.core.draw import MountedPhoto, Picture
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.letters import bring_faces
from oak_lens.core.looks import Mount
from oak_lens.core.paint.surfaces import bring_textures
from oak_lens.core.templates import bring_templates
from oak_lens.core.treatments import SHELF
from oak_lens.media.faces import ShippedFaces
from oak_lens.media.textures import machine_textures

ROOT = Path(__file__).resolve().parents[1]
cv2.setNumThreads(1)
# The machine may be busy: how long an example takes says nothing here.
settings.register_profile("oak", deadline=None)
settings.register_profile("beside", deadline=None, max_examples=25)
settings.load_profile("oak")
bring_faces(ShippedFaces())
bring_templates(SHELF)
bring_textures(machine_textures())


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    from oak_lens.stack.cluster import Cluster

    cluster = Cluster(ROOT / ".run" / f"test-{os.getpid()}", durable=False)
    yield cluster.start()
    cluster.stop()
    import shutil

    shutil.rmtree(ROOT / ".run" / f"test-{os.getpid()}", ignore_errors=True)


@pytest.fixture(scope="session")
def engine(database_url: str) -> Iterator[Engine]:
    from oak_lens.storage.database import engine_for, ensure_account, migrate

    made = engine_for(database_url)
    migrate(made)
    for account in ("local", "somebody"):
        ensure_account(made, account, account)
    yield made
    made.dispose()


def picture(width: int, height: int, seed: int = 0) -> np.ndarray[Any, Any]:
    """(h, w, 4) uint8: soft colours with a sharp grid, opaque."""
    y, x = np.mgrid[:height, :width]
    rng = np.random.default_rng(seed)
    phase = rng.random(3) * 6
    colour = [127 + 100 * np.sin(x / width * 5 + phase[i]) * np.cos(y / height * 4 + i) for i in range(3)]
    pixels = np.dstack([*colour, np.full_like(colour[0], 255)])
    pixels[(x % 97 < 3) | (y % 89 < 3)] = (240, 240, 235, 255)
    return pixels.round().astype(np.uint8)


def named(key: str, moment: int = 0) -> Picture:
    """A picture by a name that `Pictures` knows; how large it is, that says."""
    return Picture(key, 0, 0, moment > 0, moment)


def mounted(media: str, width: float, height: float, **options: Any) -> MountedPhoto:
    """A whole picture in the plane, without a border unless `mount` says otherwise."""
    return MountedPhoto(**{"picture_from_plane": None, "outline": "rectangle", "sides": 4, "mount": Mount(border=0.0), "scale": 1.0,
                           "picture": named(media), "width": width, "height": height, **options})  # fmt: skip


class Pictures:
    """A `PictureSource` over arrays, by name: that of a picture of `made_document`, or any other key. One alone is every picture."""

    def __init__(self, **arrays: np.ndarray[Any, Any]):
        self._levels = {(name, 0): a for name, a in arrays.items()}
        self._only = next(iter(arrays)) if len(arrays) == 1 else None

    def size(self, picture: Picture) -> tuple[int, int]:
        height, width = self.level(picture, 0).shape[:2]
        return width, height

    def level(self, picture: Picture, level: int) -> np.ndarray[Any, Any]:
        from oak_lens.core.paint import reduced_level

        name = self._only or name_of(picture)
        if (name, level) not in self._levels:
            self._levels[name, level] = reduced_level(self.size(picture), level, lambda k: self.level(picture, k))
        return self._levels[name, level]


SHAPES = {"wide": (1500, 1000), "tall": (1000, 1500), "square": (1200, 1200), "panorama": (2600, 900), "small": (450, 300)}


KEYS = {f"{i:064x}": name for i, name in enumerate(SHAPES)}
"""Contents of the pictures of `made_document`, and their names."""


def name_of(picture: Picture) -> str:
    return KEYS.get(picture.key, picture.key)


def made_document(**frame: Any) -> Document:
    """One scene for each of SHAPES."""
    pictures = [
        {"id": name, "name": name, "file": f"{name}.png", "sha256": f"{i:064x}", "width": w, "height": h}
        for i, (name, (w, h)) in enumerate(SHAPES.items())
    ]
    edits: list[dict[str, Any]] = [{"edit": "set_frame", **frame}] if frame else []
    edits += [
        {"edit": "add_pictures", "pictures": pictures},
        {"edit": "add_scenes", "scenes": [{"id": f"s-{name}", "media": name} for name in SHAPES]},
    ]
    return apply_edits(Document(), parse_edits(edits))


@pytest.fixture
def document() -> Document:
    return made_document()


@pytest.fixture(scope="session")
def source() -> Pictures:
    return Pictures(**{name: picture(w, h, i) for i, (name, (w, h)) in enumerate(SHAPES.items())})


@pytest.fixture(scope="session")
def picture_folder(tmp_path_factory: pytest.TempPathFactory, source: Pictures) -> Path:
    folder = tmp_path_factory.mktemp("pictures")
    for name in SHAPES:
        Image.fromarray(source.level(named(name), 0)[..., :3]).save(folder / f"{name}.png", compress_level=1)
    return folder
