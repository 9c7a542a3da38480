"""Music and how it is mixed: sound files, songs in the film, levels."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, field_validator

from ..time import TICKS_PER_SECOND
from .records import Id, IdKey, Name, OrderKey, Record, Ticks

LONGEST_FILE = 4 * 3600 * TICKS_PER_SECOND
FileTicks = Annotated[int, Field(ge=0, le=LONGEST_FILE)]
Decibels = Annotated[float, Field(ge=-60, le=24, allow_inf_nan=False)]
FadeTicks = Annotated[int, Field(ge=0, le=120 * TICKS_PER_SECOND)]
MOST_BEATS = 60_000


class Beats(Record):
    """Beats of a sound file. `times`: ticks of the file, rising; every `bar`-th from number `first` on begins a bar.

    `tempo` in beats a minute; `confidence` 0..1, 1 where they were set by hand or are known.
    """

    tempo: float = Field(ge=20, le=400, allow_inf_nan=False)
    confidence: float = Field(1.0, ge=0, le=1, allow_inf_nan=False)
    times: tuple[FileTicks, ...] = Field(max_length=MOST_BEATS)
    bar: int = Field(4, ge=1, le=16)
    first: int = Field(0, ge=0, le=15)

    @field_validator("times")
    @classmethod
    def _times_rise(cls, value: tuple[int, ...]) -> tuple[int, ...]:
        if any(a >= b for a, b in pairwise(value)):
            raise ValueError("beats must follow one another")
        return value

    @property
    def bars(self) -> tuple[int, ...]:
        """Ticks of the file at which bars begin."""
        return self.times[self.first :: self.bar]


class SoundFile(Record):
    """A sound file as it was heard when it came in. `loudness` in LUFS (ITU-R BS.1770; None: silent), `peak` true peak in dBTP."""

    name: Name = ""
    file: Annotated[str, Field(min_length=1, max_length=300)]
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    length: FileTicks
    channels: int = Field(2, ge=1, le=64)
    rate: int = Field(48_000, ge=1000, le=768_000)
    loudness: float | None = Field(None, ge=-120, le=30, allow_inf_nan=False)
    peak: float = Field(0.0, ge=-200, le=60, allow_inf_nan=False)
    beats: Beats | None = None
    licence: Annotated[str, Field(max_length=1000)] = ""


class LevelPoint(Record):
    """`at`: ticks since the song began in the film; `level` in dB on top of the song's own."""

    at: Ticks
    level: Decibels = 0.0


class Played(Record):
    """How a song in a drop zone of a template is heard: over all of its scenes. `fade_in`, `fade_out` in ticks, `gain` in dB."""

    fade_in: FadeTicks = 0
    fade_out: FadeTicks = 2 * TICKS_PER_SECOND
    gain: Decibels = 0.0


class SongZone(Record):
    """That a song is in drop zone `zone` of a template, in a `use` of it."""

    use: Id
    zone: Id


class Song(Record):
    """A sound file heard as music.

    `at`: ticks of the film where it begins, None: where the song before ends, `overlap` ticks before it (both fade into each other).
    `over`: first and last scene it lasts through, instead of `at` and `length`. `trim_start` and `trim_end` in ticks of the file.
    `length`: ticks in the film, None: as long as what is left of the file; a longer one loops it. `points`: a level envelope. `zone`: it is in a template's.
    """

    order: OrderKey
    sound: Id
    at: Ticks | None = None
    over: tuple[Id, Id] | None = None
    overlap: FadeTicks = 0
    trim_start: FileTicks = 0
    trim_end: FileTicks | None = None
    length: Ticks | None = Field(None, ge=TICKS_PER_SECOND // 10)
    fade_in: FadeTicks = 0
    fade_out: FadeTicks = TICKS_PER_SECOND
    curve: Literal["even", "power", "gentle"] = "power"
    gain: Decibels = 0.0
    muted: bool = False
    points: dict[IdKey, LevelPoint] = Field(default_factory=dict)
    zone: SongZone | None = None


class Mix(Record):
    """Levels of the film. `music` and `clips` in dB; where a clip is heard, music steps down by `step_down` dB, over `step_in` and back over
    `step_out` ticks. `even`: sources are brought to one loudness before their levels; an export ends at `target` LUFS below `ceiling` dBTP."""

    music: Decibels = 0.0
    clips: Decibels = 0.0
    step_down: float = Field(12.0, ge=0, le=60, allow_inf_nan=False)
    step_in: FadeTicks = TICKS_PER_SECOND // 2
    step_out: FadeTicks = TICKS_PER_SECOND
    even: bool = True
    target: float = Field(-16.0, ge=-40, le=-5, allow_inf_nan=False)
    ceiling: float = Field(-1.0, ge=-20, le=0, allow_inf_nan=False)
