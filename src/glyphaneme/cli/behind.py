"""Starts a worker for what nobody waits for, once there is such work.

It stands back: whatever somebody waits for has the processors first. Between whiles no
worker is there, only this process, which holds next to nothing.
"""

from __future__ import annotations

import os

from glyphaneme.cli.processes import start_beneath_us
from glyphaneme.store.waiting import BEHIND, wait_for_work

NICENESS = 10


def stand_behind() -> int:
    """Run until told to stop, or until the database cannot be reached."""
    os.nice(NICENESS)
    url = os.environ["GLYPHANEME_DATABASE_URL"]
    while wait_for_work(url, BEHIND):
        status = start_beneath_us(["-m", "glyphaneme", "worker", BEHIND], {}).wait()
        if status != 0:
            return status
    return 0
