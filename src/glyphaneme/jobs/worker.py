"""The worker process: takes work from the queue until it is told to stop."""

from __future__ import annotations

import asyncio
import os
import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING

from procrastinate import App, PsycopgConnector, RetryStrategy

from glyphaneme.services.errors import DATABASE_AWAY
from glyphaneme.services.kinds import WORK
from glyphaneme.services.sweeping import sweep
from glyphaneme.services.working import WORK_QUEUE, run_job

if TYPE_CHECKING:
    from collections.abc import Callable

    from glyphaneme.services.kinds import Work
    from glyphaneme.services.studio import Studio

CONCURRENT_JOBS = 2
HEARTBEAT_S = 2.0
# A worker that has not been heard of for so long is taken for dead.
SILENCE_S = 8.0
RESCUE_EVERY_S = 4.0
CUT_OFF = RetryStrategy(wait=1, linear_wait=2, retry_exceptions=DATABASE_AWAY)
"""What a lost connection cut off is run again; `run_job` says how often."""
SWEEP_AT = "*/20 * * * *"
SWEEP_NICENESS = 10


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
        app.task(name=kind, retry=CUT_OFF)(_task(studio, work))

    @app.periodic(cron=SWEEP_AT)
    @app.task(name="sweep", queue=WORK_QUEUE, queueing_lock="sweep")
    def sweep_up(timestamp: int) -> None:  # noqa: ARG001  # the queue hands it over
        """Let go of what nobody needs any more."""
        _stand_back(lambda: sweep(studio))

    return app


def _stand_back(do: Callable[[], None]) -> None:
    """Do something in a thread of its own that lets others go first."""

    def do_it() -> None:
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), SWEEP_NICENESS)
        do()

    with ThreadPoolExecutor(1, thread_name_prefix="sweep") as pool:
        pool.submit(do_it).result()


def _task(studio: Studio, work: Work) -> Callable[[str], None]:
    def run(job_id: str) -> None:
        run_job(studio, uuid.UUID(job_id), work)

    return run


def work(database_url: str, studio: Studio) -> None:
    """Run until SIGTERM or SIGINT; work of dead workers is taken up again."""
    studio.shelf.drop_drafts()
    asyncio.run(_work(build_app(database_url, studio)))


def work_off(database_url: str, studio: Studio, queue: str) -> None:
    """Do what waits on a queue, one after the other, and return."""
    asyncio.run(_work_off(build_app(database_url, studio), queue))


async def _work_off(app: App, queue: str) -> None:
    async with app.open_async():
        await app.run_worker_async(
            queues=[queue],
            wait=False,
            concurrency=1,
            update_heartbeat_interval=HEARTBEAT_S,
            stalled_worker_timeout=SILENCE_S,
            shutdown_graceful_timeout=3.0,
            delete_jobs="always",
        )


async def _work(app: App) -> None:
    async with app.open_async():
        rescuer = asyncio.create_task(_rescue(app))
        try:
            await app.run_worker_async(
                queues=[WORK_QUEUE],
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
