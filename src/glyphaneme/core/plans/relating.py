"""Where photos lie that follow another photo's place: over it, like it, set into it."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

import numpy as np

from glyphaneme.core.place import (
    Placement,
    Rect,
    corners_on_canvas,
    kept_position,
    kept_scale,
    source_to_canvas,
)
from glyphaneme.core.place.corners import corners_between
from glyphaneme.core.plans.places import LEAST_SIDE, box_round, filling
from glyphaneme.core.plans.placing import Fill

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PointsF64
    from glyphaneme.core.plans.facts import PhotoFacts
    from glyphaneme.core.plans.places import Lying, Sheet
    from glyphaneme.core.plans.placing import Into, Over

NEARLY = 1e-6
LEAST_SHARED = 16
"""Pixels a side: less in common is nothing to show."""


def set_into(facts: PhotoFacts, behind: Lying, rule: Into) -> Placement | None:
    """Return where a photo fills the blank place of another one.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of the photo that is set into it.
    behind : Lying
        The photo with the blank place, as it lies.
    rule : Into
        How far it reaches beneath the rim.

    Returns
    -------
    Placement, or None
        With four corners; cropped to about the place's own proportions. None where no
        blank place is known.
    """
    spots = behind.facts.blank
    if spots is None:
        return None
    size = {"width": behind.facts.width, "height": behind.facts.height}
    points = np.column_stack([np.array(spots), np.ones(4)])
    points = points @ source_to_canvas(behind.placement, **size).T
    if behind.placement.flipped != behind.placement.upended:
        points = points[[1, 0, 3, 2]]
    points = points + (points - points.mean(axis=0)) * 2 * rule.beyond
    wide = _length(points[1] - points[0]) + _length(points[2] - points[3])
    high = _length(points[3] - points[0]) + _length(points[2] - points[1])
    frame = Rect(0.0, 0.0, max(wide / 2, LEAST_SIDE), max(high / 2, LEAST_SIDE))
    flat = filling(facts, frame, _covering(rule, cropped=True))
    if flat.crop is None:
        return None
    box = box_round(points)
    pulled = (points - (box.left, box.top)) / np.maximum(box[2:] - np.array(box[:2]), 1)
    if flat.flipped:
        # Corners are the photo's own, which is mirrored after they are pulled.
        pulled = (pulled * (-1, 1) + (1, 0))[[1, 0, 3, 2]]
    return Placement(
        x=kept_position((box.left + box.right) / 2),
        y=kept_position((box.top + box.bottom) / 2),
        scale_x=kept_scale(box.width / flat.crop.width),
        scale_y=kept_scale(box.height / flat.crop.height),
        flipped=flat.flipped,
        crop=flat.crop,
        corners=corners_between(pulled),
    )


def over(facts: PhotoFacts, beneath: Lying, rule: Over) -> Placement:
    """Return where a photo covers what shows of another's subject.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of the photo that covers it.
    beneath : Lying
        The photo whose subject is covered.
    rule : Over
        Where in the subject's box its own centre shall lie, and how much larger the
        box is that it covers, about its middle.

    Returns
    -------
    Placement
        In proportion.
    """
    box, more = beneath.subject_box, (rule.closer - 1) / 2
    covered = box.widened(box.width * more, box.height * more)
    return filling(facts, covered, _covering(rule, aim=rule.aim))


def like(facts: PhotoFacts, other: Lying) -> Placement:
    """Return where a photo lies as another one does.

    Parameters
    ----------
    facts : PhotoFacts
        What is known of it.
    other : Lying
        The photo that lies there.

    Returns
    -------
    Placement
        The same for the same photo; one of another shape covers the other's frame.
    """
    same = (facts.width, facts.height) == (other.facts.width, other.facts.height)
    if same and not other.placement.is_warped:
        return other.placement
    return filling(facts, other.frame_box, Fill(cropped=True))


def shared_part(lying: list[Lying], sheet: Sheet) -> Rect[float]:
    """Return the upright box that all of several photos cover.

    Parameters
    ----------
    lying : list of Lying
        The photos; none shared where they lie apart.
    sheet : Sheet
        All of it where there is no such box.

    Returns
    -------
    Rect
        In pixels of the sheet, whole ones.
    """
    left, top, right, bottom = -math.inf, -math.inf, math.inf, math.inf
    for one in lying:
        size = {"width": one.facts.width, "height": one.facts.height}
        corners = corners_on_canvas(one.placement, **size)
        across, down = np.sort(corners[:, 0]), np.sort(corners[:, 1])
        left, top = max(left, across[1]), max(top, down[1])
        right, bottom = min(right, across[2]), min(bottom, down[2])
    if not lying:
        return Rect(0.0, 0.0, sheet.width, sheet.height)
    inside = Rect(
        float(math.ceil(left - NEARLY)),
        float(math.ceil(top - NEARLY)),
        float(math.floor(right + NEARLY)),
        float(math.floor(bottom + NEARLY)),
    )
    if inside.width < LEAST_SHARED or inside.height < LEAST_SHARED:
        return Rect(0.0, 0.0, sheet.width, sheet.height)
    return inside


def _covering(rule: Over | Into, **how: Any) -> Fill:  # noqa: ANN401  # as `Fill` has it
    """Return how a photo covers what a rule says, mirrored as that says."""
    return Fill(facing=rule.facing, flipped=rule.flipped, **how)


def _length(vector: PointsF64) -> float:
    return float(np.hypot(*vector))
