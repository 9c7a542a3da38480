"""The Flask application."""

import hmac
import secrets
from pathlib import Path
from typing import Any

import cv2
from flask import Response, make_response, redirect, request, send_from_directory, session
from flask_openapi3 import Info, OpenAPI
from werkzeug.exceptions import HTTPException

from ..core.errors import OakError
from . import catalogue, exports, pictures, projects, sounds
from . import models as m
from .errors import STATUS, answer, answer_fault, answer_validation
from .live import add_live_socket
from .state import LOCAL_ACCOUNT, services_for, who

LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
LARGEST_REQUEST = 310 << 20
LARGEST_JSON = 16 << 20


def create_app(database_url: str, home: Path, secret: str, key: str, web: Path | None = None, testing: bool = False) -> OpenAPI:
    """The application. `key` in the first address signs a browser in; `web` is the built front end."""
    app = OpenAPI(
        "oak_lens", info=Info(title="Oak Lens", version="1"), validation_error_callback=answer_validation, doc_ui=False, static_folder=None
    )
    app.config.update(
        SECRET_KEY=secret,
        SESSION_COOKIE_NAME="oak_session",
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Strict",
        MAX_CONTENT_LENGTH=LARGEST_REQUEST,
        TESTING=testing,
    )
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.extensions["oak"] = services_for(database_url, home)
    for module in (projects, pictures, sounds, exports, catalogue):
        app.register_api(module.blueprint)
    _guard(app, key)
    _errors(app)
    add_live_socket(app)
    if web is not None:
        _front_end(app, web)
    cv2.setNumThreads(1)
    return app


def _guard(app: OpenAPI, key: str) -> None:
    @app.before_request
    def check() -> Any:
        host = request.host.rpartition(":")[0] or request.host
        if host not in LOOPBACK:
            # A foreign name that resolves to this machine must not reach it.
            return answer_fault("request.host", "Oak Lens answers on this machine's own address only.")
        given = request.args.get("key")
        if given is not None and request.method == "GET" and hmac.compare_digest(given.encode(), key.encode()):
            session.permanent = True
            session["account"], session["token"] = LOCAL_ACCOUNT, session.get("token") or secrets.token_urlsafe(24)
            return redirect(request.path)
        if request.method not in ("GET", "HEAD", "OPTIONS"):
            token = request.headers.get("X-Oak-Token", "")
            if not hmac.compare_digest(token.encode(), str(session.get("token", "")).encode()) or not token:
                return answer_fault("request.token", "The page is out of date. Reload it and try again.")
            if (
                request.path.startswith("/api/")
                and not request.path.endswith(("/pictures", "/sounds"))
                and (request.content_length or 0) > LARGEST_JSON
            ):
                return answer_fault("document.size", "The request is too large.")
        return None

    @app.after_request
    def harden(response: Response) -> Response:
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        response.headers.setdefault("Referrer-Policy", "no-referrer")
        response.headers.setdefault("X-Frame-Options", "DENY")
        response.headers.setdefault("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
        response.headers.setdefault("Cache-Control", "no-store")
        return response

    @app.get("/api/session", responses={200: m.SessionAnswer, 401: m.Faults})
    def read_session():  # type: ignore[no-untyped-def]
        return m.SessionAnswer(account=who(), name="You", token=session["token"]).model_dump(mode="json")


def _errors(app: OpenAPI) -> None:
    app.register_error_handler(OakError, answer)

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Any:
        if error.code == 413:
            return answer_fault("picture.bytes", "The file is too large.")
        if error.code == 404:
            return answer_fault("request.not_found", "There is nothing at this address.")
        return answer_fault("request.value", error.description or "The request cannot be read.")[0], error.code or 400

    @app.errorhandler(Exception)
    def failed(error: Exception) -> Any:
        app.logger.exception("request failed")
        if app.testing:
            raise error
        return answer_fault("request.failed", "Something went wrong on the server. What was kept is safe; reload the page and try again.")

    assert STATUS["request.failed"] == 500


def _front_end(app: OpenAPI, web: Path) -> None:
    page = (web / "index.html").read_text(encoding="utf-8")

    def asset(name: str) -> Response:
        response = make_response(send_from_directory(web / "assets", name))
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    def index(path: str = "") -> Any:
        if path.startswith("api/"):
            return answer_fault("request.not_found", "There is nothing at this address.")
        if path == "icon.svg":
            return send_from_directory(web, "icon.svg")
        # Pieces of the interface library add their own style elements; the nonce lets in those and no others.
        nonce = secrets.token_urlsafe(16)
        response = make_response(page.replace("__NONCE__", nonce))
        response.headers["Content-Security-Policy"] = (
            f"default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' blob: data:; font-src 'self'; "
            "connect-src 'self'; media-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
        )
        return response

    # Pages and their files are no part of the API's description.
    app.add_url_rule("/assets/<path:name>", view_func=asset)
    app.add_url_rule("/", view_func=index)
    app.add_url_rule("/<path:path>", view_func=index)
