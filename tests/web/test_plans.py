"""Plans over HTTP: previews, what is still to be found, pictures begun, checklists."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image

from glyphaneme.services.kinds import WORK
from glyphaneme.services.plans import beginning
from glyphaneme.services.working import run_job
from glyphaneme.store.rows import JobKind
from tests.cutouts import disks
from tests.pictures import flat_pixels, soft_pixels
from tests.tiny_network import write_network
from tests.web.test_http import bring_in

if TYPE_CHECKING:
    from pathlib import Path

    from flask.testing import FlaskClient

    from glyphaneme.services.studio import Studio

JPEG, PNG = "image/jpeg", "image/png"


def file_of(pixels: np.ndarray) -> bytes:
    file = io.BytesIO()
    Image.fromarray(pixels[..., :3]).save(file, "PNG")
    return file.getvalue()


@pytest.fixture
def subject(client: FlaskClient, tmp_path: Path) -> str:
    """Bring in a red disk before blue; the network prefers red."""
    write_network(tmp_path / "models")
    pixels = disks(400, 300, [(200, 160, 80)]).pixels
    return str(bring_in(client, file_of(pixels), "disk.png").get_json()["id"])


@pytest.fixture
def place(client: FlaskClient) -> str:
    answer = bring_in(client, file_of(soft_pixels(480, 320, seed=1)), "place.png")
    return str(answer.get_json()["id"])


def look(client: FlaskClient, plan: str, **filling: object) -> dict[str, Any]:
    answer = client.post(f"/api/plans/{plan}/look", json={"filling": filling})
    assert answer.status_code == 200, answer.get_json()
    found: dict[str, Any] = answer.get_json()
    return found


def begin_plan(
    client: FlaskClient, plan: str, key: str | None = None, **filling: object
) -> dict[str, Any]:
    body = {"id": key or str(uuid.uuid4()), "filling": filling}
    answer = client.post(f"/api/plans/{plan}/projects", json=body)
    assert answer.status_code == 201, answer.get_json()
    state: dict[str, Any] = answer.get_json()
    return state


def do_all(client: FlaskClient, studio: Studio, *kinds: JobKind) -> None:
    """Do all work of some kinds that waits."""
    for job in client.get("/api/jobs").get_json()["jobs"]:
        if job["kind"] in kinds:
            run_job(studio, uuid.UUID(job["id"]), WORK[JobKind(job["kind"])])


def state_of(client: FlaskClient, project: str) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/api/projects/{project}").get_json()
    return found


def layers_of(state: dict[str, Any]) -> dict[str, Any]:
    return {layer["id"]: layer for layer in state["composite"]["layers"]}


def test_plans_are_offered_with_their_slots(client: FlaskClient) -> None:
    plans = client.get("/api/plans").get_json()["plans"]

    assert len(plans) == 17
    first = plans[0]
    assert first["name"] == "double-exposure"
    assert [slot["name"] for slot in first["slots"]] == ["somebody", "place", "things"]
    assert "layers" not in first


def test_examples_are_shown_with_what_they_were_made_of(client: FlaskClient) -> None:
    for query in ("", "?slot=place"):
        answer = client.get(f"/api/plans/double-exposure/example{query}")
        assert answer.content_type == "image/webp"
        assert Image.open(io.BytesIO(answer.data)).width > 60
        kept = {"If-None-Match": answer.headers["ETag"]}
        again = client.get(f"/api/plans/double-exposure/example{query}", headers=kept)
        assert again.status_code == 304
    for path in ("nothing/example", "melting/example?slot=place"):
        assert client.get(f"/api/plans/{path}").status_code == 404


def test_a_plan_forms_as_photos_arrive(
    client: FlaskClient, subject: str, place: str
) -> None:
    bare = look(client, "double-exposure")
    half = look(client, "double-exposure", photos={"somebody": [subject]})

    assert (bare["empty"], bare["layers"]) == (["somebody", "place"], 0)
    assert (half["empty"], half["layers"]) == (["place"], 1)
    whole = look(
        client, "double-exposure", photos={"somebody": [subject], "place": [place]}
    )
    assert (whole["empty"], whole["layers"]) == ([], 3)
    small = next(one for one in whole["photos"] if one["slot"] == "place")
    assert "480 px wide; sharp in print up to 6 cm" in small["notes"][-1]["says"]


def test_a_cut_out_is_sought_once_and_laid_in_when_it_is_found(
    client: FlaskClient, studio: Studio, subject: str, place: str
) -> None:
    photos = {"somebody": [subject], "place": [place]}

    first = look(client, "double-exposure", photos=photos)["sought"]
    again = look(client, "double-exposure", photos=photos)["sought"]

    assert [(one["what"], one["picture"]) for one in first] == [("outline", subject)]
    assert again[0]["job"]["id"] == first[0]["job"]["id"]
    do_all(client, studio, JobKind.CUT_OUT)
    found = look(client, "double-exposure", photos=photos)
    assert found["sought"] == []
    says = [note["says"] for note in found["photos"][0]["notes"]]
    assert "The outline is clear." in says


def test_what_is_sought_in_vain_is_said_and_not_sought_again(
    client: FlaskClient, studio: Studio, tmp_path: Path
) -> None:
    write_network(tmp_path / "models")
    plain = np.full((60, 80, 3), (0, 0, 200), np.uint8)
    empty = bring_in(client, file_of(plain), "sky.png").get_json()["id"]
    look(client, "product-on-white", photos={"product": [empty]})

    do_all(client, studio, JobKind.CUT_OUT)

    (sought,) = look(client, "product-on-white", photos={"product": [empty]})["sought"]
    assert sought["job"] is None
    assert "Sky" in sought["error"]
    jobs = client.get("/api/jobs").get_json()["jobs"]
    assert not [job for job in jobs if job["kind"] == JobKind.CUT_OUT]


def test_without_a_network_a_plan_says_so_and_goes_on(
    client: FlaskClient, place: str
) -> None:
    found = look(client, "product-on-white", photos={"product": [place]})

    assert found["sought"][0]["error"]
    assert found["layers"] == 1


@pytest.mark.parametrize(
    ("plan", "kind"), [("melting", JPEG), ("round-picture", PNG), ("nothing", None)]
)
def test_previews_are_pictures(
    client: FlaskClient, place: str, plan: str, kind: str | None
) -> None:
    slot = "photos" if plan == "melting" else "photo"
    body = {"filling": {"photos": {slot: [place, place]}}, "side": 120}

    answer = client.post(f"/api/plans/{plan}/frame", json=body)

    if kind is None:
        assert answer.status_code == 404
        return
    assert answer.content_type == kind
    assert max(Image.open(io.BytesIO(answer.data)).size) == 120


@pytest.mark.parametrize(
    "filling",
    [
        {"photos": {"photo": ["../etc"]}},
        {"photos": {"photo": ["x"] * 25}},
        {"words": {"heading": "x" * 20_001}},
        {"sheet": {"width": 0, "height": 5}},
        {"nothing": 1},
        {"photos": {f"s-{n}": ["x"] for n in range(201)}},
    ],
)
def test_what_no_filling_is_is_refused(client: FlaskClient, filling: object) -> None:
    for what in ("look", "frame", "projects"):
        body = {"filling": filling}
        answer = client.post(f"/api/plans/page-with-words/{what}", json=body)
        assert answer.status_code == 422, what


def test_photos_that_are_gone_are_said(client: FlaskClient) -> None:
    for name in (str(uuid.uuid4()), "nothing"):
        found = look(client, "postcard", photos={"photo": [name]})
        assert "gone" in found["photos"][0]["notes"][0]["says"]


def test_five_thousand_letters_fit_or_are_refused(
    client: FlaskClient, place: str
) -> None:
    words = {"heading": "wörter 字 " * 600, "text": ""}
    photos = {"photo": [place]}

    found = look(client, "page-with-words", photos=photos, words=words)

    assert found["layers"] > 1


def test_a_picture_is_begun_by_ordinary_edits_with_one_named_moment(
    client: FlaskClient, place: str
) -> None:
    other = bring_in(
        client, file_of(soft_pixels(320, 320, seed=2)), "other.png"
    ).get_json()["id"]
    key = str(uuid.uuid4())

    state = begin_plan(
        client, "melting", key, photos={"photos": [place, other]}, name="Two"
    )

    assert state["name"] == "Two"
    assert [layer["name"] for layer in state["composite"]["layers"]][:2] == [
        "Place",
        "Other",
    ]
    history = client.get(f"/api/projects/{key}/history").get_json()
    assert [one["name"] for one in history["names"]] == [
        "Photos that melt into one another"
    ]
    assert history["names"][0]["id"] == state["head"] == history["ticks"][-1]["id"]
    # Undo goes back step by step, down to the empty sheet.
    at, steps = state, 0
    while at["undo_to"] is not None:
        body = {"to": at["undo_to"], "came_from": at["head"]}
        at = client.post(f"/api/projects/{key}/standing", json=body).get_json()
        steps += 1
    assert at["composite"]["layers"] == []
    assert steps == len(history["ticks"]) - 1 > 2


def test_a_picture_is_begun_once_for_an_id(client: FlaskClient, place: str) -> None:
    key = str(uuid.uuid4())
    first = begin_plan(client, "postcard", key, photos={"photo": [place]})

    again = begin_plan(client, "postcard", key, photos={"photo": [place]})
    body = {"id": key, "filling": {"photos": {"photo": [place]}, "name": "Other"}}
    other = client.post("/api/plans/postcard/projects", json=body)

    assert again["head"] == first["head"]
    assert other.status_code == 409


def test_a_picture_is_not_begun_with_empty_slots(
    client: FlaskClient, place: str
) -> None:
    body = {"filling": {"photos": {"place": [place]}}}

    answer = client.post("/api/plans/double-exposure/projects", json=body)

    assert answer.status_code == 422
    assert "“Somebody”" in answer.get_json()["detail"]
    assert client.get("/api/projects").get_json()["projects"] == []


def test_the_same_plan_and_photos_give_the_same_picture(
    client: FlaskClient, studio: Studio, subject: str, place: str
) -> None:
    photos = {"somebody": [subject], "place": [place]}
    look(client, "double-exposure", photos=photos)
    do_all(client, studio, JobKind.CUT_OUT)

    states = [begin_plan(client, "double-exposure", photos=photos) for _ in range(2)]

    assert states[0]["composite"] == states[1]["composite"]
    assert layers_of(states[0])["somebody"]["mask"]["parts"]


def test_cut_outs_come_afterwards_and_leave_alone_what_was_changed(
    client: FlaskClient, studio: Studio, subject: str, place: str
) -> None:
    photos = {"product": [subject], "scene": [place]}
    state = begin_plan(client, "product-in-a-scene", photos=photos)
    key = state["id"]
    assert layers_of(state)["product"]["mask"] is None
    scene = {"kind": "blend_layer", "layer_id": "scene", "mode": "normal"}
    edit = {**scene, "opacity": 0.5}
    body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": edit}
    client.post(f"/api/projects/{key}/edits", json=body)

    do_all(client, studio, JobKind.REFINE)

    layers = layers_of(state_of(client, key))
    assert layers["product"]["mask"]["parts"][0]["kind"] == "matte"
    assert layers["scene"]["opacity"] == 0.5
    checklist = client.get(f"/api/projects/{key}/plan").get_json()
    steps = {step["name"]: step["state"] for step in checklist["steps"]}
    assert steps["outline"] == "open"
    # Undo takes back what was found, then what was changed.
    history = client.get(f"/api/projects/{key}/history").get_json()
    assert history["names"][0]["id"] == state["head"]


def test_the_named_moment_is_the_one_in_which_all_is_found(
    client: FlaskClient, studio: Studio, subject: str
) -> None:
    photos = {"product": [subject]}
    state = begin_plan(client, "product-on-white", photos=photos)

    do_all(client, studio, JobKind.REFINE)

    after = state_of(client, state["id"])
    history = client.get(f"/api/projects/{state['id']}/history").get_json()
    assert after["head"] != state["head"]
    assert [one["id"] for one in history["names"]] == [after["head"]]
    again = begin_plan(client, "product-on-white", photos=photos)
    assert again["composite"] == after["composite"]


def test_a_layer_that_was_touched_keeps_what_was_done_to_it(
    client: FlaskClient, studio: Studio, subject: str
) -> None:
    state = begin_plan(client, "product-on-white", photos={"product": [subject]})
    key = state["id"]
    placement = layers_of(state)["product"]["placement"] | {"x": 5.0}
    edit = {"kind": "place_layer", "layer_id": "product", "placement": placement}
    body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": edit}
    client.post(f"/api/projects/{key}/edits", json=body)

    do_all(client, studio, JobKind.REFINE)

    product = layers_of(state_of(client, key))["product"]
    assert (product["placement"]["x"], product["mask"]) == (5.0, None)


def test_refining_goes_on_where_a_dead_worker_left_it(
    client: FlaskClient,
    studio: Studio,
    subject: str,
    place: str,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    photos = {"product": [subject], "scene": [place]}
    state = begin_plan(client, "product-in-a-scene", photos=photos)
    real = beginning.add_edit
    left = [2]

    def dying(*args: Any, **how: Any) -> Any:
        left[0] -= 1
        if left[0] < 0:
            raise KeyboardInterrupt
        return real(*args, **how)

    # As a kill does, it ends the transaction half-way.
    with monkeypatch.context() as patched:
        patched.setattr(beginning, "add_edit", dying)
        with pytest.raises(KeyboardInterrupt):
            do_all(client, studio, JobKind.REFINE)
    do_all(client, studio, JobKind.REFINE)

    again = begin_plan(client, "product-in-a-scene", photos=photos)
    assert layers_of(state_of(client, state["id"])) == layers_of(again)


def two_of_one_place(client: FlaskClient) -> dict[str, list[str]]:
    """Bring in two photos that are 440 px wide, and share 400 of them."""
    coarse = np.random.default_rng(5).integers(0, 256, (45, 60, 3), np.uint8)
    whole = np.asarray(Image.fromarray(coarse).resize((480, 360), Image.BICUBIC))
    photos = {}
    for slot, left in (("before", 0), ("after", 40)):
        part = whole[20:340, left : left + 440]
        name = bring_in(client, file_of(part), f"{slot}.png").get_json()["id"]
        photos[slot] = [name]
    return photos


def test_photos_of_one_place_are_lined_up_and_cut_to_what_both_show(
    client: FlaskClient, studio: Studio
) -> None:
    photos = two_of_one_place(client)
    first = look(client, "before-and-after", photos=photos)
    assert [one["what"] for one in first["sought"]] == ["pair"]

    do_all(client, studio, JobKind.PAIR)

    found = look(client, "before-and-after", photos=photos)
    assert found["sought"] == []
    assert found["width"] / first["width"] == pytest.approx(400 / 440, rel=0.02)


def test_a_sheet_that_somebody_works_on_is_not_cut_under_their_hands(
    client: FlaskClient, studio: Studio
) -> None:
    photos = two_of_one_place(client)
    states = [begin_plan(client, "before-and-after", photos=photos) for _ in range(2)]
    touched = states[0]
    blend = {"kind": "blend_layer", "layer_id": "before", "mode": "normal"}
    edit = {**blend, "opacity": 0.5}
    body = {"key": str(uuid.uuid4()), "parent": touched["head"], "edit": edit}
    client.post(f"/api/projects/{touched['id']}/edits", json=body)

    do_all(client, studio, JobKind.REFINE)

    canvases = [
        state_of(client, one["id"])["composite"]["canvas"]["width"] for one in states
    ]
    assert canvases[0] == touched["composite"]["canvas"]["width"] == 440
    now = layers_of(state_of(client, touched["id"]))
    assert now["after"] == layers_of(touched)["after"]
    assert canvases[1] == pytest.approx(400, abs=4)


def test_a_step_whose_layer_is_taken_off_is_done(
    client: FlaskClient, place: str
) -> None:
    state = begin_plan(client, "postcard", photos={"photo": [place]})
    edit = {"kind": "remove_layer", "layer_id": "greeting"}
    body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": edit}
    client.post(f"/api/projects/{state['id']}/edits", json=body)

    steps = client.get(f"/api/projects/{state['id']}/plan").get_json()["steps"]

    about = [step for step in steps if step["layer_id"] is None]
    assert about
    assert {step["state"] for step in about} == {"touched"}


def test_photos_that_are_not_alike_are_said(
    client: FlaskClient, studio: Studio, place: str
) -> None:
    plain = np.full((60, 80, 3), 200, np.uint8)
    other = bring_in(client, file_of(plain), "other.png").get_json()["id"]
    photos = {"before": [place], "after": [other]}
    look(client, "before-and-after", photos=photos)

    do_all(client, studio, JobKind.PAIR)

    (sought,) = look(client, "before-and-after", photos=photos)["sought"]
    assert "too little in common" in sought["error"]
    state = begin_plan(client, "before-and-after", photos=photos)
    do_all(client, studio, JobKind.REFINE)
    assert len(layers_of(state_of(client, state["id"]))) == 2


def test_steps_tick_themselves_are_passed_over_and_come_back(
    client: FlaskClient, place: str
) -> None:
    other = bring_in(
        client, file_of(soft_pixels(320, 320, seed=2)), "other.png"
    ).get_json()["id"]
    state = begin_plan(client, "melting", photos={"photos": [place, other]})
    key = state["id"]

    def states() -> dict[str, str]:
        steps = client.get(f"/api/projects/{key}/plan").get_json()["steps"]
        return {step["facet"]: step["state"] for step in steps}

    first = client.get(f"/api/projects/{key}/plan").get_json()
    assert not first["is_folded"]
    fade = next(step for step in first["steps"] if step["facet"] == "fade")
    assert fade["layer_id"] in layers_of(state)
    change = {"ignored": {fade["name"]: True}, "is_folded": True}
    assert client.patch(f"/api/projects/{key}/plan", json=change).status_code == 204
    assert states()["fade"] == "ignored"
    client.patch(f"/api/projects/{key}/plan", json={"ignored": {fade["name"]: False}})
    assert states()["fade"] == "open"
    assert client.get(f"/api/projects/{key}/plan").get_json()["is_folded"]
    head = state_of(client, key)["head"]
    edit = {"kind": "fade_layer", "layer_id": fade["layer_id"], "fades": []}
    body = {"key": str(uuid.uuid4()), "parent": head, "edit": edit}
    client.post(f"/api/projects/{key}/edits", json=body)
    assert states()["fade"] == "touched"


def test_pictures_without_a_plan_have_no_steps(client: FlaskClient) -> None:
    canvas = {"width": 20, "height": 20}
    body = {"id": str(uuid.uuid4()), "name": "Bare", "canvas": canvas}
    client.post("/api/projects", json=body)

    answer = client.get(f"/api/projects/{body['id']}/plan")

    assert answer.status_code == 404


def test_hostile_photos_give_a_picture_or_a_sentence(client: FlaskClient) -> None:
    files = {
        "dot.png": file_of(flat_pixels(1, 1, (9, 9, 9, 255))),
        "panorama.png": file_of(flat_pixels(1000, 10, (200, 30, 30, 255))),
    }
    names = [
        bring_in(client, data, name).get_json()["id"] for name, data in files.items()
    ]
    for plan in client.get("/api/plans").get_json()["plans"]:
        photos = {slot["name"]: names[: slot["most"]] for slot in plan["slots"]}
        body = {"filling": {"photos": photos}, "side": 60}
        for what in ("look", "frame"):
            sent = body if what == "frame" else {"filling": body["filling"]}
            answer = client.post(f"/api/plans/{plan['name']}/{what}", json=sent)
            assert answer.status_code in {200, 409}, (plan["name"], answer.data)
