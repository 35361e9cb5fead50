"""Whatever comes from outside gets a result or a sentence, and never a 5xx."""

from __future__ import annotations

import copy
import functools
import io
import json
import math
import random
import uuid
import zipfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from PIL import Image, TiffImagePlugin
from sqlalchemy import text

from glyphaneme.services.file_making import make_file
from glyphaneme.services.working import run_job
from tests.pictures import noise_pixels
from tests.posters import poster, saved
from tests.trying import times
from tests.web.test_http import CANVAS, begin, bring_in, jpeg, rows_and_files, send

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from flask import Flask
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

# Pillow warns of what it repairs, and in tests warnings are errors.
pytestmark = pytest.mark.filterwarnings("ignore::UserWarning:PIL")

ODD_VALUES = [
    None,
    True,
    "",
    "\0",
    "Moths\0",
    "\ud800",
    "名" * 121,
    "../../etc",
    0,
    -1,
    2**31,
    2**63,
    10**400,
    -(10**400),
    1e-320,
    1e308,
    -1e308,
    math.nan,
    math.inf,
    -math.inf,
    [],
    {},
    [[]] * 300,
    {"kind": "remove_layer"},
]
GRADIENT = {
    "shape": "round",
    "x": 200_000,
    "y": -200_000,
    "length": 200_000,
    "angle": -360,
    "start": {"color": "#ff8000", "opacity": 1},
    "end": {"color": "#ff8000", "opacity": 0},
}
MOON = {
    "kind": "ellipse",
    "id": "moon",
    "x": 200_000,
    "y": -200_000,
    "width": 200_000,
    "height": 1,
    "turn": 360,
}
CARD = {"kind": "rectangle", "id": "card", "corner": 100_000}
FADE = {"x": 5, "y": 5, "length": 1, "shape": "sides", "full": 0.99, "aspect": 100}
STROKE = {
    "points": [[-60_000, 60_000, 0], [5, 5, 1]],
    "size": 1,
    "softness": 1,
    "strength": 0,
    "shows": True,
}
FAR = {"x": -200_000, "y": 200_000, "scale_x": 200, "scale_y": 200, "turn": 45}
EDITS: list[dict[str, Any]] = [
    {"kind": "add_color", "layer_id": "c", "name": "Dusk", "color": "#203040"},
    {"kind": "add_gradient", "layer_id": "g", "name": "Glow", "gradient": GRADIENT},
    {"kind": "blend_layer", "layer_id": "m", "mode": "hue", "opacity": 0},
    {"kind": "duplicate_layer", "layer_id": "m", "copy_id": "n"},
    {"kind": "place_layer", "layer_id": "m", "placement": FAR},
    {"kind": "grade_layer", "layer_id": "g", "gradient": GRADIENT},
    {"kind": "name_layer", "layer_id": "m", "name": "N" * 120},
    {"kind": "move_layer", "layer_id": "m", "index": 200, "into": "b"},
    {"kind": "dissolve_group", "layer_id": "b"},
    {"kind": "group_layers", "group_id": "b", "name": "Both", "layer_ids": ["m"]},
    {"kind": "set_canvas", "canvas": {**CANVAS, "width": 30_000, "height": 1}},
    {"kind": "set_canvas", "canvas": CANVAS, "shift_x": 200_000, "shift_y": -200_000},
    {"kind": "tint_sheet", "background": "#203040"},
    {"kind": "add_part", "layer_id": "m", "part": MOON, "index": 64},
    {"kind": "add_part", "layer_id": "m", "part": {**MOON, **CARD}},
    {"kind": "change_part", "layer_id": "m", "part": {**MOON, "softness": 5000}},
    {"kind": "move_part", "layer_id": "m", "part_id": "moon", "index": 0},
    {"kind": "settle_mask", "layer_id": "m", "inverted": True, "strength": 0},
    {"kind": "link_mask", "layer_id": "m", "linked": False},
    {"kind": "link_fade", "layer_id": "m", "place": 0, "linked": False},
    {"kind": "copy_mask", "layer_id": "m", "from_id": "b"},
    {"kind": "drop_mask", "layer_id": "m"},
    {"kind": "fade_layer", "layer_id": "m", "fades": [FADE] * 12},
    {"kind": "copy_fades", "layer_id": "m", "from_id": "b"},
    {"kind": "melt_photos", "layer_ids": ["m", "b"], "overlap": 200_000},
    {"kind": "paint_stroke", "layer_id": "m", "part_id": "p", "stroke": STROKE},
]
VIEW = {"x": -1e6, "y": 1e6, "width": 5, "height": 3, "scale": 64}
# No client can write half a letter into an address.
addressed = st.sampled_from([value for value in ODD_VALUES if value != "\ud800"])
fuzzing = times(40, unchecked=[HealthCheck.function_scoped_fixture])


