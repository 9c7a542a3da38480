"""What the pages of filling and of tables are told."""

from ..core.document import Dial, DialKind, DialValue
from .models import Answer


class FilmZoneModel(Answer):
    """A drop zone of a film, where it is seen first. `number`: that of its template; `held`: the id of a picture or sound, words, null where it is
    empty; `plain`: words that are still the template's; `by_hand`: no picture goes into it by itself; `fault`: a sentence on what is in it and does
    not suit it, else empty; `aspect`: width / height that suits it, null any; `most` characters, 0 any."""

    scene: str
    zone: str
    use: str
    round: int
    number: int
    name: str
    takes: str
    help: str
    required: bool
    aspect: float | None
    most: int
    held: str | None
    plain: bool
    by_hand: bool
    fault: str


class FilmDialModel(Answer):
    """Dials of one name and kind in all templates of the film; `value`: where they stand, `scene`: the first that they change."""

    name: str
    kind: DialKind
    dial: Dial
    value: DialValue
    scene: str


class FilmTemplateModel(Answer):
    """A template that the film is made of; `key` empty where it was made in the film."""

    key: str
    name: str
    kind: str


class FillingModel(Answer):
    """How far a film made of templates is filled. `unused`: pictures that no scene shows; `spare`: scenes that could go, since no picture is in them."""

    templates: list[FilmTemplateModel]
    zones: list[FilmZoneModel]
    dials: list[FilmDialModel]
    unused: list[str]
    spare: list[str]
