from __future__ import annotations

import base64
import io
import json
import shutil
import uuid
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image
from sqlalchemy import text

from glyphaneme.services.file_making import make_file
from glyphaneme.services.reading_in import read_in
from glyphaneme.services.working import run_job
from tests.pictures import psnr, soft_pixels

if TYPE_CHECKING:
    from pathlib import Path

    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

CANVAS = {"width": 400, "height": 300, "ppi": 120, "background": "#ffffff"}


def jpeg(width: int = 400, height: int = 300) -> bytes:
    file = io.BytesIO()
    image = Image.fromarray(soft_pixels(width, height, seed=width)).convert("RGB")
    image.save(file, "JPEG", quality=97)
    return file.getvalue()


def bring_in(
    client: FlaskClient, data: bytes, name: str = "moths-on-white.jpg"
) -> TestResponse:
    return client.post("/api/pictures", data={"file": (io.BytesIO(data), name)})


def begin(client: FlaskClient, **canvas: object) -> dict:
    body = {"name": "Season poster", "canvas": {**CANVAS, **canvas}}
    return client.post("/api/projects", json=body).get_json()


def laying_on(
    client: FlaskClient, project: dict, picture: dict, **more: object
) -> TestResponse:
    edit = {
        "kind": "add_layer",
        "layer_id": "m",
        "picture": picture["id"],
        "name": "Moths",
        "width": picture["width"],
        "height": picture["height"],
        **more,
    }
    body = {"key": str(uuid.uuid4()), "parent": project["head"], "edit": edit}
    return client.post(f"/api/projects/{project['id']}/edits", json=body)


def lay_on(client: FlaskClient, project: dict, picture: dict) -> dict:
    answer = laying_on(client, project, picture)
    assert answer.status_code == 201, answer.get_json()
    return answer.get_json()["state"]


def rows_and_files(studio: Studio) -> tuple[int, int]:
    tables = ("blob", "blob_piece", "picture", "job")
    with studio.sessions() as session:
        rows = sum(
            session.scalar(text(f"SELECT count(*) FROM {name}")) for name in tables
        )
    return rows, sum(path.is_file() for path in studio.shelf._folder.rglob("*"))


def test_picture_is_brought_in_and_named_after_its_file(client: FlaskClient) -> None:
    answer = bring_in(client, jpeg())

    body = answer.get_json()
    assert answer.status_code == 201
    assert (body["name"], body["width"], body["height"]) == ("Moths on white", 400, 300)
    assert client.get(f"/api/pictures/{body['id']}").get_json()["ready"] is False


def test_same_bytes_are_one_picture(client: FlaskClient) -> None:
    first = bring_in(client, jpeg()).get_json()
    second = bring_in(client, jpeg(), "another name.jpg").get_json()

    assert second["id"] == first["id"]
    assert second["was_there"] is True
    assert len(client.get("/api/pictures").get_json()["pictures"]) == 1


def test_original_file_comes_back_byte_for_byte(client: FlaskClient) -> None:
    picture = bring_in(client, jpeg()).get_json()

    answer = client.get(f"/api/pictures/{picture['id']}/file")

    assert answer.data == jpeg()
    assert answer.content_type == "image/jpeg"
    assert answer.content_length == len(jpeg())


def test_reading_in_makes_the_picture_ready_with_a_thumbnail(
    client: FlaskClient, studio: Studio
) -> None:
    picture = bring_in(client, jpeg()).get_json()

    run_job(studio, uuid.UUID(picture["job_id"]), read_in)

    assert client.get(f"/api/pictures/{picture['id']}").get_json()["ready"] is True
    job = client.get(f"/api/jobs/{picture['job_id']}").get_json()
    assert (job["state"], job["progress"]) == ("done", 1)
    thumbnail = client.get(f"/api/pictures/{picture['id']}/thumbnail")
    assert Image.open(io.BytesIO(thumbnail.data)).size == (320, 240)


