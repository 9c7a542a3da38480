"""What is heard when: songs and clips, their levels, beats, peaks and loudness; music made to length."""

from .beats import BeatSearch, FoundBeats, found_beats
from .clips import ClipSound, clip_sounds
from .composing import Composed, Mood, composed
from .loudness import LoudnessMeter
from .mixing import Samples, final_gain, mixed, samples_at
from .songs import FilmBeat, HeardSong, Pass, film_beats, heard_songs, left_of, music_end, passes_of, placed_songs

__all__ = [
    "BeatSearch",
    "ClipSound",
    "Composed",
    "FilmBeat",
    "FoundBeats",
    "HeardSong",
    "LoudnessMeter",
    "Mood",
    "Pass",
    "Samples",
    "clip_sounds",
    "composed",
    "film_beats",
    "final_gain",
    "found_beats",
    "heard_songs",
    "left_of",
    "mixed",
    "music_end",
    "passes_of",
    "placed_songs",
    "samples_at",
]
