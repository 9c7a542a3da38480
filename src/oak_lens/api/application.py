"""The Flask application."""

import hashlib
import hmac
from pathlib import Path
from typing import Any, cast

import cv2
from flask import Response, g, jsonify, make_response, redirect, request
from flask_openapi3 import Info, OpenAPI
from werkzeug.exceptions import HTTPException

from ..core.errors import OakError, is_full
from ..services.sign_ins import SignIns
from ..storage.composition import Services
from ..storage.database import AWAY, engine_for, says_full
from ..storage.sign_ins import UNUSED_DAYS
from . import catalogue, exports, faces, filling, pictures, projects, sounds, tables, templates
from . import models as m
from .errors import STATUS, answer, answer_fault, answer_validation
from .front_end import add_front_end
from .live import add_live_socket
from .state import LOCAL_ACCOUNT, signed_in, who

LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
LARGEST_REQUEST = 520 << 20
LARGEST_JSON = 16 << 20


def create_app(
    database_url: str, home: Path, secret: str, key: str, web: Path | None = None, testing: bool = False, instance: str = ""
) -> OpenAPI:
    """The application. `key` in the first address signs a browser in; `web` is the built front end; by `instance` whoever started the
    server knows that it is this one that answers, and not another on the same port."""
    app = OpenAPI(
        "oak_lens", info=Info(title="Oak Lens", version="1"), validation_error_callback=answer_validation, doc_ui=False, static_folder=None
    )
    app.config.update(MAX_CONTENT_LENGTH=LARGEST_REQUEST, TESTING=testing, OAK_INSTANCE=instance)
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.extensions["oak"] = Services(engine_for(database_url), home).all()
    for module in (projects, pictures, sounds, faces, exports, templates, filling, tables, catalogue):
        app.register_api(module.blueprint)
    # Browsers tell hosts apart, but not their ports: each installation has a cookie of its own.
    _guard(app, key, f"oak_{hashlib.sha256(secret.encode()).hexdigest()[:12]}")
    _errors(app)
    add_live_socket(app)
    if web is not None:
        add_front_end(app, web)
    cv2.setNumThreads(1)
    return app


def _guard(app: OpenAPI, key: str, cookie: str) -> None:
    def sign_ins() -> SignIns:
        return cast(Services, app.extensions["oak"]).sign_ins

    @app.before_request
    def check() -> Any:
        host = request.host.rpartition(":")[0] or request.host
        if host not in LOOPBACK:
            # A foreign name that resolves to this machine must not reach it.
            return answer_fault("request.host", "Oak Lens answers on this machine's own address only.")
        given, word = request.args.get("key"), request.cookies.get(cookie, "")
        if given is not None and request.method == "GET" and not request.path.startswith("/api/"):
            # The key leaves the address at once, whether it fits or not.
            response = make_response(redirect(request.path))
            if hmac.compare_digest(given.encode(), key.encode()) and not (word and sign_ins().find(word)):
                _remember(response, cookie, sign_ins().begin(LOCAL_ACCOUNT))
            return response
        if request.path.startswith("/api/"):
            g.signed_in = sign_ins().find(word) if word else None
        if request.method not in ("GET", "HEAD", "OPTIONS"):
            token = request.headers.get("X-Oak-Token", "")
            known = g.get("signed_in")
            if known is None or not token or not hmac.compare_digest(token.encode(), known.token.encode()):
                return answer_fault("request.token", "The page is out of date. Reload it and try again.")
            if (
                request.path.startswith("/api/")
                and not request.path.endswith(("/pictures", "/sounds", "/templates"))
                and (request.content_length or 0) > LARGEST_JSON
            ):
                return answer_fault("document.size", "The request is too large.")
        return None

    @app.after_request
    def harden(response: Response) -> Response:
        response.headers.setdefault("X-Oak-Instance", app.config["OAK_INSTANCE"])
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        response.headers.setdefault("Referrer-Policy", "no-referrer")
        response.headers.setdefault("X-Frame-Options", "DENY")
        response.headers.setdefault("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
        response.headers.setdefault("Cache-Control", "no-store")
        return response

    @app.get("/api/session", responses={200: m.SessionAnswer, 401: m.Faults})
    def read_session():  # type: ignore[no-untyped-def]
        """Who is asking; the cookie is renewed."""
        response = jsonify(m.SessionAnswer(account=who(), name="You", token=signed_in().token).model_dump(mode="json"))
        _remember(response, cookie, request.cookies[cookie])
        return response

    @app.post("/api/session/end", responses={204: None, 401: m.Faults})
    def end_session(body: m.EndSession):  # type: ignore[no-untyped-def]
        """This browser is signed out, or all others of the account."""
        sign_ins().end(signed_in(), body.others)
        response = make_response("", 204)
        if not body.others:
            response.delete_cookie(cookie, samesite="Strict")
        return response


def _remember(response: Response, cookie: str, word: str) -> None:
    response.set_cookie(cookie, word, max_age=UNUSED_DAYS * 86_400, httponly=True, samesite="Strict")


def _errors(app: OpenAPI) -> None:
    app.register_error_handler(OakError, answer)

    def away(error: Exception) -> Any:
        if says_full(error):
            return answer_fault("storage.full", "The disk is full, so this was not kept. Free some space and try again.")
        app.logger.warning("the database is away: %s", type(error).__name__)
        answered = make_response(answer_fault("storage.away", "The database is starting anew. This is tried again by itself."))
        answered.headers["Retry-After"] = "1"
        return answered

    for kind in AWAY:
        app.register_error_handler(kind, away)

    @app.errorhandler(OSError)
    def disk(error: OSError) -> Any:
        if is_full(error):
            return answer_fault("storage.full", "The disk is full, so this was not kept. Free some space and try again.")
        return failed(error)

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
