"""The demo project, made by the same calls a person's browser makes."""

import json
from pathlib import Path
from typing import Any

from ..core.document import Document
from ..services.pictures import Pictures
from ..services.sounds import Sounds
from ..storage.composition import Services

ACCOUNT = "local"


def load_demo(services: Services, home: Path, folder: Path) -> None:
    """Once for each home folder: a demo that was deleted stays deleted."""
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
