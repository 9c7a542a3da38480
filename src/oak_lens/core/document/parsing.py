"""Reading and writing documents; every fault is reported at once, with its path."""

import json
from typing import Any

from pydantic import ValidationError

from ..errors import Fault, InvalidDocument
from .following import settled
from .migrations import migrated
from .models import Document

LARGEST_BYTES = 64 * 1024 * 1024


def faults_from(error: ValidationError, code: str, root: str = "") -> list[Fault]:
    """A validation error as faults: path of ids and fields, one sentence each."""
    faults = []
    for entry in error.errors(include_url=False, include_input=False, include_context=False):
        # pydantic names the tried branch of a union in the location; it is no part of the document's path.
        parts = [str(p) for p in entry["loc"] if not (isinstance(p, str) and any(c in p for c in "[(<"))]
        # The same of the kind that told layers apart.
        parts = [p for i, p in enumerate(parts) if not (i >= 2 and parts[i - 2] == "layers" and p in ("photo", "shape", "group"))]
        while parts and parts[-1] in ("float", "Lane", "NumberLane", "int", "constrained-str"):
            parts.pop()
        path = ".".join([root, *parts] if root else parts)
        message = entry["msg"].removeprefix("Value error, ")
        faults.append(Fault(code, path, message[:1].upper() + message[1:] + ("" if message.endswith(".") else ".")))
    return faults


def parse_document(data: Any) -> Document:
    """The document in plain JSON data; raises InvalidDocument with every fault."""
    if not isinstance(data, dict):
        raise InvalidDocument([Fault("document.shape", "", "A document is a JSON object.")])
    try:
        return settled(Document.model_validate(migrated(data)))
    except ValidationError as error:
        raise InvalidDocument(faults_from(error, "document.value")) from None
    except RecursionError:
        raise InvalidDocument([Fault("document.depth", "", "The document is nested too deeply.")]) from None


def parse_json(text: str | bytes) -> Document:
    """The document in JSON text; raises InvalidDocument for text that is not JSON, too."""
    if len(text) > LARGEST_BYTES:
        raise InvalidDocument([Fault("document.size", "", f"A document may have at most {LARGEST_BYTES >> 20} MiB.")])
    try:
        data = json.loads(text)
    except RecursionError:
        raise InvalidDocument([Fault("document.depth", "", "The document is nested too deeply.")]) from None
    except (ValueError, UnicodeDecodeError) as error:
        raise InvalidDocument([Fault("document.json", "", f"This is not JSON: {error}.")]) from None
    return parse_document(data)


def dump_document(document: Document) -> dict[str, Any]:
    """Plain JSON data of a document; `parse_document` gives the same document back."""
    return document.model_dump(mode="json", by_alias=True)
