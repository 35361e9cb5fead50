"""Setting words: shaping, lines, forms, outlines, and what they cover."""

from __future__ import annotations

import math

import freetype
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from uniseg.linebreak import line_break_boundaries

from glyphaneme.core.errors import FontUnreadableError
from glyphaneme.core.words.breaks import break_places
from glyphaneme.core.words.coverage import covered_by
from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.itemizing import runs_of
from glyphaneme.core.words.typesetting import Typeset, measured, typeset
from glyphaneme.core.words.values import (
    Align,
    Arc,
    Circle,
    Contour,
    Feature,
    Fitted,
    Panel,
    PlainInk,
    Side,
    Wave,
)
from tests.fonts import face, faces, files, words

SIZE = 100
STRAIGHT = np.eye(2, 3)


def set_in(text: str, *names: str, **others: object) -> Typeset:
    return typeset(words(text, *names, **others), faces(*names))


def drawn(found, to_view=STRAIGHT, table=None) -> np.ndarray:
    """Return what words cover, as large as their frame is seen."""
    scale = abs(to_view[0, 0])
    size = (math.ceil(found.height * scale), math.ceil(found.width * scale))
    out = np.zeros(size, np.uint8)
    covered = covered_by(table or found.letters, to_view, size)
    if covered is not None:
        rows, columns = covered.values.shape
        place = (
            slice(covered.top, covered.top + rows),
            slice(covered.left, covered.left + columns),
        )
        out[place] = covered.values
    return out


# --- Shaping ------------------------------------------------------------------------


def pens(found) -> np.ndarray:
    """Where glyphs stand, across, in ems."""
    return found.letters.maps[:, 0, 2] / SIZE


def test_letters_are_kerned_and_joined_as_the_font_says() -> None:
    office = set_in("office", "EB Garamond")
    apart = set_in("office", "EB Garamond", ligatures=False)

    assert len(office.letters) < len(apart.letters) == len("office")
    kerned, plain = set_in("AVAVAV", "EB Garamond"), set_in("A", "EB Garamond")
    six_alone = 6 * (plain.block.width)
    assert kerned.block.width < six_alone


def test_letters_set_apart_are_not_joined() -> None:
    wide = set_in("office", "EB Garamond", letter_gap=0.1)

    assert len(wide.letters) == len("office")
    plain = set_in("office", "EB Garamond", ligatures=False)
    # Between six letters there are five gaps.
    assert wide.block.width == pytest.approx(plain.block.width + 5 * 0.1 * SIZE)


@pytest.mark.parametrize(
    ("text", "family"),
    [
        ("Opening", "Lobster"),
        ("Открытие", "Fira Sans"),
        ("Άνοιγμα", "Source Sans 3"),
        ("世界", "ZCOOL XiaoWei"),
        ("世界の窓", "Sawarabi Gothic"),
        ("한글", "Nanum Gothic"),
    ],
)
def test_advances_are_those_of_another_reader_of_the_font(text, family) -> None:
    reader = freetype.Face(str(files()[f"{family} regular"]))
    reader.set_char_size(64 * 64)
    asked = words(text, family, ligatures=False, letter_gap=1e-9)
    found = typeset(asked, faces(family))

    steps = [
        reader.get_advance(
            reader.get_char_index(one),
            freetype.FT_LOAD_NO_SCALE | freetype.FT_LOAD_NO_HINTING,
        )
        / reader.units_per_EM
        for one in text
    ]

    # Kerning moves letters by some hundredths.
    standing = pens(found)[0] + np.cumsum([0, *steps[:-1]])
    assert pens(found) == pytest.approx(standing, abs=0.2)


def test_what_runs_from_the_right_stands_so_and_numbers_in_it_do_not() -> None:
    found = set_in("שלום 12", "Frank Ruhl Libre")

    order = np.argsort(pens(found))
    # From the left: 1, 2, a space, then the letters backwards.
    one, two = face("Frank Ruhl Libre").font.get_nominal_glyph(ord("1")), None
    assert found.letters.code[order[0]] == one
    two = face("Frank Ruhl Libre").font.get_nominal_glyph(ord("2"))
    assert found.letters.code[order[1]] == two
    last = face("Frank Ruhl Libre").font.get_nominal_glyph(ord("ש"))
    assert found.letters.code[order[-1]] == last


def test_arabic_letters_take_the_form_of_their_place() -> None:
    alone = set_in("ب", "Amiri").letters.code
    joined = set_in("ببب", "Amiri").letters.code

    assert len(joined) >= 3
    assert not set(alone) & set(joined[1:2])


def test_letters_that_a_font_lacks_are_lent_and_told() -> None:
    names = ("Lobster", "ZCOOL XiaoWei")
    both = set_in("Hi 世", *names)
    alone = set_in("Hi 世")

    assert (both.lent, both.lacking) == ((1,), "")
    assert (alone.lent, alone.lacking) == ((), "世")
    told = measured(words("Hi 世"), faces())
    assert told.lacking == "世"