@pytest.mark.parametrize(
    ("data", "name", "status", "words"),
    [
        (b"", "empty.jpg", 415, "empty"),
        (b"only words", "letter.jpg", 415, "not a picture of a kind"),
        (jpeg()[:9000], "cut.jpg", 415, "cut short"),
        (jpeg(), "\u200b\x07", 422, "without a name"),
    ],
)
def test_bad_file_is_refused_with_its_reason_and_leaves_nothing_behind(
    client: FlaskClient, studio: Studio, data: bytes, name: str, status: int, words: str
) -> None:
    answer = bring_in(client, data, name)

    assert answer.status_code == status
    assert answer.content_type == "application/problem+json"
    assert words in answer.get_json()["detail"]
    assert rows_and_files(studio) == (0, 0)


def test_file_with_a_name_of_no_bytes_is_refused(
    client: FlaskClient, studio: Studio
) -> None:
    body = (
        b'--x\r\nContent-Disposition: form-data; name="file"; filename=""\r\n'
        b"Content-Type: image/jpeg\r\n\r\n" + jpeg() + b"\r\n--x--\r\n"
    )

    answer = client.post(
        "/api/pictures", data=body, content_type="multipart/form-data; boundary=x"
    )

    assert answer.status_code == 422
    assert "name" in answer.get_json()["detail"]
    assert rows_and_files(studio) == (0, 0)


def test_project_begins_once_however_often_it_is_asked_for(client: FlaskClient) -> None:
    body = {"id": str(uuid.uuid4()), "name": "Postcard", "canvas": CANVAS}

    first = client.post("/api/projects", json=body)
    second = client.post("/api/projects", json=body)

    assert first.status_code == second.status_code == 201
    assert first.get_json() == second.get_json()
    assert len(client.get("/api/projects").get_json()["projects"]) == 1


@pytest.mark.parametrize(
    "other", [{"name": "Poster"}, {"canvas": {**CANVAS, "width": 77}}]
)
def test_id_that_another_picture_has_begins_nothing(
    client: FlaskClient, other: dict
) -> None:
    body = {"id": str(uuid.uuid4()), "name": "Postcard", "canvas": CANVAS}
    client.post("/api/projects", json=body)

    answer = client.post("/api/projects", json={**body, **other})

    assert answer.status_code == 409
    assert "new key" in answer.get_json()["detail"]


def test_state_carries_composite_and_sentences(client: FlaskClient) -> None:
    project = begin(client)

    state = lay_on(client, project, bring_in(client, jpeg()).get_json())

    said = "".join(part["text"] for part in state["sentences"][0]["parts"])
    assert said == "Moths, filling the picture, shown plainly."
    assert state["undo_to"] == project["head"]
    sheet = "".join(part["text"] for part in state["sheet"])
    assert (
        sheet == "The sheet, white, 400 × 300 px, printing 8.47 × 6.35 cm at 120 ppi."
    )


def test_preview_shows_the_picture_and_is_not_sent_twice(client: FlaskClient) -> None:
    project = begin(client)
    lay_on(client, project, bring_in(client, jpeg()).get_json())
    address = f"/api/projects/{project['id']}/preview?width=200"

    answer = client.get(address)
    again = client.get(address, headers={"If-None-Match": answer.headers["ETag"]})

    shown = np.asarray(Image.open(io.BytesIO(answer.data)))
    wanted = np.asarray(
        Image.fromarray(soft_pixels(400, 300, seed=400)).resize((200, 150), Image.BOX)
    )
    assert psnr(shown, wanted[..., :3]) > 33
    assert again.status_code == 304


def test_frame_shows_edits_that_are_not_saved(client: FlaskClient) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    view = {"x": 0, "y": 0, "width": 40, "height": 30, "scale": 0.1}
    hide = {"kind": "show_layer", "layer_id": "m", "visible": False}

    answer = client.post(
        f"/api/projects/{project['id']}/frame",
        json={"revision": project["head"], "unsaved": [hide], "view": view},
    )

    color = Image.open(io.BytesIO(answer.data[8:]))
    assert np.asarray(color).min() > 250
    assert (
        client.get(f"/api/projects/{project['id']}").get_json()["head"]
        == project["head"]
    )


