"""The product's own pictures are found, and become ordinary ones when wanted."""

from __future__ import annotations

import io
import json
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from glyphaneme.services.lending import bring_from_library
from tools.make_library.gradients import dawn
from tools.make_library.ornaments import film_edge

if TYPE_CHECKING:
    from flask.testing import FlaskClient

    from glyphaneme.services.pictures import BroughtIn
    from glyphaneme.services.studio import Studio

LIBRARY = Path(__file__).parents[2] / "library"
CATALOGUE = json.loads((LIBRARY / "catalogue.json").read_text())["pictures"]
MOST_BYTES = 20_000_000


def test_the_library_is_whole_and_small_enough_to_ship() -> None:
    files = {entry["file"] for entry in CATALOGUE}

    pictures = {*LIBRARY.glob("*.jpg"), *LIBRARY.glob("*.png")}
    assert files == {path.name for path in pictures}
    assert len(files) >= 40
    assert sum(path.stat().st_size for path in LIBRARY.rglob("*.*")) < MOST_BYTES
    assert len({entry["name"] for entry in CATALOGUE}) == len(CATALOGUE)


@pytest.mark.parametrize("entry", CATALOGUE, ids=lambda entry: entry["name"])
def test_every_picture_is_what_the_catalogue_says(entry: dict) -> None:
    with Image.open(LIBRARY / entry["file"]) as image:
        assert image.size == (entry["width"], entry["height"])
        image.load()
        clear = image.mode == "RGBA" and image.getchannel("A").getextrema()[0] == 0
    assert clear == (entry["kind"] in {"Silhouettes", "Ornaments"})
    assert len(entry["words"].split()) >= 3


@pytest.mark.parametrize(
    "entry",
    [entry for entry in CATALOGUE if entry["kind"] == "Ornaments"],
    ids=lambda entry: entry["name"],
)
def test_ornaments_have_a_see_through_middle_to_put_a_picture_into(entry: dict) -> None:
    with Image.open(LIBRARY / entry["file"]) as image:
        alpha = np.asarray(image.getchannel("A"))
    height, width = alpha.shape
    about = alpha[height // 4 : -height // 4, width // 4 : -width // 4]
    assert (about == 0).mean() > 0.5
    assert (alpha > 200).mean() > 0.02


def test_the_tool_that_is_kept_paints_what_ships() -> None:
    for paint, file in ((dawn, "dawn.jpg"), (film_edge, "film-edge.png")):
        painted = np.clip(paint() * 255, 0, 255)
        with Image.open(LIBRARY / file) as image:
            shipped = np.asarray(image, np.float32)
        shows = painted[..., 3] > 0 if painted.shape[2] == 4 else ...
        assert np.abs(painted[shows] - shipped[shows]).mean() < 1


def test_pictures_come_kind_by_kind_with_thumbnails(client: FlaskClient) -> None:
    pictures = client.get("/api/library").get_json()["pictures"]

    kinds = [one["kind"] for one in pictures]
    assert kinds == sorted(kinds, key=kinds.index)
    assert {one["picture"] for one in pictures} == {None}
    thumbnail = client.get(f"/api/library/{pictures[0]['name']}/thumbnail")
    with Image.open(io.BytesIO(thumbnail.data)) as image:
        assert max(image.size) <= 208


def test_a_picture_of_the_library_becomes_an_ordinary_one_once(
    client: FlaskClient,
) -> None:
    first = client.post("/api/library/dawn").get_json()
    again = client.post("/api/library/dawn").get_json()

    assert (first["was_there"], again["was_there"]) == (False, True)
    assert first["id"] == again["id"]
    assert (first["name"], first["library"]) == ("Dawn", "dawn")
    assert first["on_shelf"] is False
    pictures = client.get("/api/library").get_json()["pictures"]
    became = {one["name"]: one["picture"] for one in pictures if one["picture"]}
    assert became == {"dawn": first["id"]}
    file = client.get(f"/api/pictures/{first['id']}/file").data
    assert file == (LIBRARY / "dawn.jpg").read_bytes()


def test_windows_that_want_it_at_the_same_moment_get_the_same(studio: Studio) -> None:
    def lend(_: int) -> BroughtIn:
        with studio.changing() as visit:
            return bring_from_library(visit, "dawn")

    with ThreadPoolExecutor(6) as windows:
        lent = list(windows.map(lend, range(6)))

    assert len({one.id for one in lent}) == 1
    assert [one.was_there for one in lent].count(False) == 1


def test_its_name_stays_and_says_why(client: FlaskClient) -> None:
    picture = client.post("/api/library/dawn").get_json()

    answer = client.patch(f"/api/pictures/{picture['id']}", json={"name": "Mine"})

    assert answer.status_code == 409
    assert "belongs to the library" in answer.get_json()["detail"]


def test_brought_in_by_hand_as_well_it_is_on_the_shelf(client: FlaskClient) -> None:
    lent = client.post("/api/library/dawn").get_json()
    with (LIBRARY / "dawn.jpg").open("rb") as file:
        body = {"file": (io.BytesIO(file.read()), "my-dawn.jpg")}
    brought = client.post("/api/pictures", data=body).get_json()

    assert brought["id"] == lent["id"]
    assert (brought["on_shelf"], brought["library"]) == (True, "dawn")


def test_brought_in_by_hand_before_it_is_the_librarys_too_once_lent(
    client: FlaskClient,
) -> None:
    body = {"file": (io.BytesIO((LIBRARY / "dawn.jpg").read_bytes()), "my-dawn.jpg")}
    brought = client.post("/api/pictures", data=body).get_json()
    assert brought["library"] is None

    lent = client.post("/api/library/dawn").get_json()

    assert (lent["id"], lent["library"]) == (brought["id"], "dawn")
    assert lent["on_shelf"] is True


@pytest.mark.parametrize(
    "name", ["none", "..%2FLICENSE", "catalogue.json", "thumbnails", "%00"]
)
def test_what_the_library_does_not_have_gets_a_sentence(
    client: FlaskClient, name: str
) -> None:
    for answer in (
        client.post(f"/api/library/{name}"),
        client.get(f"/api/library/{name}/thumbnail"),
    ):
        assert answer.status_code == 404
        assert answer.get_json()["detail"]