def test_joined_pictures_stay_together_with_what_joins_them() -> None:
    family = "👩\u200d👩\u200d👧"
    found = typeset(
        words(f"a{family}", "Lobster", "Noto Emoji"), faces("Lobster", "Noto Emoji")
    )

    assert found.lent == (1,)
    assert found.lacking == ""
    (first, emoji) = runs_of(f"a{family}", [face("Lobster"), face("Noto Emoji")])
    assert (first.font, emoji.font) == (0, 1)


def test_marks_stay_with_their_letters_where_these_are_set_apart() -> None:
    plain = set_in("q\u0301q\u0301", "Fira Sans", ligatures=False)
    wide = set_in("q\u0301q\u0301", "Fira Sans", letter_gap=0.1)

    assert len(wide.letters) > len("qq")
    assert wide.block.width == pytest.approx(plain.block.width + 0.1 * SIZE)


def test_small_capitals_are_other_glyphs() -> None:
    plain = set_in("night", "EB Garamond").letters.code
    small = set_in("night", "EB Garamond", features=(Feature.SMALL_CAPITALS,))

    assert list(plain) != list(small.letters.code)
    assert Feature.SMALL_CAPITALS in face("EB Garamond").features


# --- Lines --------------------------------------------------------------------------

MIXED = (
    'The curtain (rises) at eight, and "nobody" knows — when it\'s over. e.g. a,b; '
    "3.5 kg! ok?yes  two  spaces, l'été à 20 % of 3/4 well-known foo-bar "
    "http://x.example/z?a=1&b=2 汉字汉字,abc汉 字。「括弧」 テスト、です end. "
)


def test_lines_may_break_where_the_library_says() -> None:
    assert break_places(MIXED) == list(line_break_boundaries(MIXED))


@given(st.text(alphabet="ab ,.!?()-\"'汉字、。%1/\u00a0", max_size=30))
def test_what_is_told_without_the_library_agrees_with_it(text) -> None:
    assert break_places(text) == list(line_break_boundaries(text))


def test_lines_are_as_long_as_fits() -> None:
    text = "one two three four five six seven"
    found = set_in(text, "Fira Sans", width=400)

    assert len(found.baselines) > 2
    assert np.diff(found.baselines) == pytest.approx(1.2 * SIZE)
    narrow = set_in(text, "Fira Sans", width=400.0 / 2)
    assert len(narrow.baselines) > len(found.baselines)


def test_a_word_wider_than_its_block_breaks_inside() -> None:
    found = set_in("Marionettes", "Fira Sans", width=150)

    assert len(found.baselines) > 2
    assert found.letters.bounds.right <= found.block.right + 1


def test_one_letter_wider_than_its_block_stands_there_alone() -> None:
    found = set_in("世界。世界", "ZCOOL XiaoWei", width=20)
    assert len(found.baselines) >= 4


def test_lines_are_aligned() -> None:
    text = "wide line here\nshort"
    starts = {}
    for align in (Align.LEFT, Align.MIDDLE, Align.RIGHT):
        found = set_in(text, "Fira Sans", align=align)
        second = found.letters.maps[:, 1, 2] > found.baselines[0] + 1
        starts[align] = found.letters.maps[second, 0, 2].min() - found.block.left

    assert starts[Align.LEFT] == pytest.approx(0, abs=2)
    assert starts[Align.MIDDLE] == pytest.approx(starts[Align.RIGHT] / 2, abs=1)
    assert starts[Align.RIGHT] > 50


def test_justified_lines_end_at_the_edge_but_for_the_last() -> None:
    found = set_in("aa bb cc dd ee ff", "Fira Sans", align=Align.BOTH, width=300)

    ends = []
    for baseline in found.baselines:
        here = np.abs(found.letters.maps[:, 1, 2] - baseline) < 1
        ends.append(found.letters.boxes[here, 2].max() - found.block.left)
    assert ends[:-1] == pytest.approx([300] * (len(ends) - 1), abs=12)
    assert ends[-1] < 250


# --- Forms --------------------------------------------------------------------------


def test_letters_on_a_circle_lie_as_far_from_its_middle() -> None:
    found = set_in("iiiiiiiiiiiiiiiiiiii", "Fira Sans", form=Circle(radius=300))

    spots = found.letters.maps[:, :, 2]
    # A circle through points: x² + y² = 2 a x + 2 b y + c, by least squares.
    known = np.column_stack([2 * spots, np.ones(len(spots))])
    (a, b, c), *_ = np.linalg.lstsq(known, (spots**2).sum(axis=1), rcond=None)
    assert math.sqrt(c + a * a + b * b) == pytest.approx(300, rel=0.02)
    # Its middle lies below the letters, which stand on it.
    assert b > spots[:, 1].max()
    turns = np.arctan2(found.letters.maps[:, 1, 0], found.letters.maps[:, 0, 0])
    straight = set_in("iiiiiiiiiiiiiiiiiiii", "Fira Sans").block.width
    assert np.ptp(turns) == pytest.approx(straight * 19 / 20 / 300, rel=0.02)


