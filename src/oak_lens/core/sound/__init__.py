"""What is heard when: songs and clips and their levels; music made to length.

`beats` and `loudness`, which hear sound, are imported by who listens: nobody else need load what they compile.
"""

from .clips import ClipSound, clip_sounds
from .composing import Composed, Mood, Wish, composed
from .mixing import Samples, final_gain, mixed, samples_at
from .songs import FilmBeat, HeardSong, Pass, film_beats, heard_songs, left_of, music_end, passes_of, placed_songs

__all__ = [
    "ClipSound",
    "Composed",
    "FilmBeat",
    "HeardSong",
    "Mood",
    "Wish",
    "Pass",
    "Samples",
    "clip_sounds",
    "composed",
    "film_beats",
    "final_gain",
    "heard_songs",
    "left_of",
    "mixed",
    "music_end",
    "passes_of",
    "placed_songs",
    "samples_at",
]