def leaves_of(value: object, path: tuple = ()) -> Iterator[tuple]:
    """Yield the way to every value in a piece of JSON, itself among them."""
    yield path
    items = value.items() if isinstance(value, dict) else ()
    for key, inner in [*items, *(enumerate(value) if isinstance(value, list) else ())]:
        yield from leaves_of(inner, (*path, key))


@st.composite
def spoilt(draw: Callable, bodies: list[dict]) -> Any:
    """Draw a body that is right but for up to three of its values."""
    body = copy.deepcopy(draw(st.sampled_from(bodies)))
    for _ in range(draw(st.integers(0, 3))):
        way = draw(st.sampled_from(list(leaves_of(body))))
        odd = copy.deepcopy(draw(st.sampled_from(ODD_VALUES)))
        if not way:
            return odd
        *outer, last = way
        inner = body
        for step in outer:
            inner = inner[step]
        inner[last] = odd
    return body


def require_answer(answer: TestResponse) -> None:
    """Require a result, or a sentence about what was wrong."""
    assert answer.status_code < 500, answer.get_data(as_text=True)[:400]
    if answer.status_code >= 400:
        assert answer.get_json()["detail"].strip()
    else:
        assert answer.data or answer.status_code == 204


@pytest.fixture
def project(client: FlaskClient) -> dict:
    """Return a project with a photo and a gradient at the edge of what may be."""
    picture = bring_in(client, jpeg(40, 30)).get_json()
    photo = {"kind": "add_layer", "layer_id": "m", "picture": picture["id"]}
    size = {"width": 40, "height": 30}
    state = begin(client)
    state = send(client, state, name="Moths", **photo, **size).get_json()["state"]
    return send(client, state, **EDITS[1]).get_json()["state"]


@fuzzing
@given(st.lists(spoilt(EDITS), min_size=1, max_size=6))
def test_edits_of_any_values_leave_a_project_that_opens(
    app: Flask, client: FlaskClient, project: dict, bodies: list
) -> None:
    state = client.get(f"/api/projects/{project['id']}").get_json()

    for edit in bodies:
        body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": edit}
        answer = client.post(f"/api/projects/{project['id']}/edits", json=body)
        require_answer(answer)
        if answer.status_code == 201:
            state = answer.get_json()["state"]

    # As a process sees it that knows nothing yet.
    app.extensions["glyphaneme-studio"].states._values.clear()
    assert client.get(f"/api/projects/{project['id']}").get_json() == state
    frame = {"revision": state["head"], "view": {**VIEW, "x": 0, "y": 0, "scale": 1}}
    require_answer(client.post(f"/api/projects/{project['id']}/frame", json=frame))


@fuzzing
@given(st.data())
def test_requests_of_any_values_are_answered(
    client: FlaskClient, project: dict, data: st.DataObject
) -> None:
    head, here = project["head"], f"/api/projects/{project['id']}"
    drafted = {"revision": head, "unsaved": EDITS[:4]}
    export = {"revision": head, "format": "png", "width": 30_000, "quality": 1}
    bodies: dict[str, dict] = {
        f"{here}/frame": {**drafted, "view": VIEW},
        f"{here}/tries": {**drafted, "alternatives": EDITS[2:4], "width": 400},
        f"{here}/layers-there": {**drafted, "x": 200, "y": -1e6},
        f"{here}/standing": {"to": head, "came_from": head},
        f"{here}/exports": {"key": str(uuid.uuid4()), "request": export},
        "/api/projects": {"id": str(uuid.uuid4()), "name": "P", "canvas": CANVAS},
    }
    path = data.draw(st.sampled_from(sorted(bodies)))

    require_answer(client.post(path, json=data.draw(spoilt([bodies[path]]))))


