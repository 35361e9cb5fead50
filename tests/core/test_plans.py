"""Plans: files that are read, and photos that fill them."""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
import pytest

from glyphaneme.core.color import contrast_of
from glyphaneme.core.document import (
    Canvas,
    Composite,
    GroupLayer,
    PhotoLayer,
    WordsLayer,
)
from glyphaneme.core.edits import apply
from glyphaneme.core.errors import LayerUnsayableError, PlanRefusedError
from glyphaneme.core.mask import EllipsePart, Mask, MattePart
from glyphaneme.core.place import (
    Crop,
    Placement,
    Rect,
    corners_on_canvas,
    source_to_canvas,
)
from glyphaneme.core.plans.building import edits_between, edits_to
from glyphaneme.core.plans.facts import (
    Facing,
    FoundCut,
    Known,
    PhotoFacts,
    Side,
    Subject,
)
from glyphaneme.core.plans.filling import empty_slots, filled
from glyphaneme.core.plans.layers import PlanWords
from glyphaneme.core.plans.measuring import blank_place, looked_at, subject_of
from glyphaneme.core.plans.places import Lying, Sheet
from glyphaneme.core.plans.placing import Into, Over
from glyphaneme.core.plans.reading import parse_plan, plan_json, read_plan
from glyphaneme.core.plans.relating import over, set_into, shared_part
from glyphaneme.core.plans.renewing import renewed
from glyphaneme.core.plans.values import Filling, Plan
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.typesetting import measured
from tests.fonts import FOLDER as FONTS

if TYPE_CHECKING:
    from glyphaneme.core.words.values import Measure, Words

FOLDER = Path(__file__).parents[2] / "plans"
SHIPPED = json.loads((FOLDER / "order.json").read_text())
SIZES = ((3000, 4000), (4000, 3000), (1, 1), (10_000, 1_000), (640, 480))


def shipped(name: str) -> Plan:
    return parse_plan((FOLDER / f"{name}.json").read_bytes())


def facts(picture: str, size: tuple[int, int], **known: Any) -> PhotoFacts:
    width, height = size
    return PhotoFacts(
        picture=picture, name=picture.title(), width=width, height=height, **known
    )


def cut(picture: str, size: tuple[int, int], **box: Any) -> PhotoFacts:
    """Return a photo whose subject stands in its middle, and runs out at its foot."""
    width, height = size
    subject = Subject(
        left=width * 0.3,
        top=height * 0.2,
        right=width * 0.7,
        bottom=height,
        x=width * 0.5,
        y=height * 0.6,
        touches=(Side.BOTTOM,),
        is_found=True,
    )
    found = FoundCut(matte="a" * 64, level=1)
    return facts(picture, size, subject=with_fields(subject, **box), cut=found)


def full(plan: Plan, size: tuple[int, int] = (3000, 2000)) -> tuple[Filling, Known]:
    photos = {
        slot.name: tuple(f"{slot.name}-{n}" for n in range(max(slot.least, 1)))
        for slot in plan.slots
    }
    known = {one: cut(one, size) for names in photos.values() for one in names}
    return Filling(photos=photos), Known(known, measure)


def measure(words: Words) -> Measure | None:
    """Measure words in the fonts that ship."""
    return measured(words, faces())


@lru_cache
def faces() -> dict[str, Face]:
    shown = (layer for name in SHIPPED for layer in shipped(name).layers)
    named = {
        font.id
        for layer in shown
        if isinstance(layer, PlanWords)
        for font in layer.words.setting.fonts
    }
    return {one: Face((FONTS / one).read_bytes()) for one in named}


@pytest.mark.parametrize("name", SHIPPED)
def test_shipped_plans_are_written_as_they_are_read(name: str) -> None:
    plan = shipped(name)
    assert plan.name == name
    assert read_plan(plan_json(plan)) == plan
    assert json.loads(json.dumps(plan_json(plan))) == plan_json(plan)


