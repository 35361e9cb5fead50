"""Where rules put photos: placements on a sheet, from what is known of photos."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.place import (
    Crop,
    Placement,
    Rect,
    columns_for,
    corners_on_canvas,
    kept_position,
    kept_scale,
    source_to_canvas,
)
from glyphaneme.core.plans.facts import PhotoFacts, Side
from glyphaneme.core.plans.placing import Area, Cell, Fill, Fit, Stand

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PointsF64
    from glyphaneme.core.plans.placing import PlacingBase

HEADROOM = 0.96
"""Of the sheet, what a subject takes at most that is cut off by no edge."""
LEAST_TILT = 0.3
"""Degrees: nobody sees less."""
GREATEST_TILT = 7.0
"""What leans farther leans on purpose."""
HEAD = 0.42
"""How high in a tall subject what one looks at lies, of its box."""
IN_SIGHT = 0.9
"""Of what is seen: so far out its centre may lie."""
LEAST_SIDE = 1.0


class Sheet(NamedTuple):
    """The sheet that photos are placed on, in its pixels."""

    width: float
    height: float

    def box(self, area: Area) -> Rect[float]:
        """Return an area in pixels.

        Parameters
        ----------
        area : Area
            In shares of the sheet.

        Returns
        -------
        Rect
            In pixels of the sheet.
        """
        return Rect(
            area.left * self.width,
            area.top * self.height,
            (area.left + area.width) * self.width,
            (area.top + area.height) * self.height,
        )


class Lying(NamedTuple):
    """A photo and where it lies."""

    facts: PhotoFacts
    placement: Placement

    @property
    def subject_box(self) -> Rect[float]:
        """The box on the sheet round its subject, or round all of it."""
        box = self.facts.box
        points = np.array(
            [
                (box.left, box.top, 1),
                (box.right, box.top, 1),
                (box.right, box.bottom, 1),
                (box.left, box.bottom, 1),
            ]
        )
        size = {"width": self.facts.width, "height": self.facts.height}
        return box_round(points @ source_to_canvas(self.placement, **size).T)

    @property
    def frame_box(self) -> Rect[float]:
        """The box on the sheet round its frame."""
        size = {"width": self.facts.width, "height": self.facts.height}
        return box_round(corners_on_canvas(self.placement, **size))


def box_round(points: PointsF64) -> Rect[float]:
    """Return the upright box round some points.

    Parameters
    ----------
    points : (N, 2) float64
        One at least.

    Returns
    -------
    Rect
        As small as holds them.
    """
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    return Rect(float(left), float(top), float(right), float(bottom))


def is_mirrored(facts: PhotoFacts, rule: PlacingBase) -> bool:
    """Tell whether a photo is to be mirrored.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of it.
    rule : PlacingBase
        Which way its subject shall look.

    Returns
    -------
    bool
        True where it is seen to look the other way, or is to lie so anyhow.
    """
    turned = facts.facing is not None and rule.facing not in (None, facts.facing)
    return turned != rule.flipped


def filling(facts: PhotoFacts, box: Rect[float], rule: Fill) -> Placement:
    """Return where a photo covers a box.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of it.
    box : Rect
        In pixels of the sheet.
    rule : Fill
        Where its subject's centre shall come to lie, and whether it is cropped.

    Returns
    -------
    Placement
        In proportion; its horizon level where that was measured.

    Examples
    --------
    >>> wide = PhotoFacts(picture="p", name="Hills", width=400, height=100)
    >>> filling(wide, Rect(0.0, 0.0, 100.0, 100.0), Fill()).scale_x
    1.0
    """
    flipped = is_mirrored(facts, rule)
    tilt = facts.tilt if LEAST_TILT < abs(facts.tilt) <= GREATEST_TILT else 0.0
    turn = tilt if flipped else -tilt
    lean = math.radians(abs(turn))
    wide, high = max(box.width, LEAST_SIDE), max(box.height, LEAST_SIDE)
    # The box as the photo sees it, which is turned against it.
    needs = np.array(
        [
            wide * math.cos(lean) + high * math.sin(lean),
            wide * math.sin(lean) + high * math.cos(lean),
        ]
    )
    size = np.array([facts.width, facts.height], np.float64)
    scale = kept_scale(float((needs / size).max()) * rule.closer)
    slack = np.maximum((size * scale - needs) / 2, 0)
    aimed = (np.array([rule.aim.x, rule.aim.y]) - 0.5) * (wide, high)
    wanted = _turned(aimed, -turn) - _from_middle(facts, facts.focus, flipped) * scale
    shift = np.clip(
        _with_box_inside(facts, wanted, scale, needs, flipped), -slack, slack
    )
    middle = np.array([(box.left + box.right) / 2, (box.top + box.bottom) / 2])
    if not rule.cropped:
        x, y = middle + _turned(shift, turn)
        return _placed(x, y, scale, turn=turn, flipped=flipped)
    at = -shift / scale
    seen = size / 2 + (at * (-1, 1) if flipped else at)
    frame = np.array([wide, high]) / scale
    crop = Crop(
        x=kept_position(seen[0]),
        y=kept_position(seen[1]),
        width=max(frame[0], LEAST_SIDE),
        height=max(frame[1], LEAST_SIDE),
        turn=-tilt,
        shape=rule.shape,
        corner=rule.corner * float(frame.min()),
    )
    return _placed(middle[0], middle[1], scale, flipped=flipped, crop=crop)


def fitting(facts: PhotoFacts, sheet: Sheet, rule: Fit) -> Placement:
    """Return where a photo, or its subject, lies whole in an area.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of it.
    sheet : Sheet
        Whose area.
    rule : Fit
        Which area, and where in it.

    Returns
    -------
    Placement
        In proportion.
    """
    area = sheet.box(rule.area)
    whole = Rect(0.0, 0.0, float(facts.width), float(facts.height))
    box = facts.box if rule.of == "subject" else whole
    scale = kept_scale(
        min(area.width / _side(box.width), area.height / _side(box.height))
    )
    left = area.left + (area.width - box.width * scale) * rule.aim.x
    top = area.top + (area.height - box.height * scale) * rule.aim.y
    return _with_box_at(facts, box, (left, top), scale, is_mirrored(facts, rule))


def standing(facts: PhotoFacts, sheet: Sheet, rule: Stand) -> Placement:
    """Return where a subject stands in an area, none of its cut edges in sight.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of it.
    sheet : Sheet
        Whose area.
    rule : Stand
        Which area, and where between its sides.

    Returns
    -------
    Placement
        In proportion.
    """
    area, box, flipped = sheet.box(rule.area), facts.box, is_mirrored(facts, rule)
    cut = _cut_sides(facts, flipped)
    scale = min(area.width / _side(box.width), area.height / _side(box.height))
    across, down = {Side.LEFT, Side.RIGHT}, {Side.TOP, Side.BOTTOM}
    # From edge to edge, unless that which is whole would be cut off for it.
    wide = sheet.width if cut & across else HEADROOM * sheet.width
    high = sheet.height if Side.BOTTOM in cut else area.bottom
    high = high if Side.TOP in cut else high - (1 - HEADROOM) * sheet.height
    if down <= cut:
        fitting = min(sheet.height / _side(box.height), wide / _side(box.width))
        scale = max(scale, fitting)
    if across <= cut:
        fitting = min(sheet.width / _side(box.width), high / _side(box.height))
        scale = max(scale, fitting)
    scale = kept_scale(scale)
    left = area.left + (area.width - box.width * scale) * rule.lean
    top = area.bottom - box.height * scale
    if Side.BOTTOM in cut:
        top = sheet.height - box.height * scale
    elif Side.TOP in cut:
        top = 0.0
    if {Side.LEFT, Side.RIGHT} <= cut:
        left = (sheet.width - box.width * scale) / 2
    elif Side.LEFT in cut:
        left = 0.0
    elif Side.RIGHT in cut:
        left = sheet.width - box.width * scale
    return _with_box_at(facts, box, (left, top), scale, flipped)


def celled(
    facts: PhotoFacts, sheet: Sheet, rule: Cell, *, place: int, count: int
) -> Placement:
    """Return where a photo fills its cell of a grid.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of it.
    sheet : Sheet
        Whose area.
    rule : Cell
        Which area, and the gap between cells.
    place, count : int
        Which of how many photos it is, from 0.

    Returns
    -------
    Placement
        Cropped to its cell; a last row that is not full lies in the middle.
    """
    area = sheet.box(rule.area)
    columns = min(rule.columns or columns_for(count, area.width / area.height), count)
    rows = math.ceil(count / columns)
    row, column = divmod(place, columns)
    in_row = columns if row < rows - 1 else count - row * columns
    gap = rule.gap * min(area.width, area.height)
    wide = max((area.width - gap * (columns - 1)) / columns, LEAST_SIDE)
    high = max((area.height - gap * (rows - 1)) / rows, LEAST_SIDE)
    left = area.left + (columns - in_row) * (wide + gap) / 2 + column * (wide + gap)
    top = area.top + row * (high + gap)
    box = Rect(left, top, left + wide, top + high)
    as_filled = Fill(
        cropped=True, corner=rule.corner, facing=rule.facing, flipped=rule.flipped
    )
    return filling(facts, box, as_filled)


def _cut_sides(facts: PhotoFacts, flipped: bool) -> set[Side]:  # noqa: FBT001
    """Return the sides at which its subject is cut off, as it lies."""
    touched = set(facts.subject.touches) if facts.subject is not None else set()
    if not flipped:
        return touched
    other = {Side.LEFT: Side.RIGHT, Side.RIGHT: Side.LEFT}
    return {other.get(side, side) for side in touched}


def _with_box_at(
    facts: PhotoFacts,
    box: Rect[float],
    corner: tuple[float, float],
    scale: float,
    flipped: bool,  # noqa: FBT001
) -> Placement:
    """Place a photo so that a box of it comes to lie with its corner there."""
    middle = ((box.left + box.right) / 2, (box.top + box.bottom) / 2)
    away = _from_middle(facts, middle, flipped) * scale
    x = corner[0] + box.width * scale / 2 - away[0]
    y = corner[1] + box.height * scale / 2 - away[1]
    return _placed(x, y, scale, flipped=flipped)


def _with_box_inside(
    facts: PhotoFacts,
    wanted: PointsF64,
    scale: float,
    needs: PointsF64,
    flipped: bool,  # noqa: FBT001
) -> PointsF64:
    """Move no farther than the subject's box stays in sight, if it is small enough."""
    if facts.subject is None:
        return wanted
    box = facts.box
    corners = [
        _from_middle(facts, spot, flipped) * scale
        for spot in ((box.left, box.top), (box.right, box.bottom))
    ]
    least, most = np.minimum(*corners), np.maximum(*corners)
    low, high = -needs / 2 - least, needs / 2 - most
    # What is too wide lies about its centre; what is too tall is seen from its head,
    # as far as its centre stays in sight.
    centre = _from_middle(facts, facts.focus, flipped) * scale
    reach = IN_SIGHT * needs[1] / 2
    head = low[1] * (1 - HEAD) + high[1] * HEAD
    head = min(max(head, -reach - centre[1]), reach - centre[1])
    instead = np.array([wanted[0], head])
    held: PointsF64 = np.where(low > high, instead, np.clip(wanted, low, high))
    return held


def _from_middle(
    facts: PhotoFacts,
    spot: tuple[float, float],
    flipped: bool,  # noqa: FBT001
) -> PointsF64:
    """Return how far a spot lies from the photo's middle, mirrored as it is."""
    across = spot[0] - facts.width / 2
    return np.array([-across if flipped else across, spot[1] - facts.height / 2])


def _turned(vector: PointsF64, turn: float) -> PointsF64:
    angle = math.radians(turn)
    cosine, sine = math.cos(angle), math.sin(angle)
    return np.array([[cosine, -sine], [sine, cosine]]) @ vector


def _placed(
    x: float,
    y: float,
    scale: float,
    *,
    turn: float = 0.0,
    flipped: bool = False,
    crop: Crop | None = None,
) -> Placement:
    return Placement(
        x=kept_position(x),
        y=kept_position(y),
        scale_x=scale,
        scale_y=scale,
        turn=turn,
        flipped=flipped,
        crop=crop,
    )


def _side(length: float) -> float:
    return max(length, LEAST_SIDE)
