"""Alembic's environment: one connection, an advisory lock so that two starts do not migrate at once."""

from typing import Any

from alembic import context
from sqlalchemy import text
from sqlmodel import SQLModel

from oak_lens.storage import tables  # noqa: F401  (registers the tables)

LOCK = 705_600_000


def _ours(name: str | None, kind: str, parents: Any) -> bool:
    return not (name or "").startswith("procrastinate_")


def run() -> None:
    connection = context.config.attributes["connection"]
    connection.execute(text("select pg_advisory_xact_lock(:n)"), {"n": LOCK})
    context.configure(connection=connection, target_metadata=SQLModel.metadata, include_name=_ours)
    with context.begin_transaction():
        context.run_migrations()


run()