@pytest.mark.parametrize("size", SIZES)
@pytest.mark.parametrize("name", SHIPPED)
def test_ordinary_edits_build_what_a_plan_makes(
    name: str, size: tuple[int, int]
) -> None:
    plan = shipped(name)
    filling, known = full(plan, size)
    made = filled(plan, filling, known).composite
    assert filled(plan, filling, known).composite == made
    edits = edits_to(made)
    now = Composite(canvas=made.canvas)
    for edit in edits:
        now = apply(now, edit)
    assert now == made


@pytest.mark.parametrize("name", SHIPPED)
def test_plans_without_photos_are_empty_sheets_that_say_what_is_missing(
    name: str,
) -> None:
    plan = shipped(name)
    made = filled(plan, Filling(), Known({}))
    assert all(not isinstance(one, PhotoLayer) for one in made.composite.layers)
    missing = {slot.name for slot in empty_slots(plan, Filling())}
    assert missing == {slot.name for slot in plan.slots if slot.needed}


def test_cut_out_that_is_found_later_leads_there_by_edits() -> None:
    plan = shipped("double-exposure")
    filling, known = full(plan)
    rough = {
        name: with_fields(one, cut=None, subject=None)
        for name, one in known.photos.items()
    }
    before = filled(plan, filling, Known(rough))
    assert [one.picture for one in before.wanted.cuts] == ["somebody-0"]
    after = filled(plan, filling, known)
    assert not after.wanted.cuts
    now = before.composite
    edits = edits_between(before.composite, after.composite)
    for edit in edits:
        now = apply(now, edit)
    assert now == after.composite
    assert {"cut_out", "place_layer"} <= {edit.kind for edit in edits}


def test_exchanging_a_photo_keeps_everything_else() -> None:
    plan = shipped("product-in-a-scene")
    filling, known = full(plan)
    other = {**known.photos, "other": cut("other", (640, 480))}
    photos = {**filling.photos, "product": ("other",)}
    before = filled(plan, filling, known).composite
    after = filled(plan, with_fields(filling, photos=photos), Known(other)).composite
    assert after.canvas == before.canvas
    assert after.layers[0] == before.layers[0]
    assert after.layers[1].effects == before.layers[1].effects


def box_of(layer: Any) -> tuple[float, float, float, float]:
    corners = corners_on_canvas(layer.placement, width=layer.width, height=layer.height)
    return (*corners.min(axis=0).tolist(), *corners.max(axis=0).tolist())


def one_photo(place: dict[str, Any], **layer: Any) -> Plan:
    """Return a plan of one photo on a sheet of 600 × 400."""
    return Plan.model_validate(
        {
            "name": "one",
            "title": "One",
            "sheet": {"width": 600, "height": 400},
            "slots": [{"name": "photo", "title": "Photo"}],
            "layers": [
                {
                    "kind": "photo",
                    "id": "photo",
                    "slot": "photo",
                    "place": place,
                    **layer,
                }
            ],
        }
    )


def laid(plan: Plan, photo: PhotoFacts) -> PhotoLayer:
    known = Known({photo.picture: photo})
    made = filled(plan, Filling(photos={"photo": (photo.picture,)}), known)
    (layer,) = made.composite.layers
    assert isinstance(layer, PhotoLayer)
    return layer


def on_sheet(layer: PhotoLayer, x: float, y: float) -> list[float]:
    size = {"width": layer.width, "height": layer.height}
    spot: list[float] = (source_to_canvas(layer.placement, **size) @ (x, y, 1)).tolist()
    return spot


@pytest.mark.parametrize("cropped", [False, True])
@pytest.mark.parametrize("flipped", [False, True])
@pytest.mark.parametrize("size", [(4000, 3000), (900, 3000), (10_000, 1_000)])
@pytest.mark.parametrize("tilt", [0.0, 3.0])
def test_photo_fills_a_sheet_level_with_its_subject_in_sight(
    size: tuple[int, int], tilt: float, *, flipped: bool, cropped: bool
) -> None:
    width, height = size
    photo = cut("a", size, x=width * 0.45, y=height * 0.55, top=height * 0.5)
    photo = with_fields(photo, tilt=tilt)
    rule = {"rule": "fill", "flipped": flipped, "cropped": cropped}
    layer = laid(one_photo(rule), photo)
    pixels = [on_sheet(layer, x, y) for x, y in ((0, 0), (width, 0))]
    pixels += [on_sheet(layer, x, y) for x, y in ((width, height), (0, height))]
    hull = np.array(pixels, np.float32)
    for corner in ((0, 0), (600, 0), (600, 400), (0, 400)):
        assert cv2.pointPolygonTest(hull, corner, measureDist=True) > -0.5
    along = 100 * np.tan(np.radians(tilt))
    left, right = on_sheet(layer, 0, 0), on_sheet(layer, 100, along)
    assert left[1] == pytest.approx(right[1], abs=1e-6)
    assert (left[0] > right[0]) is flipped
    x, y = on_sheet(layer, *photo.focus)
    assert 0 < x < 600
    assert 0 < y < 400


