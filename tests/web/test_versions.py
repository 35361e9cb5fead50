"""Moments get names, hang behind the print, and become pictures of their own."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING

import pytest

from glyphaneme.services import versions

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

CANVAS = {"width": 400, "height": 300, "ppi": 120, "background": "#ffffff"}


class Picture:
    """One project over HTTP, whose canvas gets other widths."""

    def __init__(self, client: FlaskClient, name: str = "Season poster") -> None:
        self.client = client
        state = client.post("/api/projects", json={"name": name, "canvas": CANVAS})
        self.id = state.get_json()["id"]
        self.root = state.get_json()["head"]

    def widen(self, width: int, *, on: str) -> str:
        key = str(uuid.uuid4())
        edit = {"kind": "set_canvas", "canvas": {**CANVAS, "width": width}}
        body = {"key": key, "parent": on, "edit": edit}
        answer = self.client.post(f"/api/projects/{self.id}/edits", json=body)
        assert answer.status_code == 201, answer.get_json()
        return key

    def stand(self, to: str, came_from: str) -> None:
        body = {"to": to, "came_from": came_from}
        self.client.post(f"/api/projects/{self.id}/standing", json=body)

    def call(self, moment: str, name: object) -> TestResponse:
        address = f"/api/projects/{self.id}/versions/{moment}"
        return self.client.put(address, json={"name": name})

    def forget(self, moment: str) -> TestResponse:
        return self.client.delete(f"/api/projects/{self.id}/versions/{moment}")

    def copy(self, **wishes: object) -> TestResponse:
        return self.client.post(f"/api/projects/{self.id}/copies", json=wishes)

    def versions(self) -> list[dict]:
        answer = self.client.get(f"/api/projects/{self.id}/versions")
        return answer.get_json()["versions"]

    def history(self) -> dict:
        return self.client.get(f"/api/projects/{self.id}/history").get_json()

    def card(self) -> dict:
        cards = self.client.get("/api/projects").get_json()["projects"]
        return next(card for card in cards if card["id"] == self.id)


@pytest.fixture
def picture(client: FlaskClient) -> Picture:
    return Picture(client)


def test_named_moments_are_told_newest_first_with_their_proportions(
    picture: Picture,
) -> None:
    wide = picture.widen(500, on=picture.root)
    wider = picture.widen(600, on=wide)

    assert picture.call(wide, "Without the moths").status_code == 204
    assert picture.call(wider, "Ночь 灯").status_code == 204

    told = [
        (one["revision"], one["name"], one["width"], one["height"])
        for one in picture.versions()
    ]
    assert told == [
        (wider, "Ночь 灯", 600, 300),
        (wide, "Without the moths", 500, 300),
    ]
    assert picture.card()["versions"] == ["Ночь 灯", "Without the moths"]
    names = [tick["name"] for tick in picture.history()["ticks"]]
    assert names == [None, "Without the moths", "Ночь 灯"]


def test_a_moment_has_one_name_that_may_change_and_go(picture: Picture) -> None:
    picture.call(picture.root, "Bare")
    picture.call(picture.root, "Bare sheet")

    assert [one["name"] for one in picture.versions()] == ["Bare sheet"]
    assert picture.forget(picture.root).status_code == 204
    assert picture.forget(picture.root).status_code == 204
    assert picture.versions() == []
    assert [tick["id"] for tick in picture.history()["ticks"]] == [picture.root]


def test_naming_moves_nothing_and_tells_other_windows(picture: Picture) -> None:
    address = f"/api/projects/{picture.id}"
    before = picture.client.get(address).get_json()
    picture.call(picture.root, "Bare")
    after = picture.client.get(address).get_json()

    assert after["changes"] == before["changes"] + 1
    assert {**after, "changes": 0} == {**before, "changes": 0}


@pytest.mark.parametrize("name", ["", "n" * 121, None, 7])
def test_what_is_no_name_is_refused_with_a_sentence(
    picture: Picture, name: object
) -> None:
    answer = picture.call(picture.root, name)

    assert answer.status_code == 422
    assert answer.get_json()["detail"]
    assert picture.versions() == []


def test_only_moments_of_this_very_picture_get_names(picture: Picture) -> None:
    other = Picture(picture.client, "Postcard")

    for moment in (other.root, str(uuid.uuid4())):
        assert picture.call(moment, "Mine").status_code == 404
        assert picture.forget(moment).status_code == 404
        assert picture.copy(revision=moment).status_code == 404
    assert other.versions() == picture.versions() == []


def test_more_names_than_are_kept_are_refused_but_not_other_words_for_one(
    picture: Picture, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(versions, "MAX_VERSIONS", 2)
    wide = picture.widen(500, on=picture.root)
    wider = picture.widen(600, on=wide)
    picture.call(picture.root, "One")
    picture.call(wide, "Two")

    refused = picture.call(wider, "Three")

    assert refused.status_code == 409
    assert "forget a name" in refused.get_json()["detail"]
    assert picture.call(wide, "Second").status_code == 204
    picture.forget(picture.root)
    assert picture.call(wider, "Third").status_code == 204
    assert {one["name"] for one in picture.versions()} == {"Second", "Third"}


def test_a_version_becomes_a_picture_of_its_own(picture: Picture) -> None:
    wide = picture.widen(500, on=picture.root)
    picture.widen(600, on=wide)
    picture.call(wide, "Narrow")

    copy = picture.copy(revision=wide).get_json()

    assert copy["name"] == "Season poster, Narrow"
    assert copy["composite"]["canvas"]["width"] == 500
    assert copy["undo_to"] is None
    address = f"/api/projects/{copy['id']}/history"
    history = picture.client.get(address).get_json()
    assert [tick["label"] for tick in history["ticks"]] == ["Begun from Season poster"]
    body = {"key": str(uuid.uuid4()), "parent": copy["head"]}
    body["edit"] = {"kind": "set_canvas", "canvas": {**CANVAS, "width": 90}}
    picture.client.post(f"/api/projects/{copy['id']}/edits", json=body)
    assert len(picture.history()["ticks"]) == 3


def test_a_copy_is_made_of_how_it_stands_and_once_for_an_id(picture: Picture) -> None:
    picture.widen(500, on=picture.root)
    wishes = {"id": str(uuid.uuid4())}

    first = picture.copy(**wishes).get_json()
    again = picture.copy(**wishes).get_json()

    assert first == again
    assert first["id"] == wishes["id"]
    assert first["name"] == "Season poster, copy"
    assert first["composite"]["canvas"]["width"] == 500
    assert len(picture.client.get("/api/projects").get_json()["projects"]) == 2


def test_an_id_that_another_picture_has_is_not_answered_with_that(
    client: FlaskClient, picture: Picture
) -> None:
    other = Picture(client, "Ticket")
    copied = picture.copy(id=str(uuid.uuid4())).get_json()
    wide = picture.widen(500, on=picture.root)

    for taken in (other.id, copied["id"]):
        answer = picture.copy(id=taken, revision=wide)
        assert answer.status_code == 409, answer.get_json()
    assert picture.copy(id=copied["id"]).get_json() == copied


def test_joined_names_stay_within_what_a_name_may_be(client: FlaskClient) -> None:
    picture = Picture(client, "p" * 120)
    picture.call(picture.root, "v" * 100)

    name = picture.copy(revision=picture.root).get_json()["name"]

    assert name == f"{'p' * 18}, {'v' * 100}"
    picture.call(picture.root, "v" * 120)
    assert len(picture.copy(revision=picture.root).get_json()["name"]) == 120


def test_a_removed_picture_has_no_versions_to_tell(picture: Picture) -> None:
    picture.call(picture.root, "Bare")
    picture.client.patch(f"/api/projects/{picture.id}", json={"removed": True})

    gone = picture.client.get(f"/api/projects/{picture.id}/versions")
    assert gone.status_code == 404
    assert picture.copy().status_code == 404
    picture.client.patch(f"/api/projects/{picture.id}", json={"removed": False})
    assert [one["name"] for one in picture.versions()] == ["Bare"]


def test_other_ways_say_where_they_leave_this_one(picture: Picture) -> None:
    first = picture.widen(500, on=picture.root)
    second = picture.widen(600, on=first)
    third = picture.widen(700, on=second)
    picture.stand(first, third)
    other = picture.widen(800, on=first)
    picture.call(third, "Wide")

    history = picture.history()

    assert [tick["id"] for tick in history["ticks"]] == [picture.root, first, other]
    ways = [
        (way["id"], way["leaves_at"], way["edits"], way["name"])
        for way in history["other_ways"]
    ]
    assert ways == [(third, first, 2, "Wide")]
    assert picture.card()["ways"] == 2
