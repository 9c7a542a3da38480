"""The published JSON Schema of the document."""

from typing import Any

from .models import Document


def json_schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of schema 1."""
    schema = Document.model_json_schema(by_alias=True, mode="validation")
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": "Oak Lens document, schema 1"}