def test_subject_comes_as_near_to_its_aim_as_nothing_stays_empty() -> None:
    photo = cut("a", (1200, 400), x=300.0, left=260.0, right=340.0)
    for aim, x in ((0.25, 150), (0.5, 300), (1.0, 560)):
        for cropped in (False, True):
            rule = {"rule": "fill", "aim": {"x": aim, "y": 0.5}, "cropped": cropped}
            layer = laid(one_photo(rule), photo)
            shown = min(x, 300)
            assert on_sheet(layer, 300, 200) == pytest.approx((shown, 200))


@pytest.mark.parametrize("flipped", [False, True])
def test_subject_cut_off_at_the_left_stands_on_that_edge(*, flipped: bool) -> None:
    photo = cut("a", (300, 300), left=0.0, touches=(Side.LEFT,))
    rule = {"rule": "stand", "area": {"left": 0.3, "width": 0.4}, "flipped": flipped}
    left, top, right, bottom = Lying(
        photo, laid(one_photo(rule), photo).placement
    ).subject_box
    assert (right if flipped else left) == pytest.approx(600 if flipped else 0)
    assert (right - left) == pytest.approx(240)
    assert bottom == pytest.approx(400)
    assert top > 0


@pytest.mark.parametrize(
    ("touches", "whole"),
    [
        ((Side.LEFT, Side.RIGHT), ("top", "bottom")),
        ((Side.LEFT, Side.RIGHT, Side.BOTTOM), ("top",)),
        ((Side.TOP, Side.BOTTOM), ("left", "right")),
    ],
)
def test_no_head_is_cut_off_so_that_cut_edges_reach_those_of_the_sheet(
    touches: tuple[Side, ...], whole: tuple[str, ...]
) -> None:
    tall = Side.TOP in touches
    size = (800, 500) if tall else (500, 800)
    box = {"left": 0.0, "top": 0.0, "right": size[0], "bottom": size[1]}
    photo = cut("a", size, **box, touches=touches)
    rule = {
        "rule": "stand",
        "area": {"left": 0.3, "top": 0.3, "width": 0.4, "height": 0.6},
    }
    plan = one_photo(rule)
    sheet = plan.sheet
    at = Lying(photo, laid(plan, photo).placement).subject_box
    inside = {
        "left": at.left >= 0,
        "top": at.top > 0,
        "right": at.right <= sheet.width,
        "bottom": at.bottom <= sheet.height,
    }
    assert all(inside[side] for side in whole), at


def test_letters_that_are_hardly_told_from_their_ground_give_way() -> None:
    plan = shipped("page-with-words")
    inks = []
    for light in ("#efe6d2", "#332b2f"):
        photo = facts("a", (1200, 800), colors={"light": light})
        known = Known({"a": photo}, measure)
        made = filled(plan, Filling(photos={"photo": ("a",)}), known).composite
        words = made.layer("heading").words  # type: ignore[union-attr]
        inks.append(words.ink.color)  # type: ignore[union-attr]
    assert inks[0] == "#25221d"
    assert contrast_of(inks[1], "#332b2f") > 7
    bare = filled(plan, Filling(), Known({}, measure)).composite
    assert bare.layer("heading").words.ink.color == "#25221d"  # type: ignore[union-attr]


def test_contrast_is_that_of_wcag() -> None:
    # The two greys that WCAG's own examples name for 4.5 and 7 on white.
    assert contrast_of("#767676", "#ffffff") == pytest.approx(4.54, abs=0.005)
    assert contrast_of("#595959", "#ffffff") == pytest.approx(7.0, abs=0.01)