@fuzzing
@given(addressed, addressed)
def test_addresses_of_any_values_are_answered(
    client: FlaskClient, project: dict, one: object, other: object
) -> None:
    here = f"/api/projects/{project['id']}"
    query = {"width": one, "revision": other, "beneath": one}

    for path in ("preview", "colors", "history", f"{one}"):
        require_answer(client.get(f"{here}/{path}", query_string=query))
    require_answer(client.patch(here, json={"name": one, "removed": other}))
    require_answer(client.patch(here, json={"removed": False}))


def test_name_with_a_nul_is_taken_without_it_wherever_a_name_is_given(
    client: FlaskClient, project: dict
) -> None:
    here = f"/api/projects/{project['id']}"
    named = {"kind": "name_layer", "layer_id": "m", "name": "Mo\0ths"}
    answers = [
        client.post("/api/projects", json={"name": "P\0", "canvas": CANVAS}),
        client.patch(here, json={"name": "P\0"}),
        send(client, project, **named),
    ]

    assert [answer.status_code for answer in answers] == [201, 204, 201]
    names = [
        card["name"] for card in client.get("/api/projects").get_json()["projects"]
    ]
    assert sorted(names) == ["P\ufffd", "P\ufffd"]


def test_json_that_nests_a_hundred_thousand_deep_is_refused(
    client: FlaskClient, project: dict
) -> None:
    deep = "[" * 100_000 + "]" * 100_000

    answer = client.post(
        f"/api/projects/{project['id']}/edits",
        data=f'{{"edit": {deep}}}',
        content_type="application/json",
    )

    assert answer.status_code == 422
    assert "nests deeper" in answer.get_json()["detail"]


def test_one_key_for_two_projects_counts_in_the_first_alone(
    app: Flask, project: dict
) -> None:
    other = begin(app.test_client())
    key = str(uuid.uuid4())

    def name(state: dict) -> TestResponse:
        edit = {"kind": "set_canvas", "canvas": {**CANVAS, "ppi": 300}}
        body = {"key": key, "parent": state["head"], "edit": edit}
        path = f"/api/projects/{state['id']}/edits"
        return app.test_client().post(path, json=body)

    with ThreadPoolExecutor(2) as pool:
        answers = list(pool.map(name, [project, other]))

    assert sorted(answer.status_code for answer in answers) == [201, 409]
    assert name(project).status_code + name(other).status_code == 201 + 409


def test_one_export_asked_for_at_the_same_moment_is_made_once(
    app: Flask, studio: Studio, project: dict
) -> None:
    request = {"revision": project["head"], "format": "png", "width": 40}
    body = {"key": str(uuid.uuid4()), "request": request}
    path = f"/api/projects/{project['id']}/exports"

    with ThreadPoolExecutor(6) as pool:
        asked = [pool.submit(app.test_client().post, path, json=body) for _ in range(6)]
    answers = [one.result().status_code for one in asked]

    assert answers == [202] * 6
    with studio.sessions() as session:
        jobs = "SELECT count(*) FROM procrastinate.procrastinate_jobs"
        assert session.scalar(text(f"{jobs} WHERE task_name = 'export'")) == 1


@pytest.mark.parametrize("height", [30_000, 29_999, 1])
def test_tries_of_the_tallest_picture_are_all_shown(
    client: FlaskClient, height: int
) -> None:
    state = begin(client, width=100, height=height)
    wash = {**EDITS[0], "color": "#ffffff"}
    body = {"revision": state["head"], "alternatives": [wash] * 32, "width": 400}

    answer = client.post(f"/api/projects/{state['id']}/tries", json=body)

    shown = Image.open(io.BytesIO(answer.data[8:]))
    assert shown.height == 32 * json.loads(answer.headers["Tiles"])["height"]
    assert min(shown.convert("L").getextrema()) > 250


