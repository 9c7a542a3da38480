"""Values that may follow others; fields of the project, which are there to be followed."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from ..looks import Backdrop, Correction, Form, Ink, Mask, Mount, Panel, Setting, Shadow
from ..looks.links import Link, Source
from ..looks.parameters import COLOUR, ParameterSpec, parameters_of
from ..stage import CameraRig, Light
from .dials import dialled
from .layers import LAYER_PROPERTIES, LayerBase, TextLayer
from .properties import Property
from .records import Record
from .scenes import SCENE_PROPERTIES
from .templates import Dial, DialValue, TemplateUse
from .texts import rewritten, written

if TYPE_CHECKING:
    from .models import Document

class ProjectField(Record):
    """A number or colour of the project under a name. `of`: the value it is of the kind of, which gives its range and unit, such as
    `mount.border` (in that value's own unit) or `mount.colour` (`#rrggbb`)."""

    name: Annotated[str, Field(min_length=1, max_length=100)]
    of: str
    value: Annotated[float, Field(allow_inf_nan=False)] | Annotated[str, Field(pattern=COLOUR)]


Value = float | str | bool
"""What a value that may follow another is: a number, a colour, a choice, on or off, a face, a text."""


@dataclass(frozen=True, slots=True)
class Linkable:
    """A value that may follow another, by `part.name`: of a layer or scene all that can be keyframed (colours whole), and what else its parts
    declare; that follows dials only."""

    id: str
    part: str
    spec: ParameterSpec

    @property
    def nature(self) -> str:
        """What is alike in values that may follow one another: colours, or numbers of one unit."""
        if self.spec.kind == "number":
            return f"{self.spec.unit} × {self.spec.scale:g}"
        return self.spec.kind if self.spec.kind == "colour" else f"{self.spec.kind} {self.id}"

    @property
    def is_measured(self) -> bool:
        """Whether it is a number or colour: fields are of those."""
        return self.spec.kind in ("number", "colour")

    def of(self, owner: Any) -> Value | None:
        """The value as a layer, scene, look or the defaults hold it; None where they have no such part of their own."""
        if self is WORDS:
            return written(owner.text)
        part = owner if self.part == "layer" else getattr(owner, self.part, None)
        return None if part is None else getattr(part, self.spec.id)

    def put_into(self, owner: Any, value: Value) -> Any:
        """The owner, which has the part, with another value."""
        if self is WORDS:
            return owner.model_copy(update={"text": rewritten(owner.text, str(value))})
        if self.part == "layer":
            return owner.model_copy(update={self.spec.id: value})
        return owner.model_copy(update={self.part: getattr(owner, self.part).model_copy(update={self.spec.id: value})})

    def limited(self, value: Value) -> Value:
        """A number within the range that this one may have, whole where it must be; all else as it is."""
        if isinstance(value, str | bool) or self.spec.minimum is None or self.spec.maximum is None:
            return value
        value = min(max(value, self.spec.minimum), self.spec.maximum)
        return round(value) if isinstance(self.spec.default, int) else value

    def fits(self, value: Value) -> bool:
        """Whether a value is of its kind, and one it may have."""
        if self.spec.kind == "number":
            return not isinstance(value, str | bool) and self.limited(value) == value
        if self.spec.kind == "switch":
            return isinstance(value, bool)
        if not isinstance(value, str):
            return False
        return self.spec.kind != "choice" or any(value == choice for choice, _ in self.spec.choices)


WORDS = Linkable("text.words", "text", ParameterSpec("words", "Words", "text", ""))
"""What a text says."""

HIDDEN = Linkable("layer.hidden", "layer", ParameterSpec("hidden", "Hidden", "switch", False))

PARTS: dict[str, Any] = {
    "mount": Mount, "shadow": Shadow, "correction": Correction, "form": Form, "setting": Setting, "ink": Ink, "panel": Panel, "mask": Mask,
    "camera": CameraRig, "light": Light, "backdrop": Backdrop,
}  # fmt: skip
"""Parameter models of the parts that numbers stand in: what they declare besides may follow dials."""

DRIVEN = ("number", "colour", "choice", "switch", "typeface")


def linkable(numbers: Mapping[str, Property]) -> dict[str, Linkable]:
    """The values that the numbers are, or are channels of, by name, in their order; then what else their parts declare."""
    found = {f"{p.part}.{p.declared.id}": Linkable(f"{p.part}.{p.declared.id}", p.part, p.declared) for p in numbers.values()}
    for part in dict.fromkeys(p.part for p in numbers.values() if p.part in PARTS):
        for spec in parameters_of(PARTS[part]):
            if spec.kind in DRIVEN:
                found.setdefault(f"{part}.{spec.id}", Linkable(f"{part}.{spec.id}", part, spec))
    return found


LINKABLE = {**linkable(LAYER_PROPERTIES), **linkable(SCENE_PROPERTIES), HIDDEN.id: HIDDEN, WORDS.id: WORDS}
"""Every value of a layer or scene that may follow another, and by which a field says what it is of, by name."""

LOOKED = {name: entry for name, entry in LINKABLE.items() if entry.part in ("mount", "shadow", "backdrop", "correction")}
"""Those that looks and the defaults have, too."""


@cache
def _values_of(model: Any) -> Mapping[str, Linkable]:
    if not hasattr(model, "numbers"):
        return LOOKED
    own = {HIDDEN.id: HIDDEN} if issubclass(model, LayerBase) else {}
    return {**linkable(model.numbers), **own, **({WORDS.id: WORDS} if issubclass(model, TextLayer) else {})}


def values_of(owner: Any) -> Mapping[str, Linkable]:
    """All values of a layer, scene, look or of the defaults that may follow another, by name."""
    return _values_of(owner.__class__)


def sources_of(owner: Any) -> tuple[Source, ...]:
    """What they may follow: what is followed by others itself follows fields and dials only, so no link leads in a circle."""
    return ("field", "look", "default", "dial") if hasattr(owner, "numbers") else ("field", "dial")


def followed_value(document: "Document", entry: Linkable, link: Link, container: str | None) -> Value | None:
    """What a value that follows `link` is, within its own range; None where there is no such source, or one of another nature.

    `container`: the scene or shared group that the value is in, None for that of a look or the defaults.
    """
    if link.source == "dial":
        found = dial_of(document, container, link.id or "")
        value = dialled(found[0], found[1], link.mapping, entry.spec.kind) if found else None
        value = None if value is None else entry.limited(value)
        return value if value is not None and entry.fits(value) else None
    if link.source == "field":
        field = document.fields.get(link.id or "")
        if field is None or field.of not in LINKABLE or LINKABLE[field.of].nature != entry.nature:
            return None
        return entry.limited(field.value)
    source = document.defaults if link.source == "default" else document.looks.get(link.id or "")
    return entry.of(source) if source is not None and entry.id in LOOKED else None


def dial_of(document: "Document", container: str | None, dial: str) -> tuple[Dial, DialValue] | None:
    """A dial and where it stands, for what is in a scene that uses a template; for all else (looks, defaults, shared groups), of the template that
    the whole film is made by."""
    scene = document.scenes.get(container or "")
    use = scene.template if scene is not None else film_use(document)
    template = document.templates.get(use.template) if use else None
    if use is None or template is None or dial not in template.dials:
        return None
    found = template.dials[dial]
    value = use.dials.get(dial, found.default)
    return found, value if found.takes(value) else found.default


def film_use(document: "Document") -> TemplateUse | None:
    """How the whole film uses a template, if it is made by one."""
    whole = {k for k, template in document.templates.items() if template.kind == "film"}
    if not whole:
        return None
    return next((s.template for s in document.scenes.values() if s.template is not None and s.template.template in whole), None)
