"""Numbers and colours that may follow others; fields of the project, which are there to be followed."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from ..looks.links import Link, Source
from ..looks.parameters import COLOUR, ParameterSpec
from .layers import LAYER_PROPERTIES
from .properties import Property
from .records import Record
from .scenes import SCENE_PROPERTIES

if TYPE_CHECKING:
    from .models import Document

class ProjectField(Record):
    """A number or colour of the project under a name. `of`: the value it is of the kind of, which gives its range and unit, such as
    `mount.border` (in that value's own unit) or `mount.colour` (`#rrggbb`)."""

    name: Annotated[str, Field(min_length=1, max_length=100)]
    of: str
    value: Annotated[float, Field(allow_inf_nan=False)] | Annotated[str, Field(pattern=COLOUR)]


@dataclass(frozen=True, slots=True)
class Linkable:
    """A number or colour that may follow another, by `part.name`: of a layer or scene all that can be keyframed, colours whole."""

    id: str
    part: str
    spec: ParameterSpec

    @property
    def nature(self) -> str:
        """What is alike in values that may follow one another: colours, or numbers of one unit."""
        return self.spec.kind if self.spec.kind == "colour" else f"{self.spec.unit} × {self.spec.scale:g}"

    def of(self, owner: Any) -> float | str | None:
        """The value as a layer, scene, look or the defaults hold it; None where they have no such part of their own."""
        part = owner if self.part == "layer" else getattr(owner, self.part, None)
        return None if part is None else getattr(part, self.spec.id)

    def put_into(self, owner: Any, value: float | str) -> Any:
        """The owner, which has the part, with another value."""
        if self.part == "layer":
            return owner.model_copy(update={self.spec.id: value})
        return owner.model_copy(update={self.part: getattr(owner, self.part).model_copy(update={self.spec.id: value})})

    def limited(self, value: float | str) -> float | str:
        """A number within the range that this one may have; a colour as it is."""
        if isinstance(value, str) or self.spec.minimum is None or self.spec.maximum is None:
            return value
        return min(max(value, self.spec.minimum), self.spec.maximum)

    def fits(self, value: float | str) -> bool:
        """Whether a value is of its kind, and a number one it may have."""
        return isinstance(value, str) == (self.spec.kind == "colour") and self.limited(value) == value


def linkable(numbers: Mapping[str, Property]) -> dict[str, Linkable]:
    """The values that the numbers are, or are channels of, by name, in their order."""
    return {f"{p.part}.{p.declared.id}": Linkable(f"{p.part}.{p.declared.id}", p.part, p.declared) for p in numbers.values()}


LINKABLE = {**linkable(LAYER_PROPERTIES), **linkable(SCENE_PROPERTIES)}
"""Every value of a layer or scene that may follow another, and by which a field says what it is of, by name."""

LOOKED = {name: entry for name, entry in LINKABLE.items() if entry.part in ("mount", "shadow", "backdrop", "correction")}
"""Those that looks and the defaults have, too."""


@cache
def _values_of(model: Any) -> Mapping[str, Linkable]:
    return linkable(model.numbers) if hasattr(model, "numbers") else LOOKED


def values_of(owner: Any) -> Mapping[str, Linkable]:
    """All values of a layer, scene, look or of the defaults that may follow another, by name."""
    return _values_of(owner.__class__)


def sources_of(owner: Any) -> tuple[Source, ...]:
    """What they may follow: what is followed by others itself follows fields only, so no link leads in a circle."""
    return ("field", "look", "default") if hasattr(owner, "numbers") else ("field",)


def followed_value(document: "Document", entry: Linkable, link: Link) -> float | str | None:
    """What a value that follows `link` is, within its own range; None where there is no such source, or one of another nature."""
    if link.source == "field":
        field = document.fields.get(link.id or "")
        if field is None or field.of not in LINKABLE or LINKABLE[field.of].nature != entry.nature:
            return None
        return entry.limited(field.value)
    source = document.defaults if link.source == "default" else document.looks.get(link.id or "")
    return entry.of(source) if source is not None and entry.id in LOOKED else None
