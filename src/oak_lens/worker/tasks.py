"""The tasks, over the services of the environment's settings."""

import asyncio
import os
from pathlib import Path

from procrastinate import App, BaseRetryStrategy, JobContext, PsycopgConnector, RetryDecision
from procrastinate.jobs import Job, Status

from ..core.errors import StorageFull
from ..services.ports import MediaState
from ..storage.composition import Services
from ..storage.database import AWAY, engine_for, patient
from ..storage.queue import FILMS, JOIN, LISTEN, PICTURES, PLAN, PREPARE, RENDER, SEGMENT

STALLED_SECONDS = 6
MOST_ATTEMPTS = 6
MOST_TRIES_AWAY = 40
FULL_SECONDS = 10
MAINTENANCE = "maintenance"

LOST = "The work on this export was lost. What is rendered is kept; start it again."
GIVEN_UP = "A part of the film ended its worker again and again, perhaps for want of memory. Try a smaller size, or take off the last picture added."
NOT_PREPARED = "This file ended its worker again and again, perhaps for want of memory. Replace it by a smaller one."

url = os.environ["OAK_DATABASE_URL"]
services = Services(engine_for(url), Path(os.environ["OAK_HOME"]), patient=True)
services.textures  # noqa: B018  so that what is painted here finds and keeps them

app = App(connector=PsycopgConnector(conninfo=patient(url), min_size=1, max_size=4))


class Patience(BaseRetryStrategy):
    """Jobs are done again when the database was away (sooner at first), and when a full disk may have room again."""

    def get_retry_decision(self, *, exception: BaseException, job: Job) -> RetryDecision | None:
        if isinstance(exception, AWAY) and job.attempts < MOST_TRIES_AWAY:
            return RetryDecision(retry_in={"seconds": min(job.attempts, 10)})
        if isinstance(exception, StorageFull):
            return RetryDecision(retry_in={"seconds": FULL_SECONDS})
        return None


again = Patience()


@app.task(name=PREPARE, queue=PICTURES, retry=again)
def prepare(sha256: str) -> None:
    services.pictures.prepare(sha256)


@app.task(name=LISTEN, queue=PICTURES, retry=again)
def listen(sha256: str) -> None:
    services.sounds.listen(sha256)


@app.task(name=FILMS, queue=RENDER, retry=again)
def films(batch: str) -> None:
    services.film_tables.make(batch)


@app.task(name=PLAN, queue=RENDER, retry=again)
def plan(export: str) -> None:
    services.exports.plan(export)


@app.task(name=SEGMENT, queue=RENDER, retry=again)
def segment(export: str, index: int) -> None:
    services.exports.render(export, index)


@app.task(name=JOIN, queue=RENDER, retry=again)
def join(export: str) -> None:
    services.exports.join(export)


@app.periodic(cron="* * * * * */3")
@app.task(name="sweep", queue=MAINTENANCE, queueing_lock="sweep", pass_context=True, retry=again)
async def sweep(context: JobContext, timestamp: int) -> None:
    """Jobs whose worker died go back to the queue; one that kills every worker is given up, and so is an export nobody works on.

    What waits for the database does so in a thread. A loop that stands still keeps its own half-made connections from going on, and a
    server that recovers first waits for those: the two would wait for each other.
    """
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
        if job.attempts >= MOST_ATTEMPTS:
            await asyncio.to_thread(give_up, job)
            await app.job_manager.finish_job(job, status=Status.FAILED, delete_job=False)
        else:
            await app.job_manager.retry_job(job)
    await asyncio.to_thread(services.export_store.fail_abandoned, LOST)
    # One at a time, ahead of the first scene that lies on it.
    await asyncio.to_thread(services.textures.make_one)


def give_up(job: Job) -> None:
    """What a job that is not tried any more was for is over, with a sentence."""
    if "export" in job.task_kwargs:
        services.export_store.set_state(str(job.task_kwargs["export"]), "failed", GIVEN_UP)
    elif "batch" in job.task_kwargs:
        services.film_tables.give_up(str(job.task_kwargs["batch"]))
    elif "sha256" in job.task_kwargs:
        sha256 = str(job.task_kwargs["sha256"])
        services.media.set_state("listen" if job.task_name == LISTEN else "prepare", MediaState(sha256, "failed", NOT_PREPARED, code="picture.not_prepared"))
