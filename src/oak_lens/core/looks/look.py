"""A look: mount, shadow, backdrop and correction under a name."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from .backdrops import Backdrop
from .corrections import Correction
from .links import Link
from .mounts import Mount
from .shadows import Shadow


class Look(BaseModel):
    """What may be put on any photo, as a copy or as a link. `links`: which of its values follow a field of the project."""

    model_config = ConfigDict(frozen=True, extra="allow")

    name: Annotated[str, Field(min_length=1, max_length=100)]
    help: Annotated[str, Field(max_length=300)] = ""
    mount: Mount = Mount()
    shadow: Shadow = Shadow()
    backdrop: Backdrop = Backdrop()
    correction: Correction = Correction()
    links: dict[str, Link] = Field(default_factory=dict)
