"""Trying templates on awkward pictures and words, with a report of what is wrong."""

from .pictures import PICTURES, TrialPicture, TrialPictures
from .trials import BUILTIN, TRIALS, Trial
from .trying import TrialFinding, examined, tried

__all__ = ["BUILTIN", "PICTURES", "TRIALS", "Trial", "TrialFinding", "TrialPicture", "TrialPictures", "examined", "tried"]
