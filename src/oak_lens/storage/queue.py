"""Handing work to the workers: inside the caller's transaction, by the task's name."""

from typing import Any

from procrastinate import App, SyncPsycopgConnector
from sqlmodel import Session

PREPARE, LISTEN, SEGMENT, JOIN = "prepare", "listen", "segment", "join"
PICTURES, RENDER = "pictures", "render"

_app = App(connector=SyncPsycopgConnector())


def defer(session: Session, task: str, queue: str, jobs: list[dict[str, Any]], lock: str | None = None, priority: int = 0) -> None:
    """Queue jobs; workers see them when the session's transaction is committed. `lock` allows one waiting job of that name."""
    connection = session.connection().connection.driver_connection
    options: dict[str, Any] = {"queueing_lock": lock} if lock else {}
    _app.configure_task(task, connection=connection, queue=queue, priority=priority, **options).batch_defer(*jobs)  # type: ignore[arg-type]