def test_mask_on_the_sheet_moves_with_its_photo_from_then_on() -> None:
    part = {"kind": "ellipse", "id": "e", "x": 300, "y": 200, "width": 80, "height": 80}
    plan = one_photo({"rule": "fill"}, mask={"parts": [part]})
    layer = laid(plan, facts("a", (1200, 800)))
    assert layer.mask is not None
    assert layer.mask.linked
    assert layer.mask.to_mask == pytest.approx((0.5, 0, 0, 0, 0.5, 0))
    free = one_photo({"rule": "fill"}, mask={"parts": [part], "linked": False})
    mask = laid(free, facts("a", (1200, 800))).mask
    assert mask is not None
    assert mask.to_mask == pytest.approx((1, 0, 0, 0, 1, 0))


def test_tones_that_look_at_neighbours_follow_the_size_of_photo_and_sheet() -> None:
    plan = shipped("sharp-here")
    filling, known = full(plan, (6000, 4000))
    for sheet in (None, Canvas(width=1500, height=1000)):
        made = filled(plan, with_fields(filling, sheet=sheet), known).composite
        (lens,) = made.layer("rest").tones  # type: ignore[union-attr]
        assert lens.radius == pytest.approx(68)


def test_same_one_alone_is_mirrored_for_its_ghost() -> None:
    plan = shipped("same-one-twice")
    photo = cut("a", (400, 600))
    made = filled(plan, Filling(photos={"first": ("a",)}), Known({"a": photo}))
    flips = {one.id: one.placement.flipped for one in made.composite.layers}  # type: ignore[union-attr]
    assert flips == {"mirrored": True, "first": False}


def test_photos_round_the_first_one_leave_that_out_of_their_row() -> None:
    plan = shipped("melting")
    known = Known({one: cut(one, (400, 300)) for one in "abc"})
    filling = Filling(photos={"photos": tuple("abc")}, choices={"way": "round"})
    made = filled(plan, filling, known).composite
    shown = {one.id: one.picture for one in made.layers if isinstance(one, PhotoLayer)}
    assert shown == {"around": "b", "around-2": "c", "middle": "a"}


def test_before_and_after_are_lined_up_and_cut_to_what_both_show() -> None:
    plan = shipped("before-and-after")
    photos = {one: facts(one, (400, 300)) for one in ("b", "a")}
    shift = np.array([[1.0, 0, 50], [0, 1, 20], [0, 0, 1]])
    filling = Filling(photos={"before": ("b",), "after": ("a",)})
    unknown = filled(plan, filling, Known(photos))
    assert unknown.wanted.pairs == (("a", "b"),)
    made = filled(plan, filling, Known(photos, pairs={("a", "b"): shift})).composite
    assert (made.canvas.width, made.canvas.height) == (350, 280)
    before, after = made.layers
    assert isinstance(before, PhotoLayer)
    assert isinstance(after, PhotoLayer)
    assert on_sheet(before, 50, 20) == pytest.approx((0, 0))
    assert on_sheet(after, 0, 0) == pytest.approx((0, 0))


def test_cut_off_subject_stands_on_the_edge_of_the_sheet() -> None:
    plan = shipped("double-exposure")
    filling, known = full(plan, (3000, 4000))
    made = filled(plan, filling, known).composite
    somebody = made.layer("somebody")
    assert box_of(somebody)[3] == pytest.approx(made.canvas.height)


def test_another_sheet_lays_the_same_plan_out_anew() -> None:
    plan = shipped("melting")
    filling, known = full(plan)
    sheet = Canvas(width=500, height=900)
    made = filled(plan, with_fields(filling, sheet=sheet), known).composite
    assert made.canvas == sheet
    left, top, *_ = box_of(made.layers[0])
    assert left <= 0
    assert top <= 0


