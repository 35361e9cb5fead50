"""Words by hand: typed on the stage, set by eye, bent by knobs."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from fontTools.ttLib import TTFont
from playwright.sync_api import expect

from glyphaneme.core.words.lines import lines_of
from glyphaneme.core.words.typesetting import typeset
from tests.browser.hands import Point
from tests.fonts import faces, files, ref, words

if TYPE_CHECKING:
    from pathlib import Path

    from playwright.sync_api import Locator

    from tests.browser.hands import Hands

SAID = "What the words say"


@pytest.fixture
def sheet(hands: Hands) -> Any:
    state = hands.begin()
    hands.open_desk(state)
    return state


def layers(hands: Hands, state: Any) -> Any:
    return hands.saved(state)["composite"]["layers"]


def field(hands: Hands) -> Locator:
    return hands.page.get_by_role("textbox", name=SAID)


def say(hands: Hands, text: str) -> None:
    """Lay words on, type them at once, and say that it is said."""
    hands.pile.get_by_role("button", name="words", exact=True).click()
    hands.page.keyboard.type(text)
    hands.page.keyboard.press("Escape")
    hands.settle()


def dark(hands: Hands) -> np.ndarray:
    """Return rows and columns of the sheet that are inked."""
    pixels = hands.shown()
    height, width = pixels.shape[:2]
    sheet = np.argwhere(pixels.min(axis=-1) > 200)
    (top, left), (bottom, right) = sheet.min(axis=0), sheet.max(axis=0)
    inked = np.zeros((height, width), bool)
    inside = (slice(top, bottom), slice(left, right))
    inked[inside] = pixels[inside].max(axis=-1) < 70
    return np.argwhere(inked)


def test_words_are_typed_at_once_and_each_pause_is_one_step(
    hands: Hands, sheet: Any
) -> None:
    hands.pile.get_by_role("button", name="words", exact=True).click()
    hands.page.keyboard.type("Opening night")
    hands.settle()
    assert hands.sentences()[0].startswith("‘Opening night’")
    hands.page.keyboard.press("Enter")
    hands.page.keyboard.type("at eight")
    hands.settle()
    hands.page.keyboard.press("Escape")
    expect(field(hands)).to_have_count(0)

    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["text"] == "Opening night\nat eight"
    assert layer["name"] == "Opening night at eight"
    assert len(layer["measure"]["baselines"]) == 2
    assert len(dark(hands)) > 500

    hands.page.keyboard.press("Control+z")
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["text"] == "Opening night"


@pytest.mark.usefixtures("sheet")
def test_the_field_lies_letter_over_letter_also_where_they_are_turned(
    hands: Hands,
) -> None:
    say(hands, "HHHHHHHH")
    hands.facet("Place").click()
    hands.type_number("Turn", 30)
    # The stage is smaller where there is something to try.
    hands.facet("Words").click()
    inked = dark(hands)
    hands.page.get_by_role("button", name="Type on the stage").click()
    field(hands).wait_for()
    hands.page.evaluate("() => document.fonts.ready.then(() => true)")
    box = field(hands).bounding_box()
    surface = hands.surface.bounding_box()
    assert box
    assert surface
    top, left = inked.min(axis=0)
    bottom, right = inked.max(axis=0)

    # The lines' box is a little higher than their letters.
    assert box["x"] - surface["x"] == pytest.approx(left, abs=20)
    assert box["x"] + box["width"] - surface["x"] == pytest.approx(right, abs=20)
    assert box["y"] - surface["y"] == pytest.approx(top, abs=20)
    assert box["y"] + box["height"] - surface["y"] == pytest.approx(bottom, abs=20)


def test_emptied_words_take_their_layer_away(hands: Hands, sheet: Any) -> None:
    say(hands, "Moth")
    assert len(layers(hands, sheet)) == 1
    hands.page.get_by_role("button", name="Type on the stage").click()
    expect(field(hands)).to_be_focused()
    hands.page.keyboard.press("Control+a")
    hands.page.keyboard.press("Delete")
    hands.page.keyboard.press("Escape")
    hands.settle()
    assert layers(hands, sheet) == []


def test_a_double_click_begins_words_on_bare_sheet_and_types_those_there(
    hands: Hands, sheet: Any
) -> None:
    at = hands.on_stage(sheet, 300, 200)
    hands.page.mouse.dblclick(*at)
    hands.page.keyboard.type("Here")
    hands.page.keyboard.press("Escape")
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["placement"]["x"] == pytest.approx(300, abs=5)

    hands.page.keyboard.press("Escape")
    hands.page.mouse.dblclick(at.x, at.y - 8)
    expect(field(hands)).to_have_value("Here")
    hands.page.keyboard.type(" and there")
    hands.page.keyboard.press("Escape")
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["text"] == "Here and there"


def test_a_key_lays_words_on_and_takes_what_is_typed_right_after(
    hands: Hands, sheet: Any
) -> None:
    hands.page.locator("[data-stage]").focus()
    hands.page.keyboard.press("i")
    hands.page.keyboard.type("Come in, little moths")
    hands.settle()
    hands.page.keyboard.press("Escape")
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["text"] == "Come in, little moths"


def test_fonts_are_chosen_by_eye_and_found_by_name(hands: Hands, sheet: Any) -> None:
    say(hands, "Moths")
    strip = hands.page.get_by_role("region", name="Try these words in each font")
    expect(strip.get_by_role("option")).not_to_have_count(0)
    plain = dark(hands)

    hands.page.get_by_role("searchbox", name="Find a font").fill("lobs")
    expect(strip.get_by_role("option")).to_have_count(1)
    option = strip.get_by_role("option", name="Lobster")
    expect(option.locator("canvas")).to_have_attribute("data-filled", "true")
    option.click()
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["fonts"][0]["name"] == "Lobster"
    assert len(dark(hands)) != len(plain)

    hands.page.get_by_role("searchbox", name="Find a font").fill("no such")
    expect(strip.get_by_text("No font is called “no such”.")).to_be_visible()


def test_the_sentence_sets_words_and_ink_outline_and_panel_are_seen(
    hands: Hands, sheet: Any
) -> None:
    say(hands, "Moths")

    def choose(word: str, label: str, choice: str) -> None:
        hands.pile.get_by_role("button", name=word, exact=True).click()
        hands.pile.get_by_role("button", name=label).click()
        hands.page.get_by_role("option", name=choice, exact=True).click()
        hands.settle()

    choose("straight", "Along what lines run", "along an arc")
    choose(
        "inked with one colour", "What letters are filled with", "a straight gradient"
    )
    choose("without an outline", "Where their outline lies", "an outline round them")
    hands.pile.get_by_role("button", name="without a panel").click()
    hands.page.get_by_text("A panel behind the words").click()
    hands.settle()

    (layer,) = layers(hands, sheet)
    words = layer["words"]
    assert words["setting"]["form"]["kind"] == "arc"
    assert words["ink"]["kind"] == "blended"
    assert words["contour"]["side"] == "outside"
    assert words["panel"] is not None
    hands.type_number("Height of capitals", 60)
    (layer,) = layers(hands, sheet)
    assert layer["measure"]["capital"] == pytest.approx(60, abs=0.5)


def test_knobs_set_the_width_of_the_block_and_bend_lines(
    hands: Hands, sheet: Any
) -> None:
    say(hands, "The curtain rises at eight")
    right = hands.grip("block-right")
    hands.drag(right, Point(right.x - 120, right.y))
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["width"] is not None
    assert len(layer["measure"]["baselines"]) > 1
    # Centred lines stay where their middle is.
    assert layer["placement"]["x"] == pytest.approx(450, abs=8)

    hands.page.keyboard.press("Control+z")
    hands.settle()
    hands.pile.get_by_role("button", name="straight", exact=True).click()
    hands.pile.get_by_role("button", name="Along what lines run").click()
    hands.page.get_by_role("option", name="along an arc", exact=True).click()
    hands.settle()
    knob = hands.grip("form")
    hands.drag(knob, Point(knob.x, knob.y + 40))
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["form"]["angle"] < 60


def test_a_photo_of_the_shelf_is_held_in_the_letters(
    hands: Hands, sheet: Any, demo_photos: Any
) -> None:
    hands.product.bring_in(demo_photos / "lantern-glow.jpg")
    say(hands, "MOTH")
    hands.pile.get_by_role("button", name="inked with one colour").click()
    hands.page.get_by_role("button", name="A photo in the letters…").click()
    hands.page.get_by_role("menuitem", name="Lantern glow").first.click()
    hands.settle()

    words, photo = layers(hands, sheet)
    assert (words["kind"], words["visible"]) == ("words", False)
    assert photo["mask"]["parts"][0]["layer_id"] == words["id"]
    colored = np.ptp(hands.shown().astype(int), axis=-1) > 40
    assert 0 < colored.mean() < 0.2


@pytest.mark.usefixtures("sheet")
def test_locked_words_are_not_typed(hands: Hands) -> None:
    say(hands, "Moths")
    hands.page.keyboard.press("k")
    hands.settle()
    expect(hands.page.get_by_role("button", name="Type on the stage")).to_be_disabled()


def test_a_font_of_ones_own_is_dropped_set_and_put_away(
    hands: Hands, sheet: Any, tmp_path: Path
) -> None:
    own = tmp_path / "lanternmoth.ttf"
    own.write_bytes(renamed("Lanternmoth"))
    say(hands, "Moths")
    hands.drop_files(hands.on_stage(sheet, 100, 100), [own])
    expect(hands.page.get_by_text("Lanternmoth can be used now.")).to_be_visible()
    hands.page.get_by_role("option", name="Lanternmoth").click()
    hands.settle()
    (layer,) = layers(hands, sheet)
    assert layer["words"]["setting"]["fonts"][0]["name"] == "Lanternmoth"

    hands.pile.get_by_role("button", name="put it away").click()
    expect(hands.page.get_by_text("Lanternmoth is put away.")).to_be_visible()
    hands.settle()
    assert layers(hands, sheet)[0]["measure"]["lacking"] == ""


def renamed(family: str) -> bytes:
    """Return a font that ships under another name, as a person's own."""
    made = TTFont(files()["Righteous regular"])
    for record in made["name"].names:
        if record.nameID in {1, 16}:
            record.string = family
    file = io.BytesIO()
    made.save(file)
    return file.getvalue()


