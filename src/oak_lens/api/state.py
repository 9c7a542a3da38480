"""The services of one application, and who is asking."""

from dataclasses import dataclass
from pathlib import Path
from typing import cast

from flask import current_app, g
from sqlalchemy import Engine

from ..core.errors import Fault, NotFound
from ..services.exports import Exports
from ..services.findings import Findings
from ..services.pictures import Pictures
from ..services.projects import Projects
from ..services.sign_ins import SignedIn, SignIns
from ..services.sounds import Sounds
from ..services.watching import Watching
from ..storage.database import engine_for
from ..storage.exports import PostgresExports
from ..storage.media import FolderMedia
from ..storage.projects import PostgresProjects
from ..storage.sign_ins import PostgresSignIns

LOCAL_ACCOUNT = "local"


class NoSession(NotFound):
    """Nobody is signed in."""


@dataclass(frozen=True, slots=True)
class Services:
    engine: Engine
    projects: Projects
    pictures: Pictures
    exports: Exports
    watching: Watching
    findings: Findings
    sounds: Sounds
    sign_ins: SignIns


def services_for(database_url: str, home: Path) -> Services:
    """All services over one database and home folder."""
    engine = engine_for(database_url)
    media = FolderMedia(engine, home / "media")
    pictures = Pictures(media)
    sounds = Sounds(media)
    exports = Exports(PostgresExports(engine, home / "exports"), pictures, sounds)
    return Services(engine, Projects(PostgresProjects(engine)), pictures, exports, Watching(media), Findings(), sounds,
                    SignIns(PostgresSignIns(engine)))  # fmt: skip


def services() -> Services:
    return cast(Services, current_app.extensions["oak"])


def signed_in() -> SignedIn:
    """The browser that is asking. Raises NoSession."""
    found = g.get("signed_in")
    if not isinstance(found, SignedIn):
        raise NoSession([Fault("session.none", "", "This browser is not signed in. Open the address that ./oak start printed.")])
    return found


def who() -> str:
    """The account of this session. Raises NoSession."""
    return signed_in().account
