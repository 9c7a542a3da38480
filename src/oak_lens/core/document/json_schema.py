"""The published JSON Schema of the document."""

from typing import Any

from .models import SCHEMA_VERSION, Document


def json_schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of the present schema."""
    schema = Document.model_json_schema(by_alias=True, mode="validation")
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": f"Oak Lens document, schema {SCHEMA_VERSION}"}