SCRIPTS = {
    "Source Sans 3": "AVATAR, Type To Wave – office",
    "EB Garamond": "Ταξίδι στα όνειρα",
    "Fira Sans": "Вечер открытия",
    "Amiri": "سلام عليكم",
    "Frank Ruhl Libre": "שלום לכולם",
    "Noto Sans Devanagari": "क्षत्रिय नमस्ते",
    "Sarabun": "สวัสดีตอนเย็น",
    "Sawarabi Gothic": "こんばんは世界",
    "Nanum Gothic": "안녕하세요",
}
MEASURED = """async ([name, address, text]) => {
  const face = new FontFace(name, `url("${address}")`);
  document.fonts.add(await face.load());
  const context = document.createElement("canvas").getContext("2d");
  context.font = `100px "${name}"`;
  context.fontKerning = "normal";
  return context.measureText(text).width;
}"""


@pytest.mark.usefixtures("sheet")
def test_words_are_as_wide_as_the_browser_sets_them_in_every_script(
    hands: Hands,
) -> None:
    off = {}
    for family, text in SCRIPTS.items():
        address = f"/api/fonts/{ref(family).id}/file"
        theirs = hands.page.evaluate(MEASURED, [f"test {family}", address, text])
        ours = typeset(words(text, family), faces(family)).block.width
        off[family] = abs(ours - theirs) / 100
    assert {family: ems for family, ems in off.items() if ems > 0.02} == {}


