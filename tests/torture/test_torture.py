"""Everything is killed, again and again; nothing acknowledged is lost. The long form is `./oak torture --minutes N`."""

import os
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest

from oak_lens.stack.start import ROOT

from .torture import TARGETS, torture

KILLS = len(TARGETS)
"""A round of everything, however long that takes. `./oak torture` goes on for as long as it is told."""

LONGEST_SECONDS = 120

BACK_SECONDS = 30
"""Nobody waits longer for the service, whatever died. On a machine of its own it is 5."""


@pytest.fixture
def home() -> Iterator[Path]:
    path = ROOT / ".run" / f"torture-{os.getpid()}"
    yield path
    shutil.rmtree(path, ignore_errors=True)


def test_nothing_acknowledged_is_lost_whatever_is_killed(home: Path) -> None:
    report = torture(home, LONGEST_SECONDS, seed=20, kills=KILLS)
    print(report)
    assert not report.lost and not report.wrong, str(report)
    assert report.slowest < BACK_SECONDS, str(report)
    assert sum(report.kills.values()) == KILLS and set(report.kills) == set(TARGETS) and report.edits > 5 and report.uploads > 2 and report.exports["done"] >= 1, str(report)
