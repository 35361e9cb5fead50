"""Areas of even colour: found by CIELAB distance, and what is kept as pixels."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.errors import RasterMissingError
from glyphaneme.core.mask import EvenPart, Join, KeptPart, Mask
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render import View, assets_needed, render
from tests.posters import composite_of, photo_layer

if TYPE_CHECKING:
    from numpy.typing import NDArray

WIDTH, HEIGHT = 320, 200
WHOLE = View(0, 0, WIDTH, HEIGHT, 1)


def patches() -> NDArray[np.uint8]:
    """Return grey ground with two squares of a blue, and a bar of nearly that blue."""
    pixels = np.full((HEIGHT, WIDTH, 4), (180, 180, 180, 255), np.uint8)
    pixels[40:100, 30:90, :3] = (40, 80, 160)
    pixels[40:100, 200:260, :3] = (40, 80, 160)
    pixels[120:150, 30:260, :3] = (64, 96, 178)
    return pixels


def hidden_by(
    part: EvenPart | KeptPart,
    pixels: NDArray[np.uint8],
    view: View = WHOLE,
    most_pixels: int = 10**7,
    **mask: Any,
) -> NDArray[np.uint8]:
    """Return 255 where a part of the photo's own mask takes the photo away."""
    layer = photo_layer("a", pixels, mask=Mask(parts=(part,), **mask))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)
    pyramid = build_pyramid(pixels)
    assets = {"a": pyramid, part.raster: part.raster_of(pyramid, most_pixels)}
    return 255 - render(composite, assets, view)[..., 3]


def even(*spots: tuple[float, float], **fields: Any) -> EvenPart:
    return EvenPart(id="e", picture="a", spots=spots, **fields)


def test_area_ends_where_its_colour_does() -> None:
    hidden = hidden_by(even((60, 70), tolerance=2), patches())

    wanted = np.zeros((HEIGHT, WIDTH), np.uint8)
    wanted[40:100, 30:90] = 255
    np.testing.assert_array_equal(hidden, wanted)


def test_area_that_need_not_be_connected_is_everywhere() -> None:
    hidden = hidden_by(even((60, 70), tolerance=2, connected=False), patches())

    assert hidden[70, 230] == hidden[70, 60] == 255
    assert hidden[135, 100] == hidden[10, 10] == 0


def test_more_spots_and_more_tolerance_add() -> None:
    pixels = patches()
    both = hidden_by(even((60, 70), (230, 70), tolerance=2), pixels)
    wide = hidden_by(even((60, 70), tolerance=30, connected=False), pixels)

    assert both[70, 60] == both[70, 230] == 255
    assert both[135, 100] == 0
    assert wide[135, 100] == 255
    assert wide[10, 10] == 0


def test_colours_fall_off_by_their_distance_in_cielab() -> None:
    ramp = np.full((64, 256, 4), 255, np.uint8)
    ramp[..., :3] = np.arange(256, dtype=np.uint8)[:, np.newaxis]
    lightness = cv2.cvtColor(
        np.arange(256, dtype=np.float32).reshape(1, -1, 1).repeat(3, 2) / 255,
        cv2.COLOR_RGB2LAB,
    )[0, :, 0]

    hidden = hidden_by(even((128.5, 30), tolerance=16, connected=False), ramp)

    away = np.abs(lightness - lightness[128])
    wanted = np.clip((20 - away) / 4, 0, 1) * 255
    # CIELAB is held in bytes: L* is known to half a step of 100/255.
    assert np.abs(hidden[30, :256].astype(float) - wanted).max() < 255 / 4 * 0.6


def test_soft_edge_of_a_photo_leaves_no_gap() -> None:
    pixels = patches()
    pixels[..., :3] = cv2.GaussianBlur(pixels[..., :3], (0, 0), 1.5)

    hidden = hidden_by(even((60, 70), tolerance=24), pixels)

    row = hidden[70, 60:110].astype(int)
    assert row[0] == 255
    assert row[-1] == 0
    assert (np.diff(row) <= 0).all()
    assert ((row > 0) & (row < 255)).any()


