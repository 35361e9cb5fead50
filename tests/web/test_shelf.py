"""Pictures of the shelf say where they are used, are renamed and taken off."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING

import pytest
from PIL import Image

from tests.pictures import soft_pixels

if TYPE_CHECKING:
    from flask.testing import FlaskClient

CANVAS = {"width": 400, "height": 300, "ppi": 120, "background": "#ffffff"}


class Room:
    """A shelf and a wall, over HTTP."""

    def __init__(self, client: FlaskClient) -> None:
        self.client = client

    def bring_in(self, name: str) -> dict:
        file = io.BytesIO()
        pixels = soft_pixels(60, 40, seed=len(name))
        Image.fromarray(pixels).convert("RGB").save(file, "JPEG")
        file.seek(0)
        return self.client.post("/api/pictures", data={"file": (file, name)}).get_json()

    def begin(self, name: str) -> dict:
        body = {"name": name, "canvas": CANVAS}
        return self.client.post("/api/projects", json=body).get_json()

    def edit(self, state: dict, **edit: object) -> dict:
        body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": edit}
        answer = self.client.post(f"/api/projects/{state['id']}/edits", json=body)
        assert answer.status_code == 201, answer.get_json()
        return answer.get_json()["state"]

    def lay_on(self, state: dict, picture: dict, layer: str = "m") -> dict:
        size = {"width": picture["width"], "height": picture["height"]}
        return self.edit(
            state,
            kind="add_layer",
            layer_id=layer,
            picture=picture["id"],
            name=picture["name"],
            **size,
        )

    def stand(self, state: dict, to: str) -> dict:
        body = {"to": to, "came_from": state["head"]}
        address = f"/api/projects/{state['id']}/standing"
        return self.client.post(address, json=body).get_json()

    def change(self, picture: dict, **change: object) -> int:
        answer = self.client.patch(f"/api/pictures/{picture['id']}", json=change)
        return answer.status_code

    def shelf(self) -> dict[str, dict]:
        pictures = self.client.get("/api/pictures").get_json()["pictures"]
        return {one["name"]: one for one in pictures}

    def users_of(self, name: str) -> list[str]:
        return [use["name"] for use in self.shelf()[name]["used_in"]]


@pytest.fixture
def room(client: FlaskClient) -> Room:
    return Room(client)


def test_a_picture_says_which_projects_show_it(room: Room) -> None:
    moths, dusk = room.bring_in("moths.jpg"), room.bring_in("forest-dusk.jpg")
    poster, card = room.begin("Season poster"), room.begin("Postcard")
    poster = room.lay_on(poster, moths)
    room.lay_on(poster, moths, "again")
    room.lay_on(card, moths)

    assert room.users_of("Moths") == ["Postcard", "Season poster"]
    assert room.users_of("Forest dusk") == []
    assert dusk["used_in"] == []


def test_what_is_taken_away_or_undone_is_no_longer_used(room: Room) -> None:
    moths = room.bring_in("moths.jpg")
    begun = room.begin("Season poster")
    laid = room.lay_on(begun, moths)

    gone = room.edit(laid, kind="remove_layer", layer_id="m")
    assert room.users_of("Moths") == []
    back = room.stand(gone, laid["head"])
    assert room.users_of("Moths") == ["Season poster"]
    room.stand(back, begun["head"])
    assert room.users_of("Moths") == []


def test_copies_and_removed_projects_count_as_the_wall_shows_them(room: Room) -> None:
    poster = room.lay_on(room.begin("Season poster"), room.bring_in("moths.jpg"))
    address = f"/api/projects/{poster['id']}"

    room.client.post(f"{address}/copies", json={})
    assert room.users_of("Moths") == ["Season poster, copy", "Season poster"]
    room.client.patch(address, json={"removed": True})
    assert room.users_of("Moths") == ["Season poster, copy"]


def test_a_library_picture_is_told_with_the_shelf_once_it_is_used(room: Room) -> None:
    assert "Dawn" not in room.shelf()
    dawn = room.client.post("/api/library/dawn").get_json()
    room.lay_on(room.begin("Postcard"), dawn)

    assert room.shelf()["Dawn"]["on_shelf"] is False
    assert room.users_of("Dawn") == ["Postcard"]


def test_a_picture_is_renamed_and_layers_keep_their_names(room: Room) -> None:
    moths = room.bring_in("moths.jpg")
    poster = room.lay_on(room.begin("Season poster"), moths)

    assert room.change(moths, name="蛾 and moths") == 204

    assert list(room.shelf()) == ["蛾 and moths"]
    state = room.client.get(f"/api/projects/{poster['id']}").get_json()
    assert state["composite"]["layers"][0]["name"] == "Moths"


def test_off_the_shelf_it_stays_in_projects_and_comes_back(room: Room) -> None:
    moths = room.bring_in("moths.jpg")
    poster = room.lay_on(room.begin("Season poster"), moths)

    assert room.change(moths, on_shelf=False) == 204

    assert room.shelf() == {}
    preview = room.client.get(f"/api/projects/{poster['id']}/preview")
    assert preview.status_code == 200
    assert room.change(moths, on_shelf=True) == 204
    assert list(room.shelf()) == ["Moths"]


@pytest.mark.parametrize("name", ["", "n" * 121, 7])
def test_what_is_no_name_is_refused(room: Room, name: object) -> None:
    moths = room.bring_in("moths.jpg")

    assert room.change(moths, name=name) == 422
    assert list(room.shelf()) == ["Moths"]


def test_pictures_that_are_not_there_get_a_sentence(room: Room) -> None:
    nothing = {"id": str(uuid.uuid4())}

    assert room.change(nothing, name="Mine") == 404
    assert room.change(nothing, on_shelf=True) == 404
