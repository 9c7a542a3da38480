"""Eases against Chromium's own `cubic-bezier`: an independent implementation."""

import pytest
from playwright.sync_api import Browser

from oak_lens.core.curves import EASES, cubic_bezier

CURVES = [
    *[(e.leave[0], e.leave[1], 1 - e.arrive[0], 1 - e.arrive[1]) for e in EASES if not e.hold],
    (0.68, -0.55, 0.265, 1.55),
    (0.05, 0.9, 0.1, 1.0),
    (1.0, 0.0, 0.0, 1.0),
    (0.0, 1.6, 1.0, -0.6),
]

SCRIPT = """([curve, points]) => {
  const box = document.createElement('div'); document.body.append(box);
  const motion = box.animate([{transform: 'translateX(0px)'}, {transform: 'translateX(1000px)'}],
    {duration: 1000, easing: `cubic-bezier(${curve.join(',')})`, fill: 'both'});
  motion.pause();
  return points.map(p => { motion.currentTime = p * 1000; return new DOMMatrix(getComputedStyle(box).transform).m41 / 1000 });
}"""


@pytest.mark.parametrize("curve", CURVES)
def test_same_meaning_as_css(browser: Browser, curve: tuple[float, float, float, float]) -> None:
    points = [i / 40 for i in range(41)]
    page = browser.new_page()
    page.set_content("<body></body>")
    theirs = page.evaluate(SCRIPT, [list(curve), points])
    page.close()
    # Chromium solves its curves to about 1e-6 and prints a thousandth of a pixel of a thousand.
    assert [cubic_bezier(*curve, p) for p in points] == pytest.approx(theirs, abs=5e-6)
