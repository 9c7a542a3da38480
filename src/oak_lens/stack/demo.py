"""The demo project, made by the same calls a person's browser makes."""

import json
from pathlib import Path
from typing import Any

from sqlalchemy import Engine

from ..core.document import Document
from ..services.pictures import Pictures
from ..services.projects import Projects
from ..storage.media import FolderMedia
from ..storage.projects import PostgresProjects

ACCOUNT = "local"


def load_demo(engine: Engine, home: Path, folder: Path) -> None:
    """Once for each home folder: a demo that was deleted stays deleted."""
    loaded = home / "demo-loaded"
    if loaded.exists():
        return
    edits = demo_edits(folder, Pictures(FolderMedia(engine, home / "media")))
    title = next(e["title"] for e in edits if e["edit"] == "set_title")
    Projects(PostgresProjects(engine)).create(ACCOUNT, edits, title)
    loaded.touch()


def demo_edits(folder: Path, pictures: Pictures) -> list[Any]:
    """The demo's edits, its pictures taken in like any upload."""
    script = json.loads((folder / "first-light.json").read_text(encoding="utf-8"))
    records = []
    for entry in script["pictures"]:
        with (folder / "photos" / entry["file"]).open("rb") as stream:
            record = pictures.take_in(Document(), entry["file"], stream)
        records.append({"id": entry["id"], **record, "name": entry["name"], "description": entry["description"]})
    return [{"edit": "add_pictures", "pictures": records}, *script["edits"]]