def test_smaller_picture_gives_nearly_the_same_area() -> None:
    pixels = patches()
    part = even((60, 70), tolerance=6)

    quick = hidden_by(part, pixels, most_pixels=WIDTH * HEIGHT // 3)

    full = hidden_by(part, pixels)
    assert (np.abs(full.astype(int) - quick) > 128).mean() < 0.01


@pytest.mark.parametrize("scale", [0.25, 0.6, 2])
def test_area_is_shown_at_any_size(scale: float) -> None:
    part = even((60, 70), tolerance=2)
    size = round(WIDTH * scale), round(HEIGHT * scale)

    hidden = hidden_by(part, patches(), View(0, 0, *size, scale))

    whole = hidden_by(part, patches())
    method = cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR
    wanted = cv2.resize(whole, size, interpolation=method)
    assert np.sqrt(np.mean((hidden.astype(float) - wanted) ** 2)) < 12


def test_area_of_another_picture_lies_where_it_is_mapped() -> None:
    shifted = even((60, 70), tolerance=2, to_picture=(0.5, 0, -20, 0, 0.5, 10))

    hidden = hidden_by(shifted, patches())

    # The square's left edge, 30, lies where 0.5 x - 20 is that.
    assert hidden[100, 98] == 0
    assert hidden[100, 102] == 255


@pytest.mark.parametrize(
    ("spot", "pixels"),
    [
        ((-500, 9000), np.full((HEIGHT, WIDTH, 4), 77, np.uint8)),
        ((0, 0), np.full((1, 1, 4), 255, np.uint8)),
        ((5, 5), np.zeros((16, 400, 4), np.uint8)),
    ],
)
def test_one_colour_is_one_area_wherever_it_is_clicked(
    spot: tuple[float, float], pixels: NDArray[np.uint8]
) -> None:
    raster = even(spot, tolerance=0).raster_of(build_pyramid(pixels))

    assert raster.plane_for(1)[1].extremes.min() == 65535


@pytest.mark.parametrize(
    "fields",
    [
        {"spots": ()},
        {"spots": ((1, 1),) * 33},
        {"spots": ((1, float("nan")),)},
        {"tolerance": -1},
        {"tolerance": 101},
        {"tolerance": float("inf")},
    ],
)
def test_what_is_no_area_is_refused(fields: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        EvenPart(**{"id": "e", "picture": "a", "spots": ((1, 1),), **fields})


def test_rasters_are_named_by_what_they_are_made_of() -> None:
    one, same = even((5, 5)), even((5, 5), inverted=True, join=Join.KEEP)
    other = even((5, 5), tolerance=13)

    assert one.raster == same.raster != other.raster


def test_raster_that_is_not_handed_over_is_named() -> None:
    layer = photo_layer("a", patches(), mask=Mask(parts=(even((5, 5)),)))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT)

    needed = assets_needed(composite)

    assert [part.raster for part in needed.rasters] == [even((5, 5)).raster]
    with pytest.raises(RasterMissingError, match="an even colour"):
        render(composite, {"a": build_pyramid(patches())}, WHOLE)


def test_kept_part_is_the_alpha_of_its_picture_and_nothing_beyond() -> None:
    kept = np.zeros((HEIGHT, WIDTH, 4), np.uint8)
    kept[50:120, 60:150, 3] = 200
    part = KeptPart(id="k", picture="a", said="the shape of Moths")
    layer = photo_layer("b", np.full((HEIGHT, WIDTH, 4), 255, np.uint8))
    layer = layer.model_copy(update={"mask": Mask(parts=(part,))})
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)
    assets = {
        "b": build_pyramid(np.full((HEIGHT, WIDTH, 4), 255, np.uint8)),
        part.raster: part.raster_of(build_pyramid(kept)),
    }

    shown = render(composite, assets, WHOLE)[..., 3]

    np.testing.assert_array_equal(shown, kept[..., 3])
    assert assets_needed(composite).pictures == {"a", "b"}
