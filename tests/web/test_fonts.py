"""Fonts and words through the API: on offer, brought in, lent, refused."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTCollection, TTFont

from glyphaneme.codecs import PictureRefusedError
from glyphaneme.codecs.fonts import MAX_FONT_BYTES, read_fonts
from glyphaneme.core.render import View, all_needed, render
from glyphaneme.services.assets import assets_named
from glyphaneme.services.layered_reading import assets_of_layered, read_layered
from glyphaneme.services.opening import open_layered
from glyphaneme.services.projects import composite_at
from tests.fonts import ref
from tests.worktable import Worktable

if TYPE_CHECKING:
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse

    from glyphaneme.services.studio import Studio

SIDE = 300


def font(family: str = "Lanternmoth", *, letters: str = "Moth", kind: int = 0) -> bytes:
    """Return a font whose letters are boxes."""
    names = [".notdef", *(f"letter{place}" for place in range(len(letters)))]
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap(dict(zip(map(ord, letters), names[1:], strict=True)))
    pen = TTGlyphPen(None)
    for step, at in enumerate(((50, 0), (50, 700), (450, 700), (450, 0))):
        (pen.lineTo if step else pen.moveTo)(at)
    pen.closePath()
    box = pen.glyph()
    builder.setupGlyf(dict.fromkeys(names, box))
    builder.setupHorizontalMetrics(dict.fromkeys(names, (500, 50)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": family, "styleName": "Regular"})
    builder.setupOS2(fsType=kind, sCapHeight=700)
    builder.setupPost()
    file = io.BytesIO()
    builder.save(file)
    return file.getvalue()


def bring(client: FlaskClient, data: bytes, name: str = "moth.ttf") -> TestResponse:
    return client.post("/api/fonts", data={"file": (io.BytesIO(data), name)})


def said(text: str, family: str = "Lobster", **setting: object) -> dict[str, Any]:
    fonts = [ref(family).model_dump()]
    return {"setting": {"text": text, "fonts": fonts, "size": 60, **setting}}


@pytest.fixture
def table(client: FlaskClient) -> Worktable:
    return Worktable(client, "Words", SIDE)


def add(table: Worktable, words: dict[str, Any], **more: object) -> dict[str, Any]:
    table.edit(kind="add_words", layer_id="w", words=words, **more)
    return table.state["composite"]["layers"][-1]


def test_families_are_on_offer_by_character(client: FlaskClient) -> None:
    offered = client.get("/api/fonts").get_json()["fonts"]

    assert all(one["is_here"] for one in offered)
    families = {one["family"]: one["group"] for one in offered}
    assert len(families) >= 40
    groups = list(families.values())
    assert groups.count("brush") >= 6
    assert groups.count("poster") >= 6
    file = client.get(f"/api/fonts/{offered[0]['id']}/file")
    assert TTFont(io.BytesIO(file.data)).getBestCmap()
    assert "immutable" in file.headers["Cache-Control"]


def test_the_families_speak_greek_cyrillic_and_other_scripts(
    client: FlaskClient,
) -> None:
    def without(text: str) -> set[str]:
        told = client.post("/api/fonts/lacking", json={"text": text}).get_json()
        return set(told["lacking"])

    offered = client.get("/api/fonts").get_json()["fonts"]
    usual = {one["id"] for one in offered if one["style"] == "regular"}
    assert len(usual - without("αβγδΩ")) >= 8
    assert len(usual - without("абвгЯ")) >= 8
    for text in ("سلام", "שלום", "नमस्ते", "สวัสดี", "日本", "世界", "한글"):
        assert usual - without(text), text


def test_a_font_tells_what_it_can_do(client: FlaskClient) -> None:
    facts = client.get(f"/api/fonts/{ref('EB Garamond').id}").get_json()
    assert "smcp" in facts["features"]
    assert facts["has_ligatures"]
    assert facts["axes"] == []
    assert client.get(f"/api/fonts/{'0' * 64}").status_code == 404
    assert client.get("/api/fonts/x").status_code == 422


def test_words_are_measured_by_the_service(table: Worktable) -> None:
    lying = {"fonts": [ref("Lobster").model_dump()], "width": 1, "height": 1}
    lying |= {"block": [0, 0, 1, 1], "capital": 1}
    layer = add(table, said("Moths"), measure=lying)

    assert layer["width"] > 100
    assert layer["measure"]["capital"] == pytest.approx(60 * 0.748, abs=1)
    sentence = "".join(part["text"] for part in table.sentence("w")["parts"])
    assert sentence.startswith("‘Moths’, in Lobster, ")


def test_letters_that_a_font_lacks_are_lent_by_the_nearest_that_has_them(
    table: Worktable,
) -> None:
    layer = add(table, said("Moths سلام 世"))

    assert layer["words"]["setting"]["fonts"][0]["name"] == "Lobster"
    assert "Amiri" in layer["measure"]["lent"]
    assert layer["measure"]["lacking"] == ""


def test_own_fonts_lend_letters_while_they_are_on_offer(
    client: FlaskClient, table: Worktable
) -> None:
    first = bring(client, font("Gathers", letters="\ue010")).get_json()["fonts"][0]
    assert add(table, said("A \ue010"))["measure"]["lent"] == ["Gathers"]

    client.delete(f"/api/fonts/{first['id']}")
    bring(client, font("Spares", letters="\ue010"))
    table.edit(kind="set_words", layer_id="w", words=said("B \ue010"))

    (layer,) = table.state["composite"]["layers"]
    assert layer["measure"]["lent"] == ["Spares"]


def test_words_that_are_not_saved_are_shown_as_they_will_be(table: Worktable) -> None:
    add(table, said("I"))
    view = {"x": 0, "y": 0, "width": SIDE, "height": SIDE, "scale": 1}

    def frame(*unsaved: dict[str, Any]) -> bytes:
        asked = {"revision": table.state["head"], "unsaved": list(unsaved)}
        answer = table.post("frame", **asked, view={**view, "fineness": "fine"})
        assert answer.status_code == 200
        return answer.data

    typed = {"kind": "set_words", "layer_id": "w", "words": said("Moths")}
    before, asked = frame(), frame(typed)
    table.edit(**typed)
    assert asked == frame() != before


def test_fonts_are_tried_in_the_window_that_is_asked_for(table: Worktable) -> None:
    add(table, said("Moths"))
    tried = [
        {"kind": "set_words", "layer_id": "w", "words": said("Moths", family)}
        for family in ("Anton", "Lora")
    ]
    window = {"x": 50.0, "y": 100.0, "width": 170.0, "height": 100.0}
    asked = {"revision": table.state["head"], "alternatives": tried, "width": 170}
    answer = table.post("tries", **asked, window=window)

    assert answer.status_code == 200
    told = answer.headers["Tiles"]
    assert '"x":50.0' in told
    assert '"wide":170.0' in told
    assert '"alike":[]' in told
    wrong = table.post("tries", **asked, window={**window, "width": 0})
    assert wrong.status_code == 422


def test_a_font_of_ones_own_sets_words_and_stays_with_them(
    client: FlaskClient, table: Worktable
) -> None:
    answer = bring(client, font())
    assert answer.status_code == 201
    (own,) = answer.get_json()["fonts"]
    assert (own["name"], own["group"]) == ("Lanternmoth", "own")
    assert client.get("/api/fonts").get_json()["fonts"][-1] == own

    words = said("Moth")
    words["setting"]["fonts"] = [{"id": own["id"], "name": "whatever"}]
    layer = add(table, words)
    assert layer["words"]["setting"]["fonts"][0]["name"] == "Lanternmoth"
    # Four boxes, half an em wide each.
    left, _, right, _ = layer["measure"]["block"]
    assert right - left == pytest.approx(4 * 0.5 * 60)

    assert client.delete(f"/api/fonts/{own['id']}").status_code == 204
    assert own not in client.get("/api/fonts").get_json()["fonts"]
    words["setting"]["text"] = "tho"
    table.edit(kind="set_words", layer_id="w", words=words)
    assert table.state["composite"]["layers"][0]["measure"]["lacking"] == ""


def test_woff2_and_collections_come_in_too(client: FlaskClient) -> None:
    packed = TTFont(io.BytesIO(font("Packed")))
    packed.flavor = "woff2"
    file = io.BytesIO()
    packed.save(file)
    assert bring(client, file.getvalue(), "packed.woff2").status_code == 201

    both = TTCollection()
    both.fonts = [TTFont(io.BytesIO(font(name))) for name in ("One", "Two")]
    file = io.BytesIO()
    both.save(file)
    names = [one["name"] for one in bring(client, file.getvalue()).get_json()["fonts"]]
    assert names == ["One", "Two"]


def circular() -> bytes:
    """Return a font whose glyph is made of itself."""
    made = TTFont(io.BytesIO(font()))
    pen = TTGlyphPen({"letter0": None})
    pen.addComponent("letter0", (1, 0, 0, 1, 0, 0))
    glyph = pen.glyph()
    glyph.xMin = glyph.yMin = glyph.xMax = glyph.yMax = 0
    made["glyf"]["letter0"] = glyph
    file = io.BytesIO()
    # Bounds would be reckoned for ever.
    made.recalcBBoxes = False
    made.save(file)
    return file.getvalue()


def without(table: str) -> bytes:
    made = TTFont(io.BytesIO(font()))
    del made[table]
    file = io.BytesIO()
    made.save(file)
    return file.getvalue()


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"no font at all",
        font()[:200],
        without("cmap"),
        font(letters=""),
        b"wOF2" + b"\xff" * 400,
    ],
    ids=["empty", "text", "cut", "no-cmap", "no-letters", "hostile-woff2"],
)
def test_what_is_no_font_is_refused_with_a_sentence(
    client: FlaskClient, data: bytes
) -> None:
    answer = bring(client, data)
    assert answer.status_code == 415
    assert "othing" in answer.get_json()["detail"]
    assert client.get("/api/fonts").status_code == 200


def test_a_font_that_is_too_large_is_refused() -> None:
    with pytest.raises(PictureRefusedError, match="larger than 30 MB"):
        read_fonts(b"\0" * (MAX_FONT_BYTES + 1))


def test_a_glyph_that_is_made_of_itself_ends_no_one(client: FlaskClient) -> None:
    assert bring(client, circular()).status_code in {201, 415}


def test_a_layered_file_carries_fonts_that_may_travel_and_no_others(
    client: FlaskClient, table: Worktable, studio: Studio
) -> None:
    (free,) = bring(client, font("Free")).get_json()["fonts"]
    (bound,) = bring(client, font("Bound", letters="moth", kind=2)).get_json()["fonts"]
    for layer_id, own in (("f", free), ("b", bound)):
        words = said("oth")
        words["setting"]["fonts"] = [{"id": own["id"], "name": own["name"]}]
        table.edit(kind="add_words", layer_id=layer_id, words=words)
    file = exported(table, studio)

    unpacked = read_layered(file)
    assert set(unpacked.fonts) == {free["id"]}
    # Without the product at hand, what travelled is shown.
    whole = View(0, 0, SIDE, SIDE, 1)
    shown = render(unpacked.composite, assets_of_layered(unpacked), whole)
    assert (shown[..., 0] < 100).any()
    with studio.changing() as visit:
        project = open_layered(visit, file, file_name="words.ora")
    again = client.get(f"/api/projects/{project}").get_json()
    assert [one["name"] for one in again["composite"]["layers"]] == ["oth", "oth"]
    with studio.looking() as visit:
        head = uuid.UUID(again["head"])
        assert len(composite_at(visit, head).layers) == 2


def test_words_in_a_font_that_stays_behind_are_shown_as_they_were(
    client: FlaskClient, table: Worktable, studio: Studio
) -> None:
    bound = font("Bound", letters="moth", kind=2)
    (own,) = bring(client, bound).get_json()["fonts"]
    words = said("oth")
    words["setting"]["fonts"] = [{"id": own["id"], "name": own["name"]}]
    table.edit(kind="add_words", layer_id="b", words=words)
    file = exported(table, studio)
    whole = View(0, 0, SIDE, SIDE, 1)
    with studio.looking() as visit:
        composite = composite_at(visit, uuid.UUID(table.state["head"]))
        before = render(composite, assets_named(visit, all_needed(composite)), whole)

    unpacked = read_layered(file)
    # As if nobody had ever brought the font here.
    shown = render(unpacked.composite, assets_of_layered(unpacked), whole)
    assert np.abs(shown.astype(int) - before).max() <= 2
    assert unpacked.composite.layers[0].words.setting.text == "oth"

    # Where the font is, the words are set in it, and what is typed lets the picture go.
    with studio.changing() as visit:
        project = open_layered(visit, file, file_name="words.ora")
    table.state = client.get(f"/api/projects/{project}").get_json()
    assert table.state["composite"]["layers"][0]["stand_in"] is not None
    told = "".join(part["text"] for part in table.sentence("b")["parts"])
    assert "shown as it was where Bound is missing" in told
    words["setting"]["text"] = "moth"
    table.edit(kind="set_words", layer_id="b", words=words)
    assert table.state["composite"]["layers"][0]["stand_in"] is None


def exported(table: Worktable, studio: Studio) -> io.BytesIO:
    from glyphaneme.services.fonts import fonts_to_travel
    from glyphaneme.services.layered_writing import Sources, write_layered

    file = io.BytesIO()
    with studio.looking() as visit:
        composite = composite_at(visit, uuid.UUID(table.state["head"]))
        assets = assets_named(visit, all_needed(composite))
        sources = Sources(
            lambda _name: iter(()), fonts=fonts_to_travel(visit, composite)
        )
        write_layered(
            composite, assets, file, sources=sources, report=lambda _share: None
        )
    file.seek(0)
    return file


@pytest.mark.parametrize(
    "setting",
    [
        {"text": "a" * 20_001},
        {"size": 0.5},
        {"size": 20_001},
        {"letter_gap": -0.91},
        {"line_gap": 0},
        {"width": 0},
        {"fonts": []},
        {"fonts": [{"id": "x", "name": "X"}]},
        {"form": {"kind": "circle", "radius": 0}},
        {"form": {"kind": "spiral"}},
        {"features": ["liga"]},
    ],
)
def test_words_beyond_their_limits_are_refused(
    table: Worktable, setting: dict[str, Any]
) -> None:
    words = said("Moths")
    words["setting"] |= setting
    answer = table.try_edit(kind="add_words", layer_id="w", words=words)
    assert answer.status_code == 422


@pytest.mark.parametrize(
    "setting",
    [
        {"text": "a" * 20_000},
        {"text": "\n" * 10_000},
        {"text": "a\ud83db", "size": 20_000},
        {"text": "Moths", "letter_gap": -0.9, "size": 1},
        {"text": "Moths", "form": {"kind": "arc", "angle": 360}},
        {"text": "Moths", "fonts": [{"id": "0" * 64, "name": "Gone"}]},
    ],
    ids=["letters", "lines", "half-letter", "closest", "ring", "gone-font"],
)
def test_words_at_their_limits_are_set(
    table: Worktable, setting: dict[str, Any]
) -> None:
    words = said("")
    words["setting"] |= setting
    layer = add(table, words)
    assert layer["width"] >= 1


def test_only_words_say_words(table: Worktable) -> None:
    table.edit(kind="add_color", layer_id="c", name="C", color="#ff0000")
    answer = table.try_edit(kind="set_words", layer_id="c", words=said("Moths"))
    assert answer.status_code == 409
