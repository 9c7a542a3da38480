"""Groups of routes. What they describe of themselves is built only to be printed: it takes as long as all else that the server loads."""

import os

from flask_openapi3 import APIBlueprint, Tag

DESCRIBED = "OAK_DESCRIBE_API"
"""Environment variable under which routes describe themselves."""


def blueprint(name: str) -> APIBlueprint:
    return APIBlueprint(name, __name__, url_prefix="/api", abp_tags=[Tag(name=name)], doc_ui=DESCRIBED in os.environ)
