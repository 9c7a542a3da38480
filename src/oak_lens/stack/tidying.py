"""What is seen to at each start while the pages answer already: what was deleted long ago goes, the demo comes."""

import json
import os
import shutil
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from ..core.document import Document
from ..services import keys
from ..services.pictures import Pictures
from ..services.sounds import Sounds
from ..storage.composition import Services
from ..storage.database import engine_for
from ..storage.projects import purge_deleted

ROOT = Path(__file__).resolve().parents[3]
ACCOUNT = "local"
KEEP_DELETED_DAYS = 30


def tidy() -> None:
    """By the environment's settings, in a process of its own; that it went well is written into OAK_TIDIED, by the name of this start."""
    home, engine = Path(os.environ["OAK_HOME"]), engine_for(os.environ["OAK_DATABASE_URL"])
    purge_deleted(engine, datetime.now(UTC) - timedelta(days=KEEP_DELETED_DAYS))
    shutil.rmtree(home / keys.OLD_LEVELS, ignore_errors=True)
    if "OAK_DEMO" in os.environ:
        load_demo(Services(engine, home), home, ROOT / "demo")
    (home / os.environ["OAK_TIDIED"]).write_text(os.environ["OAK_INSTANCE"])


def load_demo(services: Services, home: Path, folder: Path) -> None:
    """The demo project, by the same calls a person's browser makes; once for each home folder: one that was deleted stays deleted."""
    loaded = home / "demo-loaded"
    if loaded.exists():
        return
    edits = demo_edits(folder, services.pictures, services.sounds)
    title = next(e["title"] for e in edits if e["edit"] == "set_title")
    services.projects.create(ACCOUNT, edits, title)
    loaded.touch()


def demo_edits(folder: Path, pictures: Pictures, sounds: Sounds) -> list[Any]:
    """The demo's edits, its pictures taken in like any upload, its music made."""
    script = json.loads((folder / "first-light.json").read_text(encoding="utf-8"))
    records = []
    for entry in script["pictures"]:
        with (folder / "photos" / entry["file"]).open("rb") as stream:
            record = pictures.take_in(Document(), entry["file"], stream)
        records.append({"id": entry["id"], **record, "name": entry["name"], "description": entry["description"]})
    wish = script["music"]
    record = sounds.make(Document(), wish["mood"], wish["tempo"], wish["intensity"], wish["seconds"], wish["seed"])
    music = {"edit": "add_sounds", "sounds": [{**record, "id": wish["id"], "name": wish["name"]}]}
    return [{"edit": "add_pictures", "pictures": records}, *script["edits"], music, *script["then"]]