def send(client: FlaskClient, project: dict, **edit: object) -> TestResponse:
    body = {"key": str(uuid.uuid4()), "parent": project["head"], "edit": edit}
    return client.post(f"/api/projects/{project['id']}/edits", json=body)


def test_groups_and_washes_are_made_and_described(client: FlaskClient) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    color = {"layer_id": "c", "name": "Wash", "color": "#204060"}
    gradient = {
        "x": 200,
        "y": 150,
        "length": 300,
        "start": {"color": "#ff8000"},
        "end": {"color": "#ff8000", "opacity": 0},
    }
    steps = [
        {"kind": "add_color", **color},
        {
            "kind": "add_gradient",
            "layer_id": "g",
            "name": "Glow",
            "gradient": gradient,
        },
        {
            "kind": "group_layers",
            "group_id": "both",
            "name": "Both",
            "layer_ids": ["c", "g"],
        },
        {"kind": "tint_layer", "layer_id": "c", "color": "#ffffff"},
    ]

    for step in steps:
        project = send(client, project, **step).get_json()["state"]

    said = {
        one["layer_id"]: "".join(part["text"] for part in one["parts"])
        for one in project["sentences"]
    }
    assert said["both"].startswith("Both, 2 layers as one")
    assert said["c"] == "Wash, white over everything, shown plainly."
    assert "from dark orange to clear" in said["g"]
    group = project["composite"]["layers"][1]
    assert [one["kind"] for one in group["layers"]] == ["color", "gradient"]


def test_edit_of_the_wrong_kind_is_refused_in_words(client: FlaskClient) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())

    answer = send(client, project, kind="tint_layer", layer_id="m", color="#204060")

    assert answer.status_code == 409
    assert "a photo has no colour of its own" in answer.get_json()["detail"]


def test_colours_are_offered_from_what_lies_beneath(client: FlaskClient) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    query = {"revision": project["head"]}

    everything = client.get(f"/api/projects/{project['id']}/colors", query_string=query)
    beneath = client.get(
        f"/api/projects/{project['id']}/colors", query_string={**query, "beneath": "m"}
    )

    assert 1 < len(everything.get_json()["colors"]) <= 6
    assert beneath.get_json()["colors"] == ["#ffffff"]


def test_layers_under_a_point_come_with_their_cut_outs(client: FlaskClient) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    wash = {"kind": "add_color", "layer_id": "c", "name": "Wash", "color": "#204060"}
    body = {"revision": project["head"], "unsaved": [wash], "x": 200, "y": 150}

    answer = client.post(f"/api/projects/{project['id']}/layers-there", json=body)

    found = answer.get_json()["layers"]
    assert [(one["name"], one["within"]) for one in found] == [
        ("Wash", None),
        ("Moths", None),
    ]
    data = base64.b64decode(found[1]["picture"].partition(",")[2])
    shown = np.asarray(Image.open(io.BytesIO(data)))
    assert max(shown.shape[:2]) == 176


