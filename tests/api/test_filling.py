"""What pages of filling and of tables are told over the wire."""

from pathlib import Path
from typing import Any

from PIL import Image

from oak_lens.core.treatments import BUILTIN

from .conftest import Signed

KEYS = {s.id: s.content.key for s in BUILTIN}


def begun(signed: Signed, tmp_path: Path) -> tuple[str, list[str]]:
    """A film of an opening and prints, and three pictures on its contact sheet."""
    project = signed.project()
    records = []
    for n, colour in enumerate(("#804020", "#205080", "#508020")):
        Image.new("RGB", (300 + 100 * n, 200), colour).save(tmp_path / f"card{n}.png")
        records.append({**signed.picture(project, tmp_path / f"card{n}.png").json["record"], "id": f"p{n}"})
    edits: list[dict[str, Any]] = [
        {"edit": "set_frame", "width": 320, "height": 180},
        {"edit": "add_pictures", "pictures": records},
        {"edit": "compose_film", "keys": [KEYS["wall-text"], KEYS["dealt-prints"]], "id": "f", "pictures": ["p0"]},
    ]
    assert signed.edit(project, *edits).status_code == 200
    return project, [r["id"] for r in records]


def test_a_film_tells_what_it_is_made_of_what_it_asks_for_and_what_is_left_over(signed: Signed, tmp_path: Path) -> None:
    project, pictures = begun(signed, tmp_path)
    told = signed.send("GET", f"/api/projects/{project}/filling").json
    assert [t["key"] for t in told["templates"]] == [KEYS["wall-text"], KEYS["dealt-prints"]]
    assert told["unused"] == pictures[1:] and told["zones"][0]["held"] == "p0"
    assert all(d["value"] == d["dial"]["default"] for d in told["dials"]) and any(z["plain"] for z in told["zones"])
    signed.edit(project, {"edit": "name_film", "title": "First light"}, {"edit": "deal_pictures", "pictures": pictures, "id": "more"})
    told = signed.send("GET", f"/api/projects/{project}/filling").json
    assert not told["unused"] and [z["held"] for z in told["zones"] if z["held"] in pictures] == pictures
    assert "First light" in [z["held"] for z in told["zones"]]
    assert signed.send("GET", "/api/projects/none/filling").status_code == 404


def test_a_table_is_matched_looked_through_and_its_films_asked_for(signed: Signed, tmp_path: Path) -> None:
    project, _ = begun(signed, tmp_path)
    at = f"/api/projects/{project}/table"
    assert signed.send("GET", at).json["faults"][0]["code"] == "table.none"
    text = "Title;Pictures\nAda;card1;\nBo;card2|card0\nCy;nobody\n".replace("card1;", "card1")
    taken = signed.send("POST", at, data=text.encode(), headers={"X-File-Name": "people%20there.csv"}).json
    assert (taken["name"], taken["rows"], taken["faulty"]) == ("people there.csv", 3, 1) and taken["faults"][0]["line"] == 4
    assert [c["target"] != "" for c in taken["columns"]] == [True, True]
    row = signed.send("GET", f"{at}/rows/1").json
    assert row["name"] == "Bo" and len(row["scenes"]) == 2 and not row["faults"]
    frames = [signed.image(f"{at}/rows/{n}/frame?scene={row['scenes'][0]}&width=160").tobytes() for n in (0, 1)]
    assert frames[0] != frames[1]
    assert signed.send("PATCH", at, {"pattern": "{Title} {number}"}).json["names"][0] == "Ada 1"
    batch = signed.send("POST", f"{at}/films", {"settings": {"width": 320, "height": 180, "rate": "25"}}).json
    assert batch["total"] == 2 and batch["live"] and signed.send("GET", f"{at}/films").json["batches"][0]["id"] == batch["id"]
    assert signed.send("POST", f"/api/batches/{batch['id']}/stop").status_code == 204
    assert signed.send("DELETE", f"/api/batches/{batch['id']}").status_code == 204
    for path, status in ((f"{at}/rows/9", 404), ("/api/batches/none/films.zip", 404)):
        assert signed.send("GET", path).status_code == status
    assert signed.send("POST", f"{at}/films", {"settings": {"width": 7, "height": 180, "rate": "25"}}).status_code == 422
    assert signed.send("DELETE", at).status_code == 204 and signed.send("GET", at).status_code == 404
