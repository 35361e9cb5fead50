"""Shadows, mended places, painted colour and matches, through the API and in files."""

from __future__ import annotations

import io
import shutil
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image

from glyphaneme.core.render import FrameCache
from glyphaneme.core.weighed import WeighedCache
from glyphaneme.web.factory import WebSettings, create_app
from tests import published_tones as published
from tests.worktable import Worktable

if TYPE_CHECKING:
    from pathlib import Path

    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

SIDE = 240
VIEW = {"x": 0, "y": 0, "width": SIDE, "height": SIDE, "scale": 1}
GROUND, PIECE = (90, 110, 130), (180, 120, 60)


def grained(color: tuple[int, int, int], side: int) -> np.ndarray:
    random = np.random.default_rng(side)
    noise = random.normal(0, 12, (side, side, 1))
    return np.clip(np.array(color) + noise, 0, 255).astype(np.uint8)


class Desk(Worktable):
    """A blue-grey ground with a smaller, orange photo on it that has a white speck."""

    def __init__(self, client: FlaskClient) -> None:
        super().__init__(client, "Desk", SIDE)
        ground, piece = grained(GROUND, SIDE), grained(PIECE, 120)
        piece[50:56, 60:66] = 255
        self.lay_on("ground", "Ground", ground)
        self.lay_on("piece", "Piece", piece)

    def frame(self) -> TestResponse:
        return self.post(
            "frame", revision=self.state["head"], view={**VIEW, "fineness": "exact"}
        )

    def shown(self) -> np.ndarray:
        """Return the frame's colours; its JPEG begins where one does."""
        data = self.frame().data
        jpeg = data[data.index(b"\xff\xd8") :]
        return np.asarray(Image.open(io.BytesIO(jpeg)).convert("RGB")).astype(int)

    def mend(self, name: str, x: float, y: float, size: float = 12) -> None:
        mend = {"id": name, "points": [[x, y]], "size": size}
        self.edit(kind="mend_photo", layer_id="piece", mend=mend)

    def matches(self, **asked: object) -> TestResponse:
        asked = {"layer_id": "piece", "place": 0, **asked}
        return self.post("matches", revision=self.state["head"], **asked)


def fresh_client(studio: Studio, folder: Path, **changes: Any) -> FlaskClient:
    """Return a client of another process, as it were, that remembers nothing."""
    forgetful = {
        "frames": FrameCache(10**8),
        "mended": WeighedCache(8),
        "filled_places": WeighedCache(10**8),
        "rough_patches": WeighedCache(8),
        "rough": WeighedCache(8),
    }
    settings = WebSettings(frozenset({"localhost", "127.0.0.1"}), folder, folder)
    return create_app(replace(studio, **forgetful, **changes), settings).test_client()


@pytest.fixture
def desk(client: FlaskClient) -> Desk:
    return Desk(client)


# The speck lies at 50..56 of the piece, and so at 110..116 of the canvas.
SPECK = np.s_[110:116, 120:126]


def test_a_speck_is_gone_at_once_and_back_when_its_mend_is_off(desk: Desk) -> None:
    assert desk.shown()[SPECK].min() > 220
    desk.mend("dust", 63, 53)
    assert np.abs(desk.shown()[SPECK].mean(axis=(0, 1)) - PIECE).max() < 20
    desk.edit(kind="switch_mend", layer_id="piece", mend_id="dust", works=False)
    assert desk.shown()[SPECK].min() > 220


def test_what_was_filled_is_kept_as_a_file_and_made_again_where_it_is_gone(
    desk: Desk, studio: Studio, tmp_path: Path
) -> None:
    desk.mend("dust", 63, 53)
    before = desk.shown()
    (patch,) = studio.shelf.patches.iterdir()
    for broken in (patch.read_bytes(), b"no patch"):
        patch.write_bytes(broken)
        desk.client = fresh_client(studio, tmp_path)
        assert (desk.shown() == before).all()


