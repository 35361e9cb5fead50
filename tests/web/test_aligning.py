"""Lining photos up, over HTTP: by work, by numbers, and refused."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING, Any

import pytest
from PIL import Image, TiffImagePlugin

from glyphaneme.services.aligning import line_up
from glyphaneme.services.working import run_job
from tests.core.test_aligning import scenery
from tests.seasons import another_season, seen_through, turned
from tests.web.test_http import begin, bring_in, send

if TYPE_CHECKING:
    import numpy as np
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

TRUTH = turned(2, 1.03, -11.3, 7.7)


def jpeg_of(pixels: np.ndarray) -> bytes:
    file = io.BytesIO()
    Image.fromarray(pixels[..., :3]).save(file, "JPEG", quality=92)
    return file.getvalue()


def tiff_at(x: float, y: float, pixel: float) -> bytes:
    """Return a TIFF that lies on a map; each is another picture."""
    tags = TiffImagePlugin.ImageFileDirectory_v2()
    tags[33550] = (pixel, pixel, 0.0)
    tags[33922] = (0.0, 0.0, 0.0, x, y, 0.0)
    tags[34735] = (1, 1, 0, 1, 1024, 0, 1, 1)
    for tag in (33550, 33922):
        tags.tagtype[tag] = 12
    tags.tagtype[34735] = 3
    file = io.BytesIO()
    color = (int(x) % 251, int(y) % 241, int(pixel * 100) % 239)
    Image.new("RGB", (60, 40), color).save(file, "TIFF", tiffinfo=tags)
    return file.getvalue()


def on_one_sheet(client: FlaskClient, *files: bytes) -> dict[str, Any]:
    project = begin(client)
    for place, file in enumerate(files):
        picture = bring_in(client, file).get_json()
        facts = {"name": f"Photo {place}", "picture": picture["id"]}
        size = {"width": picture["width"], "height": picture["height"]}
        edit = {"kind": "add_layer", "layer_id": f"l{place}", **facts, **size}
        answer = send(client, project, **edit)
        project = answer.get_json()["state"]
    return project


def ask(client: FlaskClient, project: dict, **request: object) -> TestResponse:
    body = {"revision": project["head"], "request": request}
    return client.post(f"/api/projects/{project['id']}/alignments", json=body)


def worked(client: FlaskClient, studio: Studio, answer: TestResponse) -> dict[str, Any]:
    assert answer.status_code == 202, answer.get_json()
    job = answer.get_json()["job"]
    run_job(studio, uuid.UUID(job["id"]), line_up)
    return client.get(f"/api/jobs/{job['id']}").get_json()


def test_two_photos_of_a_place_are_laid_over_one_another(
    client: FlaskClient, studio: Studio
) -> None:
    fixed = scenery(1)
    moving = another_season(seen_through(fixed, TRUTH))
    project = on_one_sheet(client, jpeg_of(fixed), jpeg_of(moving))

    end = worked(client, studio, ask(client, project, moving="l1", fixed="l0"))

    assert end["state"] == "done", end
    found = end["found"]
    assert found["certainty"] > 0.9
    edit = {
        "kind": "place_layers",
        "places": [{"layer_id": "l1", "placement": found["placement"]}],
        "deed": "lined up",
    }
    state = send(client, project, **edit).get_json()["state"]
    still, moved = (one["placement"] for one in state["composite"]["layers"])
    # The moving photo is 1.03 times as close, and turned by two degrees.
    assert moved["scale_x"] == pytest.approx(still["scale_x"] / 1.03, rel=1e-3)
    assert moved["turn"] == pytest.approx(-2, abs=0.01)
    assert moved["corners"] is None


def test_photos_of_other_places_are_refused_with_a_way_on(
    client: FlaskClient, studio: Studio
) -> None:
    project = on_one_sheet(client, jpeg_of(scenery(1)), jpeg_of(scenery(2)))

    end = worked(client, studio, ask(client, project, moving="l1", fixed="l0"))

    assert end["state"] == "failed"
    assert "too little in common" in end["error"]
    assert "points by hand" in end["error"]


def test_map_coordinates_answer_at_once(client: FlaskClient) -> None:
    files = tiff_at(1000, 2000, 0.1), tiff_at(1002, 1999, 0.2)
    project = on_one_sheet(client, *files)

    answer = ask(client, project, moving="l1", fixed="l0", by="map")

    assert answer.status_code == 200, answer.get_json()
    still = project["composite"]["layers"][0]["placement"]
    moved = answer.get_json()["found"]["placement"]
    assert moved["scale_x"] == pytest.approx(2 * still["scale_x"])
    # Its middle, (30, 20), lies at (20 + 60, 10 + 40) of the other.
    across = (80 - 30) * still["scale_x"]
    assert moved["x"] == pytest.approx(still["x"] + across)


def test_points_answer_at_once_and_say_when_they_say_too_little(
    client: FlaskClient,
) -> None:
    project = on_one_sheet(client, jpeg_of(scenery(1)), jpeg_of(scenery(2)))
    pairs = [
        {"moving": [0, 0], "fixed": [10, 0]},
        {"moving": [100, 0], "fixed": [110, 0]},
    ]

    good = ask(client, project, moving="l1", fixed="l0", by="points", pairs=pairs)
    same = ask(
        client, project, moving="l1", fixed="l0", by="points", pairs=[pairs[0]] * 2
    )

    still = project["composite"]["layers"][0]["placement"]
    moved = good.get_json()["found"]["placement"]
    assert moved["x"] == pytest.approx(still["x"] + 10 * still["scale_x"])
    assert same.status_code == 409
    assert "Move one of them" in same.get_json()["detail"]


@pytest.mark.parametrize(
    ("request_", "status"),
    [
        ({"moving": "l1", "fixed": "l1"}, 422),
        ({"moving": "l1", "fixed": "gone"}, 409),
        ({"moving": "l1", "fixed": "l0", "by": "map"}, 409),
        ({"moving": "l1", "fixed": "l0", "by": "points"}, 422),
        ({"moving": "l1", "fixed": "l0", "by": "stars"}, 422),
        (
            {
                "moving": "l1",
                "fixed": "l0",
                "by": "points",
                "pairs": [{"moving": [1e9, 0], "fixed": [0, 0]}] * 2,
            },
            422,
        ),
    ],
)
def test_what_cannot_be_asked_for_gets_a_sentence(
    client: FlaskClient, request_, status
) -> None:
    project = on_one_sheet(client, jpeg_of(scenery(1)), jpeg_of(scenery(2)))

    answer = ask(client, project, **request_)

    assert answer.status_code == status, answer.get_json()
    assert answer.get_json()["detail"]
