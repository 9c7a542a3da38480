"""What is heard when: the sound of the film's clips."""

from .clips import ClipSound, clip_sounds

__all__ = ["ClipSound", "clip_sounds"]
