"""Browsers that are signed in, in the database: they outlast a restart, are renewed by use, and can be ended."""

from datetime import timedelta

from sqlalchemy import Engine, delete
from sqlmodel import Session, col, select

from .tables import SignIn, now

UNUSED_DAYS = 31
"""A browser not seen for so long is signed out. A clock that is set back ends nothing: what was used later than now is in use."""

TOLD_EVERY = timedelta(hours=1)


class PostgresSignIns:
    """The `SignInStore` port; a sign-in goes by the SHA-256 of the word in its browser's cookie."""

    def __init__(self, engine: Engine):
        self._engine = engine

    def add(self, key: str, account: str, token: str) -> None:
        with Session(self._engine) as session:
            session.execute(delete(SignIn).where(col(SignIn.used) < now() - timedelta(days=UNUSED_DAYS)))
            session.add(SignIn(id=key, account=account, token=token))
            session.commit()

    def find(self, key: str) -> tuple[str, str] | None:
        with Session(self._engine) as session:
            row = session.exec(select(SignIn).where(SignIn.id == key)).first()
            if row is None or row.used < now() - timedelta(days=UNUSED_DAYS):
                return None
            found = row.account, row.token
            if abs(now() - row.used) > TOLD_EVERY:
                row.used = now()
                session.commit()
            return found

    def end(self, account: str, key: str, others: bool) -> None:
        with Session(self._engine) as session:
            which = col(SignIn.id) != key if others else col(SignIn.id) == key
            session.execute(delete(SignIn).where(col(SignIn.account) == account, which))
            session.commit()