def test_tries_render_each_alternative_below_the_other(client: FlaskClient) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    tries = [
        {"kind": "blend_layer", "layer_id": "m", "mode": "normal", "opacity": opacity}
        for opacity in (0, 1)
    ]

    answer = client.post(
        f"/api/projects/{project['id']}/tries",
        json={"revision": project["head"], "alternatives": tries, "width": 80},
    )

    sheet = np.asarray(Image.open(io.BytesIO(answer.data[8:])))
    told = json.loads(answer.headers["Tiles"])
    height = told["height"]
    assert told["wide"] / told["high"] == pytest.approx(80 / height, rel=0.02)
    assert told["alike"] == [1]
    assert sheet.shape[:2] == (2 * height, 80)
    assert sheet[: height // 2].min() > 250
    assert sheet[height + 8 :].mean() < 220


def test_tries_look_where_alternatives_differ(client: FlaskClient) -> None:
    state = begin(client, width=1000, height=800)
    wash = {"kind": "add_color", "layer_id": "c", "name": "Spot", "color": "#2040ff"}
    spot = {"id": "s", "kind": "ellipse", "x": 700, "y": 200, "width": 90, "height": 90}
    cut = {"kind": "add_part", "layer_id": "c", "part": spot}
    tries = [
        {"kind": "blend_layer", "layer_id": "c", "mode": mode, "opacity": 1}
        for mode in ("normal", "screen", "difference")
    ]
    body = {
        "revision": state["head"],
        "unsaved": [wash, cut],
        "alternatives": tries,
        "width": 100,
    }

    answer = client.post(f"/api/projects/{state['id']}/tries", json=body)

    told = json.loads(answer.headers["Tiles"])
    assert (told["wide"], told["high"]) == pytest.approx((150, 120))
    assert told["x"] < 655 < 745 < told["x"] + told["wide"]
    assert told["y"] < 155 < 245 < told["y"] + told["high"]
    assert told["alike"] == [0]
    sheet = np.asarray(Image.open(io.BytesIO(answer.data[8:])).convert("RGB"))
    middle = sheet[told["height"] // 2, 50].astype(int)
    assert np.abs(middle - (32, 64, 255)).max() < 12
    assert sheet[told["height"] // 2, 4].min() > 245


@pytest.mark.parametrize(
    ("chosen", "ending"),
    [("png", "png"), ("jpeg", "jpg"), ("webp", "webp"), ("tiff", "tif")],
)
def test_export_has_the_wanted_size_ppi_and_name(
    client: FlaskClient, studio: Studio, chosen: str, ending: str
) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    request = {
        "revision": project["head"],
        "format": chosen,
        "width": 200,
        "quality": 95,
    }
    key = str(uuid.uuid4())

    for _ in range(2):
        job = client.post(
            f"/api/projects/{project['id']}/exports",
            json={"key": key, "request": request},
        )
        assert job.status_code == 202
    run_job(studio, uuid.UUID(key), make_file)
    answer = client.get(f"/api/exports/{key}/file")

    image = Image.open(io.BytesIO(answer.data))
    assert image.size == (200, 150)
    assert round(image.info.get("dpi", [image.getexif().get(282)])[0]) == 60
    assert (
        answer.headers["Content-Disposition"]
        == f"attachment; filename=season-poster.{ending}"
    )
    with studio.sessions() as session:
        assert (
            session.scalar(text("SELECT count(*) FROM job WHERE kind = 'export'")) == 1
        )


def test_layered_file_opens_as_a_project_of_its_own(
    client: FlaskClient, studio: Studio
) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    request = {"revision": project["head"], "format": "openraster", "width": 400}
    key = str(uuid.uuid4())
    client.post(
        f"/api/projects/{project['id']}/exports", json={"key": key, "request": request}
    )
    run_job(studio, uuid.UUID(key), make_file)
    saved = client.get(f"/api/exports/{key}/file")

    file = {"file": (io.BytesIO(saved.data), "second-night.ora")}
    answer = client.post("/api/projects/layered", data=file)

    assert saved.content_type == "image/openraster"
    assert answer.status_code == 201
    opened = answer.get_json()
    assert opened["name"] == "Second night"
    assert opened["composite"] == project["composite"]


def test_broken_layered_file_is_refused_and_leaves_nothing_behind(
    client: FlaskClient, studio: Studio
) -> None:
    before = rows_and_files(studio)

    file = {"file": (io.BytesIO(b"PK not really"), "night.ora")}
    answer = client.post("/api/projects/layered", data=file)

    assert answer.status_code == 415
    assert "no OpenRaster archive" in answer.get_json()["detail"]
    assert rows_and_files(studio) == before
    assert client.get("/api/projects").get_json()["projects"] == []


def test_jpeg_of_a_clear_sheet_lies_on_the_chosen_matte(
    client: FlaskClient, studio: Studio
) -> None:
    project = begin(client, background=None)
    request = {
        "revision": project["head"],
        "format": "jpeg",
        "width": 40,
        "matte": "#204060",
    }
    job = client.post(
        f"/api/projects/{project['id']}/exports", json={"request": request}
    ).get_json()

    run_job(studio, uuid.UUID(job["id"]), make_file)

    image = Image.open(io.BytesIO(client.get(f"/api/exports/{job['id']}/file").data))
    assert np.abs(np.asarray(image).astype(int) - (0x20, 0x40, 0x60)).max() <= 2


def test_cancelled_export_stops_and_leaves_no_file(
    client: FlaskClient, studio: Studio
) -> None:
    project = begin(client)
    request = {"revision": project["head"], "format": "png", "width": 400}
    job = client.post(
        f"/api/projects/{project['id']}/exports", json={"request": request}
    ).get_json()

    client.delete(f"/api/jobs/{job['id']}")
    run_job(studio, uuid.UUID(job["id"]), make_file)

    assert client.get(f"/api/jobs/{job['id']}").get_json()["state"] == "cancelled"
    assert client.get(f"/api/exports/{job['id']}/file").status_code == 404


@pytest.mark.parametrize(
    ("chosen", "width", "words"),
    [
        ("png", 30_000, "150 million pixels"),
        ("webp", 16_384, "16383 on a side as WEBP"),
    ],
)
def test_export_larger_than_the_limit_is_refused_with_the_limit(
    client: FlaskClient, chosen: str, width: int, words: str
) -> None:
    project = begin(client, width=1000, height=500)
    request = {"revision": project["head"], "format": chosen, "width": width}

    answer = client.post(
        f"/api/projects/{project['id']}/exports", json={"request": request}
    )

    assert answer.status_code == 422
    assert words in answer.get_json()["detail"]


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"Host": "evil.example"}, 421),
        ({"Host": "localhost", "Origin": "http://evil.example"}, 403),
        ({"Host": "localhost:80", "Origin": "http://localhost:80"}, 201),
        ({"Host": "127.0.0.1:8427"}, 201),
    ],
)
def test_strangers_may_not_change_anything(
    client: FlaskClient, headers, status: int
) -> None:
    answer = client.post(
        "/api/projects", json={"name": "x", "canvas": CANVAS}, headers=headers
    )

    assert answer.status_code == status