def test_picture_is_set_into_the_blank_corners_of_a_sign() -> None:
    corners = ((100.0, 80.0), (300.0, 100.0), (290.0, 260.0), (110.0, 240.0))
    sign = facts("sign", (400, 300), blank=corners)
    picture = facts("picture", (640, 480))
    plan = shipped("picture-in-a-frame")
    filling = Filling(photos={"sign": ("sign",), "picture": ("picture",)})
    made = filled(plan, filling, Known({"sign": sign, "picture": picture})).composite
    placement = made.layer("picture").placement  # type: ignore[union-attr]
    assert placement.corners is not None
    assert 95 < placement.x - placement.crop.width * placement.scale_x / 2 < 101


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (b"{", "not even JSON"),
        (b"[" * 100_000, "not even JSON"),
        (b"[]", "no plan"),
        (b'{"glyphaneme_plan": 2}', "newer"),
        (b'{"glyphaneme_plan": NaN}', "not even JSON"),
        (b'{"glyphaneme_plan": 1, "sheet": ' + b"[" * 60 + b"]" * 60 + b"}", "deep"),
        (b'\xef\xbb\xbf{"glyphaneme_plan": 1}', "cannot be used"),
    ],
)
def test_what_is_no_plan_is_refused_with_a_sentence(text: bytes, said: str) -> None:
    with pytest.raises(PlanRefusedError, match=said):
        parse_plan(text)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"slots": []}, "is named, and is not there"),
        ({"layers": "twice"}, "is there twice"),
        ({"sheet": {"width": 0, "height": 1}}, "sheet"),
        ({"unknown": 1}, "unknown"),
    ],
)
def test_plan_that_does_not_hold_together_says_where(
    change: dict[str, Any], said: str
) -> None:
    value = plan_json(shipped("colour-here"))
    if change.get("layers") == "twice":
        change = {"layers": [*value["layers"], *value["layers"]]}
    with pytest.raises(PlanRefusedError, match=said):
        read_plan({**value, **change})


def test_place_that_follows_from_itself_is_refused() -> None:
    value = plan_json(shipped("colour-here"))
    value["layers"][0]["place"] = {"rule": "like", "layer": "subject"}
    with pytest.raises(PlanRefusedError, match="follows from itself"):
        read_plan(value)


def test_subject_of_a_matte_is_measured_in_the_photo_s_pixels() -> None:
    matte = np.zeros((100, 200), np.uint8)
    matte[20:, 50:100] = 255
    matte[2, 2] = 255
    found = subject_of(matte, 2000, 1000)
    assert found is not None
    assert tuple(found.box) == (500, 200, 1000, 1000)
    assert (found.x, found.y) == pytest.approx((750, 600))
    assert found.touches == (Side.BOTTOM,)
    assert found.certainty == 1
    assert subject_of(np.zeros((4, 4), np.uint8), 4, 4) is None
    matte[20:, 50:75] = 150
    unsure = subject_of(matte, 2000, 1000)
    assert unsure is not None
    assert unsure.certainty < 0.5


def test_glance_finds_what_differs_from_the_rim_and_where_a_horizon_leans() -> None:
    pixels = np.full((200, 300, 4), 220, np.uint8)
    pixels[60:200, 100:180, :3] = (20, 30, 90)
    pixels[..., 3] = 255
    look = looked_at(pixels, width=3000, height=2000)
    assert look.subject is not None
    assert look.subject.left == pytest.approx(1000, abs=60)
    rows, columns = np.mgrid[:200, :300]
    lean = np.tan(np.radians(3))
    sea = np.where(rows > 100 + lean * (columns - 150), 60, 200).astype(np.uint8)
    seen = np.dstack([sea, sea, sea, np.full_like(sea, 255)])
    assert looked_at(seen, width=300, height=200).tilt == pytest.approx(3, abs=0.4)


def test_blank_place_is_found_without_a_stroke() -> None:
    pixels = np.zeros((240, 320, 4), np.uint8)
    noise = np.random.default_rng(1).integers(40, 110, (240, 320, 3))
    pixels[..., :3] = noise
    pixels[..., 3] = 255
    corners = np.array([(90, 60), (230, 75), (225, 180), (95, 170)])
    cv2.fillConvexPoly(pixels, corners, (240, 238, 230, 255))
    found = blank_place(pixels, width=640, height=480)
    assert found is not None
    assert np.array(found) == pytest.approx(corners * 2, abs=8)


