"""What files are asked for, looked at and fetched over HTTP."""

from __future__ import annotations

import io
import json
import subprocess
import uuid
import zipfile
from typing import TYPE_CHECKING, Any

import av
import numpy as np
import pytest
from PIL import Image
from sqlalchemy import text

from glyphaneme.codecs.color import coated_profile
from glyphaneme.services.kinds import WORK
from glyphaneme.services.sweeping import sweep
from glyphaneme.services.working import run_job
from glyphaneme.store.rows import JobKind
from tests import fonts
from tests.pdfs import pdf_facts, said_by, text_of, told

if TYPE_CHECKING:
    from pathlib import Path

    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

CANVAS = {"width": 90, "height": 60, "ppi": 90, "background": "#ffffff"}
RED, GREEN = (0xC0, 0x20, 0x20), (0x20, 0xA0, 0x40)


class Desk:
    """One picture: green over all, and a red disc in its middle."""

    def __init__(self, client: FlaskClient, studio: Studio, **canvas: object) -> None:
        self.client, self.studio = client, studio
        body = {"name": "Season poster", "canvas": CANVAS | canvas}
        self.state = client.post("/api/projects", json=body).get_json()
        self.edit(kind="add_color", layer_id="back", name="Back", color="#20a040")
        self.edit(kind="add_color", layer_id="disc", name="Disc", color="#c02020")
        round_part = {"kind": "ellipse", "id": "p", "x": 45, "y": 30}
        part = round_part | {"width": 30, "height": 20}
        self.edit(kind="add_part", layer_id="disc", part=part)

    @property
    def address(self) -> str:
        return f"/api/projects/{self.state['id']}"

    def edit(self, **edit: object) -> None:
        body = {"key": str(uuid.uuid4()), "parent": self.state["head"], "edit": edit}
        answer = self.client.post(f"{self.address}/edits", json=body)
        assert answer.status_code == 201, answer.get_json()
        self.state = answer.get_json()["state"]

    def request(self, **wishes: object) -> dict[str, Any]:
        return {"revision": self.state["head"], **wishes}

    def ask(self, **wishes: object) -> TestResponse:
        body = {"request": self.request(**wishes)}
        return self.client.post(f"{self.address}/exports", json=body)

    def job(self, **wishes: object) -> dict[str, Any]:
        answer = self.ask(**wishes)
        assert answer.status_code == 202, answer.get_json()
        return run(self.client, self.studio, answer.get_json()["id"])

    def file(self, **wishes: object) -> bytes:
        job = self.job(**wishes)
        assert job["state"] == "done", job
        return self.client.get(f"/api/exports/{job['id']}/file").data

    def picture(self, **wishes: object) -> Image.Image:
        return Image.open(io.BytesIO(self.file(**wishes)))

    def facts(self, **wishes: object) -> dict[str, Any]:
        answer = self.client.post(
            f"{self.address}/exports/facts", json=self.request(**wishes)
        )
        assert answer.status_code == 200, answer.get_json()
        return answer.get_json()

    def look(self, seen: dict, **wishes: object) -> TestResponse:
        body = {"request": self.request(**wishes), "seen": seen}
        return self.client.post(f"{self.address}/exports/look", json=body)


def run(client: FlaskClient, studio: Studio, job: str) -> dict[str, Any]:
    kind = JobKind(client.get(f"/api/jobs/{job}").get_json()["kind"])
    run_job(studio, uuid.UUID(job), WORK[kind])
    return client.get(f"/api/jobs/{job}").get_json()


@pytest.fixture
def desk(client: FlaskClient, studio: Studio) -> Desk:
    return Desk(client, studio)


def rgb(picture: Image.Image) -> np.ndarray:
    return np.asarray(picture.convert("RGB"))


def test_every_purpose_makes_a_file(desk: Desk) -> None:
    purposes = desk.client.get("/api/purposes").get_json()["purposes"]
    endings = set()

    for purpose in purposes:
        job = desk.job(**purpose["settings"])
        assert job["state"] == "done", (purpose["id"], job["error"])
        endings.add(job["file_name"])

    assert endings == {
        f"season-poster.{one}" for one in ("pdf", "webp", "jpg", "png", "ora")
    }
    assert [one["title"] for one in purposes][:3] == [
        "for a print shop",
        "for printing at home",
        "for a web page",
    ]


