"""A subject's own colours along its edge: the estimate, and what shows on export."""

from __future__ import annotations

import numpy as np
import pytest

from glyphaneme.core.cutout.own_colors import colors_apart, with_own_colors
from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.mask import (
    EllipsePart,
    Hints,
    LayerPart,
    Mask,
    MattePart,
    Raster,
)
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render import (
    OwnColors,
    View,
    all_needed,
    own_pyramid,
    render,
)
from glyphaneme.core.values import with_fields
from tests.cutouts import Known, disks
from tests.pictures import photo_layer
from tests.plain_pymatting import estimate_foreground_ml

BACKINGS = {"white": "#ffffff", "black": "#000000", "colour": "#268c59"}


def bytes_of(alpha: np.ndarray) -> np.ndarray:
    return (alpha * 255 + 0.5).astype(np.uint8)


def test_the_estimate_is_the_published_one() -> None:
    known = disks(48, 40, [(24, 20, 12)], softness=8)
    colors = known.pixels[..., :3].astype(np.float32) / 255

    front, behind = colors_apart(colors, known.alpha)

    expected, expected_behind = estimate_foreground_ml(
        colors.astype(np.float64),
        known.alpha.astype(np.float64),
        return_background=True,
        n_small_iterations=10,
        n_big_iterations=2,
        small_size=32,
    )
    between = (known.alpha > 0.1) & (known.alpha < 0.9)
    assert np.abs(front - expected)[between].mean() < 0.01
    assert np.abs(behind - expected_behind)[between].mean() < 0.01


def off_over(backing: float | np.ndarray, shown: np.ndarray, known: Known) -> float:
    """Return how far a composite is from the true one along the soft edge."""
    alpha = known.alpha[..., None]
    own = shown[..., :3] / 255 * alpha + backing * (1 - alpha)
    true = known.own * alpha + backing * (1 - alpha)
    soft = (known.alpha > 0.02) & (known.alpha < 0.98)
    return float(np.abs(own - true)[soft].mean())


def test_no_rim_of_the_old_backdrop_is_left() -> None:
    known = disks(320, 240, [(160, 120, 80)], softness=14)

    clean = with_own_colors(known.pixels, bytes_of(known.alpha))

    for backing in (1.0, 0.0, np.array([0.15, 0.55, 0.35])):
        before = off_over(backing, known.pixels, known)
        assert off_over(backing, clean, known) < 0.35 * before


def test_all_but_the_edge_stays_bit_for_bit() -> None:
    known = disks(320, 240, [(160, 120, 80)], softness=8)
    alpha = bytes_of(known.alpha)

    clean = with_own_colors(known.pixels, alpha)

    assert (clean[alpha == 255] == known.pixels[alpha == 255]).all()
    assert (clean[:20] == known.pixels[:20]).all()
    assert (clean[..., 3] == known.pixels[..., 3]).all()
    assert (with_own_colors(known.pixels, alpha, strength=0) == known.pixels).all()
    half = with_own_colors(known.pixels, alpha, strength=0.5).astype(float)
    middle = (clean.astype(float) + known.pixels) / 2
    assert np.abs(half - middle).max() <= 1


@pytest.mark.parametrize("value", [0, 255])
def test_where_nothing_or_all_is_subject_nothing_changes(value: int) -> None:
    known = disks(40, 30, [(20, 15, 8)])

    clean = with_own_colors(known.pixels, np.full((30, 40), value, np.uint8))

    assert (clean == known.pixels).all()


def cut(known: Known, *, cleaned: float) -> tuple[Composite, dict]:
    """Return a photo on its own sheet, without its backdrop, and what it reads."""
    rows, columns = known.alpha.shape
    part = MattePart(id="m", picture="puppet", matte="ab" * 32, hints=Hints())
    mask = Mask(parts=(part,), cleaned=cleaned)
    layer = photo_layer("puppet", known.pixels, mask=mask)
    canvas = Canvas(width=columns, height=rows, background="#000000")
    composite = Composite(canvas=canvas, layers=(layer,))
    assets: dict = {
        "puppet": build_pyramid(known.pixels),
        part.raster: Raster(bytes_of(known.alpha)),
    }
    for own in all_needed(composite).own_colors:
        assets[own.name] = own_pyramid(own, assets)
    return composite, assets


