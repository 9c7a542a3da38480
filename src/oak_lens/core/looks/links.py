"""Links: values that follow another value of the project instead of having one of their own."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

Source = Literal["field", "look", "default"]
NEEDS_ID = ("field", "look")


class Link(BaseModel):
    """What a value follows: the project's field `id`, the same value of look `id`, or the same value of the project's defaults."""

    model_config = ConfigDict(frozen=True, extra="allow")

    source: Source
    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")] | None = None

    @model_validator(mode="after")
    def _names_its_source(self) -> "Link":
        if (self.id is None) == (self.source in NEEDS_ID):
            raise ValueError("a link to a field or a look names it by id, one to the defaults does not")
        return self
