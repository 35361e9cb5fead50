from __future__ import annotations

import io

import cv2
import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms

from glyphaneme.codecs import (
    PictureRefusedError,
    RefusalCode,
    identify_picture,
    read_picture,
)
from tests.pictures import noise_pixels, png_header, soft_pixels


def saved(image: Image.Image, kind: str, **options: object) -> io.BytesIO:
    file = io.BytesIO()
    image.save(file, kind, **options)
    return file


def profile_with_red_and_green_exchanged() -> bytes:
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    swapped = profile.replace(b"rXYZ", b"tmp_").replace(b"gXYZ", b"rXYZ")
    return swapped.replace(b"tmp_", b"gXYZ").replace(
        "sRGB".encode("utf-16-be"), b"\0X" * 4
    )


def test_png_with_alpha_is_read_exactly() -> None:
    pixels = noise_pixels(31, 17, seed=1)

    read = read_picture(saved(Image.fromarray(pixels), "PNG"))

    np.testing.assert_array_equal(read, pixels)


# What the tag says lies at the top and at the left of the picture: TIFF 6.0, page 36.
UPRIGHT = {
    1: lambda p: p,
    2: lambda p: p[:, ::-1],
    3: lambda p: p[::-1, ::-1],
    4: lambda p: p[::-1],
    5: lambda p: p.transpose(1, 0, 2),
    6: lambda p: np.rot90(p, -1),
    7: lambda p: p[::-1, ::-1].transpose(1, 0, 2),
    8: lambda p: np.rot90(p),
}


TURNING = ["JPEG", "PNG", "WEBP", "TIFF", "TIFF, 16 bits", "AVIF"]


def turned(kind: str, stored: np.ndarray, orientation: int) -> io.BytesIO:
    if kind == "TIFF, 16 bits":
        file = io.BytesIO()
        tag = (0x0112, "H", 1, orientation, True)
        wide = stored[..., :3].astype(np.uint16) * 257
        tifffile.imwrite(file, wide, photometric="rgb", extratags=[tag])
        return file
    exif = Image.Exif()
    exif[0x0112] = orientation
    image = Image.fromarray(stored).convert("RGB")
    return saved(image, kind, quality=98, exif=exif)


@pytest.mark.parametrize("orientation", UPRIGHT)
@pytest.mark.parametrize(
    "kind", ["JPEG", "PNG", "WEBP", "TIFF", "TIFF, 16 bits", "AVIF"]
)
def test_photo_is_turned_as_its_flag_says(kind: str, orientation: int) -> None:
    stored = soft_pixels(64, 40, seed=2)
    file = turned(kind, stored, orientation)

    read = read_picture(file)
    facts = identify_picture(file)

    wanted = UPRIGHT[orientation](stored)
    assert (facts.height, facts.width) == wanted.shape[:2] == read.shape[:2]
    assert np.abs(read.astype(int) - wanted).mean() < 2


@pytest.mark.parametrize("orientation", UPRIGHT)
@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_photo_is_turned_as_another_reader_turns_it(
    kind: str, orientation: int
) -> None:
    file = turned(kind, soft_pixels(64, 40, seed=2), orientation)

    other = cv2.imdecode(np.frombuffer(file.getvalue(), np.uint8), cv2.IMREAD_COLOR)

    assert np.abs(read_picture(file)[..., :3].astype(int) - other[..., ::-1]).mean() < 2


def test_colour_profile_is_converted_to_srgb() -> None:
    red = Image.new("RGB", (8, 8), (255, 0, 0))
    file = saved(red, "PNG", icc_profile=profile_with_red_and_green_exchanged())

    read = read_picture(file)

    assert read[4, 4, 1] > 200
    assert read[4, 4, 0] < 60


def test_broken_colour_profile_is_passed_over() -> None:
    file = saved(Image.new("RGB", (8, 8), (10, 20, 30)), "PNG", icc_profile=b"nonsense")

    np.testing.assert_array_equal(read_picture(file)[0, 0], (10, 20, 30, 255))


@pytest.mark.parametrize("mode", ["L", "LA", "1", "CMYK"])
def test_other_colour_modes_become_rgba(mode: str) -> None:
    image = Image.new("RGBA", (9, 9), (255, 255, 255, 255)).convert(mode)
    file = saved(image, "JPEG" if mode == "CMYK" else "PNG")

    read = read_picture(file)

    assert read.shape == (9, 9, 4)
    assert read.min() >= 250


def test_sixteen_bit_grey_is_reduced_by_its_value() -> None:
    wide = np.array([[0, 257 * 100, 65535]], np.uint16)

    read = read_picture(saved(Image.fromarray(wide), "PNG"))

    np.testing.assert_array_equal(read[0, :, 0], (0, 100, 255))


def test_palette_with_a_see_through_entry_keeps_it() -> None:
    image = Image.new("P", (2, 1))
    image.putpalette([255, 0, 0, 0, 0, 255])
    image.putpixel((1, 0), 1)

    read = read_picture(saved(image, "PNG", transparency=1))

    np.testing.assert_array_equal(read[0, 0], (255, 0, 0, 255))
    assert read[0, 1, 3] == 0


@pytest.mark.parametrize(
    ("file", "code", "words"),
    [
        (io.BytesIO(), RefusalCode.EMPTY, "file is empty"),
        (io.BytesIO(b"just words"), RefusalCode.UNKNOWN, "not a picture of a kind"),
        (
            io.BytesIO(png_header(60_000, 60_000)),
            RefusalCode.TOO_MANY_PIXELS,
            "60000 × 60000",
        ),
        (
            io.BytesIO(png_header(14_000, 14_000)),
            RefusalCode.TOO_MANY_PIXELS,
            "14000 × 14000",
        ),
        (
            io.BytesIO(png_header(100_000, 2)),
            RefusalCode.TOO_MANY_PIXELS,
            "30000 on a side",
        ),
        (
            io.BytesIO(png_header(40, 40)),
            RefusalCode.DAMAGED,
            "damaged or was cut short",
        ),
    ],
    ids=["empty", "text", "bomb", "over the limit", "long", "no pixels"],
)
def test_what_cannot_be_shown_is_refused_with_its_reason(
    file, code, words: str
) -> None:
    with pytest.raises(PictureRefusedError, match=words) as refusal:
        read_picture(file)

    assert refusal.value.code == code


def test_truncated_jpeg_is_refused() -> None:
    whole = saved(Image.fromarray(soft_pixels(300, 300, seed=1)).convert("RGB"), "JPEG")
    cut = io.BytesIO(whole.getvalue()[: len(whole.getvalue()) // 2])

    with pytest.raises(PictureRefusedError, match="cut short"):
        read_picture(cut)