def test_further_lines_lie_inside_a_circle() -> None:
    found = set_in("iiii\niiii", "Fira Sans", form=Circle(radius=300))
    first, second = found.letters.maps[1, :, 2], found.letters.maps[5, :, 2]
    assert math.dist(first, second) == pytest.approx(1.2 * SIZE, rel=0.05)
    assert second[1] > first[1]


@pytest.mark.parametrize("angle", [120, -120])
def test_an_arc_bends_by_its_angle(angle) -> None:
    found = set_in("iiiiiiiiiiiiiiiiiiii", "Fira Sans", form=Arc(angle=angle))

    turns = np.arctan2(found.letters.maps[:, 1, 0], found.letters.maps[:, 0, 0])
    # The first and last letter stand half a letter inside the ends.
    assert math.degrees(turns[-1] - turns[0]) == pytest.approx(angle * 19 / 20, abs=2)


def test_a_flat_arc_is_straight() -> None:
    bent = set_in("flat", form=Arc(angle=0)).letters.maps
    assert np.ptp(bent[:, 1, 2]) < 1e-6


def test_a_wave_rises_by_its_height() -> None:
    found = set_in("i" * 60, "Fira Sans", form=Wave(height=0.5, length=4))

    assert np.ptp(found.letters.maps[:, 1, 2]) == pytest.approx(SIZE, rel=0.1)


def test_fitted_lines_are_all_as_wide() -> None:
    found = set_in("Moths\nin the lantern", "Fira Sans", form=Fitted(), width=500)

    for baseline in found.baselines:
        here = np.abs(found.letters.maps[:, 1, 2] - baseline) < 1
        boxes = found.letters.boxes[here]
        # But for what lies beside the first and the last letter.
        assert boxes[:, 2].max() - boxes[:, 0].min() == pytest.approx(500, abs=35)


def test_an_arc_tighter_than_a_letter_still_has_a_frame() -> None:
    found = set_in("W", form=Circle(radius=1))
    assert 1 <= found.width < 1000


# --- What is covered ------------------------------------------------------------------


def test_coverage_is_that_of_another_rasteriser() -> None:
    text, size = "Opening night 0123 &?", 64
    found = set_in(text, "Source Sans 3", size=size, ligatures=False)
    ours = drawn(found)
    reader = freetype.Face(str(files()["Source Sans 3 regular"]))
    reader.set_char_size(size * 64)
    theirs = np.zeros_like(ours)
    for code, matrix in zip(found.letters.code, found.letters.maps, strict=True):
        x, y = matrix[:, 2]
        shift = freetype.Vector(round((x % 1) * 64), round(-(y % 1) * 64))
        reader.set_transform(freetype.Matrix(0x10000, 0, 0, 0x10000), shift)
        reader.load_glyph(
            int(code), freetype.FT_LOAD_RENDER | freetype.FT_LOAD_NO_HINTING
        )
        slot = reader.glyph
        rows, columns = slot.bitmap.rows, slot.bitmap.width
        if not rows:
            continue
        pixels = np.array(slot.bitmap.buffer, np.uint8).reshape(rows, -1)[:, :columns]
        left = math.floor(x) + slot.bitmap_left
        top = math.floor(y) - slot.bitmap_top
        place = (slice(top, top + rows), slice(left, left + columns))
        theirs[place] = np.maximum(theirs[place], pixels)

    off = np.abs(ours.astype(int) - theirs)
    assert off.mean() < 1.5
    assert off.max() <= 24


def test_letters_are_sharp_at_any_size() -> None:
    found = set_in("I", "Fira Sans")
    tenfold = np.array([[10.0, 0, 0], [0, 10, 0]])
    large = drawn(found, tenfold)

    # An upright stem: all but its edges is black or white.
    between = (large > 0) & (large < 255)
    assert between.sum() < 0.02 * (large > 0).sum()
    small = drawn(found)
    assert large.sum() / 100 == pytest.approx(small.sum(), rel=0.01)


def test_what_is_drawn_in_tiles_has_no_seams() -> None:
    found = set_in("Moths", size=2500)
    whole = drawn(found)
    middle = np.array([[1.0, 0, -900], [0, 1, -700]])
    part = covered_by(found.letters, middle, (600, 800))

    rows, columns = part.values.shape
    top, left = 700 + part.top, 900 + part.left
    assert np.array_equal(part.values, whole[top : top + rows, left : left + columns])


