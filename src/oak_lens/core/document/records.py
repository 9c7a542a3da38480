"""What all records of a document are made of."""

import re
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ..time import TICKS_PER_SECOND

LONGEST_TICKS = 3600 * TICKS_PER_SECOND

ID_PATTERN = r"^[A-Za-z0-9_-]{1,64}$"
Id = Annotated[str, Field(pattern=ID_PATTERN)]


def _checked_id(value: str) -> str:
    if not re.fullmatch(ID_PATTERN[1:-1], value):
        raise ValueError("an id is 1 to 64 letters, digits, _ or -")
    return value


IdKey = Annotated[str, AfterValidator(_checked_id)]
"""An id as the key of a map; JSON Schema has no simple way to say so."""

Ticks = Annotated[int, Field(ge=0, le=LONGEST_TICKS)]
SHORTEST_HOLD = TICKS_PER_SECOND // 20
HoldTicks = Annotated[int, Field(ge=SHORTEST_HOLD, le=LONGEST_TICKS)]
Speed = Annotated[float, Field(ge=0.1, le=10, allow_inf_nan=False)]
Name = Annotated[str, Field(max_length=300)]
OrderKey = Annotated[str, Field(pattern=r"^[0-9A-Za-z]{1,200}$")]
Amount = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Record(BaseModel):
    """Base of all records: frozen, and fields of later versions survive a round trip."""

    model_config = ConfigDict(frozen=True, extra="allow", populate_by_name=True)
