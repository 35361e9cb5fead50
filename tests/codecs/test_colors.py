"""Colours of files: by published formulas, there and back, and what no ink reaches."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image, ImageCms

from glyphaneme.codecs import PictureRefusedError
from glyphaneme.codecs.color import (
    MAX_PROFILE_BYTES,
    Conversion,
    coated_profile,
    outside_gamut,
    proofed,
    read_profile,
    srgb_profile,
)
from glyphaneme.core.finish.settings import Coloring
from tests.pictures import flat_pixels, noise_pixels, soft_pixels

# CSS Color 4, section 18: linear sRGB to XYZ, and linear Display P3 to XYZ.
SRGB_TO_XYZ = np.array(
    [
        [506752 / 1228815, 87881 / 245763, 12673 / 70218],
        [87098 / 409605, 175762 / 245763, 12673 / 175545],
        [7918 / 409605, 87881 / 737289, 1001167 / 1053270],
    ]
)
P3_TO_XYZ = np.array(
    [
        [608311 / 1250200, 189793 / 714400, 198249 / 1000160],
        [35783 / 156275, 247089 / 357200, 198249 / 2500400],
        [0, 32229 / 714400, 5220557 / 5000800],
    ]
)


def decoded(values: np.ndarray) -> np.ndarray:
    return np.where(
        values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4
    )


def encoded(values: np.ndarray) -> np.ndarray:
    return np.where(
        values <= 0.0031308, values * 12.92, 1.055 * np.abs(values) ** (1 / 2.4) - 0.055
    )


@pytest.mark.parametrize("depth", [np.uint8, np.uint16])
def test_display_p3_is_as_css_color_4_says(depth: type) -> None:
    most = np.iinfo(depth).max
    pixels = (noise_pixels(40, 30, seed=1) / 255 * most).astype(depth)

    found = Conversion.into(Coloring(space="display_p3")).of(pixels)

    there = np.linalg.inv(P3_TO_XYZ) @ SRGB_TO_XYZ
    wanted = encoded(decoded(pixels[..., :3] / most) @ there.T) * most
    assert np.abs(found[..., :3] - wanted).max() <= most * 0.004
    np.testing.assert_array_equal(found[..., 3], pixels[..., 3])


def test_grey_is_the_luminance_of_the_colour() -> None:
    pixels = flat_pixels(2, 2, (30, 160, 90, 200))

    found = Conversion.into(Coloring(space="gray")).of(pixels)

    luminance = decoded(np.array([30, 160, 90]) / 255) @ [0.2126, 0.7152, 0.0722]
    assert found.shape == (2, 2, 2)
    assert abs(int(found[0, 0, 0]) - encoded(np.array(luminance)) * 255) <= 2
    assert found[0, 0, 1] == 200


@pytest.mark.parametrize("black_point", [True, False])
@pytest.mark.parametrize("intent", ["perceptual", "relative", "saturation", "absolute"])
def test_inks_are_what_littlecms_finds_through_another_binding(
    intent: str,
    black_point: bool,
) -> None:
    pixels = soft_pixels(40, 30, seed=2)
    coloring = Coloring(space="ink", intent=intent, black_point=black_point)

    found = Conversion.into(coloring).of(pixels)

    flags = ImageCms.Flags.BLACKPOINTCOMPENSATION if black_point else 0
    profiles = [
        ImageCms.ImageCmsProfile(io.BytesIO(one))
        for one in (srgb_profile(), coated_profile())
    ]
    order = ["perceptual", "relative", "saturation", "absolute"]
    transform = ImageCms.buildTransform(
        *profiles, "RGB", "CMYK", order.index(intent), flags
    )
    wanted = ImageCms.applyTransform(Image.fromarray(pixels[..., :3]), transform)
    assert np.abs(found[..., :4].astype(int) - np.asarray(wanted)).max() <= 2


def test_colours_that_ink_can_show_come_back_as_they_went() -> None:
    muted = soft_pixels(60, 40, seed=4)
    muted[..., :3] = 90 + muted[..., :3] // 4
    conversion = Conversion.into(Coloring(space="ink", black_point=False))

    back = proofed(muted, conversion)

    assert np.abs(back[..., :3].astype(float) - muted[..., :3]).mean() <= 1
    assert not outside_gamut(muted, conversion).any()


def test_screens_brightest_green_is_out_of_reach_of_ink() -> None:
    green = flat_pixels(4, 3, (0, 255, 0, 255))
    clear = flat_pixels(4, 3, (0, 255, 0, 0))
    conversion = Conversion.into(Coloring(space="ink"))

    assert outside_gamut(green, conversion).all()
    assert not outside_gamut(clear, conversion).any()
    assert not outside_gamut(flat_pixels(4, 3, (0, 0, 0, 255)), conversion).any()


def test_printer_s_profile_is_read() -> None:
    facts = read_profile(coated_profile())

    assert facts.ink == "cmyk"
    assert "FOGRA39" in facts.name


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"no profile at all", "no colour profile"),
        (coated_profile()[:9000], "no colour profile"),
        (coated_profile()[:400] + bytes(len(coated_profile()) - 400), "damaged"),
        (srgb_profile(), "describes a screen, not a printer"),
        (bytes(MAX_PROFILE_BYTES + 1), "at most 16 MB"),
    ],
)
def test_what_is_no_printer_s_profile_is_refused(data: bytes, words: str) -> None:
    with pytest.raises(PictureRefusedError, match=words):
        read_profile(data)
