"""Photos that come together: each is seen."""

from __future__ import annotations

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.edits import AddLayer, apply
from glyphaneme.core.place import Beside, Placement, Rect, side_by_side

Size = tuple[int, int]
sizes = st.tuples(st.integers(40, 6000), st.integers(40, 6000))
canvases = st.tuples(st.integers(400, 6000), st.integers(400, 6000))


def all_of(photos: list[Size], canvas: Size) -> list[Rect[float]]:
    """Return where each of some photos comes to lie."""
    wide, high = canvas
    boxes = []
    for place, (width, height) in enumerate(photos):
        beside = Beside(place=place, count=len(photos))
        lies = side_by_side(
            width, height, beside, canvas_width=wide, canvas_height=high
        )
        boxes.append(box_of(lies, width, height))
    return boxes


def box_of(lies: Placement, width: int, height: int) -> Rect[float]:
    across, down = width * lies.scale_x / 2, height * lies.scale_y / 2
    assert lies.scale_x == lies.scale_y <= 1
    return Rect(lies.x - across, lies.y - down, lies.x + across, lies.y + down)


@given(photos=st.lists(sizes, min_size=1, max_size=24), canvas=canvases)
def test_photos_share_the_sheet_and_none_hides_another(
    photos: list[Size], canvas: Size
) -> None:
    boxes = all_of(photos, canvas)

    for box in boxes:
        assert box.left >= -1e-6
        assert box.top >= -1e-6
        assert box.right <= canvas[0] + 1e-6
        assert box.bottom <= canvas[1] + 1e-6
    for one, other in itertools.combinations(boxes, 2):
        assert not one.widened(-1e-6, -1e-6).meets(other)


@pytest.mark.parametrize(
    ("canvas", "columns"), [((1200, 800), 2), ((800, 1200), 1), ((3000, 300), 4)]
)
def test_the_sheets_shape_says_how_they_lie(canvas: Size, columns: int) -> None:
    boxes = all_of([(400, 300)] * columns * (2 if columns < 4 else 1), canvas)

    assert len({round(box.left) for box in boxes}) == columns


def test_a_last_row_that_is_not_full_lies_in_the_middle() -> None:
    boxes = all_of([(400, 300)] * 3, (800, 600))

    assert (boxes[2].left + boxes[2].right) / 2 == pytest.approx(400)
    assert boxes[2].top > boxes[0].bottom


@given(count=st.integers(25, 500), data=st.data())
def test_more_than_fit_side_by_side_lie_shifted(
    count: int, data: st.DataObject
) -> None:
    place = data.draw(st.integers(0, count - 2))
    here, after = (
        side_by_side(
            4000,
            3000,
            Beside(place=one, count=count),
            canvas_width=2000,
            canvas_height=1500,
        )
        for one in (place, place + 1)
    )

    assert abs(here.x - after.x) > 20
    for lies in (here, after):
        box = box_of(lies, 4000, 3000)
        assert box.left >= -1e-6
        assert box.right <= 2000 + 1e-6


@pytest.mark.parametrize(
    ("place", "count"), [(1, 1), (-1, 2), (0, 0), (0, 501), (500, 500)]
)
def test_no_place_beyond_the_last(place: int, count: int) -> None:
    with pytest.raises(ValidationError):
        Beside(place=place, count=count)


def test_laid_on_beside_others_a_photo_stays_where_it_came() -> None:
    sheet = Composite(canvas=Canvas(width=800, height=600, ppi=72), layers=())
    edit = AddLayer(
        layer_id="a",
        name="Moths",
        picture="moths",
        width=400,
        height=300,
        beside=Beside(place=1, count=2),
    )

    (layer,) = apply(sheet, edit).layers
    wider = Composite(canvas=Canvas(width=1600, height=600, ppi=72), layers=())
    (decided,) = apply(wider, edit.decided(sheet)).layers

    assert decided.placement == layer.placement
    assert layer.placement.y > 300