LINES = """async ([address, text, wide]) => {
  const face = new FontFace("lines", `url("${address}")`);
  document.fonts.add(await face.load());
  const block = document.createElement("div");
  block.textContent = text;
  block.style.cssText = `position:absolute;font:40px lines;width:${wide}px`;
  document.body.append(block);
  const range = document.createRange();
  const lines = [];
  let top = null;
  for (let at = 0; at < text.length; at += 1) {
    range.setStart(block.firstChild, at);
    range.setEnd(block.firstChild, at + 1);
    const box = range.getClientRects()[0];
    if (!box || (box.width === 0 && text[at] === " ")) {
      if (lines.length) lines[lines.length - 1] += text[at];
      continue;
    }
    if (top === null || box.top > top + 20) lines.push("");
    top = box.top;
    lines[lines.length - 1] += text[at];
  }
  block.remove();
  return lines.map((line) => line.trim());
}"""
PAGE = (
    "The curtain rises at eight, and nobody (not even the keeper) knows when it will "
    "fall again – perhaps never. Bring 20 % more lanterns/moths; well-known friends "
    "come free, others pay $3.50 each! “Who’s there?” asked the puppet… Nobody. "
)


@pytest.mark.usefixtures("sheet")
@pytest.mark.parametrize("wide", [300, 420, 555, 700])
def test_lines_end_where_the_browser_ends_them(hands: Hands, wide: int) -> None:
    address = f"/api/fonts/{ref('Fira Sans').id}/file"
    theirs = hands.page.evaluate(LINES, [address, PAGE, wide])
    setting = words(PAGE, "Fira Sans", size=40, width=wide).setting
    ours = lines_of(setting, [faces("Fira Sans")[ref("Fira Sans").id]])
    texts = []
    for line in ours:
        places = [glyph.cluster for glyph in line.glyphs]
        texts.append(PAGE[min(places) : max(places) + 1].strip())
    assert texts == [line for line in theirs if line]
