"""Blend modes and opacity mean what they mean in CSS: compared with Chromium's own compositing."""

import io
from typing import Any

import numpy as np
import pytest
from PIL import Image

from oak_lens.core.document import BLENDS
from oak_lens.core.draw import ColourItem, DrawList, LayerItem, homography_of
from oak_lens.core.paint import Painter
from tests.conftest import Pictures, mounted

COLOURS = ["#000000", "#ffffff", "#c84030", "#30a060", "#3c50d8", "#808080", "#e6c81e", "#1e1414"]
SIDE = 24


@pytest.mark.parametrize("mode", [m for m, _ in BLENDS])
@pytest.mark.parametrize("opacity", [1.0, 0.6])
def test_a_blend_mode_is_that_of_css(mode: str, opacity: float, browser: Any) -> None:
    width = SIDE * len(COLOURS)
    page = browser.new_page(viewport={"width": width, "height": width})
    rows = "".join(
        f'<div style="position:absolute;top:{i * SIDE}px;width:{width}px;height:{SIDE}px;background:{c}"></div>'
        for i, c in enumerate(COLOURS)
    )
    columns = "".join(
        f'<div style="position:absolute;left:{i * SIDE}px;width:{SIDE}px;height:{width}px;background:{c};mix-blend-mode:{mode};opacity:{opacity}"></div>'
        for i, c in enumerate(COLOURS)
    )
    page.set_content(f'<body style="margin:0;background:#fff"><div style="isolation:isolate">{rows}{columns}</div></body>')
    expected = np.asarray(Image.open(io.BytesIO(page.screenshot())).convert("RGB")).astype(int)
    page.close()

    def flat(across: bool) -> np.ndarray[Any, Any]:
        colours = np.array([[int(c[i : i + 2], 16) for i in (1, 3, 5)] + [255] for c in COLOURS], np.uint8).repeat(SIDE, axis=0)
        return np.ascontiguousarray(np.broadcast_to(colours[None, :] if across else colours[:, None], (width, width, 4)))

    identity = homography_of(np.eye(3))
    items = (
        ColourItem("#ffffff"),
        LayerItem(mounted("below", 1.0, 1.0), identity, 1.0),
        LayerItem(mounted("above", 1.0, 1.0), identity, opacity, mode),
    )
    ours = Painter(Pictures(below=flat(False), above=flat(True))).paint(DrawList(1.0, items), width, width)[..., :3].astype(int)
    middles = slice(SIDE // 2, None, SIDE)
    assert np.abs(ours - expected)[middles, middles].max() <= 3
