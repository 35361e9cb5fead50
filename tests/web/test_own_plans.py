"""Plans of one's own over HTTP: made of a picture, kept, brought in and out."""

from __future__ import annotations

import base64
import hashlib
import io
import json
import uuid
from typing import TYPE_CHECKING, Any

import pytest

from glyphaneme.core.plans import parse_plan
from glyphaneme.store.rows import JobKind
from tests.pictures import soft_pixels
from tests.web.test_http import bring_in
from tests.web.test_plans import (
    begin_plan,
    do_all,
    file_of,
    layers_of,
    look,
    place,
    state_of,
    subject,
)

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

__all__ = ["place", "subject"]


def make(client: FlaskClient, project: str, **asked: object) -> dict[str, Any]:
    body = {"title": "For any town", **asked}
    answer = client.post(f"/api/projects/{project}/plans", json=body)
    assert answer.status_code == 201, answer.get_json()
    found: dict[str, Any] = answer.get_json()
    return found


def bring_plan(client: FlaskClient, data: bytes) -> TestResponse:
    file = (io.BytesIO(data), "plan.json")
    return client.post("/api/plans", data={"file": file})


def offer_of(client: FlaskClient, name: str) -> dict[str, Any]:
    plans = client.get("/api/plans").get_json()["plans"]
    return next(plan for plan in plans if plan["name"] == name)


@pytest.fixture
def poster(
    client: FlaskClient, studio: Studio, subject: str, place: str
) -> dict[str, Any]:
    """Begin a double exposure, cut out by now."""
    photos = {"somebody": [subject], "place": [place]}
    look(client, "double-exposure", photos=photos)
    do_all(client, studio, JobKind.CUT_OUT)
    return begin_plan(client, "double-exposure", photos=photos)


def edit(client: FlaskClient, state: dict[str, Any], **said: object) -> dict[str, Any]:
    body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": said}
    answer = client.post(f"/api/projects/{state['id']}/edits", json=body)
    assert answer.status_code == 201, answer.get_json()
    after: dict[str, Any] = answer.get_json()["state"]
    return after


def test_a_plan_of_a_plan_s_picture_makes_the_same_picture(
    client: FlaskClient, poster: dict[str, Any], subject: str, place: str
) -> None:
    slots = [
        {"picture": subject, "title": "Somebody", "suits": "On a plain wall"},
        {"picture": place, "title": "A place"},
    ]

    plan = make(client, poster["id"], slots=slots)

    offer = offer_of(client, plan["name"])
    assert offer["is_own"]
    assert offer["sentence"] == "For any town with {somebody} and {a-place}."
    assert offer["slots"][0]["suits"] == "On a plain wall"
    assert [step["facet"] for step in offer["steps"]] == ["cut"]
    photos = {"somebody": [subject], "a-place": [place]}
    again = begin_plan(client, plan["name"], photos=photos)
    assert again["composite"] == poster["composite"]
    example = client.get(f"/api/plans/{plan['name']}/example")
    assert example.content_type == "image/jpeg"


def test_another_photo_is_cut_out_in_the_same_way_and_all_else_stays(
    client: FlaskClient, poster: dict[str, Any], subject: str
) -> None:
    plan = make(client, poster["id"], slots=[{"picture": subject, "title": "Somebody"}])
    other = bring_in(client, file_of(soft_pixels(300, 300, seed=4)), "o.png")
    photos = {"somebody": [other.get_json()["id"]]}

    sought = look(client, plan["name"], photos=photos)["sought"]
    state = begin_plan(client, plan["name"], photos=photos)

    assert [one["what"] for one in sought] == ["outline"]
    before, after = layers_of(poster), layers_of(state)
    assert after["somebody"]["picture"] == photos["somebody"][0]
    assert after["somebody"]["tones"] == before["somebody"]["tones"]
    for layer in ("place", "wash"):
        assert after[layer] == before[layer]


def test_groups_words_and_masks_travel_with_a_plan(
    client: FlaskClient, poster: dict[str, Any], subject: str
) -> None:
    state = edit(
        client,
        poster,
        kind="group_layers",
        group_id="both",
        name="Both",
        layer_ids=["somebody", "place"],
    )
    state = edit(
        client,
        state,
        kind="place_layer",
        layer_id="both",
        placement={"x": 900, "y": 1300, "scale_x": 0.5, "scale_y": 0.5, "turn": 12},
    )
    part = {"kind": "layer", "id": "held", "layer_id": "both"}
    state = edit(client, state, kind="add_part", layer_id="wash", part=part)

    plan = make(client, state["id"], slots=[{"picture": subject, "title": "Somebody"}])

    again = begin_plan(client, plan["name"], photos={"somebody": [subject]})
    assert again["composite"] == state["composite"]


def test_masks_follow_layers_that_a_plan_calls_otherwise(
    client: FlaskClient, poster: dict[str, Any], subject: str
) -> None:
    group = {"group_id": "B0A9-Q", "name": "Both", "layer_ids": ["somebody", "place"]}
    state = edit(client, poster, kind="group_layers", **group)
    part = {"kind": "layer", "id": "held", "layer_id": "B0A9-Q"}
    state = edit(client, state, kind="add_part", layer_id="wash", part=part)

    plan = make(client, state["id"], slots=[{"picture": subject, "title": "Somebody"}])

    again = layers_of(begin_plan(client, plan["name"], photos={"somebody": [subject]}))
    assert again["wash"]["mask"]["parts"][0]["layer_id"] == "both"
    assert [one["id"] for one in again["both"]["layers"]] == ["somebody", "place"]


