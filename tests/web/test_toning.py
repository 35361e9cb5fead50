"""Tones through the API: counted, found by pointing, copied, refused."""

from __future__ import annotations

import base64
import uuid
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest

from tests.worktable import Worktable

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

SIDE = 120
VIEW = {"x": 0, "y": 0, "width": SIDE, "height": SIDE, "scale": 1}
LEVELS = {"kind": "levels"}


class Toned(Worktable):
    """A grey photo with a dark, a middle and a light third, over a white sheet."""

    def __init__(self, client: FlaskClient) -> None:
        super().__init__(client, "Wings", SIDE)
        pixels = np.zeros((SIDE, SIDE, 3), np.uint8)
        pixels[:, :40], pixels[:, 40:80], pixels[:, 80:] = (
            (60, 40, 50),
            (140, 120, 100),
            (220, 230, 210),
        )
        self.lay_on("photo", "Wings", pixels)

    def tone(self, *tones: dict[str, Any], layer: str = "photo") -> None:
        self.edit(kind="tone_layer", layer_id=layer, tones=tones)

    def sentence(self, layer: str = "photo") -> dict[str, Any]:
        return super().sentence(layer)

    def levels(self, role: str, x: float = 0, **more: object) -> TestResponse:
        asked = {"layer_id": "photo", "place": 0, "role": role, "x": x, "y": 60}
        return self.post("levels", revision=self.state["head"], **asked, **more)


@pytest.fixture
def wings(client: FlaskClient) -> Toned:
    return Toned(client)


def test_tones_are_said_in_the_sentence_and_line_by_line(wings: Toned) -> None:
    wings.tone(
        {"kind": "warmth", "warmth": 40}, {"kind": "light", "exposure": -0.5}, LEVELS
    )

    said = wings.sentence()
    assert "".join(part["text"] for part in said["parts"]) == (
        "Wings, filling the picture, warmer and darker, shown plainly."
    )
    assert said["tones"] == ["warmer", "darker", "levels as they are"]


def test_what_occurs_how_often_comes_with_the_frame(wings: Toned) -> None:
    wings.tone({"kind": "invert"}, LEVELS)
    asked = {"layer_id": "photo", "place": 1}
    answer = wings.post(
        "frame", revision=wings.state["head"], view=VIEW, tones_of=asked
    )

    counts = np.frombuffer(
        base64.b64decode(answer.headers["Tone-Counts"]), np.uint8
    ).reshape(2, 4, 256)
    # Of the inverted photo; behind it lies the white sheet.
    assert np.flatnonzero(counts[0, 1]).tolist() == [35, 115, 195]
    assert np.flatnonzero(counts[1, 0]).tolist() == [255]
    plain = wings.post("frame", revision=wings.state["head"], view=VIEW)
    assert "Tone-Counts" not in plain.headers
    assert plain.data == answer.data


def test_a_layer_that_tones_counts_what_it_finds(wings: Toned) -> None:
    wings.edit(kind="add_toning", layer_id="all", name="All", tones=[LEVELS])
    asked = {"layer_id": "all", "place": 0}
    answer = wings.post(
        "frame", revision=wings.state["head"], view=VIEW, tones_of=asked
    )

    counts = np.frombuffer(base64.b64decode(answer.headers["Tone-Counts"]), np.uint8)
    assert np.flatnonzero(counts.reshape(2, 4, 256)[0, 3]).tolist() == [50, 100, 210]


def test_what_is_pointed_at_becomes_black_grey_or_white(wings: Toned) -> None:
    wings.tone(LEVELS)

    black = wings.levels("black", x=20).get_json()
    assert [black[one]["darkest"] for one in ("red", "green", "blue")] == (
        pytest.approx([60 / 255, 40 / 255, 50 / 255])
    )
    white = wings.levels("white", x=100).get_json()
    assert white["green"]["lightest"] == pytest.approx(230 / 255)
    wings.tone(wings.levels("grey", x=60).get_json())
    frame = wings.post(
        "tone-color",
        revision=wings.state["head"],
        layer_id="photo",
        place=1,
        x=60,
        y=60,
    ).get_json()
    assert max(frame.values()) - min(frame.values()) < 1.5 / 255
    assert np.mean([*frame.values()]) == pytest.approx(120 / 255, abs=0.01)


def test_ends_are_found_for_all_or_for_each(wings: Toned) -> None:
    wings.tone(LEVELS)

    ends = wings.levels("ends").get_json()["all"]
    assert ends["darkest"] == pytest.approx(40 / 255)
    assert ends["lightest"] == pytest.approx(230 / 255)
    each = wings.levels("each").get_json()
    assert each["blue"]["lightest"] == pytest.approx(210 / 255)
    assert each["all"]["lightest"] == 1


def test_where_nothing_shows_there_is_no_colour(wings: Toned) -> None:
    wings.tone(LEVELS)

    answer = wings.levels("grey", x=5000)
    assert answer.status_code == 409
    assert "must show something" in answer.get_json()["detail"]
    wings.tone({"kind": "invert"})
    assert wings.levels("ends").status_code == 409


def test_tones_are_copied_as_they_are_now(wings: Toned) -> None:
    wings.tone({"kind": "monochrome"})
    wings.edit(kind="add_toning", layer_id="all", name="All")
    wings.edit(kind="copy_tones", layer_id="all", from_id="photo")
    wings.tone()

    assert wings.sentence("all")["tones"] == ["in black and white"]
    refused = wings.try_edit(kind="copy_tones", layer_id="all", from_id="photo")
    assert refused.status_code == 409
    wings.edit(kind="add_color", layer_id="c", name="C", color="#203040")
    refused = wings.try_edit(kind="tone_layer", layer_id="c", tones=[])
    assert refused.status_code == 409


@pytest.mark.parametrize(
    "tone",
    [
        {"kind": "light", "exposure": 1e999},
        {"kind": "curves", "all": [[0, 0], [0, 1]]},
        {"kind": "levels", "all": {"darkest": 1}},
        {"kind": "blur", "radius": 1e6},
        {"kind": "sepia"},
    ],
    ids=str,
)
def test_impossible_tones_are_refused_with_a_sentence(
    wings: Toned, tone: dict[str, Any]
) -> None:
    answer = wings.try_edit(kind="tone_layer", layer_id="photo", tones=[tone])

    assert answer.status_code == 422
    assert answer.get_json()["detail"]


def test_a_thousand_tones_are_too_many(wings: Toned) -> None:
    tones = [{"kind": "invert"}] * 1000

    answer = wings.try_edit(kind="tone_layer", layer_id="photo", tones=tones)
    assert answer.status_code == 422


def test_a_layer_that_tones_is_no_picture_by_itself(wings: Toned) -> None:
    wings.edit(kind="add_toning", layer_id="all", name="All")
    request = {"revision": wings.state["head"], "format": "png", "apart": ["all"]}
    request |= {"width": SIDE}

    answer = wings.post("exports", key=str(uuid.uuid4()), request=request)
    assert answer.status_code == 409
    assert "no pixels of its own" in answer.get_json()["detail"]
