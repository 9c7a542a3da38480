"""Reading edits from plain data and applying them."""

from typing import Any

from pydantic import ValidationError

from ..document import Document, faults_from, followed
from ..errors import Fault, InvalidEdit
from .catalogue import BUILTIN
from .links import IntoSources
from .recording import Record, recorded
from .registry import Edit, EditSpec

_SPECS: dict[str, EditSpec] = {spec.id: spec for spec in BUILTIN}
_BY_MODEL: dict[type[Edit], EditSpec] = {spec.model: spec for spec in BUILTIN}


def parse_edit(data: Any, path: str = "edit") -> Edit:
    """The edit in `{"edit": name, ...parameters}`; raises InvalidEdit with every fault."""
    if not isinstance(data, dict) or not isinstance(data.get("edit"), str):
        raise InvalidEdit([Fault("edit.shape", path, 'An edit is an object with its name under "edit".')])
    spec = _SPECS.get(data["edit"])
    if spec is None:
        raise InvalidEdit(
            [Fault("edit.unknown", path, f"There is no edit called {str(data['edit'])[:60]!r}; known are {', '.join(sorted(_SPECS))}.")]
        )
    try:
        return spec.model.model_validate({k: v for k, v in data.items() if k != "edit"})
    except ValidationError as error:
        raise InvalidEdit(faults_from(error, "edit.value", path)) from None


def parse_edits(data: Any) -> list[Edit]:
    """A list of edits; raises InvalidEdit."""
    if not isinstance(data, list) or not data:
        raise InvalidEdit([Fault("edit.shape", "edits", "Edits are a list with at least one edit.")])
    return [parse_edit(entry, f"edits.{i}") for i, entry in enumerate(data)]


def apply_edit(document: Document, edit: Edit) -> Document:
    """A new document; the given one is unchanged. Raises InvalidEdit."""
    return apply_edits(document, [edit])


def apply_edits(document: Document, edits: list[Edit]) -> Document:
    """All edits in order, as one step: all or none. Where the first is `record` and the others set numbers, what they change becomes
    keyframes; where it is `into_sources`, what they change of values that follow others is done to those. Whatever follows something is
    what that is then."""
    after = document
    recording = edits[0] if edits and isinstance(edits[0], Record) and _sets_numbers(edits[1:]) else None
    for edit in edits:
        spec = _BY_MODEL[type(edit)]
        after = ((recording and spec.recorded) or spec.apply)(after, edit)
    if recording:
        after = recorded(document, after, recording.at, recording.on)
    return followed(document, after, bool(edits) and isinstance(edits[0], IntoSources))


def _sets_numbers(edits: list[Edit]) -> bool:
    """Whether edits set numbers and do nothing else: one that puts on a look, or gives up a value of its own, is no motion."""
    given = [getattr(edit, name) for edit in edits for name in edit.model_fields_set]
    return any(_BY_MODEL[type(e)].keyed for e in edits) and None not in given and not any("look" in e.model_fields_set for e in edits)


def label_of(edits: list[Edit]) -> str:
    """What undo calls these edits."""
    told = next((e for e in edits if not isinstance(e, Record | IntoSources)), edits[0])
    return _BY_MODEL[type(told)].label


def edit_schema() -> list[dict[str, Any]]:
    """Name, label and JSON Schema of every edit."""
    return [{"edit": s.id, "label": s.label, "parameters": s.model.model_json_schema()} for s in BUILTIN]