def test_moved_by_a_fraction_letters_cover_as_much() -> None:
    found = set_in("Moth", size=40)
    still = drawn(found).sum()
    for shift in (0.25, 0.5, 0.75):
        moved = drawn(found, np.array([[1.0, 0, shift], [0, 1, 0]]))
        assert moved.sum() == pytest.approx(still, rel=0.02)


def test_nothing_is_covered_beyond_the_view() -> None:
    found = set_in("Moth")
    away = np.array([[1.0, 0, 5000], [0, 1, 0]])
    assert covered_by(found.letters, away, (300, 300)) is None
    assert covered_by(set_in(" ").letters, STRAIGHT, (300, 300)) is None


@pytest.mark.parametrize(
    ("side", "inside", "outside"),
    [
        (Side.INSIDE, True, False),
        (Side.OUTSIDE, False, True),
        (Side.MIDDLE, True, True),
    ],
)
def test_an_outline_lies_on_its_side_of_the_edge(side, inside, outside) -> None:
    found = set_in("I", "Fira Sans", ink=None, contour=Contour(side=side, width=0.02))
    letters, line = drawn(found), drawn(found, table=found.line)

    assert bool((line[letters == 255] > 250).any()) is inside
    assert bool((line[letters == 0] > 250).any()) is outside
    # Two long edges of a stem, and as wide as is said.
    across = line[found.height // 2].astype(float).sum() / 255
    assert across == pytest.approx(4, abs=0.2)


def test_letters_that_touch_are_outlined_as_one() -> None:
    asked = {"ink": None, "contour": Contour(side=Side.MIDDLE)}
    found = set_in("oo", "Fira Sans", letter_gap=-0.2, **asked)
    alone = set_in("o", "Fira Sans", **asked)

    assert len(found.line) == 1
    together, each = (drawn(one, table=one.line).sum() for one in (found, alone))
    # Where they cross there is no line.
    assert together < 1.9 * each


def test_sharp_corners_reach_further_than_round_ones() -> None:
    sharp, smooth = (
        set_in("V", "Fira Sans", ink=None, contour=Contour(join=join, width=0.1))
        for join in ("mitre", "round")
    )
    assert sharp.line.bounds.bottom > smooth.line.bounds.bottom + 5


def test_a_filled_outline_goes_on_beneath_its_letters() -> None:
    under = set_in("I", "Fira Sans", ink=PlainInk(), contour=Contour(width=0.02))
    line = drawn(under, table=under.line)
    assert line[drawn(under) == 255].min() == 255


def test_a_panel_lies_round_the_lines_and_in_the_frame() -> None:
    found = set_in("Hi", panel=Panel(padding=0.5))

    assert found.panel.left == pytest.approx(found.block.left - 50)
    assert found.panel.bottom == pytest.approx(found.block.bottom + 50)
    assert (found.panel.left, found.panel.top) == pytest.approx((0, 0), abs=1)


# --- Extremes -------------------------------------------------------------------------


@pytest.mark.parametrize(
    "text",
    [
        "",
        " ",
        "\n" * 9999,
        "\u0301\u0301\u0301",
        "\u202e\u2067abc",
        "🏳️\u200d🌈🇦🇹",
        "a\u200d",
    ],
)
def test_whatever_is_said_has_a_frame(text) -> None:
    found = set_in(text, size=10)
    assert found.width >= 1
    assert found.height >= 1


def test_half_characters_and_control_characters_are_left_out() -> None:
    asked = words("a\ud800b\x00c\r\nd\te")
    assert asked.setting.text == "abc\nd e"


def test_as_many_letters_as_are_taken_are_set_and_one_more_refused() -> None:
    most = words("ab " * 6666 + "ab", size=10)
    assert len(typeset(most, faces()).letters) >= 19_000
    with pytest.raises(ValueError, match="at most 20000"):
        words("a" * 20_001)


@pytest.mark.parametrize("size", [1, 20_000])
def test_letters_are_set_as_small_and_as_large_as_may_be(size) -> None:
    found = set_in("A", size=size)
    assert found.capital == pytest.approx(0.75 * size, rel=0.1)


def test_letters_pushed_into_one_another_keep_their_order() -> None:
    found = set_in("abc", "Fira Sans", letter_gap=-0.9)
    assert found.width >= 1


@pytest.mark.parametrize("data", [b"", b"OTTO", b"\0" * 200, b"wOF2" + b"x" * 90])
def test_what_is_no_font_is_refused(data) -> None:
    with pytest.raises(FontUnreadableError):
        Face(data)


def test_words_without_any_font_at_hand_keep_a_frame_and_show_nothing() -> None:
    found = typeset(words("Hello"), {})
    assert found.width >= 1
    assert covered_by(found.letters, STRAIGHT, (100, 100)) is None
