"""The built front end: its page, its files, and what a page needs told ahead, so that nothing is fetched only once a script has asked."""

import json
import re
import secrets
from html import escape
from pathlib import Path
from typing import Any

from flask import Response, make_response, send_from_directory
from flask_openapi3 import OpenAPI

from .errors import answer_fault

MANIFEST = ".vite/manifest.json"
"""What the build tells of its scripts: by source, its file and the sources it imports."""

DESK = ("src/features/shell/index.ts", "src/features/shell/desk.tsx")
"""Sources that the desk's page asks for one after another."""

OF_PROJECT = re.compile(r"projects/([0-9a-f]+)(/|$)")


def scripts_of(manifest: dict[str, Any], sources: tuple[str, ...]) -> list[str]:
    """Addresses of the scripts of `sources`, and of all that these import: each once, what is asked for first first."""
    found: dict[str, None] = {}
    waiting = list(sources)
    for source in waiting:
        if (file := manifest[source]["file"]) not in found:
            found[file] = None
            waiting += manifest[source].get("imports", [])
    return [f"/{file}" for file in found]


def add_front_end(app: OpenAPI, web: Path) -> None:
    """Serves what was built into `web`; any address that is none of the API's and no file's is the page's own affair."""
    page = (web / "index.html").read_text(encoding="utf-8")
    scripts = scripts_of(json.loads((web / MANIFEST).read_text(encoding="utf-8")), DESK)
    desk = "".join(f'<link rel="modulepreload" href="{escape(script)}">' for script in scripts if script not in page)

    def asset(name: str) -> Response:
        response = make_response(send_from_directory(web / "assets", name))
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    def ahead(path: str) -> str:
        named = OF_PROJECT.match(path)
        if named is None:
            return ""
        # As the page's own question is asked: without that, the browser would ask twice.
        document = f'<link rel="preload" as="fetch" crossorigin href="/api/projects/{named[1]}">'
        return document + (desk if path == named[0] else "")

    def index(path: str = "") -> Any:
        if path.startswith("api/"):
            return answer_fault("request.not_found", "There is nothing at this address.")
        if path == "icon.svg":
            return send_from_directory(web, "icon.svg")
        # Pieces of the interface library add their own style elements; the nonce lets in those and no others.
        nonce = secrets.token_urlsafe(16)
        response = make_response(page.replace("__NONCE__", nonce).replace("</head>", f"{ahead(path)}</head>"))
        response.headers["Content-Security-Policy"] = (
            f"default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' blob: data:; font-src 'self'; "
            "connect-src 'self'; media-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
        )
        return response

    # Pages and their files are no part of the API's description.
    app.add_url_rule("/assets/<path:name>", view_func=asset)
    app.add_url_rule("/", view_func=index)
    app.add_url_rule("/<path:path>", view_func=index)
