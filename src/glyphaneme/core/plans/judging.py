"""What is measured of a finished picture, and what is said of photos in their slots."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Literal, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.color import levels_of
from glyphaneme.core.document.apart import alone, beneath
from glyphaneme.core.document.model import PhotoLayer
from glyphaneme.core.place import corners_on_canvas, frame_size
from glyphaneme.core.plans.completing import plain
from glyphaneme.core.plans.layers import PlanPhoto
from glyphaneme.core.plans.touching import OF_FACET
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document.model import Composite
    from glyphaneme.core.place.affine import Size
    from glyphaneme.core.plans.completing import Seeing
    from glyphaneme.core.plans.facts import PhotoFacts, Subject
    from glyphaneme.core.plans.values import Judged, Plan, PlanStep, Slot

SHOWS = 0.5
FEWEST_SEEN = 64
"""Pixels of the small picture that a measure needs at least."""
ALIKE = 3
"""Levels by which a pixel may differ from the bare sheet and still be it."""
PRINT_PPI = 200.0
"""Sharp in the hand."""
ENLARGED = 1.35
"""How much longer a photo may be drawn than it is, before it is said."""
LEAST_SHOWN = 0.3
"""Of a photo: with less in sight it is said."""
SURE = 0.65
CM_PER_INCH = 2.54


class Note(NamedTuple):
    """What is said of a photo in its slot."""

    kind: Literal["good", "poor"]
    says: str


class Seen(NamedTuple):
    """A finished picture, and what is known of the photos in it."""

    composite: Composite
    photos: Mapping[str, PhotoFacts]
    seen: Seeing


def layer_of_step(step: PlanStep, composite: Composite) -> str | None:
    """Return the layer that a step is about.

    Parameters
    ----------
    step : PlanStep
        One of a plan's.
    composite : Composite
        What became of it.

    Returns
    -------
    str, or None
        The first of its layers that is there, or one of those that came of it; None
        where there is none.
    """
    for wanted in step.layers:
        came = [
            layer
            for layer in composite.all_layers()
            if layer.id == wanted or layer.id.startswith(f"{wanted}-")
        ]
        # Of several photos, one at which there is something to be changed.
        changed = OF_FACET[step.facet]
        full = [one for one in came if any(getattr(one, at, None) for at in changed)]
        if came:
            return (full or came)[0].id
    return None


def advice_on(step: PlanStep, picture: Seen) -> str | None:
    """Return what is to be said of a picture at a step.

    Parameters
    ----------
    step : PlanStep
        One of a plan's.
    picture : Seen
        As it stands.

    Returns
    -------
    str, or None
        None where nothing was measured that speaks against it.
    """
    layer_id = layer_of_step(step, picture.composite)
    if step.judged is None or layer_id is None:
        return None
    found = measured_of(step.judged.measure, picture, layer_id)
    return (
        step.judged.says if found is not None and _counts(step.judged, found) else None
    )


def measured_of(
    measure: Literal["contrast", "outline", "tone_gap", "cut_off"],
    picture: Seen,
    layer_id: str,
) -> float | None:
    """Measure one thing of a layer in a picture.

    Parameters
    ----------
    measure : str
        `outline`: how unsure the outline of its subject is. `cut_off`: 1 where a side
        of its photo cuts its subject off, else how much of the subject lies outside
        the sheet. `contrast`: the standard deviation of encoded luma (Rec. 709) of the
        finished picture where the layer shows on something. `tone_gap`: by how much of
        L* (CIE 1976) the layer differs from what lies beneath it, on average, divided
        by 100.
    picture : Seen
        As it stands.
    layer_id : str
        Which layer.

    Returns
    -------
    float, or None
        0..1; None where it cannot be told.
    """
    layer = picture.composite.layer(layer_id)
    if measure in {"outline", "cut_off"}:
        facts = picture.photos.get(getattr(layer, "picture", ""))
        subject = None if facts is None else facts.subject
        if facts is None or subject is None or not isinstance(layer, PhotoLayer):
            return None
        if measure == "outline":
            return 1 - subject.certainty if subject.is_found else None
        return 1.0 if subject.touches else _outside(layer, subject, picture.composite)
    if not isinstance(layer, PhotoLayer):
        return None
    if measure == "contrast":
        return _contrast(picture, layer_id)
    return _tone_gap(picture, layer_id)


def notes_on(
    plan: Plan, slot: Slot, facts: PhotoFacts, composite: Composite
) -> tuple[Note, ...]:
    """Return what is to be said of a photo in a slot: what is good, then what is poor.

    Parameters
    ----------
    plan : Plan
        What is made.
    slot : Slot
        Where the photo is.
    facts : PhotoFacts
        What is known of it.
    composite : Composite
        What came of it.

    Returns
    -------
    tuple of Note
        Each a short sentence.
    """
    said = (*_on_subject(plan, slot, facts), *_on_size(facts, composite))
    return tuple(sorted(said, key=lambda one: one.kind != "good"))


def _on_subject(plan: Plan, slot: Slot, facts: PhotoFacts) -> Iterator[Note]:
    if facts.is_cut:
        yield Note("good", "Cut out already.")
    subject = facts.subject
    is_cut_out = any(
        isinstance(layer, PlanPhoto) and layer.slot == slot.name and layer.cut
        for layer in plan.all_layers()
    )
    if not (is_cut_out or slot.whole) or subject is None:
        return
    if subject.is_found and not facts.is_cut:
        if subject.certainty >= SURE:
            yield Note("good", "The outline is clear.")
        else:
            says = "The outline is unsure in places. A plainer backdrop does better."
            yield Note("poor", says)
    if slot.whole and subject.touches:
        sides = _sides(len(subject.touches))
        says = f"The subject touches {sides}. Choose a photo that shows all of it."
        yield Note("poor", says)


def _sides(count: int) -> str:
    words = {1: "an edge", 2: "two edges", 3: "three edges"}
    return words.get(count, "all four edges")


def _on_size(facts: PhotoFacts, composite: Composite) -> Iterator[Note]:
    layers = (one for one in composite.all_layers() if isinstance(one, PhotoLayer))
    layer = next((one for one in layers if one.picture == facts.picture), None)
    if layer is None:
        return
    wide, high = _frame(layer)
    area = abs(cv2.contourArea(_on_sheet(layer)))
    enlarged = math.sqrt(area / (wide * high))
    size = f"{facts.width} × {facts.height} px"
    if enlarged > ENLARGED:
        across = facts.width / PRINT_PPI * CM_PER_INCH
        says = (
            f"It is {facts.width} px wide; sharp in print up to {_cm(across)} cm. "
            "A larger one does better."
        )
        yield Note("poor", says)
    else:
        yield Note("good", f"Large enough: {size}.")
    whole = layer.width * layer.height
    shown = _inside(_on_sheet(layer), composite) * wide * high / whole
    if shown < LEAST_SHOWN:
        says = f"Only {max(round(shown * 100), 1)} % of it is in sight."
        yield Note("poor", f"{says} One of other proportions shows more.")


def _cm(length: float) -> str:
    return f"{length:.0f}" if length >= 3 else f"{length:.1f}"


def _counts(judged: Judged, found: float) -> bool:
    return (
        found < judged.beyond if judged.measure == "contrast" else found > judged.beyond
    )


def _frame(layer: PhotoLayer) -> Size:
    return frame_size(layer.placement, width=layer.width, height=layer.height)


def _on_sheet(layer: PhotoLayer) -> NDArray[np.float32]:
    """Return where a photo's corners, or those of its frame, lie on the sheet."""
    size = {"width": layer.width, "height": layer.height}
    return np.asarray(corners_on_canvas(layer.placement, **size), np.float32)


