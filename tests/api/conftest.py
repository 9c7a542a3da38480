"""A signed-in client of the application over the test database."""

import io
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient
from PIL import Image
from sqlalchemy import Engine

from oak_lens.api.application import create_app
from oak_lens.api.front_end import DESK, MANIFEST

SHELL, PLACE = DESK
BUILT = {
    SHELL: {"file": "assets/shell.js", "imports": ["pieces"]},
    PLACE: {"file": "assets/desk.js", "imports": ["pieces", SHELL]},
    "pieces": {"file": "assets/pieces.js"},
}
"""What the front end's build tells of its scripts."""


class Signed:
    """A client that sends its token."""

    def __init__(self, client: FlaskClient):
        self.client = client
        client.get("/?key=key")
        self.token = client.get("/api/session").json["token"]  # type: ignore[index]

    def send(self, method: str, path: str, json: Any = None, **options: Any) -> Any:
        headers = {"X-Oak-Token": self.token, **options.pop("headers", {})}
        return self.client.open(path, method=method, json=json, headers=headers, **options)

    def image(self, path: str) -> Image.Image:
        with self.client.get(path) as response:
            return Image.open(io.BytesIO(response.data))

    def project(self, title: str = "A film") -> str:
        return str(self.send("POST", "/api/projects", {"title": title}).json["id"])

    def edit(self, project: str, *edits: dict[str, Any]) -> Any:
        base = self.send("GET", f"/api/projects/{project}").json["revision"]
        return self.send("POST", f"/api/projects/{project}/edits", {"base": base, "edits": list(edits)})

    def picture(self, project: str, path: Path, **headers: str) -> Any:
        return self.send("POST", f"/api/projects/{project}/pictures", data=path.read_bytes(), headers={"X-File-Name": path.name, **headers})


@pytest.fixture
def app(engine: Engine, database_url: str, tmp_path: Path) -> Iterator[Any]:
    web = tmp_path / "web"
    (web / "assets").mkdir(parents=True)
    (web / "index.html").write_text("<head><meta name='style-nonce' content='__NONCE__'></head>")
    (web / ".vite").mkdir()
    (web / MANIFEST).write_text(json.dumps(BUILT))
    made = create_app(database_url, tmp_path / "home", "secret", "key", web)
    yield made
    made.extensions["oak"].engine.dispose()


@pytest.fixture
def signed(app: Any) -> Iterator[Signed]:
    with app.test_client() as client:
        yield Signed(client)