def test_words_of_a_plan_can_be_said_anew(client: FlaskClient, place: str) -> None:
    state = begin_plan(client, "postcard", photos={"photo": [place]})
    plan = make(client, state["id"], slots=[{"picture": place, "title": "Photo"}])
    offer = offer_of(client, plan["name"])
    name = offer["words"][0]["name"]

    photos = {"photo": [place]}
    same = begin_plan(client, plan["name"], photos=photos)
    other = begin_plan(client, plan["name"], photos=photos, words={name: "Ahoy"})

    assert same["composite"] == state["composite"]
    texts = [
        layer["words"]["setting"]["text"]
        for layer in other["composite"]["layers"]
        if layer["kind"] == "words"
    ]
    assert "Ahoy" in texts


def test_a_plan_file_travels_to_another_home_with_what_stays_in_it(
    client: FlaskClient, poster: dict[str, Any], subject: str, place: str
) -> None:
    plan = make(client, poster["id"], slots=[{"picture": place, "title": "Place"}])
    answer = client.get(f"/api/plans/{plan['name']}/file")
    packed = json.loads(answer.data)
    assert answer.headers["Content-Disposition"].endswith('"for-any-town.json"')
    original = client.get(f"/api/pictures/{subject}/file").data
    named = hashlib.sha256(original).hexdigest()
    assert base64.b64decode(packed["files"][named]) == original
    client.delete(f"/api/plans/{plan['name']}")

    brought = bring_plan(client, answer.data)

    assert brought.status_code == 201, brought.get_json()
    assert brought.get_json() == plan
    again = begin_plan(client, plan["name"], photos={"place": [place]})
    assert again["composite"] == poster["composite"]
    # Brought in once more it is another plan beside the first.
    other = bring_plan(client, answer.data).get_json()
    assert other["name"] == "for-any-town-2"


def test_the_plan_s_file_is_a_plan_for_whoever_reads_it(
    client: FlaskClient, poster: dict[str, Any], subject: str, place: str
) -> None:
    slots = [
        {"picture": subject, "title": "Somebody"},
        {"picture": place, "title": "Place"},
    ]
    plan = make(client, poster["id"], slots=slots)

    data = client.get(f"/api/plans/{plan['name']}/file").data

    assert "files" not in json.loads(data)
    assert parse_plan(data).name == plan["name"]
    shipped = client.get("/api/plans/melting/file").data
    assert parse_plan(shipped).title == "Photos that melt into one another"


DAMAGE = {
    "no JSON": lambda _: b"\xff\xd8\xff\xe0",
    "no plan": lambda _: b"[]",
    "a newer one": lambda value: value | {"glyphaneme_plan": 2},
    "another file": lambda value: (
        value | {"files": dict.fromkeys(value["files"], "AAAA")}
    ),
    "a missing picture": lambda value: (
        value | {"files": {}, "pictures": dict.fromkeys(value["pictures"], "0" * 64)}
    ),
    "no Base64": lambda value: value | {"files": dict.fromkeys(value["files"], "?")},
    "a bad stroke": lambda value: value | {"strokes": [{}]},
    "unknown things": lambda value: value | {"run": "rm"},
    "not a list": lambda value: value | {"layers": {"a": 1}},
}


@pytest.mark.parametrize("damage", DAMAGE)
def test_damaged_plan_files_are_refused_with_a_sentence_and_leave_nothing(
    client: FlaskClient, poster: dict[str, Any], place: str, damage: str
) -> None:
    plan = make(client, poster["id"], slots=[{"picture": place, "title": "Place"}])
    value = json.loads(client.get(f"/api/plans/{plan['name']}/file").data)
    broken = DAMAGE[damage](value)
    data = broken if isinstance(broken, bytes) else json.dumps(broken).encode()

    answer = bring_plan(client, data)

    assert answer.status_code in {409, 415, 422}, answer.get_json()
    assert "plan" in answer.get_json()["detail"]
    own = [one for one in client.get("/api/plans").get_json()["plans"] if one["is_own"]]
    assert [one["name"] for one in own] == [plan["name"]]


def test_plans_that_ship_cannot_be_taken_away(client: FlaskClient) -> None:
    assert client.delete("/api/plans/melting").status_code == 404
    assert client.delete("/api/plans/nothing").status_code == 404


def test_a_photo_that_the_picture_does_not_show_is_no_slot(
    client: FlaskClient, poster: dict[str, Any]
) -> None:
    slots = [{"picture": str(uuid.uuid4()), "title": "Somebody"}]

    answer = client.post(
        f"/api/projects/{poster['id']}/plans", json={"title": "X", "slots": slots}
    )

    assert answer.status_code == 404


def test_names_in_another_script_and_alike_are_told_apart(
    client: FlaskClient, poster: dict[str, Any], subject: str, place: str
) -> None:
    slots = [
        {"picture": subject, "title": "灯"},
        {"picture": place, "title": "灯"},
    ]

    plan = make(client, poster["id"], title="灯火", slots=slots)

    offer = offer_of(client, plan["name"])
    assert plan == {"name": "plan", "title": "灯火"}
    assert [slot["name"] for slot in offer["slots"]] == ["photo", "photo-2"]


def test_a_kept_plan_goes_on_when_its_picture_has_changed(
    client: FlaskClient, poster: dict[str, Any], place: str
) -> None:
    slots = [{"picture": place, "title": "Place"}]
    plan = make(client, poster["id"], slots=slots)
    edit(client, poster, kind="remove_layer", layer_id="somebody")

    state = begin_plan(client, plan["name"], photos={"place": [place]})

    assert set(layers_of(state)) == {"somebody", "place", "wash"}
    assert state_of(client, poster["id"])["head"] != poster["head"]