def test_every_answer_forbids_foreign_scripts(client: FlaskClient) -> None:
    policy = client.get("/api/health").headers["Content-Security-Policy"]

    assert "default-src 'none'" in policy
    assert "frame-ancestors 'none'" in policy
    assert "unsafe" not in policy


@pytest.mark.parametrize(
    ("path", "body", "words"),
    [
        ("/api/projects", {"name": "", "canvas": CANVAS}, "name"),
        ("/api/projects", {"name": "x", "canvas": {**CANVAS, "width": 0}}, "width"),
        (
            "/api/projects",
            {"name": "x", "canvas": {**CANVAS, "background": "red"}},
            "background",
        ),
    ],
)
def test_request_that_does_not_fit_says_which_field(
    client: FlaskClient, path, body, words
) -> None:
    answer = client.post(path, json=body)

    assert answer.status_code == 422
    assert answer.content_type == "application/problem+json"
    assert words in answer.get_json()["detail"]


def test_unknown_project_is_not_there(client: FlaskClient) -> None:
    answer = client.get(f"/api/projects/{uuid.uuid4()}")

    assert answer.status_code == 404
    assert "There is no such picture" in answer.get_json()["detail"]


def test_derived_files_may_be_deleted_at_any_time(
    client: FlaskClient, studio: Studio, tmp_path: Path
) -> None:
    project = lay_on(client, begin(client), bring_in(client, jpeg()).get_json())
    address = f"/api/projects/{project['id']}/preview?width=100"
    before = client.get(address).data

    shutil.rmtree(tmp_path / "cache")
    studio.shelf._mapped._values.clear()

    assert client.get(address).data == before


@pytest.mark.parametrize("beside", [{"place": 2, "count": 2}, {"place": 0, "count": 0}])
def test_photo_beside_others_that_are_not_so_many_is_refused(
    client: FlaskClient, beside: dict[str, int]
) -> None:
    picture = bring_in(client, jpeg()).get_json()

    answer = laying_on(client, begin(client), picture, beside=beside)

    assert answer.status_code == 422
    assert "beside" in answer.get_json()["detail"]