def test_what_is_known_beforehand_is_what_is_made(desk: Desk) -> None:
    wishes = {
        "format": "png",
        "size": {"by": "width", "width": 45},
        "ground": {"across": 1, "down": 1, "color": "#0000ff"},
    }

    facts = desk.facts(**wishes)
    picture = desk.picture(**wishes)

    assert (facts["width"], facts["height"]) == picture.size == (45, 45)
    assert facts["name"] == "season-poster.png"
    pixels = rgb(picture)
    assert tuple(pixels[2, 20]) == (0, 0, 255)
    assert tuple(pixels[22, 22]) == RED
    assert tuple(pixels[12, 2]) == GREEN


def test_upright_part_lies_in_the_middle_of_its_ground(desk: Desk) -> None:
    picture = desk.picture(
        format="png",
        crop={"x": 30, "y": 0, "width": 30, "height": 60},
        ground={"across": 1, "down": 1, "color": "#0000ff"},
    )

    pixels = rgb(picture)
    assert pixels.shape[:2] == (60, 60)
    assert tuple(pixels[30, 14]) == tuple(pixels[30, 45]) == (0, 0, 255)
    assert tuple(pixels[30, 30]) == RED
    assert tuple(pixels[1, 15]) == tuple(pixels[1, 44]) == GREEN


def test_part_of_the_sheet_is_saved_where_it_was_drawn(desk: Desk) -> None:
    crop = {"x": 30, "y": 20, "width": 30, "height": 20}

    whole = rgb(desk.picture(format="png"))
    part = rgb(desk.picture(format="png", crop=crop))

    np.testing.assert_array_equal(part, whole[20:40, 30:60])


def test_piece_is_cut_to_what_of_it_shows(desk: Desk) -> None:
    picture = desk.picture(format="png", piece="disc", trimmed=True)

    assert picture.size == (30, 20)
    alpha = np.asarray(picture.convert("RGBA"))[..., 3]
    assert alpha[10, 15] == 255
    assert alpha[0, 0] == 0


def test_chosen_layers_are_shown_and_no_others(desk: Desk) -> None:
    pixels = rgb(desk.picture(format="png", chosen=["disc"]))

    assert tuple(pixels[30, 45]) == RED
    assert tuple(pixels[2, 2]) == (255, 255, 255)


