"""What gunicorn runs: the application of the environment's settings."""

import os
import threading
from pathlib import Path

import numpy as np

from ..core.draw import ColourItem, DrawList, Mixture, PhotoItem, ShadowItem
from ..core.paint import Painter
from .application import create_app

HOME = Path(os.environ["OAK_HOME"])


class _Grey:
    """A tiny picture for warming up."""

    def size(self, media: str) -> tuple[int, int]:
        return 8, 8

    def level(self, media: str, level: int) -> "np.ndarray[tuple[int, ...], np.dtype[np.uint8]]":
        return np.full((8, 8, 4), 255, np.uint8)


def warm_up() -> None:
    """Loads the compiled kernels before the first frame is asked for."""
    identity = (1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0)
    drawn = DrawList(
        1.0,
        (
            ColourItem("#000000"),
            ShadowItem(identity, 0.5, 0.5, 0.0, 0.05, "#000000", 0.5),
            PhotoItem("grey", identity, 0.5, 0.5, 0.01, "#ffffff", 0.0, 1.0),
        ),
    )
    Painter(_Grey()).paint(Mixture(drawn, drawn, 0.5), 64, 64)


threading.Thread(target=warm_up, daemon=True).start()

app = create_app(
    os.environ["OAK_DATABASE_URL"],
    HOME,
    os.environ["OAK_SECRET"],
    os.environ["OAK_KEY"],
    Path(os.environ["OAK_WEB"]) if "OAK_WEB" in os.environ else None,
)
