"""What gunicorn runs: the application of the environment's settings."""

import os
import threading
from pathlib import Path

from ..core.paint.warming import warm_up
from ..services.memory import settled
from .application import create_app

HOME = Path(os.environ["OAK_HOME"])

threading.Thread(target=warm_up, daemon=True).start()

app = create_app(
    os.environ["OAK_DATABASE_URL"],
    HOME,
    os.environ["OAK_SECRET"],
    os.environ["OAK_KEY"],
    Path(os.environ["OAK_WEB"]) if "OAK_WEB" in os.environ else None,
    instance=os.environ.get("OAK_INSTANCE", ""),
)

settled()