def test_many_places_at_once_are_rough_at_first_and_then_as_they_should_be(
    studio: Studio, tmp_path: Path
) -> None:
    desk = Desk(fresh_client(studio, tmp_path, is_waited_for=True))
    for place in range(18):
        desk.mend(f"m{place}", 8 + 6 * place, 30 + 40 * (place % 2), size=50)
    address = f"/api/projects/{desk.state['id']}/preview?width=120"
    preview = desk.client.get(address)
    assert (preview.status_code, preview.headers["Cache-Control"]) == (200, "no-store")
    assert "ETag" not in preview.headers
    frames = []
    for _ in range(12):
        answer = desk.frame()
        frames.append(answer.data)
        if "Rough-As-Yet" not in answer.headers:
            break
    assert 2 < len(frames) < 12
    assert frames[0] != frames[-1]
    assert desk.frame().data == frames[-1]
    assert "ETag" in desk.client.get(address).headers
    # Who does not wait gets the same at once.
    shutil.rmtree(studio.shelf.patches)
    desk.client = fresh_client(studio, tmp_path)
    answer = desk.frame()
    assert "Rough-As-Yet" not in answer.headers
    assert answer.data == frames[-1]


def mend_beneath(desk: Desk, name: str, x: float, y: float, size: float = 12) -> None:
    """Mend a place of all that lies beneath, by a layer for that."""
    if not any(one["kind"] == "mending" for one in desk.state["composite"]["layers"]):
        desk.edit(kind="add_mending", layer_id="repairs", name="Repairs")
    mend = {"id": name, "points": [[x, y]], "size": size}
    desk.edit(kind="mend_photo", layer_id="repairs", mend=mend)


def test_what_everything_beneath_shows_is_mended_and_kept_as_a_file(
    desk: Desk, studio: Studio, tmp_path: Path
) -> None:
    mend_beneath(desk, "dust", 123, 113)
    before = desk.shown()
    assert np.abs(before[SPECK].mean(axis=(0, 1)) - PIECE).max() < 20
    assert desk.sentence("repairs")["mends"] == ["a speck, 12 px"]
    (patch,) = studio.shelf.patches.iterdir()
    for broken in (patch.read_bytes(), b"no patch"):
        patch.write_bytes(broken)
        desk.client = fresh_client(studio, tmp_path)
        assert (desk.shown() == before).all()
    # Moved away from under it, the speck is there again.
    place = {"x": 100, "y": 100, "scale_x": 1, "scale_y": 1}
    desk.edit(kind="place_layer", layer_id="piece", placement=place)
    assert desk.shown()[90:96, 100:106].min() > 220


def test_while_something_moves_beneath_places_are_filled_roughly_and_exactly_then(
    studio: Studio, tmp_path: Path
) -> None:
    desk = Desk(fresh_client(studio, tmp_path, is_waited_for=True))
    mend_beneath(desk, "dust", 123, 113, size=30)
    place = {"x": 121, "y": 119, "scale_x": 1, "scale_y": 1}
    move = {"kind": "place_layer", "layer_id": "piece", "placement": place}
    asked = {"revision": desk.state["head"], "unsaved": [move]}
    quick = desk.post("frame", view=VIEW, **asked)
    assert "Rough-As-Yet" not in quick.headers
    assert not studio.shelf.patches.exists()
    fine = desk.post("frame", view={**VIEW, "fineness": "exact"}, **asked)
    assert "Rough-As-Yet" not in fine.headers
    assert len(list(studio.shelf.patches.iterdir())) == 1
    # What is found exactly is shown at once from then on.
    again = desk.post("frame", view=VIEW, **asked)
    assert again.data != quick.data


