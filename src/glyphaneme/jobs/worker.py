"""The worker process: takes work from the queue until it is told to stop."""

from __future__ import annotations

import asyncio
import uuid
from typing import TYPE_CHECKING

from procrastinate import App, PsycopgConnector

from glyphaneme.services.kinds import WORK
from glyphaneme.services.sweeping import sweep
from glyphaneme.services.working import run_job

if TYPE_CHECKING:
    from collections.abc import Callable

    from glyphaneme.services.kinds import Work
    from glyphaneme.services.studio import Studio

CONCURRENT_JOBS = 2
HEARTBEAT_S = 2.0
# A worker that has not been heard of for so long is taken for dead.
SILENCE_S = 8.0
RESCUE_EVERY_S = 4.0
SWEEP_AT = "*/20 * * * *"


def build_app(database_url: str, studio: Studio) -> App:
    """Return the queue's application with all its tasks."""
    connector = PsycopgConnector(
        conninfo=database_url,
        kwargs={"options": "-c search_path=procrastinate"},
        min_size=1,
        max_size=4,
    )
    app = App(connector=connector)

    for kind, work in WORK.items():
        app.task(name=kind)(_task(studio, work))

    @app.periodic(cron=SWEEP_AT)
    @app.task(name="sweep", queueing_lock="sweep")
    def sweep_up(timestamp: int) -> None:  # noqa: ARG001  # the queue hands it over
        """Let go of what nobody needs any more."""
        sweep(studio)

    return app


def _task(studio: Studio, work: Work) -> Callable[[str], None]:
    def run(job_id: str) -> None:
        run_job(studio, uuid.UUID(job_id), work)

    return run


def work(database_url: str, studio: Studio) -> None:
    """Run until SIGTERM or SIGINT; work of dead workers is taken up again."""
    asyncio.run(_work(build_app(database_url, studio)))


async def _work(app: App) -> None:
    async with app.open_async():
        rescuer = asyncio.create_task(_rescue(app))
        try:
            await app.run_worker_async(
                concurrency=CONCURRENT_JOBS,
                update_heartbeat_interval=HEARTBEAT_S,
                stalled_worker_timeout=SILENCE_S,
                shutdown_graceful_timeout=3.0,
                delete_jobs="always",
            )
        finally:
            rescuer.cancel()


async def _rescue(app: App) -> None:
    """Put work that a worker died over back on the queue."""
    while True:
        await app.job_manager.prune_stalled_workers(SILENCE_S)
        for job in await app.job_manager.get_stalled_jobs(
            seconds_since_heartbeat=SILENCE_S
        ):
            await app.job_manager.retry_job(job)
        await asyncio.sleep(RESCUE_EVERY_S)
