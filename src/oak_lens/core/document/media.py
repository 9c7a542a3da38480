"""Pictures and clips of a project, and how they are turned, cropped and corrected wherever they are shown."""

from math import cos, radians, sin
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..looks import Correction
from .records import Amount, Name, OrderKey, Record, Ticks


class Area(Record):
    """A rectangle in fractions of a picture: its top left corner, width and height."""

    x: Amount = 0.0
    y: Amount = 0.0
    width: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 1.0
    height: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 1.0

    @model_validator(mode="after")
    def _inside(self) -> "Area":
        if self.x + self.width > 1.0 + 1e-6 or self.y + self.height > 1.0 + 1e-6:
            raise ValueError("the rectangle reaches beyond the picture")
        return self


class Clip(Record):
    """What makes a picture a clip. Times in ticks of the file; `start` and `end` trim it, `poster` is where it stands still."""

    length: Annotated[int, Field(ge=1)]
    frames: int = Field(ge=1)
    sound: bool = False
    start: Ticks = 0
    end: Ticks | None = None
    poster: Ticks = 0
    loop: bool = True
    muted: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> "Clip":
        if not self.start < (self.length if self.end is None else self.end) <= self.length:
            raise ValueError("a clip is trimmed to a part of itself: start before end, end within its length")
        return self

    @property
    def trimmed(self) -> tuple[int, int]:
        """(start, end) in ticks of the file."""
        return self.start, self.length if self.end is None else self.end

    def moment(self, at: int) -> int:
        """Ticks of the file shown `at` ticks after the clip began; then again from its start, or its last moment held."""
        start, end = self.trimmed
        length = end - start
        return start + (at % length if self.loop else min(max(at, 0), length - 1))


class Media(Record):
    """One picture or clip. `width` x `height` in pixels as the file shows it (orientation flag applied).

    Wherever it is used, it is first turned clockwise by quarter turns, then flipped left to right, then cropped. `crop` is in
    fractions of the turned picture; `straighten` turns the picture clockwise under the crop, in degrees. Without a crop, straightening
    keeps the largest rectangle of the picture's shape that has no bare corner. `subject` is in fractions of the file's picture. `placeholder`: the number of the empty zone that it stands in for, 0: it is a person's own.
    """

    kind: Literal["picture", "clip"] = "picture"
    order: OrderKey
    name: Name
    file: Name
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    width: int = Field(ge=1, le=100_000)
    height: int = Field(ge=1, le=100_000)
    captured: str | None = Field(None, max_length=40, description="capture time as written by the camera, ISO 8601 without zone")
    description: str = Field("", max_length=2000)
    turned: int = Field(0, ge=0, le=3)
    flipped: bool = False
    straighten: float = Field(0.0, ge=-45, le=45, allow_inf_nan=False)
    crop: Area | None = None
    correction: Correction | None = None
    subject: Area | None = None
    clip: Clip | None = None
    placeholder: int = Field(0, ge=0, le=10_000)

    @model_validator(mode="after")
    def _clips_have_times(self) -> "Media":
        if (self.kind == "clip") != (self.clip is not None):
            raise ValueError("a clip states its times, a picture has none")
        return self

    @property
    def turned_size(self) -> tuple[int, int]:
        """(width, height) in pixels after quarter turns, before cropping."""
        return (self.height, self.width) if self.turned % 2 else (self.width, self.height)

    @property
    def shown_size(self) -> tuple[float, float]:
        """(width, height) in the file's pixels of what is shown."""
        width, height = self.turned_size
        if self.crop is not None:
            return width * self.crop.width, height * self.crop.height
        share = straightened_share(width, height, self.straighten)
        return width * share, height * share

    @property
    def aspect(self) -> float:
        """Width / height of what is shown."""
        width, height = self.shown_size
        return width / height

    @property
    def is_whole(self) -> bool:
        """Whether the file is shown as it is: not turned, flipped or cropped."""
        return not self.turned and not self.flipped and not self.straighten and self.crop is None


def straightened_share(width: float, height: float, deg: float) -> float:
    """How large a rectangle of a picture's own shape is, as a share of it, that has no bare corner when the picture is turned.

    >>> round(straightened_share(300, 200, 0), 6), round(straightened_share(100, 100, 45), 6)
    (1.0, 0.707107)
    """
    c, s = abs(cos(radians(deg))), abs(sin(radians(deg)))
    return min(width / (width * c + height * s), height / (width * s + height * c))
