"""The web server's process: gunicorn with the application of the environment's settings."""

import gc
import os
from pathlib import Path

from flask_openapi3 import OpenAPI
from gunicorn.app.base import BaseApplication

from ..services.memory import settled
from .application import create_app

THREADS = 64


class _Server(BaseApplication):  # type: ignore[misc]
    def load_config(self) -> None:
        options = {
            "bind": f"127.0.0.1:{os.environ['OAK_PORT']}",
            "worker_class": "gthread",
            "workers": 1,
            "threads": THREADS,
            "keepalive": 75,
            "graceful_timeout": 2,
            "timeout": 120,
            "loglevel": "warning",
        }
        for name, value in options.items():
            self.cfg.set(name, value)

    def load(self) -> OpenAPI:
        gc.disable()  # until all is there: see `settled`
        app = create_app(
            os.environ["OAK_DATABASE_URL"],
            Path(os.environ["OAK_HOME"]),
            os.environ["OAK_SECRET"],
            os.environ["OAK_KEY"],
            Path(os.environ["OAK_WEB"]) if "OAK_WEB" in os.environ else None,
            instance=os.environ.get("OAK_INSTANCE", ""),
        )
        settled()
        return app


def serve() -> None:
    """Answers until it is told to end."""
    _Server().run()
