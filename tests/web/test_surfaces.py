"""What lies beneath a layer says where its corners may rest."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from tests.boards import HEIGHT, WIDTH, board

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from tests.boards import Board

SCALE = 2.0


class Sign:
    """A board twice as large on its canvas, and a colour that lies over all of it."""

    def __init__(self, client: FlaskClient, scene: Board) -> None:
        self.client = client
        canvas = {"width": WIDTH * 2, "height": HEIGHT * 2, "ppi": 96}
        body = {"name": "Board by the mill", "canvas": canvas | {"background": None}}
        self.state = client.post("/api/projects", json=body).get_json()
        file = io.BytesIO()
        Image.fromarray(scene.pixels).convert("RGB").save(file, "JPEG", quality=96)
        file.seek(0)
        picture = client.post(
            "/api/pictures", data={"file": (file, "board.jpg")}
        ).get_json()
        self.edit(
            kind="add_layer",
            layer_id="board",
            picture=picture["id"],
            name="Board",
            width=WIDTH,
            height=HEIGHT,
        )
        place = {"x": WIDTH, "y": HEIGHT, "scale_x": SCALE, "scale_y": SCALE}
        self.edit(kind="place_layer", layer_id="board", placement=place)
        self.edit(kind="add_color", layer_id="cover", name="Cover", color="#a02020")

    def edit(self, **edit: object) -> None:
        body = {"key": str(uuid.uuid4()), "parent": self.state["head"], "edit": edit}
        answer = self.client.post(f"/api/projects/{self.state['id']}/edits", json=body)
        assert answer.status_code == 201, answer.get_json()
        self.state = answer.get_json()["state"]

    def ask(self, what: str, **beside: object) -> TestResponse:
        body = {"revision": self.state["head"], "layer_id": "cover", **beside}
        return self.client.post(f"/api/projects/{self.state['id']}/{what}", json=body)


@pytest.fixture
def scene() -> Board:
    return board(4)


@pytest.fixture
def sign(client: FlaskClient, scene: Board) -> Sign:
    return Sign(client, scene)


def test_a_rough_stroke_beneath_a_layer_gives_the_boards_corners(
    sign: Sign, scene: Board
) -> None:
    x, y = scene.corners.mean(axis=0) * SCALE
    stroke = [(x - 100, y), (x + 100, y + 60)]

    answer = sign.ask("blank-corners", stroke=stroke, radius=24)

    found = np.array(answer.get_json()["points"])
    assert np.hypot(*(found - scene.corners * SCALE).T).max() < 1.5


def test_corner_points_are_those_beneath_the_layer(sign: Sign, scene: Board) -> None:
    points = np.array(sign.ask("corner-points").get_json()["points"])

    for corner in scene.corners * SCALE:
        assert np.hypot(*(points - corner).T).min() < 3
    under_all = sign.ask("corner-points", layer_id="board").get_json()["points"]
    assert under_all == []


def test_where_nothing_blank_is_a_sentence_says_what_to_do(sign: Sign) -> None:
    answer = sign.ask("blank-corners", stroke=[(4, 4)], radius=3)

    assert answer.status_code == 409
    assert "pull the corners by hand" in answer.get_json()["detail"]


@pytest.mark.parametrize(
    "stroke",
    [[], [[0, 0]] * 401, [[0]], [[0, None]], [[float("nan"), 0]], [[1e300, 0]], "no"],
)
def test_what_is_no_stroke_is_refused(sign: Sign, stroke: object) -> None:
    assert sign.ask("blank-corners", stroke=stroke, radius=9).status_code == 422


@pytest.mark.parametrize("radius", [0, -1, float("inf"), None])
def test_a_brush_has_a_size(sign: Sign, radius: object) -> None:
    assert sign.ask("blank-corners", stroke=[[9, 9]], radius=radius).status_code == 422


def test_a_layer_that_is_not_there_is_told(sign: Sign) -> None:
    for what in ("corner-points", "blank-corners"):
        answer = sign.ask(what, layer_id="gone", stroke=[[9, 9]], radius=9)
        assert answer.status_code in {404, 409, 422}
        assert answer.get_json()["detail"]
