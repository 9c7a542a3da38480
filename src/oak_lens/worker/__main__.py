"""One worker process: `python -m oak_lens.worker`."""

import logging

from ..media.rendering import single_threaded
from ..storage.queue import PICTURES, RENDER
from .tasks import MAINTENANCE, STALLED_SECONDS, app


def main() -> None:
    logging.basicConfig(level=logging.WARNING)
    single_threaded()
    app.run_worker(
        queues=[PICTURES, RENDER, MAINTENANCE], concurrency=2, update_heartbeat_interval=1, stalled_worker_timeout=STALLED_SECONDS,
        fetch_job_polling_interval=1, shutdown_graceful_timeout=2, delete_jobs="successful",
    )


if __name__ == "__main__":
    main()
