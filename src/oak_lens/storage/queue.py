"""Handing work to the workers: inside the caller's transaction, by the task's name."""

from typing import Any

from procrastinate import App, SyncPsycopgConnector
from sqlmodel import Session

PREPARE, LISTEN, FILMS, PLAN, SEGMENT, JOIN = "prepare", "listen", "films", "plan", "segment", "join"
PICTURES, RENDER = "pictures", "render"

_app = App(connector=SyncPsycopgConnector())


def defer(session: Session, task: str, queue: str, jobs: list[dict[str, Any]], priority: int = 0) -> None:
    """Queue jobs; workers see them when the session's transaction is committed."""
    connection = session.connection().connection.driver_connection
    _app.configure_task(task, connection=connection, queue=queue, priority=priority).batch_defer(*jobs)  # type: ignore[arg-type]
