"""A database that version 1 wrote is brought up to date, and its projects open."""

from __future__ import annotations

import json
import uuid
from pathlib import Path
from typing import TYPE_CHECKING

import psycopg
import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import text

from glyphaneme.core.document import open_composite
from glyphaneme.core.edits import NameLayer, parse_edit
from glyphaneme.services import editing, projects
from glyphaneme.services.studio import Studio, open_studio
from glyphaneme.store import upgrading
from glyphaneme.store.database import driver_url, open_database, session_factory
from glyphaneme.store.rows import ProjectRow
from glyphaneme.store.uses import list_uses

if TYPE_CHECKING:
    from collections.abc import Iterator

    from tests.databases import Databases

GOLDEN = Path(__file__).parents[1] / "golden" / "version-1.jsonl"
SNAPSHOT_EVERY = 24
MIGRATIONS = Path(upgrading.__file__).parent / "migrations"


@pytest.fixture
def old_url(databases: Databases) -> Iterator[str]:
    """Return a database with the tables of version 1."""
    url = databases.empty()
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("sqlalchemy.url", driver_url(url).replace("%", "%%"))
    command.upgrade(config, "0001")
    yield url
    databases.drop(url)


def fill(url: str, begun: dict, steps: list[dict]) -> uuid.UUID:
    """Write a project as version 1 did; return its id."""
    ids = [uuid.uuid4() for _ in range(len(steps) + 1)]
    project = uuid.uuid4()
    with psycopg.connect(url) as connection:
        connection.execute(
            "INSERT INTO project (id, name, head_id, tip_id) VALUES (%s, %s, %s, %s)",
            (project, "Season poster", ids[-1], ids[-1]),
        )
        for depth, step in enumerate([None, *steps]):
            snapshot = begun if step is None else step["after"]
            connection.execute(
                "INSERT INTO revision (id, project_id, parent_id, depth, edit,"
                " snapshot, label) VALUES (%s, %s, %s, %s, %s, %s, %s)",
                (
                    ids[depth],
                    project,
                    ids[depth - 1] if depth else None,
                    depth,
                    json.dumps(step["edit"]) if step else None,
                    json.dumps(snapshot) if depth % SNAPSHOT_EVERY == 0 else None,
                    "step",
                ),
            )
    return project


def test_project_of_version_1_opens_and_goes_on(old_url: str, tmp_path: Path) -> None:
    begun, *steps = map(json.loads, GOLDEN.read_text().splitlines())
    project = fill(old_url, begun, steps)

    upgrading.prepare_database(old_url)

    engine = open_database(old_url)
    studio: Studio = open_studio(session_factory(engine), tmp_path)
    with studio.looking() as visit:
        state = projects.get_project(visit, project)
        assert (
            visit.session.scalar(text("SELECT version_num FROM alembic_version"))
            == "0014"
        )
    wanted = open_composite(steps[-1]["after"])
    assert state.composite == wanted
    for number in range(SNAPSHOT_EVERY):
        edit = NameLayer(layer_id="glow", name=f"Glow {number}")
        with studio.changing() as visit:
            state = editing.add_edit(
                visit,
                project,
                key=uuid.uuid4(),
                parent=state.head,
                edit=edit,
            ).state
    assert state.composite.layer("glow").name == "Glow 23"
    engine.dispose()


def test_edit_that_version_1_took_is_known_when_it_is_sent_again(
    old_url: str, tmp_path: Path
) -> None:
    begun, *steps = map(json.loads, GOLDEN.read_text().splitlines())
    project = fill(old_url, begun, steps)
    upgrading.prepare_database(old_url)
    engine = open_database(old_url)
    studio = open_studio(session_factory(engine), tmp_path)
    with studio.looking() as visit:
        state = projects.get_project(visit, project)

    with studio.changing() as visit:
        answer = editing.add_edit(
            visit,
            project,
            key=state.head,
            parent=state.undo_to or state.head,
            edit=parse_edit(steps[-1]["edit"]),
        )

    assert answer.outcome == "repeated"
    engine.dispose()


def test_pictures_that_old_edits_name_are_known_to_be_used(old_url: str) -> None:
    begun, *_ = map(json.loads, GOLDEN.read_text().splitlines())
    used, other = uuid.uuid4(), uuid.uuid4()
    with psycopg.connect(old_url) as connection:
        for picture in (used, other):
            digest = picture.hex * 2
            connection.execute("INSERT INTO blob VALUES (%s, 1)", (digest,))
            connection.execute(
                "INSERT INTO picture (id, sha256, name, format, width, height)"
                " VALUES (%s, %s, 'Moths', 'PNG', 30, 20)",
                (picture, digest),
            )
    edit = {"kind": "add_layer", "layer_id": "m", "picture": str(used)}
    edit |= {"name": "Moths", "width": 30, "height": 20}
    project = fill(old_url, begun, [{"edit": edit, "after": begun}])

    upgrading.prepare_database(old_url)

    engine = open_database(old_url)
    with session_factory(engine)() as session:
        uses = list_uses(session)
    assert [(use.picture_id, use.project_id) for use in uses] == [(used, project)]
    engine.dispose()


def test_names_that_no_file_can_hold_are_replaced(old_url: str) -> None:
    begun, *_ = map(json.loads, GOLDEN.read_text().splitlines())
    project = fill(old_url, {**begun, "layers": []}, [])
    with psycopg.connect(old_url) as connection:
        connection.execute("UPDATE project SET name = %s", ("Night\x08\ufffe 灯\t",))

    upgrading.prepare_database(old_url)

    engine = open_database(old_url)
    with session_factory(engine)() as session:
        found = session.get(ProjectRow, project)
    assert found is not None
    assert found.name == "Night\ufffd\ufffd 灯\t"
    engine.dispose()
