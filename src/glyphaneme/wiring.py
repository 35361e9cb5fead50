"""Reads the environment and joins everything."""

from __future__ import annotations

import argparse
import gc
import json
import os
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from glyphaneme.services.resting import REST_AFTER_S, Rest
from glyphaneme.services.studio import Shipped, open_studio
from glyphaneme.store.database import open_database, session_factory
from glyphaneme.store.queue import WAITED_FOR
from glyphaneme.store.waiting import BEHIND, wait_for_work

if TYPE_CHECKING:
    from glyphaneme.services.studio import Studio

LINGER_S = 20.0
"""How long a worker of what nobody waits for stays when nothing more is there."""
LOCAL_HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})
CHECKOUT = Path(__file__).parents[2]


@dataclass(frozen=True)
class Surroundings:
    """Where this process finds its database, its home and its page."""

    database_url: str
    home: Path
    hosts: frozenset[str]
    page_folder: Path
    models: Path
    library: Path
    fonts: Path
    plans: Path


def read_surroundings() -> Surroundings:
    """Read the environment that the launcher sets."""
    extra = os.environ.get("GLYPHANEME_HOSTS", "")
    return Surroundings(
        database_url=os.environ["GLYPHANEME_DATABASE_URL"],
        home=Path(os.environ.get("GLYPHANEME_HOME", str(CHECKOUT / "var"))),
        hosts=LOCAL_HOSTS | frozenset(filter(None, extra.split(","))),
        page_folder=CHECKOUT / "frontend" / "dist",
        models=Path(os.environ.get("GLYPHANEME_MODELS", str(CHECKOUT / "var/models"))),
        library=CHECKOUT / "library",
        fonts=Path(os.environ.get("GLYPHANEME_FONTS", str(CHECKOUT / "var/fonts"))),
        plans=CHECKOUT / "plans",
    )


def make_studio(surroundings: Surroundings, *, is_web: bool = False) -> Studio:
    """Return the studio of this process."""
    sessions = session_factory(open_database(surroundings.database_url))
    # Models of one's own lie in the home, those of set-up where it put them.
    models = (surroundings.home / "models", surroundings.models)
    cache = surroundings.home / "cache"
    return open_studio(
        sessions,
        cache,
        models,
        Shipped(surroundings.library, surroundings.fonts, surroundings.plans),
        is_waited_for=is_web,
    )


def run_web(arguments: list[str]) -> int:
    """Run the web server until it is told to stop."""
    # Imported late: the worker needs no web server, and describing its interface
    # takes seconds.
    from glyphaneme.store.notices import listen
    from glyphaneme.web.events import Broadcaster, EventStreams
    from glyphaneme.web.factory import WebSettings, create_app
    from glyphaneme.web.gateway import Gateway
    from glyphaneme.web.serving import run_server

    parser = argparse.ArgumentParser()
    parser.add_argument("--host", required=True)
    parser.add_argument("--port", type=int, required=True)
    where = parser.parse_args(arguments)
    surroundings = read_surroundings()
    description = CHECKOUT / "docs" / "openapi.json"
    settings = WebSettings(surroundings.hosts, surroundings.page_folder, description)
    studio = make_studio(surroundings, is_web=True)
    app = create_app(studio, settings)
    broadcaster = Broadcaster(lambda: listen(surroundings.database_url))
    gateway = Gateway(app, EventStreams(broadcaster, surroundings.hosts))
    # All this stays: a collection that walked it would hold up frames by 0.1 s.
    gc.freeze()
    Rest(studio.activity, studio.let_go, after_s=REST_AFTER_S).look_from_now_on()
    run_server(gateway, broadcaster, host=where.host, port=where.port)
    return 0


def run_worker(queue: str = WAITED_FOR) -> int:
    """Run a worker process until it is told to stop, or what stands behind is done."""
    # Imported late: the web server needs no queue.
    from glyphaneme.jobs.worker import work, work_off

    surroundings = read_surroundings()
    studio = make_studio(surroundings)
    if queue == WAITED_FOR:
        rest = Rest(studio.activity, studio.let_go, after_s=REST_AFTER_S)
        rest.look_from_now_on()
        work(surroundings.database_url, studio)
    while queue == BEHIND:
        work_off(surroundings.database_url, studio, queue)
        if not wait_for_work(surroundings.database_url, queue, within_s=LINGER_S):
            break
    return 0


def print_openapi() -> int:
    """Print the description of the HTTP interface, as JSON; needs no database."""
    from glyphaneme.web.describing import describe_anew

    describe_anew()
    from glyphaneme.web.factory import WebSettings, create_app

    here = Path()
    nowhere = Surroundings(
        "postgresql://nowhere", here, LOCAL_HOSTS, here, here, here, here, here
    )
    settings = WebSettings(LOCAL_HOSTS, page_folder=here, description=here)
    app = create_app(make_studio(nowhere), settings)
    sys.stdout.write(json.dumps(app.api_doc, indent=1, sort_keys=True) + "\n")
    return 0
