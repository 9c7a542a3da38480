"""Links: values that follow another value of the project instead of having one of their own."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from .parameters import COLOUR

Source = Literal["field", "look", "default", "dial"]
NEEDS_ID = ("field", "look", "dial")

Worth = bool | Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] | Annotated[str, Field(max_length=2000)]
Colour = Annotated[str, Field(pattern=COLOUR)]


class DialMapping(BaseModel):
    """What a value is where its dial stands.

    `low`, `high`: the number at the dial's least and greatest amount (off and on of a switch), straight between them; `low` above `high` inverts
    it; `step`: in whole steps from `low`, 0 none. `colours`: the same of a colour. `mix`: a colour dial's colour with so much (`share`, 0 to 1) of
    another. `values`: what it is at each choice, or at `off` and `on`. What says nothing takes over the dial's own value.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    low: Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] | None = None
    high: Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)] | None = None
    step: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] = 0.0
    colours: tuple[Colour, Colour] | None = None
    mix: Colour | None = None
    share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    values: dict[str, Worth] = Field(default_factory=dict, max_length=100)

    @model_validator(mode="after")
    def _says_both_ends(self) -> "DialMapping":
        if (self.low is None) != (self.high is None):
            raise ValueError("a mapping says what a number is at both ends of its dial, or at neither")
        return self


class Link(BaseModel):
    """What a value follows: the project's field `id`, the same value of look `id`, the same value of the project's defaults, or dial `id` of the
    template its scene uses, by `mapping`."""

    model_config = ConfigDict(frozen=True, extra="allow")

    source: Source
    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")] | None = None
    mapping: DialMapping | None = None

    @model_validator(mode="after")
    def _names_its_source(self) -> "Link":
        if (self.id is None) == (self.source in NEEDS_ID):
            raise ValueError("a link to a field, a look or a dial names it by id, one to the defaults does not")
        if self.mapping is not None and self.source != "dial":
            raise ValueError("only what follows a dial does so by a mapping")
        return self
