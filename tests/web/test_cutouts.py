"""Taking the backdrop away, over HTTP: found, remembered, stopped, taken up again."""

from __future__ import annotations

import io
import uuid
import zipfile
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from sqlalchemy import text

from glyphaneme.codecs import decode_matte
from glyphaneme.core.edits import PaintStroke
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.place import Pyramid
from glyphaneme.services.assets import assets_of
from glyphaneme.services.cutting import cut_out
from glyphaneme.services.file_making import make_file
from glyphaneme.services.showing import Draft, drafted
from glyphaneme.services.studio import open_studio
from glyphaneme.services.working import Progress, cancel_job, run_job
from glyphaneme.store.blobs import blob_pieces
from glyphaneme.store.jobs import begin_attempt
from tests.cutouts import disks
from tests.tiny_network import write_network
from tests.web.test_http import begin, bring_in, lay_on, send

if TYPE_CHECKING:
    from collections.abc import Callable
    from pathlib import Path

    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio
    from glyphaneme.store.rows import JobRow

TWO = [(110, 150, 60), (300, 150, 50)]
RING = [[230, 70], [380, 70], [380, 230], [230, 230]]


def file_of(pixels: np.ndarray) -> bytes:
    file = io.BytesIO()
    Image.fromarray(pixels[..., :3]).save(file, "PNG")
    return file.getvalue()


@pytest.fixture
def picture(client: FlaskClient, tmp_path: Path) -> dict[str, Any]:
    """Bring in two red disks before blue; the network prefers red."""
    write_network(tmp_path / "models")
    return bring_in(client, file_of(disks(400, 300, TWO).pixels)).get_json()


def ask(client: FlaskClient, picture: dict, **request: object) -> TestResponse:
    body = {"key": str(uuid.uuid4()), "request": request}
    return client.post(f"/api/pictures/{picture['id']}/mattes", json=body)


def find(
    client: FlaskClient, studio: Studio, picture: dict, **request: object
) -> dict[str, Any]:
    """Ask for a matte, do the work, and return how that ended."""
    answer = ask(client, picture, **request)
    assert answer.status_code == 202, answer.get_json()
    job = answer.get_json()["job"]
    run_job(studio, uuid.UUID(job["id"]), cut_out)
    return client.get(f"/api/jobs/{job['id']}").get_json()


def matte_of(studio: Studio, found: dict[str, Any]) -> np.ndarray:
    with studio.sessions() as session:
        return decode_matte(b"".join(blob_pieces(session, found["matte"])))


def kept(studio: Studio) -> int:
    with studio.sessions() as session:
        return session.scalar(text("SELECT count(*) FROM matte")) or 0


def test_a_backdrop_is_found_once_and_is_there_at_once_from_then_on(
    client: FlaskClient, studio: Studio, picture: dict, tmp_path: Path
) -> None:
    job = find(client, studio, picture)

    assert (job["state"], job["progress"]) == ("done", 1)
    matte = matte_of(studio, job["found"])
    assert matte.shape == (300, 400)
    assert (matte[150, 110], matte[150, 300], matte[20, 20]) == (255, 255, 0)
    assert job["found"]["subjects"] == 2
    again = ask(client, picture)
    assert again.status_code == 200
    assert again.get_json() == {"found": job["found"], "job": None}
    # Another process knows it too, and the same file under another name is the same.
    anew = open_studio(studio.sessions, tmp_path / "new", (tmp_path / "models",))
    pixels = disks(400, 300, TWO).pixels
    other = bring_in(client, file_of(pixels), "again.png").get_json()
    assert other["id"] == picture["id"]
    assert kept(anew) == 1


@pytest.mark.parametrize("hints", [{}, {"around": RING}])
def test_a_rough_matte_is_shown_on_the_way(
    client: FlaskClient, studio: Studio, picture: dict, hints: dict
) -> None:
    shown = []

    class Watched(Progress):
        def show(self, file: Any, found: Any) -> None:
            super().show(file, found)
            shown.append(client.get(f"/api/jobs/{job['id']}").get_json())

    job = ask(client, picture, hints=hints).get_json()["job"]
    run_job(studio, uuid.UUID(job["id"]), watched_by(Watched))

    (rough,) = shown
    assert (rough["state"], rough["found"]["rough"]) == ("running", True)
    matte = matte_of(studio, rough["found"])
    assert matte[150, 300] > 200
    assert matte[150, 110] == (0 if hints else 255)
    end = client.get(f"/api/jobs/{job['id']}").get_json()
    assert end["found"]["rough"] is False