@pytest.mark.parametrize("scale", [1.0, 0.5, 0.2])
@pytest.mark.parametrize("backing", BACKINGS)
def test_a_cut_photo_shows_no_rim_at_any_size(scale: float, backing: str) -> None:
    known = disks(400, 300, [(200, 150, 100)], softness=16)
    rows, columns = known.alpha.shape
    view = View(0, 0, round(columns * scale), round(rows * scale), scale)
    shown = {}
    for cleaned in (0.0, 1.0):
        composite, assets = cut(known, cleaned=cleaned)
        canvas = with_fields(composite.canvas, background=BACKINGS[backing])
        laid = with_fields(composite, canvas=canvas)
        shown[cleaned] = render(laid, assets, view).astype(float)[..., :3]

    ground = np.array([int(BACKINGS[backing][at : at + 2], 16) for at in (1, 3, 5)])
    alpha = known.alpha[..., None]
    true = known.own * 255 * alpha + ground * (1 - alpha)
    size = (view.width, view.height)
    import cv2

    expected = cv2.resize(true.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    soft = cv2.resize(known.alpha, size, interpolation=cv2.INTER_AREA)
    edge = (soft > 0.1) & (soft < 0.9)
    off = {one: np.abs(shown[one] - expected)[edge].mean() for one in shown}
    assert off[1.0] < 0.5 * off[0.0]


def test_a_mask_without_a_matte_can_be_cleaned_too() -> None:
    known = disks(200, 160, [(100, 80, 50)], softness=10)
    ring = EllipsePart(id="e", x=100, y=80, width=100, height=100, softness=10)
    layer = photo_layer("puppet", known.pixels, mask=Mask(parts=(ring,), cleaned=1.0))
    composite = Composite(canvas=Canvas(width=200, height=160), layers=(layer,))
    (own,) = all_needed(composite).own_colors

    clean = own_pyramid(own, {"puppet": build_pyramid(known.pixels)})

    assert off_over(1.0, clean.levels[0], known) < 0.5 * off_over(
        1.0, known.pixels, known
    )


def test_a_mask_that_stays_while_its_photo_moves_leaves_colours_alone() -> None:
    known = disks(40, 30, [(20, 15, 8)])
    composite, _ = cut(known, cleaned=1.0)
    layer = composite.layers[0]
    loose = with_fields(layer, mask=with_fields(layer.mask, linked=False))

    assert all_needed(composite).own_colors
    assert not all_needed(with_fields(composite, layers=(loose,))).own_colors


def test_pixels_right_beside_the_edge_have_own_colours_too() -> None:
    """What is shown between pixels, turned or enlarged, is made of them as well."""
    known = disks(200, 160, [(100, 80, 50)], softness=2)
    alpha = bytes_of(known.alpha)
    outside = (alpha == 0) & (np.hypot(*(np.indices((160, 200)).T - [80, 100]).T) < 52)

    clean = with_own_colors(known.pixels, alpha)

    off = np.abs(clean[..., :3] / 255 - known.own)[outside].mean()
    assert outside.any()
    assert off < 0.3 * np.abs(known.pixels[..., :3] / 255 - known.own)[outside].mean()


def test_what_follows_another_layer_counts_nothing_for_own_colours() -> None:
    known = disks(40, 30, [(20, 15, 8)])
    composite, _ = cut(known, cleaned=1.0)
    layer = composite.layers[0]
    follows = LayerPart(id="f", layer_id="puppet")

    def own(*parts: MattePart | LayerPart) -> tuple[OwnColors, ...]:
        mask = with_fields(layer.mask, parts=parts)
        changed = with_fields(composite, layers=(with_fields(layer, mask=mask),))
        return all_needed(changed).own_colors

    assert layer.mask is not None
    part = layer.mask.parts[0]
    assert own(part, follows) == own(part)
    assert own(follows) == ()
