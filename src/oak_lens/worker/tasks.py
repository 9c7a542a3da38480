"""The tasks, over the services of the environment's settings."""

import os
from pathlib import Path

from procrastinate import App, JobContext, PsycopgConnector
from procrastinate.jobs import Status

from ..core.paint import Painter
from ..services.exports import Exports
from ..services.pictures import Pictures
from ..services.sounds import Sounds
from ..storage.database import engine_for
from ..storage.exports import PostgresExports
from ..storage.media import FolderMedia
from ..storage.queue import JOIN, LISTEN, PICTURES, PREPARE, RENDER, SEGMENT

STALLED_SECONDS = 6
MOST_ATTEMPTS = 6
MAINTENANCE = "maintenance"

url = os.environ["OAK_DATABASE_URL"]
home = Path(os.environ["OAK_HOME"])
engine = engine_for(url)
media = FolderMedia(engine, home / "media")
pictures = Pictures(media)
sounds = Sounds(media)
exports = Exports(PostgresExports(engine, home / "exports"), pictures, sounds)
painters: dict[str, Painter] = {}

app = App(connector=PsycopgConnector(conninfo=url, min_size=1, max_size=4))


@app.task(name=PREPARE, queue=PICTURES)
def prepare(sha256: str) -> None:
    pictures.prepare(sha256)


@app.task(name=LISTEN, queue=PICTURES)
def listen(sha256: str) -> None:
    sounds.listen(sha256)


@app.task(name=SEGMENT, queue=RENDER)
def segment(export: str, index: int) -> None:
    exports.render(export, index, painters)


@app.task(name=JOIN, queue=RENDER)
def join(export: str) -> None:
    exports.join(export)


@app.periodic(cron="* * * * * */3")
@app.task(name="sweep", queue=MAINTENANCE, queueing_lock="sweep", pass_context=True)
async def sweep(context: JobContext, timestamp: int) -> None:
    """Jobs whose worker died go back to the queue; one that kills every worker is given up."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
        if job.attempts >= MOST_ATTEMPTS:
            await app.job_manager.finish_job(job, status=Status.FAILED, delete_job=False)
        else:
            await app.job_manager.retry_job(job)
