"""Reading and writing the command line's files."""

import json
from pathlib import Path
from typing import Any

from ..core.document import Document, dump_document, parse_json
from ..core.errors import Fault, InvalidEdit


def read_document(path: Path) -> Document:
    """Raises InvalidDocument."""
    return parse_json(path.read_bytes())


def write_document(path: Path, document: Document) -> None:
    write_text(path, json.dumps(dump_document(document), indent=1, ensure_ascii=False) + "\n")


def write_text(path: Path, text: str) -> None:
    """Whole or not at all."""
    part = path.with_name(f".{path.name}.part")
    try:
        part.write_text(text, encoding="utf-8")
        part.replace(path)
    finally:
        part.unlink(missing_ok=True)


def read_edits(path: Path) -> Any:
    """Plain data of a file of edits: one edit or a list. Raises InvalidEdit."""
    try:
        data = json.loads(path.read_bytes())
    except (ValueError, RecursionError) as error:
        raise InvalidEdit([Fault("edit.json", "", f"This is not JSON: {error}.")]) from None
    return data if isinstance(data, list) else [data]