def _inside(corners: NDArray[np.float32], composite: Composite) -> float:
    """Return how much of a four-sided shape lies on the sheet, 0..1."""
    width, height = composite.canvas.width, composite.canvas.height
    sheet = np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float32)
    area = abs(cv2.contourArea(corners))
    hull = cv2.convexHull(corners)
    common, _ = cv2.intersectConvexConvex(hull, sheet)
    return min(float(common) / area, 1.0) if area > 0 else 0.0


def _outside(layer: PhotoLayer, subject: Subject, composite: Composite) -> float | None:
    """Return how much of a subject lies outside the sheet; None in a frame."""
    if layer.placement.crop is not None:
        return None
    wide, high = layer.width, layer.height
    left, top, right, bottom = subject.box
    source = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], np.float32)
    box = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    matrix = cv2.getPerspectiveTransform(source, _on_sheet(layer))
    found = cv2.perspectiveTransform(box[None].astype(np.float32), matrix)[0]
    return 1 - _inside(np.asarray(found, np.float32), composite)


def _contrast(picture: Seen, layer_id: str) -> float | None:
    composite = plain(picture.composite)
    pile = composite.layers
    shape = picture.seen(_on_nothing(alone(composite, layer_id)), pile)
    whole = picture.seen(composite, pile)
    where = shape[..., 3] > 255 * SHOWS
    bare = composite.canvas.background
    if bare is not None:
        away = np.abs(whole[..., :3].astype(np.int16) - levels_of(bare))
        where &= away.max(axis=2) > ALIKE
    if where.sum() < FEWEST_SEEN:
        return None
    luma = whole[where][:, :3].astype(np.float64) @ [0.2126, 0.7152, 0.0722]
    return float(luma.std() / 255)


def _tone_gap(picture: Seen, layer_id: str) -> float | None:
    composite = plain(picture.composite)
    pile = composite.layers
    parts = (alone(composite, layer_id), beneath(composite, layer_id))
    sides = [_lightness(picture.seen(_on_nothing(part), pile)) for part in parts]
    if None in sides:
        return None
    first, second = (side or 0.0 for side in sides)
    return abs(first - second) / 100


def _on_nothing(part: Composite) -> Composite:
    """Return a part of a picture without the bare sheet, which shows as well."""
    return with_fields(part, canvas=with_fields(part.canvas, background=None))


def _lightness(pixels: PixelsU8) -> float | None:
    """Return the mean L* of what shows; None where next to nothing does."""
    where = pixels[..., 3] > 255 * SHOWS
    if where.sum() < FEWEST_SEEN:
        return None
    colors = pixels[where][None, :, :3].astype(np.float32) / 255
    return float(np.asarray(cv2.cvtColor(colors, cv2.COLOR_RGB2LAB))[..., 0].mean())
