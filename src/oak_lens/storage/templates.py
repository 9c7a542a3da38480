"""Templates of accounts, in the database."""

from sqlalchemy import Engine, delete
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlmodel import Session, col, select

from ..core.errors import Conflict, Fault
from ..services.ports import Blobs, KeptTemplate
from .tables import FavouriteTemplate, TemplateRow

FIELDS = ("id", "template", "version", "key", "source", "project", "made_as", "facts", "created")


class PostgresTemplates:
    """The `TemplateStore` port."""

    def __init__(self, engine: Engine, blobs: Blobs):
        self._engine, self.blobs = engine, blobs

    def listed(self, account: str) -> list[KeptTemplate]:
        with Session(self._engine) as session:
            rows = session.exec(select(TemplateRow).where(TemplateRow.account == account).order_by(col(TemplateRow.created).desc(), col(TemplateRow.id)))
            return [KeptTemplate(**{name: getattr(row, name) for name in FIELDS}) for row in rows]

    def add(self, account: str, kept: KeptTemplate) -> None:
        with Session(self._engine) as session:
            session.add(TemplateRow(account=account, **{name: getattr(kept, name) for name in FIELDS}))
            try:
                session.commit()
            except IntegrityError:
                sentence = f"Version {kept.version} of this template is in your library already, and is another one. Remove that first, or ask for a newer version."
                raise Conflict([Fault("template.version", "", sentence)]) from None

    def remove(self, account: str, id: str) -> bool:
        with Session(self._engine) as session:
            gone = session.execute(delete(TemplateRow).where(col(TemplateRow.account) == account, col(TemplateRow.id) == id))
            session.commit()
            return bool(gone.rowcount)  # type: ignore[attr-defined]

    def favourites(self, account: str) -> set[str]:
        with Session(self._engine) as session:
            return set(session.exec(select(FavouriteTemplate.template).where(FavouriteTemplate.account == account)))

    def set_favourite(self, account: str, template: str, on: bool) -> None:
        with Session(self._engine) as session:
            if on:
                session.execute(insert(FavouriteTemplate).values(account=account, template=template).on_conflict_do_nothing())
            else:
                session.execute(delete(FavouriteTemplate).where(col(FavouriteTemplate.account) == account, col(FavouriteTemplate.template) == template))
            session.commit()
