"""Layers are saved each by itself, in one ZIP, or one alone as the picture."""

from __future__ import annotations

import io
import uuid
import zipfile
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from glyphaneme.services.file_making import make_file
from glyphaneme.services.working import run_job

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

CANVAS = {"width": 60, "height": 40, "ppi": 96, "background": "#ffffff"}


def opened(data: bytes) -> Image.Image:
    """Open a picture; a PNG of few colours names them in a palette."""
    picture = Image.open(io.BytesIO(data))
    if picture.mode != "P":
        return picture
    return picture.convert("RGBA" if "transparency" in picture.info else "RGB")


class Pair:
    """Two colours over one another, one of them faded, half strong and in a mode."""

    def __init__(self, client: FlaskClient, studio: Studio, **canvas: object) -> None:
        self.client, self.studio = client, studio
        body = {"name": "Spring and tent", "canvas": CANVAS | canvas}
        self.state = client.post("/api/projects", json=body).get_json()
        self.edit(kind="add_color", layer_id="spring", name="Frühling", color="#20a040")
        self.edit(kind="add_color", layer_id="tent", name="The tent", color="#c02020")
        self.edit(kind="blend_layer", layer_id="tent", mode="multiply", opacity=0.4)
        fade = {"x": 30, "y": 20, "length": 30, "angle": 0}
        self.edit(kind="fade_layer", layer_id="tent", fades=[fade])
        self.edit(kind="show_layer", layer_id="spring", visible=False)

    def edit(self, **edit: object) -> None:
        body = {"key": str(uuid.uuid4()), "parent": self.state["head"], "edit": edit}
        answer = self.client.post(f"/api/projects/{self.state['id']}/edits", json=body)
        assert answer.status_code == 201, answer.get_json()
        self.state = answer.get_json()["state"]

    def ask(self, *apart: str, **wishes: object) -> TestResponse:
        request = {"revision": self.state["head"], "format": "png", "width": 30}
        request |= {"apart": apart, **wishes}
        address = f"/api/projects/{self.state['id']}/exports"
        return self.client.post(address, json={"request": request})

    def made(self, *apart: str, **wishes: object) -> TestResponse:
        job = self.ask(*apart, **wishes).get_json()
        run_job(self.studio, uuid.UUID(job["id"]), make_file)
        return self.client.get(f"/api/exports/{job['id']}/file")

    def saved(self, *apart: str, **wishes: object) -> dict[str, Image.Image]:
        answer = self.made(*apart, **wishes)
        assert answer.content_type == "application/zip"
        assert "spring-and-tent.zip" in answer.headers["Content-Disposition"]
        pack = zipfile.ZipFile(io.BytesIO(answer.data))
        assert pack.testzip() is None
        return {name: opened(pack.read(name)) for name in pack.namelist()}


@pytest.fixture
def pair(client: FlaskClient, studio: Studio) -> Pair:
    return Pair(client, studio)


def test_each_is_whole_on_the_same_sheet_in_the_order_asked_for(pair: Pair) -> None:
    pictures = pair.saved("spring", "tent")

    assert list(pictures) == ["1-frühling.png", "2-the-tent.png"]
    for picture, color in zip(
        pictures.values(), [(0x20, 0xA0, 0x40), (0xC0, 0x20, 0x20)], strict=True
    ):
        assert picture.size == (30, 20)
        assert np.unique(np.asarray(picture).reshape(-1, 3), axis=0).tolist() == [
            list(color)
        ]


def test_a_cut_counts_and_what_is_cut_away_shows_the_sheet(pair: Pair) -> None:
    shape = {"kind": "rectangle", "id": "p", "x": 15, "y": 20, "width": 30}
    pair.edit(kind="add_part", layer_id="tent", part=shape | {"height": 40})

    (picture,) = pair.saved("tent", format="tiff").values()

    shown = np.asarray(picture)
    assert shown[10, 5].tolist() == [0xC0, 0x20, 0x20]
    assert shown[10, 25].tolist() == [255, 255, 255]


def test_a_see_through_sheet_stays_so(client: FlaskClient, studio: Studio) -> None:
    pair = Pair(client, studio, background=None)
    shape = {"kind": "rectangle", "id": "p", "x": 15, "y": 20, "width": 30}
    pair.edit(kind="add_part", layer_id="tent", part=shape | {"height": 40})

    (picture,) = pair.saved("tent").values()

    assert np.asarray(picture)[10, [5, 25], 3].tolist() == [255, 0]


def test_a_layer_in_a_group_lies_where_it_lies(pair: Pair) -> None:
    pair.edit(
        kind="group_layers",
        group_id="both",
        name="Both",
        layer_ids=["spring", "tent"],
        mode="normal",
    )

    assert list(pair.saved("tent", "both")) == ["1-the-tent.png", "2-both.png"]