def watched_by(kind: type[Progress]) -> Callable[[Studio, JobRow, Progress], None]:
    def work(studio: Studio, row: JobRow, _progress: Progress) -> None:
        cut_out(studio, row, kind(studio, row.id, row.attempts))

    return work


def test_stopped_half_way_it_leaves_nothing_behind(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    class Stopped(Progress):
        def show(self, file: Any, found: Any) -> None:
            super().show(file, found)
            with studio.changing() as visit:
                cancel_job(visit, uuid.UUID(job["id"]))

    job = ask(client, picture).get_json()["job"]
    run_job(studio, uuid.UUID(job["id"]), watched_by(Stopped))

    end = client.get(f"/api/jobs/{job['id']}").get_json()
    assert (end["state"], end["found"]) == ("cancelled", None)
    assert kept(studio) == 0
    with studio.sessions() as session:
        files = text("SELECT count(*) FROM job WHERE result_sha256 IS NOT NULL")
        left = session.scalar(files)
    assert left == 0
    # And it can be asked for anew.
    assert find(client, studio, picture)["state"] == "done"


def test_what_a_worker_died_over_is_taken_up_again(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    job = ask(client, picture).get_json()["job"]
    with studio.sessions.begin() as session:
        begin_attempt(session, uuid.UUID(job["id"]))

    run_job(studio, uuid.UUID(job["id"]), cut_out)

    assert client.get(f"/api/jobs/{job['id']}").get_json()["state"] == "done"
    assert kept(studio) == 1


def test_a_ring_and_strokes_pick_what_is_meant(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    ringed = find(client, studio, picture, hints={"around": RING})
    drop = {"keeps": False, "size": 20, "points": [[90, 150], [130, 150]]}
    painted = find(client, studio, picture, hints={"strokes": [drop]})
    second = find(client, studio, picture, hints={"subject": 1})

    for job in (ringed, painted, second):
        matte = matte_of(studio, job["found"])
        assert (matte[150, 110], matte[150, 300]) == (0, 255)
    assert matte_of(studio, ringed["found"])[:, :225].max() == 0


def test_no_clear_subject_is_said_in_a_sentence(
    client: FlaskClient, studio: Studio, tmp_path: Path
) -> None:
    write_network(tmp_path / "models")
    wall = bring_in(client, file_of(disks(400, 300, []).pixels), "a-wall.png")

    job = find(client, studio, wall.get_json())

    assert job["state"] == "failed"
    assert job["error"].startswith("No clear subject was found in A wall. Nothing was")
    assert kept(studio) == 0


def test_without_a_network_it_is_said_what_to_do(client: FlaskClient) -> None:
    picture = bring_in(client, file_of(disks(40, 30, []).pixels)).get_json()

    answer = ask(client, picture)

    assert answer.status_code == 409
    assert "is not there" in answer.get_json()["detail"]
    assert client.get("/api/networks").get_json() == {"networks": []}


def test_a_damaged_network_is_told_and_not_run(
    client: FlaskClient, studio: Studio, picture: dict, tmp_path: Path
) -> None:
    model = tmp_path / "models" / "large.onnx"
    model.write_bytes(model.read_bytes()[:-1] + b"?")

    job = find(client, studio, picture)

    assert job["state"] == "failed"
    assert "its file is damaged" in job["error"]


def test_a_network_of_ones_own_can_be_asked(
    client: FlaskClient, studio: Studio, picture: dict, tmp_path: Path
) -> None:
    write_network(tmp_path / "models", "mine", prefers="blue")
    (tmp_path / "models" / "broken.json").write_text("{not json")

    names = [one["name"] for one in client.get("/api/networks").get_json()["networks"]]
    job = find(client, studio, picture, network="mine")

    assert names == ["large", "mine"]
    matte = matte_of(studio, job["found"])
    assert (matte[150, 110], matte[20, 20]) == (0, 255)
    assert ask(client, picture, network="nobody").status_code == 409


def test_the_cut_shows_in_frames_in_files_and_after_coming_back(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    job = find(client, studio, picture)
    project = begin(client, width=400, height=300, background=None)
    project = lay_on(client, project, picture)
    part = {"kind": "matte", "id": "m", "picture": picture["id"]}
    part = {**part, **{name: job["found"][name] for name in ("matte", "level")}}
    answer = send(client, project, kind="cut_out", layer_id="m", part=part)
    assert answer.status_code == 201, answer.get_json()
    state = answer.get_json()["state"]

    exported = finished(client, studio, state, "png")
    layered = finished(client, studio, state, "openraster")

    pixels = np.asarray(Image.open(io.BytesIO(exported)))
    assert (pixels[150, 110, 3], pixels[20, 20, 3]) == (255, 0)
    opened = client.post(
        "/api/projects/layered", data={"file": (io.BytesIO(layered), "cut.ora")}
    ).get_json()
    again = finished(client, studio, opened, "png")
    assert (np.asarray(Image.open(io.BytesIO(again))) == pixels).all()
    damaged = exchanged(layered, job["found"]["matte"])
    refused = client.post(
        "/api/projects/layered", data={"file": (io.BytesIO(damaged), "cut.ora")}
    )
    assert refused.status_code == 415
    assert "not the one that its layer names" in refused.get_json()["detail"]


def finished(client: FlaskClient, studio: Studio, project: dict, kind: str) -> bytes:
    request = {"revision": project["head"], "format": kind, "width": 400}
    job = client.post(
        f"/api/projects/{project['id']}/exports", json={"request": request}
    ).get_json()
    run_job(studio, uuid.UUID(job["id"]), make_file)
    return client.get(f"/api/exports/{job['id']}/file").data


def exchanged(layered: bytes, matte: str) -> bytes:
    """Return a layered file with another matte under the name of the one it had."""
    file = io.BytesIO()
    other = io.BytesIO()
    Image.new("L", (400, 300), 7).save(other, "PNG")
    with (
        zipfile.ZipFile(io.BytesIO(layered)) as source,
        zipfile.ZipFile(file, "w") as target,
    ):
        for entry in source.infolist():
            data = source.read(entry)
            same = not entry.filename.endswith(matte)
            target.writestr(entry, data if same else other.getvalue())
    return file.getvalue()


def test_a_part_must_name_a_matte_that_is_kept(
    client: FlaskClient, picture: dict
) -> None:
    project = lay_on(client, begin(client), picture)
    part = {"kind": "matte", "id": "m", "picture": picture["id"], "matte": "ab" * 32}

    answer = send(client, project, kind="cut_out", layer_id="m", part=part)

    assert answer.status_code == 404
    assert client.get(f"/api/mattes/{'ab' * 32}/doubts").status_code == 404
    assert client.get("/api/mattes/zz/doubts").status_code == 422


def test_doubtful_places_are_told_in_the_pictures_pixels(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    found = find(client, studio, picture)["found"]

    answer = client.get(f"/api/mattes/{found['matte']}/doubts?level=1").get_json()

    assert answer["places"]
    for place in answer["places"]:
        at = place["x"] / 2, place["y"] / 2
        off = [abs(np.hypot(at[0] - x, at[1] - y) - radius) for x, y, radius in TWO]
        assert min(off) < 15


@pytest.mark.parametrize(
    "request_",
    [
        {"way": "magic"},
        {"hints": {"around": [[0, 0], [1, 1]]}},
        {"hints": {"strokes": [{"keeps": True, "size": -1, "points": [[0, 0]]}]}},
        {"hints": {"subject": 99}},
        {"unknown": 1},
    ],
)
def test_requests_that_mean_nothing_are_refused(
    client: FlaskClient, picture: dict, request_: dict
) -> None:
    assert ask(client, picture, **request_).status_code == 422


def test_hints_beyond_the_picture_get_a_result(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    beyond = {"keeps": True, "size": 50, "points": [[-9000, -9000], [9000, 9000]]}
    outside = [[5000, 5000], [6000, 5000], [6000, 6000]]

    for hints in ({"strokes": [beyond]}, {"around": outside}):
        assert find(client, studio, picture, hints=hints)["state"] == "done"


def test_a_key_counts_once(client: FlaskClient, picture: dict) -> None:
    key = str(uuid.uuid4())
    address = f"/api/pictures/{picture['id']}/mattes"

    first = client.post(address, json={"key": key}).get_json()
    again = client.post(address, json={"key": key}).get_json()
    other = client.post(address, json={"key": key, "request": {"way": "gaps"}})

    assert first["job"]["id"] == again["job"]["id"] == key
    assert other.status_code == 409
    nobody = client.post(f"/api/pictures/{uuid.uuid4()}/mattes", json={})
    assert nobody.status_code == 404


def test_where_only_the_small_network_is_there_it_serves(
    client: FlaskClient, studio: Studio, tmp_path: Path
) -> None:
    write_network(tmp_path / "models", "light")
    pixels = disks(400, 300, TWO).pixels
    picture = bring_in(client, file_of(pixels)).get_json()

    matte = matte_of(studio, find(client, studio, picture, way="gaps")["found"])

    assert (matte[150, 110], matte[20, 20]) == (255, 0)


def test_what_a_layer_in_a_group_lies_on_is_what_its_old_rim_shows_against(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    """Members beneath it count, and so does the sheet where there are none."""
    found = find(client, studio, picture)["found"]
    project = lay_on(client, begin(client, width=400, height=300), picture)
    part = {"kind": "matte", "id": "m", "picture": picture["id"], **found}
    part = {name: part[name] for name in ("kind", "id", "picture", "matte", "level")}

    def edited(**edit: object) -> None:
        nonlocal project
        answer = send(client, project, **edit)
        assert answer.status_code == 201, answer.get_json()
        project = answer.get_json()["state"]

    def marked() -> float:
        """Return how much of a frame of the old rim is marked."""
        view = {"x": 0, "y": 0, "width": 400, "height": 300, "scale": 1}
        body = {
            "revision": project["head"],
            "view": {**view, "mask_of": "m", "mask_seen": "rim"},
        }
        frame = client.post(f"/api/projects/{project['id']}/frame", json=body).data
        first = int.from_bytes(frame[:4], "big")
        grey = np.asarray(Image.open(io.BytesIO(frame[8 : 8 + first])).convert("L"))
        return float((grey > 128).mean())

    place = project["composite"]["layers"][0]["placement"]
    place = {**place, "x": 200, "y": 150, "scale_x": 1, "scale_y": 1}
    edited(kind="place_layer", layer_id="m", placement=place)
    edited(kind="cut_out", layer_id="m", part=part)
    kept = {"inverted": False, "strength": 1, "cleaned": 0}
    edited(kind="settle_mask", layer_id="m", **kept)
    on_white = marked()
    # Before a colour like the old wall's nothing of the rim would show.
    wall = {"name": "Wall", "color": "#284696", "index": 0}
    edited(kind="add_color", layer_id="w", **wall)
    both = {"layer_ids": ["w", "m"], "group_id": "g", "name": "Both"}
    edited(kind="group_layers", **both)

    assert on_white > 0.002
    assert marked() < 0.2 * on_white


def test_while_a_hand_paints_the_subjects_own_colours_stay_and_rest_brings_them_anew(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    """They take far longer to reckon than a frame may while something moves."""
    found = find(client, studio, picture)["found"]
    project = lay_on(client, begin(client, width=400, height=300), picture)
    kept = {"matte": found["matte"], "level": found["level"]}
    part = {"kind": "matte", "id": "m", "picture": picture["id"], **kept}
    answer = send(client, project, kind="cut_out", layer_id="m", part=part)
    project = answer.get_json()["state"]
    stroke = Stroke(points=((60, 150, 1), (200, 150, 1)), size=30, shows=False)
    paint = PaintStroke(layer_id="m", part_id="brush", stroke=stroke)

    def own_colors(*unsaved: PaintStroke, quick: bool) -> Pyramid:
        draft = Draft(revision=project["head"], unsaved=unsaved)
        with studio.looking() as visit:
            composite = drafted(visit, uuid.UUID(project["id"]), draft)
            assets = assets_of(visit, composite, quick=quick)
        (own,) = (assets[name] for name in assets if name.startswith("own-"))
        assert isinstance(own, Pyramid)
        return own

    before = own_colors(quick=False)
    assert own_colors(paint, quick=True) is before
    after = own_colors(paint, quick=False)
    assert (after.levels[0] != before.levels[0]).any()
    assert own_colors(paint, quick=True) is after


def test_what_was_cut_out_is_no_finished_file(
    client: FlaskClient, studio: Studio, picture: dict
) -> None:
    job = find(client, studio, picture)

    answer = client.get(f"/api/exports/{job['id']}/file")

    assert answer.status_code == 404
    assert "no such finished file" in answer.get_json()["detail"]