@pytest.mark.parametrize("name", SHIPPED)
def test_every_step_leads_to_a_layer_that_is_there(name: str) -> None:
    plan = shipped(name)
    filling, known = full(plan)
    needed = {slot.name for slot in plan.slots if slot.needed}
    fewest = {slot: one for slot, one in filling.photos.items() if slot in needed}
    ways: list[dict[str, str]] = [{}]
    for choice in plan.choices:
        ways = [
            {**way, choice.name: one.name} for way in ways for one in choice.options
        ]
    for way in ways:
        for photos in (filling.photos, fewest):
            wanted = with_fields(filling, choices=way, photos=photos)
            made = filled(plan, wanted, known).composite
            ids = {layer.id for layer in made.layers}
            for step in plan.steps:
                assert ids & set(step.layers)


@pytest.mark.parametrize("said", ["Two moths", "A long evening " * 330, "月夜\n灯籠"])
def test_words_become_smaller_until_they_fit_their_area(said: str) -> None:
    plan = shipped("sheet-with-words")
    filling, known = full(plan)
    made = filled(plan, with_fields(filling, words={"lines": said}), known).composite
    words = made.layer("lines")
    assert isinstance(words, WordsLayer)
    usual = next(one for one in plan.layers if isinstance(one, PlanWords))
    assert words.words.setting.text == said
    assert words.words.setting.size <= usual.words.setting.size
    left, top, right, bottom = words.measure.block
    corner_x = words.placement.x - words.width / 2
    corner_y = words.placement.y - words.height / 2
    (layer,) = (one for one in plan.layers if one.id == "lines")
    assert isinstance(layer, PlanWords)
    assert layer.lines is not None
    area = Sheet(made.canvas.width, made.canvas.height).box(layer.lines.area)
    assert corner_x + left >= area.left - 2
    assert corner_x + right <= area.right + 2
    assert corner_y + top == pytest.approx(area.top, abs=2)
    assert corner_y + bottom <= area.bottom + 4


def test_words_that_are_emptied_or_cannot_be_set_are_left_out() -> None:
    plan = shipped("postcard")
    filling, known = full(plan)
    emptied = with_fields(filling, words={"greeting": " ", "below": "Winter"})
    made = filled(plan, emptied, known).composite
    assert [one.id for one in made.layers] == ["photo", "below"]
    without_fonts = filled(plan, filling, Known(known.photos)).composite
    assert [one.id for one in without_fonts.layers] == ["photo"]


def test_grid_lays_every_photo_into_a_cell_with_even_gaps() -> None:
    plan = shipped("grid")
    names = tuple(f"p-{n}" for n in range(4))
    known = Known({one: cut(one, (300 + 200 * n, 400)) for n, one in enumerate(names)})
    made = filled(plan, Filling(photos={"photos": names}), known).composite
    boxes = [box_of(one) for one in made.layers]
    side = made.canvas.width
    assert [one.id for one in made.layers] == [
        "photos",
        "photos-2",
        "photos-3",
        "photos-4",
    ]
    assert boxes[0] == pytest.approx(
        (0.05 * side, 0.05 * side, 0.4865 * side, 0.4865 * side), abs=1
    )
    gap = 0.9 * 0.03 * side
    assert boxes[1][0] - boxes[0][2] == pytest.approx(gap, abs=1)
    assert boxes[2][1] - boxes[0][3] == pytest.approx(gap, abs=1)


def test_melting_photos_leave_no_gap_and_keep_their_subjects_in_sight() -> None:
    plan = shipped("melting")
    known = {
        one: cut(one, (3000, 3000), x=x, y=2500.0)
        for one, x in (("a", 700.0), ("b", 2600.0))
    }
    filling = Filling(photos={"photos": ("a", "b")})
    made = filled(plan, filling, Known(known)).composite
    first, second, _ = made.layers
    assert isinstance(first, PhotoLayer)
    assert isinstance(second, PhotoLayer)
    wide, high = made.canvas.width, made.canvas.height
    (one, two) = (box_of(layer) for layer in (first, second))
    assert one[0] <= 0
    assert two[2] >= wide
    assert two[0] < wide / 2 < one[2]
    assert len(first.fades) + len(second.fades) == 1
    # Their subjects stand low: both lie as high as they can without leaving a gap.
    assert one[3] == pytest.approx(high, abs=2)
    assert two[3] == pytest.approx(high, abs=2)