@pytest.mark.parametrize("name", ["Théâtre", "Ночь", "夜の蛾 🦋", "״לילה״"])
def test_finished_file_of_a_name_in_any_script_is_downloaded(
    client: FlaskClient, studio: Studio, name: str
) -> None:
    state = begin(client)
    client.patch(f"/api/projects/{state['id']}", json={"name": name * 12})
    request = {"revision": state["head"], "format": "png", "width": 4}
    key = str(uuid.uuid4())
    path = f"/api/projects/{state['id']}/exports"
    client.post(path, json={"key": key, "request": request})
    run_job(studio, uuid.UUID(key), make_file)

    said = client.get(f"/api/exports/{key}/file").headers["Content-Disposition"]

    said.encode("latin-1")
    job = client.get(f"/api/jobs/{key}").get_json()
    assert len(job["file_name"].encode()) < 255
    assert "filename*=UTF-8''" in said


@functools.cache
def picture_files() -> list[tuple[str, bytes]]:
    """Return small pictures of every kind that is read, plain and with extras."""
    image = Image.fromarray(noise_pixels(40, 30, seed=3))
    exif = Image.Exif()
    exif[0x0112] = 6
    exif[0x010E] = "The moths"
    found = []
    for mode in ("RGBA", "RGB", "L", "LA", "P", "1", "I;16"):
        file = io.BytesIO()
        image.convert("L" if mode == "I;16" else mode).convert(mode).save(
            file, "PNG", exif=exif, icc_profile=b"none" if mode == "RGB" else None
        )
        found.append((f"{mode[:2]}.png", file.getvalue()))
    for mode in ("RGB", "L", "CMYK"):
        file = io.BytesIO()
        progressive = mode == "RGB"
        image.convert(mode).save(file, "JPEG", exif=exif, progressive=progressive)
        found.append((f"{mode}.jpg", file.getvalue()))
    for kind in ("WEBP", "TIFF", "GIF", "BMP", "JPEG2000", "AVIF"):
        file = io.BytesIO()
        image.convert("RGB").save(file, kind)
        found.append((f"of.{kind.lower()}", file.getvalue()))
    deep = cv2.imencode(".png", np.full((30, 40, 3), 40_000, np.uint16))[1]
    heic = Path(__file__).parents[1] / "codecs" / "files" / "photo.heic"
    return [*found, ("deep.png", deep.tobytes()), ("of.heic", heic.read_bytes())]


def damaged(data: bytes, chance: random.Random) -> bytes:
    """Cut a file short, or change or repeat some of its bytes."""
    spoiled = bytearray(data)
    for _ in range(chance.randint(0, 6)):
        at = chance.randrange(len(spoiled))
        spoiled[at : at + chance.randint(0, 3)] = chance.randbytes(chance.randint(0, 4))
    if chance.random() < 0.5:
        del spoiled[chance.randrange(len(spoiled)) :]
    return bytes(spoiled)


@pytest.mark.parametrize("seed", range(12))
def test_damaged_pictures_are_shown_or_refused_and_leave_nothing(
    client: FlaskClient, studio: Studio, seed: int
) -> None:
    chance = random.Random(seed)  # noqa: S311  # to be repeated

    for name, data in picture_files():
        before = rows_and_files(studio)
        answer = bring_in(client, damaged(data, chance), name)
        require_answer(answer)
        if answer.status_code >= 400:
            assert rows_and_files(studio) == before


