"""Backdrops that were found, as parts of a recipe, and the edit that puts them in."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.document import Canvas, ColorLayer, Composite
from glyphaneme.core.edits import apply, parse_edit
from glyphaneme.core.errors import (
    LayerLockedError,
    NoSuchWorkError,
    RasterMissingError,
)
from glyphaneme.core.mask import Hints, Join, Mask, MattePart, Raster, RoughStroke
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render import View, all_needed, render
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import describe
from tests.pictures import flat_pixels, photo_layer

NAME = "ab" * 32
OTHER = "cd" * 32
PART = MattePart(id="m", picture="puppet", matte=NAME)


def composite(*parts: MattePart, width: int = 64, height: int = 48) -> Composite:
    pixels = flat_pixels(width, height, (200, 80, 40, 255))
    mask = Mask(parts=parts) if parts else None
    layer = photo_layer("puppet", pixels, mask=mask)
    return Composite(canvas=Canvas(width=width, height=height), layers=(layer,))


def alpha_of(shown: Composite, matte: np.ndarray, *, scale: float = 1) -> np.ndarray:
    """Return what shows where a matte is laid on a canvas that is clear."""
    clear = with_fields(shown, canvas=with_fields(shown.canvas, background=None))
    assets: dict = {"puppet": build_pyramid(flat_pixels(64, 48, (200, 80, 40, 255)))}
    for part in all_needed(clear).mattes:
        assets[part.raster] = Raster(matte, part.share)
    size = View(0, 0, round(64 * scale), round(48 * scale), scale)
    return render(clear, assets, size)[..., 3]


def matte() -> np.ndarray:
    """Return a matte whose left half is subject, with a soft line between."""
    values = np.zeros((48, 64), np.uint8)
    values[:, :32], values[:, 32] = 255, 128
    return values


def test_without_its_backdrop_only_the_subject_shows() -> None:
    shown = alpha_of(composite(PART), matte())

    assert (shown[:, :32] == 255).all()
    assert np.abs(shown[:, 32].astype(int) - 128).max() <= 1
    assert (shown[:, 33:] == 0).all()


@pytest.mark.parametrize("changes", [{"inverted": True}, {"join": Join.ADD}])
def test_the_same_part_shows_only_the_rest(changes: dict[str, object]) -> None:
    rest = alpha_of(composite(with_fields(PART, **changes)), matte())

    assert (rest[:, :32] == 0).all()
    assert (rest[:, 33:] == 255).all()


def test_a_smaller_matte_covers_all_of_its_picture() -> None:
    small = np.zeros((12, 16), np.uint8)
    small[:, :8] = 255

    shown = alpha_of(composite(with_fields(PART, level=2)), small)

    assert (shown[:, :29] == 255).all()
    assert (shown[:, 35:] == 0).all()


def test_a_render_says_when_a_matte_is_not_there() -> None:
    shown = composite(PART)
    assets = {"puppet": build_pyramid(flat_pixels(64, 48, (9, 9, 9, 255)))}

    assert [part.matte for part in all_needed(shown).mattes] == [NAME]
    assert shown.pictures() == {"puppet"}
    with pytest.raises(RasterMissingError):
        render(shown, assets, View(0, 0, 8, 8, 0.1))


def cut_out(layer: str = "puppet", **changes: object) -> dict[str, object]:
    part = with_fields(PART, **changes)
    return {"kind": "cut_out", "layer_id": layer, "part": part.model_dump()}


def test_the_first_cut_cleans_its_edge_and_later_ones_leave_that_alone() -> None:
    first = apply(composite(), parse_edit(cut_out()))
    mask = first.layers[0].mask
    assert mask is not None
    assert mask.cleaned == 1
    assert mask.parts == (PART,)

    loose = with_fields(first.layers[0], mask=with_fields(mask, cleaned=0.25))
    before = with_fields(first, layers=(loose,))
    found_anew = apply(before, parse_edit(cut_out(matte=OTHER)))
    another = apply(before, parse_edit(cut_out(id="n", matte=OTHER)))

    masks = [one.layers[0].mask for one in (found_anew, another)]
    assert [one and one.cleaned for one in masks] == [0.25, 0.25]
    assert [one and [p.id for p in one.parts] for one in masks] == [["m"], ["m", "n"]]
    assert masks[0] is not None
    assert masks[0].parts[0] == with_fields(PART, matte=OTHER)


def test_only_a_photo_that_is_not_locked_can_be_cut_out() -> None:
    wash = ColorLayer(id="wash", name="Wash", color="#336699")
    washed = with_fields(composite(), layers=(wash,))
    with pytest.raises(NoSuchWorkError):
        apply(washed, parse_edit(cut_out("wash")))

    locked = with_fields(composite().layers[0], locked=True)
    with pytest.raises(LayerLockedError):
        apply(with_fields(composite(), layers=(locked,)), parse_edit(cut_out()))


def test_the_pile_says_how_it_was_found() -> None:
    stroke = RoughStroke(keeps=True, size=9, points=((1, 2),))
    two = with_fields(PART, hints=Hints(strokes=(stroke, stroke)))

    (sentence,) = describe(composite(two))

    said = "".join(part.text for part in sentence.parts)
    assert "its backdrop, found by itself, 2 rough strokes" in said


@pytest.mark.parametrize(
    "hints",
    [
        {"strokes": [{"keeps": True, "size": 0, "points": [[0, 0]]}]},
        {"strokes": [{"keeps": True, "size": 5, "points": []}]},
        {"strokes": [{"keeps": True, "size": float("nan"), "points": [[0, 0]]}]},
        {"strokes": [{"keeps": True, "size": 5, "points": [[float("inf"), 0]]}]},
        {"strokes": [{"keeps": True, "size": 5, "points": [[0, 0]] * 401}]},
        {"strokes": [{"keeps": True, "size": 5, "points": [[0, 0]]}] * 201},
        {"around": [[0, 0], [5, 5]]},
        {"subject": -1},
    ],
)
def test_hints_that_mean_nothing_are_refused(hints: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        Hints.model_validate(hints)
