"""One worker process: `python -m oak_lens.worker`."""

import asyncio
import logging

from ..media.rendering import single_threaded
from ..storage.queue import PICTURES, RENDER
from .tasks import MAINTENANCE, STALLED_SECONDS, app


async def work() -> None:
    """One job of work at a time, and beside it the sweep, which must not wait for a long segment."""

    def loop(queues: list[str]) -> "asyncio.Task[None]":
        return asyncio.create_task(
            app.run_worker_async(
                queues=queues,
                concurrency=1,
                update_heartbeat_interval=1,
                stalled_worker_timeout=STALLED_SECONDS,
                fetch_job_polling_interval=1,
                shutdown_graceful_timeout=2,
                delete_jobs="successful",
            )
        )

    async with app.open_async():
        await asyncio.gather(loop([PICTURES, RENDER]), loop([MAINTENANCE]))


def main() -> None:
    logging.basicConfig(level=logging.WARNING)
    single_threaded()
    asyncio.run(work())


if __name__ == "__main__":
    main()