@pytest.mark.parametrize("apart", [["gone"], ["spring", "gone"], ["s"] * 51, "spring"])
def test_what_cannot_be_saved_apart_gets_a_sentence(pair: Pair, apart: object) -> None:
    answer = pair.ask(apart=apart)

    assert answer.status_code in {404, 409, 422}
    assert answer.get_json()["detail"]


def test_a_cut_that_follows_another_layer_follows_it_all_the_same(pair: Pair) -> None:
    half = {"kind": "rectangle", "id": "p", "x": 15, "y": 20, "width": 30, "height": 40}
    pair.edit(kind="add_part", layer_id="spring", part=half)
    follows = {"kind": "layer", "id": "f", "layer_id": "spring", "quality": "shape"}
    pair.edit(kind="add_part", layer_id="tent", part=follows)

    (picture,) = pair.saved("tent").values()

    shown = np.asarray(picture)
    assert shown[10, [5, 25]].tolist() == [[0xC0, 0x20, 0x20], [255, 255, 255]]


def test_layers_of_one_name_are_two_files(pair: Pair) -> None:
    pair.edit(kind="name_layer", layer_id="spring", name="The tent")

    assert list(pair.saved("spring", "tent")) == ["1-the-tent.png", "2-the-tent.png"]


def test_a_piece_is_the_picture_on_nothing_with_its_cut_and_fades(pair: Pair) -> None:
    half = {"kind": "rectangle", "id": "p", "x": 30, "y": 10, "width": 60, "height": 20}
    pair.edit(kind="add_part", layer_id="tent", part=half)

    answer = pair.made(piece="tent")

    assert answer.content_type == "image/png"
    assert "the-tent.png" in answer.headers["Content-Disposition"]
    with opened(answer.data) as picture:
        shown = np.asarray(picture)
    assert shown.shape == (20, 30, 4)
    assert shown[shown[..., 3] > 0, :3].tolist() == [[0xC0, 0x20, 0x20]] * int(
        (shown[..., 3] > 0).sum()
    )
    full, faded, gone = (int(value) for value in shown[5, [2, 15, 27], 3])
    assert (full, gone) == (255, 0)
    assert 100 < faded < 140
    assert not shown[15, :, 3].any()


def test_a_hidden_piece_is_shown_and_a_jpeg_has_the_matte_behind(pair: Pair) -> None:
    half = {"kind": "rectangle", "id": "p", "x": 15, "y": 20, "width": 30, "height": 40}
    pair.edit(kind="add_part", layer_id="spring", part=half)

    answer = pair.made(piece="spring", format="jpeg", quality=100, matte="#0000ff")

    with opened(answer.data) as picture:
        shown = np.asarray(picture.convert("RGB")).astype(int)
    assert np.abs(shown[10, 5] - [0x20, 0xA0, 0x40]).max() < 6
    assert np.abs(shown[10, 25] - [0, 0, 255]).max() < 6


def test_a_piece_that_follows_another_layer_follows_it(pair: Pair) -> None:
    half = {"kind": "rectangle", "id": "p", "x": 15, "y": 20, "width": 30, "height": 40}
    pair.edit(kind="add_part", layer_id="spring", part=half)
    follows = {"kind": "layer", "id": "f", "layer_id": "spring", "quality": "shape"}
    pair.edit(kind="add_part", layer_id="tent", part=follows)
    pair.edit(kind="fade_layer", layer_id="tent", fades=[])

    with opened(pair.made(piece="tent").data) as picture:
        assert np.asarray(picture)[10, [5, 25], 3].tolist() == [255, 0]


def test_a_piece_has_what_its_shape_throws(pair: Pair) -> None:
    half = {"kind": "rectangle", "id": "p", "x": 15, "y": 20, "width": 30, "height": 40}
    pair.edit(kind="add_part", layer_id="tent", part=half)
    pair.edit(kind="fade_layer", layer_id="tent", fades=[])
    outline = {"kind": "outline", "width": 6, "strength": 1, "color": "#0000ff"}
    pair.edit(kind="shade_layer", layer_id="tent", effects=[outline])

    with opened(pair.made(piece="tent").data) as picture:
        shown = np.asarray(picture)

    assert shown[10, 16].tolist() == [0, 0, 255, 255]
    assert shown[10, 20, 3] == 0


@pytest.mark.parametrize(
    "wishes",
    [
        {"piece": "gone"},
        {"piece": "all"},
        {"piece": "tent", "apart": ["spring"]},
        {"piece": "tent", "format": "openraster"},
        {"piece": ""},
        {"piece": 7},
    ],
)
def test_what_cannot_be_a_piece_gets_a_sentence(
    pair: Pair, wishes: dict[str, object]
) -> None:
    pair.edit(kind="add_toning", layer_id="all", name="All")

    answer = pair.ask(**wishes)

    assert answer.status_code in {404, 409, 422}
    assert answer.get_json()["detail"]
