"""What runs, put together: all services over one database and one home folder. Server, workers and launcher take them from here, each
what it needs; what none of them asks for is not loaded."""

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from sqlalchemy import Engine

from ..core.letters import bring_faces
from ..core.templates import bring_templates
from ..core.treatments import SHELF
from ..media.blobs import FolderBlobs
from ..services.faces import KeptFaces
from ..services.template_shelf import KeptShelf
from .database import AWAY
from .media import PostgresMedia

if TYPE_CHECKING:
    from ..media.textures import FolderTextures
    from ..services.exports import Exports
    from ..services.faces import Fonts
    from ..services.film_tables import FilmTables
    from ..services.findings import Findings
    from ..services.pictures import Pictures
    from ..services.placeholders import Placeholders
    from ..services.projects import Projects
    from ..services.sign_ins import SignIns
    from ..services.sounds import Sounds
    from ..services.template_versions import TemplateVersions
    from ..services.templates import Templates
    from ..services.trying import Trying
    from ..services.watching import Watching
    from .exports import PostgresExports


class Services:
    """`patient`: work is done again where the database was away; those who wait for an answer are told at once."""

    def __init__(self, engine: Engine, home: Path, patient: bool = False):
        self.engine, self._again = engine, AWAY if patient else ()
        self.blobs = FolderBlobs(home)
        self.media = PostgresMedia(self.engine, self.blobs)
        bring_faces(KeptFaces(self.blobs))
        bring_templates(KeptShelf(self.blobs, SHELF))

    def all(self) -> "Services":
        """The same, with every service made: before several threads ask for them."""
        for name, part in vars(type(self)).items():
            if isinstance(part, cached_property):
                getattr(self, name)
        return self

    @cached_property
    def projects(self) -> "Projects":
        from ..services.projects import Projects
        from .projects import PostgresProjects

        return Projects(PostgresProjects(self.engine), self.placeholders.bring)

    @cached_property
    def placeholders(self) -> "Placeholders":
        from ..services.placeholders import Placeholders

        return Placeholders(self.media)

    @cached_property
    def textures(self) -> "FolderTextures":
        from ..core.paint.surfaces import bring_textures
        from ..media.textures import machine_textures

        kept = machine_textures()
        bring_textures(kept)
        return kept

    @cached_property
    def trying(self) -> "Trying":
        from ..services.trying import Trying

        return Trying(self.media, self.placeholders)

    @cached_property
    def templates(self) -> "Templates":
        from ..services.templates import Templates
        from .templates import PostgresTemplates

        return Templates(PostgresTemplates(self.engine, self.blobs), self.media, self.placeholders, SHELF)

    @cached_property
    def template_versions(self) -> "TemplateVersions":
        from ..services.template_versions import TemplateVersions
        from .projects import PostgresProjects

        return TemplateVersions(PostgresProjects(self.engine), self.projects, self.templates)

    @cached_property
    def pictures(self) -> "Pictures":
        from ..services.pictures import Pictures

        return Pictures(self.media)

    @cached_property
    def sounds(self) -> "Sounds":
        from ..services.sounds import Sounds

        return Sounds(self.media)

    @cached_property
    def fonts(self) -> "Fonts":
        from ..services.faces import Fonts

        return Fonts(self.blobs)

    @cached_property
    def export_store(self) -> "PostgresExports":
        from .exports import PostgresExports

        return PostgresExports(self.engine, self.blobs)

    @cached_property
    def exports(self) -> "Exports":
        from ..services.exports import Exports

        return Exports(self.export_store, self.pictures, self.sounds, self._again)

    @cached_property
    def film_tables(self) -> "FilmTables":
        from ..services.film_tables import FilmTables
        from .film_tables import PostgresFilmTables

        return FilmTables(PostgresFilmTables(self.engine), self.exports, self.placeholders.bring)

    @cached_property
    def watching(self) -> "Watching":
        from ..services.watching import Watching

        return Watching(self.media)

    @cached_property
    def findings(self) -> "Findings":
        from ..services.findings import Findings

        return Findings()

    @cached_property
    def sign_ins(self) -> "SignIns":
        from ..services.sign_ins import SignIns
        from .sign_ins import PostgresSignIns

        return SignIns(PostgresSignIns(self.engine))
