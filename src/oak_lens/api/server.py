"""What gunicorn runs: the application of the environment's settings."""

import os
import threading
from pathlib import Path

import numpy as np

from ..core.draw import ColourItem, DrawList, GroupItem, LayerItem, Mixture, MountedPhoto, ShadowItem
from ..core.looks import Correction, Mount
from ..core.paint import Painter
from .application import create_app

HOME = Path(os.environ["OAK_HOME"])


class _Grey:
    """A tiny picture for warming up."""

    def size(self, media: str) -> tuple[int, int]:
        return 8, 8

    def level(self, media: str, level: int, moment: int = 0) -> "np.ndarray[tuple[int, ...], np.dtype[np.uint8]]":
        return np.full((8, 8, 4), 255, np.uint8)


def warm_up() -> None:
    """Loads the compiled kernels before the first frame is asked for."""
    identity = (1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0)
    mount = Mount(border=0.01, edge="deckle", foot=0.01)
    plain, carded = (
        MountedPhoto("grey", 0, 0.5, 0.5, None, "rectangle", 4, m, 1.0, (Correction(exposure=0.1),)) for m in (Mount(border=0.01), mount)
    )
    items = [
        (ShadowItem(c, identity, 0.05, 0.0, "#000000", 0.5), LayerItem(c, identity, 1.0, mode))
        for c, mode in ((plain, "normal"), (carded, "screen"))
    ]
    drawn = DrawList(1.0, (ColourItem("#000000"), *items[0], GroupItem(items[1], 0.5)))
    Painter(_Grey()).paint(Mixture(drawn, drawn, 0.5), 64, 64)


threading.Thread(target=warm_up, daemon=True).start()

app = create_app(
    os.environ["OAK_DATABASE_URL"],
    HOME,
    os.environ["OAK_SECRET"],
    os.environ["OAK_KEY"],
    Path(os.environ["OAK_WEB"]) if "OAK_WEB" in os.environ else None,
    instance=os.environ.get("OAK_INSTANCE", ""),
)
