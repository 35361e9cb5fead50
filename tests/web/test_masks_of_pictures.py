"""Masks that are made of pictures: kept shapes and even colours, over HTTP."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from sqlalchemy import text

from glyphaneme.services.file_making import make_file
from glyphaneme.services.working import run_job
from tests.web.test_http import begin, bring_in, lay_on, send

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from numpy.typing import NDArray

    from glyphaneme.services.studio import Studio

VIEW = {"x": 0, "y": 0, "width": 400, "height": 300, "scale": 1, "fineness": "exact"}
HALVES = {"kind": "even", "id": "e", "spots": [[40, 40]], "tolerance": 8}


def halves() -> bytes:
    """Return a picture that is red on its left and green on its right."""
    pixels = np.zeros((300, 400, 3), np.uint8)
    pixels[:, :200, 0] = 200
    pixels[:, 200:, 1] = 200
    file = io.BytesIO()
    Image.fromarray(pixels).save(file, "PNG")
    return file.getvalue()


@pytest.fixture
def project(client: FlaskClient) -> dict[str, Any]:
    """Lay a picture on, and over it a colour that is held in its shape."""
    picture = bring_in(client, halves(), "halves.png").get_json()
    state = lay_on(client, begin(client, width=400, height=300), picture)
    state = done(
        client, state, kind="add_color", layer_id="c", name="Wash", color="#0000ff"
    )
    small = {**state["composite"]["layers"][0]["placement"], "scale_x": 0.5}
    small = {**small, "scale_y": 0.5, "x": 200, "y": 150}
    state = done(client, state, kind="place_layer", layer_id="m", placement=small)
    follows = {"kind": "layer", "id": "p", "layer_id": "m", "quality": "shape"}
    return done(client, state, kind="add_part", layer_id="c", part=follows)


def done(
    client: FlaskClient, project: dict[str, Any], **edit: object
) -> dict[str, Any]:
    answer = send(client, project, **edit)
    assert answer.status_code == 201, answer.get_json()
    return answer.get_json()["state"]


def keep(client: FlaskClient, project: dict[str, Any], **asked: str) -> Any:
    body = {"revision": project["head"], "layer_id": "c", "part_id": "p", **asked}
    return client.post(f"/api/projects/{project['id']}/kept-parts", json=body)


def mask_of(client: FlaskClient, project: dict[str, Any], layer: str) -> NDArray[Any]:
    """Return how much of a layer shows, 0..255."""
    answer = client.post(
        f"/api/projects/{project['id']}/frame",
        json={"revision": project["head"], "view": {**VIEW, "mask_of": layer}},
    )
    with Image.open(io.BytesIO(answer.data[8:])) as picture:
        return np.asarray(picture.convert("L")).astype(float)


def test_kept_shape_stays_when_the_other_layer_moves(
    client: FlaskClient, project: dict[str, Any]
) -> None:
    before = mask_of(client, project, "c")
    shelf = client.get("/api/pictures").get_json()["pictures"]

    answer = keep(client, project)
    kept = done(client, project, kind="change_part", layer_id="c", part=answer.json)
    away = {**kept["composite"]["layers"][0]["placement"], "x": 20, "turn": 30}
    moved = done(client, kept, kind="place_layer", layer_id="m", placement=away)

    assert answer.status_code == 201
    assert answer.json["said"] == "the shape of Moths"
    assert np.abs(mask_of(client, moved, "c") - before).max() < 12
    sentence = "".join(part["text"] for part in moved["sentences"][-1]["parts"])
    assert "held in the shape of Moths, as it was" in sentence
    assert client.get("/api/pictures").get_json()["pictures"] == shelf


def test_kept_shape_travels_in_a_layered_file(
    client: FlaskClient, studio: Studio, project: dict[str, Any]
) -> None:
    part = keep(client, project).json
    project = done(client, project, kind="change_part", layer_id="c", part=part)
    even = {**HALVES, "picture": project["composite"]["layers"][0]["picture"]}
    project = done(client, project, kind="add_part", layer_id="m", part=even)
    masks = [mask_of(client, project, layer) for layer in ("c", "m")]
    key = str(uuid.uuid4())
    wanted = {"revision": project["head"], "format": "openraster", "width": 400}
    client.post(
        f"/api/projects/{project['id']}/exports", json={"key": key, "request": wanted}
    )
    run_job(studio, uuid.UUID(key), make_file)
    file = client.get(f"/api/exports/{key}/file").data

    with studio.sessions.begin() as session:
        # Elsewhere: there the pictures get other names.
        session.execute(text("TRUNCATE project, revision, job, picture CASCADE"))
    again = client.post(
        "/api/projects/layered", data={"file": (io.BytesIO(file), "again.ora")}
    ).get_json()

    for layer in again["composite"]["layers"]:
        for part in layer["mask"]["parts"]:
            assert client.get(f"/api/pictures/{part['picture']}").status_code == 200
    for layer, wanted in zip(("c", "m"), masks, strict=True):
        assert np.abs(mask_of(client, again, layer) - wanted).max() < 12
    names = [one["name"] for one in client.get("/api/pictures").json["pictures"]]
    assert "Mask" not in names


def test_even_colour_is_taken_away_also_while_it_is_tried(
    client: FlaskClient, project: dict[str, Any]
) -> None:
    picture = project["composite"]["layers"][0]["picture"]
    part = {**HALVES, "picture": picture}
    add = {"kind": "add_part", "layer_id": "m", "part": part}
    draft = {"revision": project["head"], "unsaved": [add]}
    view = {**VIEW, "mask_of": "m", "fineness": "quick"}

    answer = client.post(
        f"/api/projects/{project['id']}/frame", json={**draft, "view": view}
    )
    saved = done(client, project, **add)

    with Image.open(io.BytesIO(answer.data[8:])) as quick:
        tried = np.asarray(quick.convert("L")).astype(float)
    shown = mask_of(client, saved, "m")
    # The photo lies at half its size in the middle: its left half is red.
    assert shown[150, 150] < 5
    assert shown[150, 250] > 250
    assert np.abs(tried - shown).mean() < 2


@pytest.mark.parametrize(
    ("asked", "status", "words"),
    [
        ({"part_id": "nothing"}, 409, "got id nothing"),
        ({"layer_id": "gone"}, 409, "got id gone"),
    ],
)
def test_nothing_is_kept_of_what_is_not_there(
    client: FlaskClient,
    project: dict[str, Any],
    asked: dict[str, str],
    status: int,
    words: str,
) -> None:
    answer = keep(client, project, **asked)

    assert answer.status_code == status
    assert words in str(answer.json)


@pytest.mark.parametrize("picture", ["no-picture", str(uuid.UUID(int=7))])
def test_part_of_a_picture_that_is_not_there_is_refused(
    client: FlaskClient, project: dict[str, Any], picture: str
) -> None:
    part = {**HALVES, "picture": picture}

    answer = send(client, project, kind="add_part", layer_id="m", part=part)

    assert answer.status_code == 404
    assert "picture on the shelf" in answer.get_json()["detail"]
