"""Many pictures by one plan: made, failing one by one, paused, killed, gathered."""

from __future__ import annotations

import io
import uuid
import zipfile
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image

from glyphaneme.services.plans import batching
from glyphaneme.services.working import run_job
from tests.pictures import soft_pixels
from tests.web.test_http import bring_in
from tests.web.test_plans import file_of, layers_of, state_of, subject

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

__all__ = ["subject"]
GONE = str(uuid.UUID(int=7))


@pytest.fixture
def photos(client: FlaskClient) -> list[str]:
    found = []
    for seed in range(3):
        data = file_of(soft_pixels(80, 60, seed=seed))
        found.append(bring_in(client, data, f"photo-{seed}.png").get_json()["id"])
    return found


def item(name: str, picture: str, slot: str = "photo", **more: Any) -> dict[str, Any]:
    return {"name": name, "filling": {"photos": {slot: [picture]}, **more}}


def begin_batch(
    client: FlaskClient, plan: str, items: list[dict[str, Any]], **how: object
) -> str:
    body = {"id": str(uuid.uuid4()), "items": items, **how}
    answer = client.post(f"/api/plans/{plan}/batches", json=body)
    assert answer.status_code == 202, answer.get_json()
    return str(body["id"])


def batch_of(client: FlaskClient, batch: str, start: int = 0) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/api/batches/{batch}?start={start}").get_json()
    return found


def work_on(studio: Studio, batch: str) -> None:
    run_job(studio, uuid.UUID(batch), batching.make_batch)


def wall(client: FlaskClient) -> list[str]:
    cards = client.get("/api/projects").get_json()["projects"]
    return sorted(card["name"] for card in cards)


def test_each_photo_becomes_a_picture_on_the_wall(
    client: FlaskClient, studio: Studio, photos: list[str]
) -> None:
    items = [item(f"Card {n}", one) for n, one in enumerate(photos)]

    batch = begin_batch(client, "postcard", items)
    work_on(studio, batch)

    found = batch_of(client, batch)
    assert (found["job"]["state"], found["made"], found["failed"]) == ("done", 3, 0)
    assert wall(client) == ["Card 0", "Card 1", "Card 2"]
    made = {one["name"]: one["project_id"] for one in found["items"]}
    state = state_of(client, made["Card 1"])
    assert layers_of(state)["photo"]["picture"] == photos[1]
    assert state["plan"] == {"name": "postcard", "title": "A postcard with words"}


def test_words_and_choices_come_row_by_row(
    client: FlaskClient, studio: Studio, photos: list[str]
) -> None:
    items = [
        item(name, photos[0], words={"greeting": name}) for name in ("Hallo", "你好")
    ]

    batch = begin_batch(client, "postcard", items)
    work_on(studio, batch)

    made = [one["project_id"] for one in batch_of(client, batch)["items"]]
    texts = [
        layers_of(state_of(client, one))["greeting"]["words"]["setting"]["text"]
        for one in made
    ]
    assert texts == ["Hallo", "你好"]


def test_what_fails_is_told_first_and_stops_no_other(
    client: FlaskClient, studio: Studio, photos: list[str]
) -> None:
    items = [
        item("First", photos[0]),
        item("Gone", GONE),
        {"name": "Empty", "filling": {}},
        item("Last", photos[1]),
    ]

    batch = begin_batch(client, "postcard", items)
    work_on(studio, batch)

    found = batch_of(client, batch)
    assert (found["made"], found["failed"]) == (2, 2)
    assert [one["name"] for one in found["items"]] == ["Gone", "Empty", "First", "Last"]
    assert "no such photo" in found["items"][0]["said"]
    assert "no photo yet" in found["items"][1]["said"]
    assert wall(client) == ["First", "Last"]


def test_doubtful_cut_outs_come_before_sure_ones(
    client: FlaskClient, studio: Studio, subject: str
) -> None:
    plain = np.full((60, 80, 3), (0, 0, 200), np.uint8)
    sky = bring_in(client, file_of(plain), "sky.png").get_json()["id"]
    items = [item("Disk", subject, "product"), item("Sky", sky, "product")]

    batch = begin_batch(client, "product-on-white", items)
    work_on(studio, batch)

    found = batch_of(client, batch)
    assert [one["name"] for one in found["items"]] == ["Sky", "Disk"]
    assert (found["made"], found["doubtful"]) == (2, 1)
    assert found["items"][0]["is_doubtful"]
    assert "Sky" in found["items"][0]["said"]
    assert not found["items"][1]["is_doubtful"]


