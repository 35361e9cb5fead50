"""Photos that a file enlarges are resampled well, and leave no fringe."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import pytest
from PIL import Image

from glyphaneme.core.place import build_pyramid
from glyphaneme.core.place.enlarging import doublings_for, enlarge_into
from glyphaneme.core.render import View, render
from tests.pictures import composite_of, noise_pixels, photo_layer, psnr, soft_pixels


def enlarged(pixels: np.ndarray, power: int) -> np.ndarray:
    rows, columns = pixels.shape[:2]
    out = np.empty((rows << power, columns << power, 4), np.uint8)
    enlarge_into(pixels, power, out)
    return out


def detailed(side: int) -> np.ndarray:
    """Rings that become ever finer, as far as half the size can hold them."""
    across = np.arange(side) / side - 0.5
    squares = across[:, None] ** 2 + across[None, :] ** 2
    rings = 127.5 + 110 * np.cos(squares * side * 0.9)
    return np.dstack([rings, rings, rings, np.full_like(rings, 255)]).astype(np.uint8)


def test_enlarged_photo_is_nearer_to_what_it_was_than_a_smooth_one() -> None:
    large = detailed(512)
    small = cv2.resize(large, (256, 256), interpolation=cv2.INTER_AREA)

    found = psnr(enlarged(small, 1)[40:-40, 40:-40], large[40:-40, 40:-40])

    smooth = cv2.resize(small, (512, 512), interpolation=cv2.INTER_LINEAR)
    assert found > psnr(smooth[40:-40, 40:-40], large[40:-40, 40:-40]) + 4
    pillow = np.asarray(
        Image.fromarray(small).resize((512, 512), Image.Resampling.LANCZOS)
    )
    assert found > psnr(pillow[40:-40, 40:-40], large[40:-40, 40:-40]) - 3


def test_bands_meet_without_a_seam() -> None:
    tall = noise_pixels(20, 600, seed=4)
    tall[..., 3] = 255

    whole = cv2.resize(tall, (80, 2400), interpolation=cv2.INTER_LANCZOS4)

    np.testing.assert_array_equal(enlarged(tall, 2), whole)


def test_colour_of_what_is_see_through_does_not_come_to_be_seen() -> None:
    pixels = np.zeros((40, 40, 4), np.uint8)
    pixels[:, :20] = (0, 255, 0, 0)
    pixels[:, 20:] = (200, 30, 40, 255)

    found = enlarged(pixels, 1)

    shown = found[found[..., 3] > 8]
    assert np.abs(shown[:, :3].astype(int) - (200, 30, 40)).max() <= 3


@pytest.mark.parametrize("turn", [0, 30])
def test_render_reads_the_finer_picture_where_it_is_enlarged(turn: float) -> None:
    pixels = soft_pixels(32, 32, seed=2)
    plain = build_pyramid(pixels)
    marked = np.full((64, 64, 4), 255, np.uint8)
    finer = replace(plain, finer=marked, finer_power=1)
    layer = photo_layer("a", pixels)
    placement = layer.placement.model_copy(update={"turn": turn})
    composite = composite_of(
        layer.model_copy(update={"placement": placement}), width=32, height=32
    )

    enlarged_view = render(composite, {"a": finer}, View(0, 0, 64, 64, 2))
    own_size = render(composite, {"a": finer}, View(0, 0, 32, 32, 1))

    assert (enlarged_view[20:44, 20:44] == 255).all()
    np.testing.assert_array_equal(
        own_size, render(composite, {"a": plain}, View(0, 0, 32, 32, 1))
    )


def test_finer_picture_lies_where_the_photo_lies() -> None:
    pixels = soft_pixels(64, 48, seed=5)
    plain = build_pyramid(pixels)
    finer = replace(plain, finer=enlarged(pixels, 1), finer_power=1)
    composite = composite_of(photo_layer("a", pixels), width=64, height=48)
    view = View(0, 0, 192, 144, 3)

    apart = psnr(
        render(composite, {"a": finer}, view), render(composite, {"a": plain}, view)
    )

    assert apart > 40


def test_little_is_not_doubled() -> None:
    assert [doublings_for(one) for one in (1.06, 1.07, 2.0, 2.01, 9)] == [0, 1, 1, 2, 2]