def test_file_stays_below_its_limit_and_says_what_gave_way(desk: Desk) -> None:
    for seed in range(12):
        desk.edit(
            kind="add_color", layer_id=f"n{seed}", name="n", color=f"#{seed * 999:06x}"
        )
        part = {"kind": "ellipse", "id": "p", "x": 7 * seed, "y": 5 * seed}
        desk.edit(
            kind="add_part",
            layer_id=f"n{seed}",
            part=part | {"width": 21, "height": 13, "softness": 3},
        )
    size = {"by": "width", "width": 900}
    free = len(desk.file(format="jpeg", quality=95, size=size))

    job = desk.job(format="jpeg", quality=95, size=size, most_bytes=free // 2)
    small = desk.job(format="jpeg", quality=95, size=size, most_bytes=3000)

    assert job["found"]["gave_way"] == ["quality"]
    assert 0.85 * (free // 2) <= job["found"]["bytes"] <= free // 2
    assert small["found"]["gave_way"] == ["quality", "size"]
    assert 2700 <= small["found"]["bytes"] <= 3000
    assert small["found"]["width"] < 900


def test_limit_that_nothing_meets_is_told(desk: Desk) -> None:
    desk.client.put(f"{desk.address}/about", json={"description": "Moths. " * 500})

    # What it says of itself weighs more than that.
    job = desk.job(format="png", most_bytes=1000)

    assert job["state"] == "failed"
    assert "however small it is made" in job["error"]


def test_look_is_the_file_s_own_pixels(desk: Desk) -> None:
    wishes = {"format": "jpeg", "quality": 10, "size": {"by": "width", "width": 180}}
    file = rgb(desk.picture(**wishes))

    look = desk.look({"x": 40, "y": 20, "width": 64, "height": 64}, **wishes)

    assert look.content_type == "image/jpeg"
    x, y = map(int, look.headers["Glyphaneme-At"].split(","))
    assert (x, y) == (32, 16)
    seen = rgb(Image.open(io.BytesIO(look.data)))
    inside = seen[:48, :48].astype(int)
    assert np.abs(inside - file[y : y + 48, x : x + 48]).mean() < 2


@pytest.mark.parametrize("chosen", ["png", "webp", "avif", "tiff", "gif", "pdf"])
def test_look_is_shown_by_browsers_whatever_the_format(desk: Desk, chosen: str) -> None:
    look = desk.look({"width": 90, "height": 60}, format=chosen)

    assert look.status_code == 200
    assert look.content_type in {
        f"image/{one}" for one in ("png", "jpeg", "webp", "avif", "gif")
    }
    seen = rgb(Image.open(io.BytesIO(look.data)))
    assert np.abs(seen[30, 45].astype(int) - RED).max() < 12


def test_printed_look_tells_what_no_ink_reaches(desk: Desk) -> None:
    desk.edit(kind="tint_sheet", background="#00ff00")
    wishes = {"format": "pdf", "coloring": {"space": "ink"}, "chosen": ["disc"]}
    seen = {"width": 90, "height": 60, "scale": 0.5}

    plain = desk.look(seen, **wishes)
    marked = desk.look(seen | {"marks": "gamut"}, **wishes)

    assert 0.7 < float(plain.headers["Glyphaneme-Outside"]) < 1
    shown = rgb(Image.open(io.BytesIO(plain.data)))
    assert shown.shape[:2] == (30, 45)
    # Printed, the brightest green is much duller.
    assert shown[2, 2, 1] < 200
    stitched = rgb(Image.open(io.BytesIO(marked.data))).mean(axis=2)
    # Threads of dark and light, and none where ink reaches.
    assert stitched[:8, :8].min() < 90
    assert stitched[:8, :8].max() > 200
    assert np.abs(stitched[13:17, 20:25] - shown.mean(axis=2)[13:17, 20:25]).max() < 25


LINE = {"x": 0, "y": 0, "width": 90, "height": 1}
WIDEST = {"by": "width"}


@pytest.mark.parametrize(
    ("wishes", "words"),
    [
        ({"format": "webp", "crop": LINE, "size": WIDEST | {"width": 16_384}}, "16383"),
        ({"format": "webp", "crop": LINE, "size": WIDEST | {"width": 16_383}}, None),
        ({"format": "jpeg", "crop": LINE, "size": WIDEST | {"width": 30_000}}, None),
        ({"format": "png", "size": {"by": "share", "share": 64}}, None),
        ({"format": "png", "size": {"by": "width", "width": 30_000}}, "million"),
    ],
)
def test_limits_of_size_are_told_beforehand(
    desk: Desk, wishes: dict, words: str | None
) -> None:
    facts = desk.facts(**wishes)

    if words is None:
        assert facts["refused"] is None
        return
    assert words in facts["refused"]
    answer = desk.ask(**wishes)
    assert answer.status_code == 422
    assert words in answer.get_json()["detail"]


@pytest.mark.parametrize(
    "wishes",
    [
        {"piece": "nobody"},
        {"chosen": ["nobody"]},
        {"apart": ["nobody"]},
        {"coloring": {"space": "ink", "profile": "0" * 64}, "format": "pdf"},
        {"compare": {"before": {"of": "without", "layer": "nobody"}}},
        {"compare": {"before": {"of": "moment", "revision": str(uuid.uuid4())}}},
    ],
)
def test_what_is_not_there_is_told_and_nothing_is_begun(
    desk: Desk, wishes: dict
) -> None:
    answer = desk.ask(**wishes)

    assert answer.status_code in {404, 409, 422}
    assert answer.get_json()["detail"]
    assert desk.client.get("/api/jobs").get_json()["jobs"] == []


@pytest.mark.parametrize(
    "wishes",
    [
        {"format": "jpeg", "bits": 16},
        {"format": "png", "coloring": {"space": "ink"}},
        {"piece": "disc", "chosen": ["back"]},
        {"format": "pdf", "apart": ["disc"]},
        {"crop": {"x": 0, "y": 0, "width": 0, "height": 5}},
        {"quality": 101},
    ],
)
def test_wishes_that_contradict_each_other_are_refused(
    desk: Desk, wishes: dict
) -> None:
    assert desk.ask(**wishes).status_code == 422


def test_what_is_said_of_a_picture_is_kept_and_goes_out_with_it(
    desk: Desk, tmp_path: Path
) -> None:
    about = {"title": "Премьера", "author": "Lanternmoth", "alt": "A disc"}
    kept = desk.client.put(f"{desk.address}/about", json=about)
    assert kept.get_json()["author"] == "Lanternmoth"

    file = tmp_path / "a.jpg"
    file.write_bytes(desk.file(format="jpeg"))
    silent = tmp_path / "b.jpg"
    silent.write_bytes(desk.file(format="jpeg", signed=False))

    assert said_by(file)["XMP-dc:Title"] == "Премьера"
    assert "XMP-dc:Title" not in said_by(silent)
    assert desk.client.get(f"{desk.address}/about").get_json()["title"] == "Премьера"


def test_file_is_of_the_moment_when_it_was_asked_for(desk: Desk) -> None:
    asked = desk.ask(format="png").get_json()

    desk.edit(kind="show_layer", layer_id="disc", visible=False)
    desk.client.put(f"{desk.address}/about", json={"title": "Later"})
    run(desk.client, desk.studio, asked["id"])

    data = desk.client.get(f"/api/exports/{asked['id']}/file").data
    picture = Image.open(io.BytesIO(data))
    assert tuple(rgb(picture)[30, 45]) == RED
    assert "XML:com.adobe.xmp" not in picture.info


def test_file_that_was_made_to_be_measured_goes_when_it_is_let_go(desk: Desk) -> None:
    job = desk.job(format="png")
    address = f"/api/exports/{job['id']}/file"
    assert desk.client.get(address).status_code == 200

    desk.client.delete(f"/api/jobs/{job['id']}")
    sweep(desk.studio)

    assert desk.client.get(address).status_code == 404
    with desk.studio.looking() as visit:
        assert visit.session.scalar(text("SELECT count(*) FROM blob")) == 0


def test_own_purpose_is_named_changed_and_taken_away(client: FlaskClient) -> None:
    settings = {"format": "avif", "quality": 55}
    body = {"name": "for the club's paper", "settings": settings}

    own = client.post("/api/purposes", json=body).get_json()
    changed = client.put(
        f"/api/purposes/{own['id']}", json={"settings": {"format": "gif"}}
    ).get_json()
    client.put("/api/purposes/web", json={"settings": {"format": "png"}})
    listed = {
        one["id"]: one for one in client.get("/api/purposes").get_json()["purposes"]
    }
    client.delete(f"/api/purposes/{own['id']}")
    client.delete("/api/purposes/web")
    after = {
        one["id"]: one for one in client.get("/api/purposes").get_json()["purposes"]
    }

    assert (own["is_own"], own["settings"]["quality"]) == (True, 55)
    assert (changed["title"], changed["settings"]["format"]) == (own["title"], "gif")
    assert listed["web"]["is_changed"]
    assert own["id"] not in after
    assert not after["web"]["is_changed"]
    assert client.put("/api/purposes/none", json={"settings": {}}).status_code == 404


def test_there_are_only_so_many_purposes(client: FlaskClient) -> None:
    body = {"name": "mine", "settings": {}}
    answers = [client.post("/api/purposes", json=body) for _ in range(101)]

    assert [one.status_code for one in answers] == [201] * 100 + [409]
    assert "take one away" in answers[-1].get_json()["detail"]


def bring_profile(client: FlaskClient, data: bytes) -> TestResponse:
    upload = {"file": (io.BytesIO(data), "Druckerei.icc")}
    return client.post("/api/profiles", data=upload)


def test_printer_s_profile_is_brought_used_and_put_away(desk: Desk) -> None:
    # Another one: its name differs by a letter.
    data = coated_profile().replace(b"FOGRA39L Coated", b"HOUSE39L Coated")
    found = bring_profile(desk.client, data).get_json()
    coloring = {"space": "ink", "profile": found["id"]}

    with desk.picture(format="tiff", coloring=coloring) as picture:
        assert picture.mode == "CMYK"
        assert picture.info["icc_profile"] == data
    desk.client.delete(f"/api/profiles/{found['id']}")

    listed = desk.client.get("/api/profiles").get_json()["profiles"]
    assert [one["id"] for one in listed] == [None]
    # What was asked for with it is still made.
    assert desk.ask(format="tiff", coloring=coloring).status_code == 202


@pytest.mark.parametrize("data", [b"", b"nothing", coated_profile()[:5000]])
def test_what_is_no_profile_is_told(client: FlaskClient, data: bytes) -> None:
    answer = bring_profile(client, data)

    assert answer.status_code == 415
    assert "Nothing was kept" in answer.get_json()["detail"]


SIDES = {"before": {"of": "without", "layer": "disc"}, "after": {"of": "picture"}}


def test_pair_is_two_files_of_one_size(desk: Desk) -> None:
    data = desk.file(format="png", compare=SIDES | {"made_as": "pair"})

    pack = zipfile.ZipFile(io.BytesIO(data))
    assert pack.namelist() == ["1-before.png", "2-after.png"]
    first, second = (
        rgb(Image.open(io.BytesIO(pack.read(name)))) for name in pack.namelist()
    )
    assert tuple(first[30, 45]) == GREEN
    assert tuple(second[30, 45]) == RED


def test_moments_are_compared_as_wide_as_the_picture_is_now(desk: Desk) -> None:
    begun = desk.state["head"]
    desk.edit(kind="show_layer", layer_id="disc", visible=False)
    sides = {"before": {"of": "moment", "revision": begun}, "made_as": "page"}

    page = desk.file(format="jpeg", compare=sides).decode()

    assert page.count("data:image/jpeg;base64,") == 2
    assert "script-src &#x27;" not in page
    assert "default-src 'none'" in page


@pytest.mark.parametrize("kind", ["webp", "gif"])
def test_moving_picture_wipes_from_one_to_the_other(desk: Desk, kind: str) -> None:
    picture = desk.picture(format="jpeg", compare=SIDES | {"made_as": kind})

    assert picture.n_frames > 60
    assert picture.info["loop"] == 0
    first = rgb(picture)[30, 45].astype(int)
    picture.seek(picture.n_frames // 2)
    middle = rgb(picture)[30, 45].astype(int)
    assert np.abs(first - GREEN).max() < 40
    assert np.abs(middle - RED).max() < 40


def test_film_is_read_by_a_player(desk: Desk) -> None:
    data = desk.file(format="jpeg", compare=SIDES | {"made_as": "mp4"})

    with av.open(io.BytesIO(data)) as film:
        frames = [frame.to_ndarray(format="rgb24") for frame in film.decode(video=0)]
    assert frames[0].shape == (60, 90, 3)
    assert len(frames) > 60
    assert np.abs(frames[0][30, 45].astype(int) - GREEN).max() < 40


def test_what_moves_is_no_larger_than_it_may_be(desk: Desk) -> None:
    answer = desk.ask(
        size={"by": "width", "width": 2561}, compare=SIDES | {"made_as": "gif"}
    )

    assert answer.status_code == 422
    assert "at most 2560" in answer.get_json()["detail"]


def gather(desk: Desk, **wishes: object) -> dict[str, Any]:
    answer = desk.client.post("/api/exports", json={"request": wishes})
    assert answer.status_code == 202, answer.get_json()
    return run(desk.client, desk.studio, answer.get_json()["id"])


def test_many_pictures_are_packed_and_those_that_fail_are_told(
    desk: Desk, client: FlaskClient, studio: Studio
) -> None:
    same = Desk(client, studio)
    wide = Desk(client, studio, width=9000, height=10)
    settings = {"format": "webp", "size": {"by": "share", "share": 2}}
    projects = [one.state["id"] for one in (desk, same, wide)]

    job = gather(desk, projects=projects, settings=settings, name="Вместе/вместе")

    assert job["found"]["made"] == 2
    assert [one["name"] for one in job["found"]["failed"]] == ["Season poster"]
    assert "16383" in job["found"]["failed"][0]["reason"]
    data = client.get(f"/api/exports/{job['id']}/file").data
    pack = zipfile.ZipFile(io.BytesIO(data))
    assert pack.namelist() == ["season-poster.webp", "season-poster-2.webp"]
    assert pack.testzip() is None


def test_many_of_which_none_can_be_made_fail(desk: Desk) -> None:
    settings = {"format": "webp", "size": {"by": "width", "width": 20_000}}

    job = gather(desk, projects=[desk.state["id"]], settings=settings)

    assert job["state"] == "failed"
    assert "150 million" in job["error"]


@pytest.mark.parametrize(("gathered", "pages"), [("pages", "3"), ("contact", "2")])
def test_pictures_are_gathered_on_pages(
    client: FlaskClient, studio: Studio, tmp_path: Path, gathered: str, pages: str
) -> None:
    desks = [Desk(client, studio) for _ in range(3)]
    wishes = {
        "projects": [one.state["id"] for one in desks],
        "settings": {"format": "webp"},
        "gathered": gathered,
        "sheet": {"columns": 2, "rows": 1},
    }

    job = gather(desks[0], **wishes)

    file = tmp_path / "all.pdf"
    file.write_bytes(client.get(f"/api/exports/{job['id']}/file").data)
    assert pdf_facts(file)["Pages"] == pages
    subprocess.run(["/usr/bin/qpdf", "--check", str(file)], check=True)
    assert ("Season poster" in text_of(file)) is (gathered == "contact")


def test_each_of_many_counts_once(desk: Desk) -> None:
    body = {"request": {"projects": [desk.state["id"]] * 2, "settings": {}}}

    answer = desk.client.post("/api/exports", json=body)

    assert answer.status_code == 422
    assert "counts once" in json.dumps(answer.get_json())


@pytest.mark.parametrize(
    ("tiling", "size", "words"),
    [
        ({"width_mm": 40, "margin_mm": 12, "overlap_mm": 10}, 500, "at least 10 mm"),
        ({"width_mm": 60, "height_mm": 60}, 9000, "at most 400 sheets"),
    ],
)
def test_poster_that_cannot_be_cut_is_told_beforehand(
    desk: Desk, tiling: dict, size: int, words: str
) -> None:
    paper = {"by": "paper", "width_mm": size, "ppi": 5}

    answer = desk.ask(format="pdf", size=paper, tiling=tiling)

    assert answer.status_code in {409, 422}
    assert words in answer.get_json()["detail"]


def test_poster_is_cut_into_sheets(desk: Desk, tmp_path: Path) -> None:
    file = tmp_path / "tiles.pdf"
    size = {"by": "paper", "width_mm": 500, "ppi": 20}

    file.write_bytes(desk.file(format="pdf", size=size, tiling={}))

    # 500 by 333 mm on A4: three beside each other, two above each other.
    facts = pdf_facts(file)
    assert facts["Pages"] == "6"
    assert facts["Page size"].endswith("(A4)")


def test_files_of_a_picture_are_found_again(desk: Desk) -> None:
    first, second = desk.job(format="png"), desk.job(format="gif")
    desk.ask(format="jpeg")

    listed = desk.client.get(f"{desk.address}/exports").get_json()["files"]

    assert [one["id"] for one in listed] == [second["id"], first["id"]]
    assert listed[0]["name"] == "season-poster.gif"
    assert listed[1]["size"] == first["found"]["bytes"]
    assert desk.client.get(f"/api/projects/{uuid.uuid4()}/exports").status_code == 404


@pytest.mark.parametrize(
    "more",
    [
        {"paper": {"bleed_mm": 3, "marks": True}},
        {"paper": {"bleed_mm": 3, "bleed_from": "beyond"}},
        {"crop": {"x": 60, "y": 30, "width": 240, "height": 170}},
        {"crop": {"x": 60, "y": 0, "width": 120, "height": 200}, "ground": {}},
        {"coloring": {"space": "ink"}, "size": {"by": "paper", "ppi": 200}},
    ],
)
def test_words_lie_on_the_page_where_they_are_seen(
    client: FlaskClient, studio: Studio, tmp_path: Path, more: dict
) -> None:
    desk = Desk(client, studio, width=300, height=200)
    setting = {"text": "Opening", "size": 40, "fonts": [fonts.ref("Lobster")]}
    setting["fonts"] = [one.model_dump() for one in setting["fonts"]]
    words = {"setting": setting, "ink": {"kind": "plain", "color": "#101010"}}
    desk.edit(kind="add_words", layer_id="w", words=words, at=[140, 110])
    pages = {}
    for letters in ("letters", "pixels"):
        file = tmp_path / f"{letters}.pdf"
        wishes = {"size": {"by": "share", "share": 3}, **more, "letters": letters}
        file.write_bytes(desk.file(format="pdf", quality=98, **wishes))
        assert ("Opening" in text_of(file)) is (letters == "letters")
        told("pdftoppm", "-r", "150", "-png", str(file), str(tmp_path / letters))
        (seen,) = tmp_path.glob(f"{letters}*.png")
        with Image.open(seen) as image:
            pages[letters] = rgb(image)

    # As dark where letters are, to a fraction of a pixel.
    dark = [page.min(axis=2) < 90 for page in pages.values()]
    assert dark[0].sum() > 500
    assert (dark[0] ^ dark[1]).sum() < 0.12 * dark[0].sum()


def test_piece_is_cut_anew_when_it_shows_elsewhere(desk: Desk) -> None:
    wishes = {"format": "png", "piece": "disc", "trimmed": True}
    first = desk.facts(**wishes)
    part = {"kind": "ellipse", "id": "p", "x": 20, "y": 30, "width": 12, "height": 8}

    desk.edit(kind="change_part", layer_id="disc", part=part)
    second = desk.facts(**wishes)

    assert (first["width"], first["height"]) == (30, 20)
    assert (second["width"], second["height"]) == (12, 8)
