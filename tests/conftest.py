"""A throw-away PostgreSQL for all tests, and the product's layers over it."""

from __future__ import annotations

import os
import shutil
import tempfile
from pathlib import Path
from typing import TYPE_CHECKING

import pytest
from hypothesis import settings
from sqlalchemy import text

from glyphaneme.cli.postgres import PrivateCluster
from glyphaneme.services.studio import Shipped, Studio, open_studio
from glyphaneme.store.database import open_database, session_factory
from glyphaneme.store.rows import Base
from glyphaneme.web.factory import WebSettings, create_app
from tests import fonts
from tests.databases import Databases
from tests.trying import NIGHTLY, USUAL, times

if TYPE_CHECKING:
    from collections.abc import Iterator

    from flask import Flask
    from flask.testing import FlaskClient
    from sqlalchemy import Engine

DEMO_PHOTOS = Path(__file__).parents[1] / "demo"
DESCRIPTION = Path(__file__).parents[1] / "docs" / "openapi.json"
LIBRARY = Path(__file__).parents[1] / "library"
PLANS = Path(__file__).parents[1] / "plans"


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption(
        "--nightly", action="store_true", help="try properties with many examples"
    )


def pytest_configure(config: pytest.Config) -> None:
    if config.getoption("--nightly"):
        os.environ[NIGHTLY] = "1"
    settings.register_profile("glyphaneme", times(USUAL))
    settings.load_profile("glyphaneme")


@pytest.fixture(scope="session")
def databases() -> Iterator[Databases]:
    """One server for all tests of a process."""
    # Not below pytest's own folder, which the server's user may not enter.
    folder = Path(tempfile.mkdtemp(prefix="glyphaneme-test-"))
    folder.chmod(0o755)
    cluster = PrivateCluster(folder, durable=False)
    try:
        yield Databases(cluster.start())
    finally:
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def database_url(databases: Databases) -> str:
    return databases.prepared()


@pytest.fixture(scope="session")
def engine(database_url: str) -> Iterator[Engine]:
    engine = open_database(database_url)
    yield engine
    engine.dispose()


@pytest.fixture
def studio(engine: Engine, tmp_path: Path) -> Studio:
    """Nothing is stored in it, and no network lies in its folder `models` as yet."""
    tables = ", ".join(table.name for table in Base.metadata.sorted_tables)
    with engine.begin() as connection:
        connection.execute(
            text(f"TRUNCATE {tables}, procrastinate.procrastinate_jobs CASCADE")
        )
    models = (tmp_path / "models",)
    cache = tmp_path / "cache"
    return open_studio(
        session_factory(engine), cache, models, Shipped(LIBRARY, fonts.FOLDER, PLANS)
    )


@pytest.fixture
def app(studio: Studio, tmp_path: Path) -> Flask:
    settings = WebSettings(
        allowed_hosts=frozenset({"localhost", "127.0.0.1"}),
        page_folder=tmp_path,
        description=DESCRIPTION,
    )
    return create_app(studio, settings)


@pytest.fixture
def client(app: Flask) -> FlaskClient:
    return app.test_client()


@pytest.fixture
def demo_photos() -> Path:
    return DEMO_PHOTOS
