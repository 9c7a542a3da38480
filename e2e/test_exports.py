"""Several kinds of export wait in line and come out as what they say."""

from pathlib import Path
from typing import Any

import av
import numpy as np
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from .conftest import copy_of_demo


def number(panel: Locator, label: str, value: str) -> None:
    field = panel.get_by_label(f"{label}, number")
    field.fill(value)
    field.press("Enter")


def downloaded(page: Page, row: Locator, folder: Path) -> Path:
    with page.expect_download(timeout=90000) as downloading:
        row.get_by_role("link", name="Download").click(timeout=90000)
    path = folder / downloading.value.suggested_filename
    downloading.value.save_as(path)
    return path


def test_a_stretch_as_gif_and_webm_a_see_through_still_and_the_sound_wait_in_line(page: Page, tmp_path: Path) -> None:
    copy_of_demo(page)
    page.get_by_role("button", name="Export…").click()
    panel = page.get_by_role("dialog", name="Export")
    estimate = panel.get_by_test_id("estimate")
    panel.get_by_label("What").select_option("stretch")
    number(panel, "From", "4")
    number(panel, "To", "5")

    panel.get_by_label("Kind").select_option("gif")
    expect(panel.get_by_label("Size")).to_have_value("480")
    expect(estimate).to_contain_text("15 frames")
    panel.get_by_label("Dither").select_option("even")
    panel.get_by_label("Begins again at its end").uncheck()
    panel.get_by_role("button", name="Export the film").click()
    panel.get_by_label("Kind").select_option("webm")
    panel.get_by_label("Size").select_option("480")
    expect(estimate).to_contain_text("30 frames")
    panel.get_by_role("button", name="Export the film").click()
    panel.get_by_label("Kind").select_option("wav")
    expect(panel.get_by_label("Size")).to_have_count(0)
    panel.get_by_role("button", name="Export the sound").click()
    panel.get_by_label("Kind").select_option("still")
    panel.get_by_label("Empty places stay see-through").check()
    panel.get_by_role("button", name="Export the still").click()

    rows = panel.get_by_role("list", name="Exports").get_by_role("listitem")
    expect(rows).to_have_count(4)
    still, sound, webm, gif = (downloaded(page, rows.nth(i), tmp_path) for i in range(4))
    assert [p.suffix for p in (still, sound, webm, gif)] == [".png", ".wav", ".webm", ".gif"]

    with Image.open(gif) as animation:
        assert animation.n_frames == 15 and animation.size == (854, 480) and "loop" not in animation.info  # type: ignore[attr-defined]
        first = np.asarray(animation.convert("RGB"), int)
    with av.open(str(webm)) as film:
        stream = film.streams.video[0]
        frames = [f.to_ndarray(format="rgb24", src_colorspace="ITU709", dst_colorspace="ITU709") for f in film.decode(stream)]
        assert stream.codec_context.name == "vp9" and len(frames) == 30
    with av.open(str(webm)) as film:
        assert sum(f.samples for f in film.decode(audio=0)) == 48_000
    assert np.abs(first - np.asarray(frames[0], int)).mean() < 6, "both show the same moment"
    with av.open(str(sound)) as wave:
        heard: Any = np.concatenate([f.to_ndarray().reshape(-1) for f in wave.decode(audio=0)])
        assert len(heard) == 2 * 48_000 and np.abs(heard).max() > 2**20
    with Image.open(still) as picture:
        assert picture.size == (854, 480) and picture.mode == "RGBA"