@pytest.mark.parametrize("flipped", [False, True])
def test_rules_beside_others_mirror_a_photo_that_looks_away(*, flipped: bool) -> None:
    photo = facts("photo", (400, 300), facing=Facing.LEFT)
    other = Lying(
        facts(
            "other",
            (400, 300),
            blank=((100.0, 80.0), (300.0, 100.0), (290.0, 260.0), (110.0, 240.0)),
        ),
        Placement(x=200, y=150, scale_x=1, scale_y=1),
    )
    facing = Facing.RIGHT if flipped else Facing.LEFT
    assert over(photo, other, Over(layer="a", facing=facing)).flipped is flipped
    into = set_into(photo, other, Into(layer="a", facing=facing, beyond=0))
    assert into is not None
    assert into.flipped is flipped
    corners = corners_on_canvas(into, width=400, height=300)
    shown = corners[[1, 0, 3, 2]] if flipped else corners
    assert shown == pytest.approx(np.array(other.facts.blank), abs=1e-6)


def test_part_that_photos_share_is_upright_and_whole() -> None:
    sheet = Sheet(400, 300)
    one = facts("one", (400, 300))
    here = Placement(x=200, y=150, scale_x=1, scale_y=1)
    turned = with_fields(here, x=230, turn=2)
    found = shared_part([Lying(one, here), Lying(one, turned)], sheet)
    assert found == Rect(36, 8, 400, 292)
    apart = with_fields(here, x=2000)
    assert shared_part([Lying(one, here), Lying(one, apart)], sheet) == Rect(
        0, 0, 400, 300
    )
    assert shared_part([], sheet) == Rect(0, 0, 400, 300)


def test_another_photo_in_a_frame_has_its_own_cut_out() -> None:
    matte = MattePart(id="m", picture="old", matte="b" * 64, level=0)
    ring = EllipsePart(id="e", x=50, y=50, width=60, height=60)
    made = PhotoLayer(
        id="a",
        name="Old",
        picture="old",
        width=100,
        height=80,
        placement=Placement(
            x=10, y=20, scale_x=2, scale_y=2, crop=Crop(x=30, y=40, width=50, height=40)
        ),
        mask=Mask(parts=(matte, ring), cleaned=1.0, inverted=True),
    )
    same = renewed(made, cut("new", (100, 80)))
    assert same.placement == made.placement
    assert same.mask is not None
    assert [part.id for part in same.mask.parts] == ["m", "e"]
    assert same.mask.inverted
    (part, _) = same.mask.parts
    assert isinstance(part, MattePart)
    assert (part.picture, part.matte) == ("new", "a" * 64)
    larger = renewed(made, cut("new", (1000, 500)))
    assert larger.mask is not None
    assert [one.id for one in larger.mask.parts] == ["m"]
    assert box_of(larger) == pytest.approx(box_of(made))
    uncut = renewed(made, facts("new", (100, 80)))
    assert uncut.mask is not None
    assert [one.id for one in uncut.mask.parts] == ["e"]


def test_what_ordinary_edits_cannot_say_is_refused() -> None:
    canvas = Canvas(width=10, height=10)
    group = GroupLayer(
        id="g",
        name="Both",
        width=5,
        height=5,
        placement=Placement(x=5, y=5, scale_x=1, scale_y=1),
        layers=(),
    )
    with pytest.raises(LayerUnsayableError):
        edits_to(Composite(canvas=canvas, layers=(group,)))


def test_layers_that_come_and_go_and_change_their_mask_are_said_too() -> None:
    plan = shipped("same-one-twice")
    filling, known = full(plan)
    fewer = with_fields(filling, photos={"first": filling.photos["first"]})
    before = filled(plan, fewer, known).composite
    after = filled(plan, filling, known).composite
    for start, end in ((before, after), (after, before)):
        now = start
        for edit in edits_between(start, end):
            now = apply(now, edit)
        assert now == end
