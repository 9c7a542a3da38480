"""One worker process: `python -m oak_lens.worker`."""

import asyncio
import gc
import logging
import signal

gc.disable()  # until all is loaded: see `settled`

from procrastinate.exceptions import ProcrastinateException  # noqa: E402

from ..media.rendering import single_threaded  # noqa: E402
from ..services.memory import settled  # noqa: E402
from ..storage.database import AWAY  # noqa: E402
from ..storage.queue import PICTURES, RENDER  # noqa: E402
from .tasks import MAINTENANCE, STALLED_SECONDS, app  # noqa: E402

PAUSE_SECONDS = 0.4
PASSES: tuple[type[Exception], ...] = (*AWAY, ProcrastinateException)


async def work() -> None:
    """One job of work at a time, and beside it the sweep, which must not wait for a long segment.

    Where the database ends a connection, all begins anew with new ones: a worker is not started again for that.
    """
    over = asyncio.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(number, over.set)

    def loop(queues: list[str]) -> "asyncio.Task[None]":
        return asyncio.create_task(
            app.run_worker_async(
                queues=queues,
                concurrency=1,
                update_heartbeat_interval=2,
                stalled_worker_timeout=STALLED_SECONDS,
                # New work is announced: this is for what came while nobody listened.
                fetch_job_polling_interval=3,
                shutdown_graceful_timeout=2,
                delete_jobs="successful",
                install_signal_handlers=False,
            )
        )

    while not over.is_set():
        try:
            async with app.open_async():
                ended = asyncio.create_task(over.wait())
                loops = [loop([PICTURES, RENDER]), loop([MAINTENANCE])]
                await asyncio.wait([*loops, ended], return_when=asyncio.FIRST_COMPLETED)
                for task in (*loops, ended):
                    task.cancel()
                for outcome in await asyncio.gather(*loops, return_exceptions=True):
                    if isinstance(outcome, Exception):
                        raise outcome
        except PASSES as error:
            logging.warning("the database is away: %s", type(error).__name__)
        if not over.is_set():
            await asyncio.sleep(PAUSE_SECONDS)


def main() -> None:
    logging.basicConfig(level=logging.WARNING)
    single_threaded()
    settled()
    asyncio.run(work())


if __name__ == "__main__":
    main()