def test_what_another_process_filled_meanwhile_is_not_rough_any_more(
    studio: Studio, tmp_path: Path
) -> None:
    desk = Desk(fresh_client(studio, tmp_path, is_waited_for=True))
    mend_beneath(desk, "dust", 123, 113, size=30)
    desk.post("frame", revision=desk.state["head"], view=VIEW)
    here, desk.client = desk.client, fresh_client(studio, tmp_path)
    there = desk.frame()
    desk.client = here
    answer = desk.frame()
    assert "Rough-As-Yet" not in answer.headers
    assert answer.data == there.data


def test_many_places_beneath_are_rough_at_first_and_then_as_they_should_be(
    studio: Studio, tmp_path: Path
) -> None:
    desk = Desk(fresh_client(studio, tmp_path, is_waited_for=True))
    for place in range(20):
        x, y = 15 + 50 * (place % 5), 25 + 55 * (place // 5)
        mend_beneath(desk, f"m{place}", x, y, size=40)
    frames = []
    for _ in range(16):
        answer = desk.frame()
        frames.append(answer.data)
        if "Rough-As-Yet" not in answer.headers:
            break
    assert 2 < len(frames) < 16
    assert desk.frame().data == frames[-1]
    shutil.rmtree(studio.shelf.patches)
    desk.client = fresh_client(studio, tmp_path)
    assert desk.frame().data == frames[-1]


def test_a_shadow_falls_beneath_the_piece_alone(desk: Desk) -> None:
    before = desk.shown()
    soft = {"kind": "soft", "distance": 30, "angle": 90, "softness": 4, "strength": 1}
    desk.edit(kind="shade_layer", layer_id="piece", effects=[soft])
    found = desk.shown()
    assert np.abs(found[70:170, 70:170] - before[70:170, 70:170]).max() < 12
    assert found[195, 120].max() < 50
    said = desk.sentence("piece")
    assert said["effects"] == ["a soft shadow"]


def test_it_is_told_where_a_layer_shows(desk: Desk) -> None:
    circle = {"kind": "ellipse", "id": "c", "x": 60, "y": 40, "width": 50, "height": 30}
    desk.edit(kind="add_part", layer_id="piece", part=circle)
    asked = {"revision": desk.state["head"], "layer_id": "piece"}
    corners = desk.post("layer-extent", **asked).get_json()["points"]
    # The piece begins at 60, 60.
    assert np.ravel(corners) == pytest.approx([95, 85, 145, 115], abs=1)
    hidden = {**circle, "x": -500, "id": "h", "join": "keep"}
    desk.edit(kind="add_part", layer_id="piece", part=hidden)
    asked["revision"] = desk.state["head"]
    assert desk.post("layer-extent", **asked).get_json()["points"] == []
    assert desk.post("layer-extent", **{**asked, "layer_id": "x"}).status_code == 409


def test_a_colour_is_painted_and_holds_its_strokes(desk: Desk) -> None:
    ids = {"color_id": "skin", "group_id": "g", "part_id": "brushed"}
    before = desk.shown()
    desk.edit(
        kind="color_by_brush", layer_id="piece", name="Skin", color="#3060c0", **ids
    )
    assert (desk.shown() == before).all()
    stroke = {"points": [[100, 150, 1]], "size": 40, "softness": 0, "shows": True}
    desk.edit(kind="paint_stroke", layer_id="skin", part_id="brushed", stroke=stroke)
    found = desk.shown()
    assert found[150, 100, 2] > found[150, 100, 0] + 60
    assert np.abs(found[90, 160] - before[90, 160]).max() < 6
    part = {"kind": "painted", "id": "p", "last": None, "strokes": 3}
    refused = desk.try_edit(kind="add_part", layer_id="ground", part=part)
    assert refused.status_code == 422


def test_matches_are_offered_and_taken_as_a_tone(desk: Desk) -> None:
    offers = desk.matches().get_json()["offers"]
    assert {one["strength"] for one in offers} == {0.5, 1.0}
    assert offers[0]["tone"]["to"] == "what lies behind"
    named = desk.matches(to="ground").get_json()["offers"]
    assert named[0]["tone"]["to"] == "Ground"
    whole = next(
        one["tone"]
        for one in named
        if (one["title"], one["strength"]) == ("By the whole", 1.0)
    )
    before = np.abs(desk.shown()[150, 150] - GROUND).sum()
    desk.edit(kind="tone_layer", layer_id="piece", tones=[whole])
    assert np.abs(desk.shown()[150, 150] - GROUND).sum() < before
    said = desk.sentence("piece")
    assert said["tones"] == ["matched to Ground"]
    # A match does not count itself: the same is offered again.
    assert desk.matches(to="ground").get_json()["offers"] == named


def test_what_is_pointed_at_comes_to_look_alike(desk: Desk) -> None:
    pair = {"this": {"x": 150, "y": 150}, "that": {"x": 20, "y": 20}}
    asked = {"layer_id": "piece", "place": 0, "to": "ground", "radius": 10}
    revision = desk.state["head"]
    tone = desk.post("match-pairs", revision=revision, pairs=[pair], **asked).get_json()
    before = desk.shown()
    desk.edit(kind="tone_layer", layer_id="piece", tones=[tone])
    apart = []
    for shown in (before, desk.shown()):
        linear = published.decoded(shown / 255)
        piece, ground = (
            published.oklab(linear[part].mean(axis=(0, 1)))
            for part in (np.s_[140:160, 140:160], np.s_[10:30, 10:30])
        )
        apart.append(np.linalg.norm(piece - ground))
    assert apart[1] < 0.6 * apart[0]


def test_what_lies_beneath_can_be_matched_to_the_piece(desk: Desk) -> None:
    desk.edit(kind="add_toning", layer_id="fit", name="Fit", index=1)
    found = desk.matches(layer_id="fit", to="piece").get_json()["offers"]
    whole = next(one["tone"] for one in found[::-1] if one["title"] == "By the whole")
    assert whole["warmth"] > 0.1


@pytest.mark.parametrize(
    ("what", "asked", "status"),
    [
        ("matches", {"layer_id": "ground"}, 409),
        ("matches", {"layer_id": "gone"}, 409),
        ("matches", {"to": "gone"}, 409),
        ("matches", {"place": -1}, 422),
        ("match-pairs", {"pairs": []}, 422),
        ("match-pairs", {"pairs": [{"this": {"x": 1e9, "y": 0}}]}, 422),
        (
            "match-pairs",
            {"pairs": [{"this": {"x": 5, "y": 5}, "that": {"x": 5, "y": 5}}]},
            409,
        ),
        (
            "match-pairs",
            {"pairs": [{"this": {"x": 120, "y": 90}, "that": {"x": 20, "y": 20}}] * 6},
            422,
        ),
    ],
)
def test_what_cannot_be_matched_is_said(
    desk: Desk, what: str, asked: dict[str, Any], status: int
) -> None:
    body = {"layer_id": "piece", "place": 0, "revision": desk.state["head"], **asked}
    answer = desk.post(what, **body)
    assert answer.status_code == status, answer.get_json()
    assert answer.get_json()["detail"]


@pytest.mark.parametrize(
    "edit",
    [
        {"kind": "mend_photo", "mend": {"id": "m", "points": [], "size": 9}},
        {"kind": "mend_photo", "mend": {"id": "m", "points": [[0, 0]], "size": 1e9}},
        {"kind": "shade_layer", "effects": [{"kind": "cast", "length": -1}]},
        {"kind": "shade_layer", "effects": [{"kind": "soft"}] * 1000},
    ],
    ids=lambda one: one["kind"],
)
def test_impossible_work_is_refused_with_a_sentence(
    desk: Desk, edit: dict[str, Any]
) -> None:
    answer = desk.try_edit(layer_id="piece", **edit)
    assert answer.status_code == 422
    assert answer.get_json()["detail"]