@pytest.mark.parametrize("name", [name for name, _ in picture_files()])
def test_picture_cut_short_anywhere_is_shown_or_refused(
    client: FlaskClient, name: str
) -> None:
    data = dict(picture_files())[name]

    for end in range(1, len(data), max(1, len(data) // 40)):
        require_answer(bring_in(client, data[:end], name))


def test_photo_with_broken_exif_is_taken_as_it_lies(client: FlaskClient) -> None:
    file = io.BytesIO()
    Image.new("RGB", (40, 30), "#a8412a").save(
        file, "JPEG", exif=b"Exif\0\0MM\0*\0\0\0\x08\xff\xff" + bytes(40)
    )
    turned = TiffImagePlugin.ImageFileDirectory_v2()
    turned[0x0112] = 99
    other = io.BytesIO()
    Image.new("RGB", (40, 30)).save(other, "JPEG", exif=b"Exif\0\0" + turned.tobytes())

    for photo in (file, other):
        brought = bring_in(client, photo.getvalue()).get_json()
        assert (brought["width"], brought["height"]) == (40, 30)


def layered(stack: str, document: str | None = None, **layers: bytes) -> io.BytesIO:
    """Return a layered file as a stranger might write it."""
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as packed:
        packed.writestr("mimetype", "image/openraster")
        packed.writestr("stack.xml", stack)
        for name, data in layers.items():
            packed.writestr(f"data/{name}.png", data)
        if document is not None:
            packed.writestr("glyphaneme/document.json", document)
    return file


def open_layered(client: FlaskClient, file: io.BytesIO) -> TestResponse:
    data = {"file": (io.BytesIO(file.getvalue()), "night.ora")}
    return client.post("/api/projects/layered", data=data)


LAYER = '<layer name="Moths" src="data/a.png" {}/>'
IMAGE = '<image w="{}" h="{}"><stack>{}</stack></image>'


@pytest.mark.parametrize(
    "stack",
    [
        IMAGE.format(40, 30, LAYER.format('x="1e999" y="0"')),
        IMAGE.format(40, 30, LAYER.format('x="-1e300"')),
        IMAGE.format(40, 30, LAYER.format('x="300000"')),
        IMAGE.format(40, 30, LAYER.format('y="nan"')),
        IMAGE.format(40, 30, LAYER.format('opacity="nan"')),
        IMAGE.format(40, 30, LAYER.format('opacity="inf"')),
        IMAGE.format("9" * 5000, 30, LAYER.format("")),
        IMAGE.format(0, -1, ""),
        IMAGE.format(40, 30, "<stack>" * 20_000 + "</stack>" * 20_000),
        IMAGE.format(40, 30, LAYER.format("") * 201),
        IMAGE.format(40, 30, f"<stack>{LAYER.format('')}</stack>" * 150),
        '<image w="40" h="30" xres="nan"><stack/></image>',
        '<image w="40" h="30" xres="1e999"><stack/></image>',
    ],
)
def test_layered_file_of_extreme_numbers_is_refused(
    client: FlaskClient, studio: Studio, stack: str
) -> None:
    before = rows_and_files(studio)

    answer = open_layered(client, layered(stack, a=dict(picture_files())["RG.png"]))

    require_answer(answer)
    assert answer.status_code >= 400
    assert rows_and_files(studio) == before


@pytest.mark.parametrize("seed", range(12))
def test_damaged_layered_files_are_opened_or_refused(
    client: FlaskClient, studio: Studio, seed: int
) -> None:
    chance = random.Random(seed)  # noqa: S311  # to be repeated
    whole = saved(poster()).getvalue()

    for _ in range(6):
        before = rows_and_files(studio)
        answer = open_layered(client, io.BytesIO(damaged(whole, chance)))
        require_answer(answer)
        if answer.status_code >= 400:
            assert rows_and_files(studio) == before


@pytest.mark.parametrize(
    "change",
    [
        lambda composite: composite["layers"].extend(composite["layers"]),
        lambda composite: composite.update(schema_version=99),
        lambda composite: composite.update(layers={"a": 1}),
        lambda composite: composite["canvas"].update(width=10**9),
        lambda composite: composite["layers"][0].update(opacity=math.nan),
        lambda composite: composite["layers"][0].update(name="\0"),
    ],
)
def test_own_document_that_cannot_be_is_passed_over_for_the_layers(
    client: FlaskClient, change: Callable[[dict], None]
) -> None:
    file = io.BytesIO()
    with zipfile.ZipFile(saved(poster())) as whole, zipfile.ZipFile(file, "w") as odd:
        for entry in whole.infolist():
            data = whole.read(entry)
            if entry.filename == "glyphaneme/document.json":
                document = json.loads(data)
                change(document["composite"])
                data = json.dumps(document).encode()
            odd.writestr(entry, data)

    answer = open_layered(client, file)

    assert answer.status_code == 201, answer.get_json()


def test_own_document_nested_a_hundred_thousand_deep_is_passed_over(
    client: FlaskClient,
) -> None:
    stack = IMAGE.format(40, 30, LAYER.format(""))
    picture = dict(picture_files())["RG.png"]

    answer = open_layered(client, layered(stack, "[" * 100_000, a=picture))

    assert answer.status_code == 201
