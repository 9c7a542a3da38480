"""The browser that tests of the core and of the whole application share."""

import gc
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, sync_playwright

CHROMIUM = "/usr/bin/chromium"
"""The whole browser: what is measured is measured in it."""

SHELL = "/usr/bin/chromium-headless-shell"
"""The same without its own windows: tests need no more, and each of their contexts costs a tenth."""

ONE_PROCESS = "--renderer-process-limit=1"
"""Pages of one context share a process, which has compiled their scripts when the next one opens: a quarter less for each."""

CHROMIUM_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--autoplay-policy=no-user-gesture-required",
]


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        chromium = playwright.chromium.launch(executable_path=SHELL, args=[*CHROMIUM_FLAGS, ONE_PROCESS])
        yield chromium
        chromium.close()


LONG = (
    "tests/torture/test_torture", "e2e/", "tests/torture/", "tests/stack/", "tests/cli/", "tests/api/", "tests/services/",
    "tests/core/templates/", "tests/core/edits/", "tests/core/trials/", "tests/core/delivery/", "tests/core/sound/", "tests/test_rooms",
    "tests/core/framing/", "tests/core/paint/", "tests/core/letters/", "tests/core/curves/", "tests/media/",
)  # fmt: skip
"""What takes longest begins first, so that the short ones fill the end of the processes evenly; something beside the first browser test, which
starts what all of them share."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    items.sort(key=lambda item: next((rank for rank, place in enumerate(LONG) if item.nodeid.startswith(place)), len(LONG)))


def pytest_collection_finish() -> None:
    """What is loaded by now stays: the collector does not look through all of it again and again while the tests run."""
    gc.collect()
    gc.freeze()
