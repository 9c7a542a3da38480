"""Trials: what a template has to stand. One constant a trial, listed in `BUILTIN`."""

from dataclasses import dataclass

from .pictures import CORNERS, CUT_OUT, EDGE, FLAT, TALL, TINY, USUAL, WIDE, TrialPicture


@dataclass(frozen=True, slots=True)
class Trial:
    """`pictures` go into the zones in turn, as many as the template has zones for or `count`; `words` into those of texts in turn (None: as the template has them); `frame`: (width, height), None its own."""

    id: str
    label: str
    about: str
    pictures: tuple[TrialPicture, ...]
    count: int | None = None
    words: tuple[str, ...] | None = None
    frame: tuple[int, int] | None = None


LONG = "Twenty-three observers, two cooks and one dog waited four nights on the ridge for the cloud to lift, and on the fifth it did"
LONGEST_WORD = "Sternwartenkuppelspaltöffnungsmechanismus"
RIGHT_TO_LEFT = "الضوء الأول فوق القمة"

BUILTIN = (
    Trial("usual", "Usual pictures", "As many as it takes, of usual shape", (USUAL,)),
    Trial("wide", "Very wide", "Five times as wide as high", (WIDE,)),
    Trial("tall", "Very tall", "Five times as high as wide", (TALL,)),
    Trial("tiny", "Tiny", "120 by 80 pixels", (TINY,)),
    Trial("flat", "One colour", "Nothing to tell a picture from its ground", (FLAT,)),
    Trial("edge", "Faces at the edge", "What they are about lies in a corner", (EDGE, CORNERS)),
    Trial("cut-out", "Transparent", "Cut-outs, seen through around them", (CUT_OUT,)),
    Trial("one", "A single picture", "All other zones stay empty", (USUAL,), 1),
    Trial("none", "No picture", "Every zone stays empty", (USUAL,), 0),
    Trial("sixty", "Sixty pictures", "More than anybody would", (USUAL, WIDE, TALL), 60),
    Trial("long", "Long texts", "Longer than anybody planned for", (USUAL,), words=(LONG,)),
    Trial("word", "The longest word", "One that cannot be broken", (USUAL,), words=(LONGEST_WORD,)),
    Trial("empty-words", "Missing texts", "Nothing is said", (USUAL,), words=("",)),
    Trial("right-to-left", "From right to left", "Arabic, set from the right", (USUAL,), words=(RIGHT_TO_LEFT,)),
    Trial("upright", "An upright frame", "9:16, as on a telephone", (USUAL, TALL, WIDE), frame=(1080, 1920)),
    Trial("square", "A square frame", "1:1", (USUAL, TALL, WIDE), frame=(1080, 1080)),
)
"""To add one: a `Trial` here; the wall and the tests follow."""

TRIALS = {trial.id: trial for trial in BUILTIN}
