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

from glyphaneme.services.studio import open_studio
from glyphaneme.store.database import open_database, session_factory

if TYPE_CHECKING:
    from glyphaneme.services.studio import Studio

LOCAL_HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})
WORKER_NICENESS = 5
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
    )


def make_studio(surroundings: Surroundings, *, is_web: bool = False) -> Studio:
    """Return the studio of this process."""
    sessions = session_factory(open_database(surroundings.database_url))
    # Models of one's own lie in the home, those of set-up where it put them.
    models = (surroundings.home / "models", surroundings.models)
    cache = surroundings.home / "cache"
    library = surroundings.library
    return open_studio(sessions, cache, models, library, is_waited_for=is_web)


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
    app = create_app(make_studio(surroundings, is_web=True), settings)
    broadcaster = Broadcaster(lambda: listen(surroundings.database_url))
    gateway = Gateway(app, EventStreams(broadcaster, surroundings.hosts))
    # All this stays: a collection that walked it would hold up frames by 0.1 s.
    gc.freeze()
    run_server(gateway, broadcaster, host=where.host, port=where.port)
    return 0


def run_worker() -> int:
    """Run the worker process until it is told to stop."""
    # Imported late: the web server needs no queue.
    from glyphaneme.jobs.worker import work

    # Frames that a hand waits for go before work in the background.
    os.nice(WORKER_NICENESS)
    surroundings = read_surroundings()
    work(surroundings.database_url, make_studio(surroundings))
    return 0


def print_openapi() -> int:
    """Print the description of the HTTP interface, as JSON; needs no database."""
    from glyphaneme.web.describing import describe_anew

    describe_anew()
    from glyphaneme.web.factory import WebSettings, create_app

    here = Path()
    nowhere = Surroundings("postgresql://nowhere", here, LOCAL_HOSTS, here, here, here)
    settings = WebSettings(LOCAL_HOSTS, page_folder=here, description=here)
    app = create_app(make_studio(nowhere), settings)
    sys.stdout.write(json.dumps(app.api_doc, indent=1, sort_keys=True) + "\n")
    return 0