def test_files_of_a_purpose_come_in_one_zip(
    client: FlaskClient, studio: Studio, photos: list[str]
) -> None:
    items = [item("Same", photos[0]), item("Same", photos[1]), item("Gone", GONE)]
    settings = {"format": "png", "size": {"by": "width", "width": 40}}

    batch = begin_batch(client, "postcard", items, keep="files", settings=settings)
    work_on(studio, batch)

    answer = client.get(f"/api/exports/{batch}/file")
    assert answer.content_type == "application/zip"
    assert "a-postcard-with-words.zip" in answer.headers["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(answer.data)) as pack:
        assert pack.namelist() == ["same.png", "same-2.png"]
        assert Image.open(pack.open("same.png")).width == 40
    assert wall(client) == []


def test_a_batch_of_which_nothing_can_be_made_ends_without_a_file(
    client: FlaskClient, studio: Studio
) -> None:
    batch = begin_batch(client, "postcard", [item("Gone", GONE)], keep="files")
    work_on(studio, batch)

    found = batch_of(client, batch)
    assert (found["job"]["state"], found["failed"]) == ("done", 1)
    assert client.get(f"/api/exports/{batch}/file").status_code == 404


def test_a_batch_counts_once_for_an_id(client: FlaskClient, photos: list[str]) -> None:
    body = {"id": str(uuid.uuid4()), "items": [item("One", photos[0])]}

    answers = [client.post("/api/plans/postcard/batches", json=body) for _ in range(2)]
    items = [item("Two", photos[0])]
    others = [
        client.post("/api/plans/melting/batches", json=body),
        client.post("/api/plans/postcard/batches", json={**body, "items": items}),
    ]

    assert [one.status_code for one in answers] == [202, 202]
    assert [one.status_code for one in others] == [409, 409]
    assert batch_of(client, body["id"])["count"] == 1


def test_it_rests_and_goes_on_where_it_was(
    client: FlaskClient,
    studio: Studio,
    photos: list[str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    items = [item(f"Card {n}", one) for n, one in enumerate(photos)]
    batch = begin_batch(client, "postcard", items)
    real = batching.begin_from_plan

    def pausing(*args: Any, **how: Any) -> Any:
        client.patch(f"/api/batches/{batch}", json={"paused": True})
        return real(*args, **how)

    with monkeypatch.context() as patched:
        patched.setattr(batching, "begin_from_plan", pausing)
        work_on(studio, batch)
    resting = batch_of(client, batch)
    work_on(studio, batch)
    still = batch_of(client, batch)
    client.patch(f"/api/batches/{batch}", json={"paused": False})
    work_on(studio, batch)

    assert (resting["job"]["state"], resting["made"]) == ("paused", 1)
    assert still == resting
    assert batch_of(client, batch)["made"] == 3
    assert wall(client) == ["Card 0", "Card 1", "Card 2"]


@pytest.mark.parametrize("paused", [False, True])
def test_it_can_be_stopped_and_what_was_made_stays(
    client: FlaskClient, studio: Studio, photos: list[str], *, paused: bool
) -> None:
    batch = begin_batch(client, "postcard", [item("One", photos[0])])
    if paused:
        client.patch(f"/api/batches/{batch}", json={"paused": True})

    client.delete(f"/api/jobs/{batch}")
    work_on(studio, batch)

    assert batch_of(client, batch)["job"]["state"] == "cancelled"
    client.patch(f"/api/batches/{batch}", json={"paused": False})
    assert batch_of(client, batch)["job"]["state"] == "cancelled"
    assert wall(client) == []


def test_killed_half_way_it_goes_on_and_makes_none_twice(
    client: FlaskClient,
    studio: Studio,
    photos: list[str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    items = [item(f"Card {n}", one) for n, one in enumerate(photos)]
    batch = begin_batch(client, "postcard", items)
    real = batching.batches_store.end_item
    left = [1]

    def dying(*args: Any, **how: Any) -> None:
        left[0] -= 1
        if left[0] < 0:
            raise KeyboardInterrupt
        real(*args, **how)

    with monkeypatch.context() as patched:
        patched.setattr(batching.batches_store, "end_item", dying)
        with pytest.raises(KeyboardInterrupt):
            work_on(studio, batch)
    work_on(studio, batch)

    assert batch_of(client, batch)["made"] == 3
    assert wall(client) == ["Card 0", "Card 1", "Card 2"]


def test_a_picture_that_kills_its_worker_is_left_out_in_the_end(
    client: FlaskClient,
    studio: Studio,
    photos: list[str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    items = [item("Deadly", photos[0]), item("Harmless", photos[1])]
    batch = begin_batch(client, "postcard", items)
    real = batching.found_whole

    def deadly(studio: Studio, plan: Any, filling: Any, progress: Any) -> Any:
        if filling.name == "Deadly":
            raise KeyboardInterrupt
        return real(studio, plan, filling, progress)

    monkeypatch.setattr(batching, "found_whole", deadly)
    for _ in range(3):
        with pytest.raises(KeyboardInterrupt):
            work_on(studio, batch)
    work_on(studio, batch)

    found = batch_of(client, batch)
    assert [(one["name"], one["state"]) for one in found["items"]] == [
        ("Deadly", "failed"),
        ("Harmless", "made"),
    ]


def test_ten_thousand_rows_are_taken_and_shown_page_by_page(
    client: FlaskClient, photos: list[str]
) -> None:
    items = [item(f"Card {n}", photos[0]) for n in range(10_000)]

    batch = begin_batch(client, "postcard", items)
    more = {"items": [*items, items[0]]}
    beyond = client.post("/api/plans/postcard/batches", json=more)

    assert beyond.status_code == 422
    first, later = batch_of(client, batch), batch_of(client, batch, 9_950)
    assert (first["count"], len(first["items"])) == (10_000, 100)
    assert [one["number"] for one in later["items"]][-1] == 10_000
    assert client.get("/api/batches").get_json()["batches"][0]["items"] == []


def test_what_is_no_batch_is_refused(client: FlaskClient, photos: list[str]) -> None:
    assert client.get(f"/api/batches/{GONE}").status_code == 404
    for change in ({"paused": True}, {"paused": False}):
        answer = client.patch(f"/api/batches/{GONE}", json=change)
        assert answer.status_code == 404
    for body in ({"items": []}, {"items": [item("", photos[0])]}):
        answer = client.post("/api/plans/postcard/batches", json=body)
        assert answer.status_code == 422
    answer = client.post(
        "/api/plans/nothing/batches", json={"items": [item("A", GONE)]}
    )
    assert answer.status_code == 404


def bring_table(
    client: FlaskClient, data: bytes, plan: str = "postcard"
) -> TestResponse:
    file = (io.BytesIO(data), "table.csv")
    return client.post(f"/api/plans/{plan}/table", data={"file": file})


SAID = 'name,photo,greeting\nAnna,a.jpg,"Ahoy, ""Anna"""\n,,\n灯,b.png,line 1\n'
TABLES = {
    "plain": SAID.encode(),
    "byte-order mark": SAID.encode("utf-8-sig"),
    "UTF-16": SAID.encode("utf-16"),
    "semicolons": (
        'name;photo;greeting\nAnna;a.jpg;"Ahoy, ""Anna"""\n灯;b.png;line 1\n'
    ).encode(),
    "other line ends": SAID.replace("\n", "\r\n").encode(),
}


@pytest.mark.parametrize("table", TABLES)
def test_tables_are_read_as_people_save_them(client: FlaskClient, table: str) -> None:
    answer = bring_table(client, TABLES[table])

    rows = answer.get_json()["rows"]
    assert [(row["name"], row["files"]["photo"], row["words"]) for row in rows] == [
        ("Anna", ["a.jpg"], {"greeting": 'Ahoy, "Anna"'}),
        ("灯", ["b.png"], {"greeting": "line 1"}),
    ]


def test_a_slot_of_several_takes_several_files_of_a_cell(client: FlaskClient) -> None:
    answer = bring_table(client, b"photos\na.jpg | b.jpg|c.jpg\n", "grid")

    (row,) = answer.get_json()["rows"]
    assert row["files"]["photos"] == ["a.jpg", "b.jpg", "c.jpg"]


BAD = {
    b"": "empty",
    b"name,photo\n": "no rows",
    b"name,picture\na,b\n": "“picture”",
    b"photo,photo\na,b\n": "twice",
    b"photo,greeting\na,b,c\n": "Row 2 has 3 cells",
    b"\x00\x01\x02": "no text",
    b"photo,greeting\na," + b"x" * 20_001 + b"\n": "Row 2 has more than 20000",
    b"photo\n" + b"a.jpg\n" * 10_001: "more than 10000 rows",
}


@pytest.mark.parametrize("data", BAD)
def test_what_is_no_table_for_the_plan_is_refused_with_a_sentence(
    client: FlaskClient, data: bytes
) -> None:
    answer = bring_table(client, data)

    assert answer.status_code == 422
    assert BAD[data] in answer.get_json()["detail"]
