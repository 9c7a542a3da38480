"""Kinds of export and what writes them."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ..core.delivery import ExportSettings
from ..core.errors import ExportFailed, Fault
from .animations import join_gif, join_webp, write_gif, write_webp
from .films import CODINGS, Part, join_segments, write_segment
from .sequences import join_pictures, join_still, write_pictures
from .sounds import Soundtrack, write_wave

Write = Callable[[Path, Iterable[NDArray[np.uint8]], ExportSettings], None]
Join = Callable[[list[Part], Path, ExportSettings, str, Callable[[int], None], Soundtrack], None]


@dataclass(frozen=True, slots=True)
class Delivery:
    """`write` codes the frames of a segment into a file; `join` makes the export of the segments and the sound."""

    write: Write
    join: Join


def _silent(join: Callable[[list[Part], Path, ExportSettings, str], None]) -> Join:
    def joined(parts: list[Part], to: Path, settings: ExportSettings, title: str, on_part: Callable[[int], None], _: Soundtrack) -> None:
        join(parts, to, settings, title)
        on_part(len(parts))

    return joined


def _film(parts: list[Part], to: Path, settings: ExportSettings, title: str, on_part: Callable[[int], None], sound: Soundtrack) -> None:
    join_segments(parts, to, settings, title, on_part, None if sound.is_silent else sound)


def _wave(parts: list[Part], to: Path, settings: ExportSettings, title: str, on_part: Callable[[int], None], sound: Soundtrack) -> None:
    if sound.is_silent:
        raise ExportFailed([Fault("export.silent", "", "There is nothing to hear in this range: add a song, or a clip with sound.")])
    write_wave(to, sound, title)
    on_part(0)


DELIVERIES: dict[str, Delivery] = {
    **{kind: Delivery(write_segment, _film) for kind in CODINGS},
    "gif": Delivery(write_gif, _silent(join_gif)),
    "webp": Delivery(write_webp, _silent(join_webp)),
    "png": Delivery(write_pictures, _silent(join_pictures)),
    "still": Delivery(write_pictures, _silent(join_still)),
    "wav": Delivery(write_segment, _wave),
}


def delivery_of(settings: ExportSettings) -> Delivery:
    return DELIVERIES[settings.kind]
