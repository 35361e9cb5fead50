from __future__ import annotations

import numpy as np
import pytest

from glyphaneme.core.blend import MODE_GROUPS, BlendMode
from glyphaneme.core.render import View, render
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    premultiplied,
    pyramids,
)
from tests.published_blending import laid_over

SIDE = 300
WHOLE = View(x=0, y=0, width=SIDE, height=SIDE, scale=1)


@pytest.mark.parametrize("mode", list(BlendMode))
@pytest.mark.parametrize(
    ("opaque", "tolerance"), [(True, 0.51), (False, 1.0)], ids=["opaque", "translucent"]
)
def test_every_mode_equals_its_published_formula(
    mode: BlendMode,
    opaque: bool,
    tolerance: float,
) -> None:
    below = noise_pixels(SIDE, SIDE, seed=1, opaque=opaque)
    above = noise_pixels(SIDE, SIDE, seed=2)
    composite = composite_of(
        photo_layer("below", below),
        photo_layer("above", above, blend=mode, opacity=0.7),
        width=SIDE,
        height=SIDE,
    )

    shown = render(composite, pyramids(below=below, above=above), WHOLE)

    wanted = laid_over(mode, below / 255, above / 255, 0.7) * 255
    error = np.abs(premultiplied(shown) - premultiplied(wanted)).max()
    assert error <= tolerance


@pytest.mark.parametrize("mode", list(BlendMode))
def test_extreme_colours_blend_as_published(mode: BlendMode) -> None:
    steps = np.array([0, 1, 63, 64, 127, 128, 254, 255], np.uint8)
    b, s = (axis.ravel() for axis in np.meshgrid(steps, steps))
    below = np.full((1, b.size, 4), 255, np.uint8)
    above = below.copy()
    below[0, :, :3] = np.stack([b, b[::-1], np.roll(b, 3)], -1)
    above[0, :, :3] = np.stack([s, np.roll(s, 5), s[::-1]], -1)
    composite = composite_of(
        photo_layer("below", below),
        photo_layer("above", above, blend=mode),
        width=b.size,
        height=1,
        background="#ffffff",
    )

    shown = render(
        composite,
        pyramids(below=below, above=above),
        View(x=0, y=0, width=b.size, height=1, scale=1),
    )

    wanted = laid_over(mode, below / 255, above / 255, 1.0) * 255
    assert np.abs(shown - wanted).max() <= 0.51


def test_layer_without_strength_changes_nothing() -> None:
    below = noise_pixels(SIDE, SIDE, seed=3, opaque=True)
    above = noise_pixels(SIDE, SIDE, seed=4)
    composite = composite_of(
        photo_layer("below", below),
        photo_layer("above", above, opacity=0.0, blend="difference"),
        width=SIDE,
        height=SIDE,
    )

    shown = render(composite, pyramids(below=below, above=above), WHOLE)

    np.testing.assert_array_equal(shown, below)


def test_twenty_layers_err_no_more_than_one_rounding() -> None:
    pictures = {f"l{n}": noise_pixels(64, 64, seed=n, opaque=n == 0) for n in range(20)}
    modes = [list(BlendMode)[n % 12] for n in range(20)]
    layers = [
        photo_layer(
            name, pixels, blend=mode if n else "normal", opacity=0.5 if n else 1
        )
        for n, ((name, pixels), mode) in enumerate(
            zip(pictures.items(), modes, strict=True)
        )
    ]
    composite = composite_of(*layers, width=64, height=64)

    shown = render(
        composite, pyramids(**pictures), View(x=0, y=0, width=64, height=64, scale=1)
    )

    wanted = pictures["l0"] / 255
    for layer in layers[1:]:
        wanted = laid_over(layer.blend, wanted, pictures[layer.id] / 255, 0.5)
    assert np.abs(shown - wanted * 255).max() <= 0.52


def test_try_groups_offer_every_mode_once() -> None:
    offered = [mode for group in MODE_GROUPS for mode in group.modes]

    assert sorted(offered) == sorted(BlendMode)
