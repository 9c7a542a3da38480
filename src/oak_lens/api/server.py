"""What gunicorn runs: the application of the environment's settings."""

import gc
import os
import threading
from pathlib import Path

gc.disable()  # until all is loaded: see `settled`

from ..core.paint.warming import warm_up  # noqa: E402
from ..services.memory import settled  # noqa: E402
from .application import create_app  # noqa: E402

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
