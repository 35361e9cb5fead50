from __future__ import annotations

import io
import struct
from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms

from glyphaneme.codecs import (
    FileFormat,
    FileSpec,
    Shape,
    encode_frame,
    encode_thumbnail,
    load_pyramid,
    save_pyramid,
    write_bands,
    write_picture,
)
from glyphaneme.core.place import build_pyramid
from tests.pictures import noise_pixels, psnr, soft_pixels

if TYPE_CHECKING:
    from pathlib import Path


PICTURES = [one for one in FileFormat if one is not FileFormat.PDF]
"""A PDF has pages, and not one picture alone."""


@pytest.mark.parametrize(
    "chosen", [one for one in PICTURES if one is not FileFormat.GIF]
)
def test_finished_file_says_its_print_size_and_that_it_is_srgb(
    chosen: FileFormat,
) -> None:
    file = io.BytesIO()

    write_picture(soft_pixels(40, 30, seed=1), file, FileSpec(chosen, 90, 240))

    image = Image.open(file)
    exif = image.getexif()
    resolution = image.info.get("dpi") or (exif[282], exif[283])
    assert [round(side) for side in resolution] == [240, 240]
    profile = ImageCms.ImageCmsProfile(io.BytesIO(image.info["icc_profile"]))
    assert "sRGB" in ImageCms.getProfileDescription(profile)


@pytest.mark.parametrize("chosen", [FileFormat.PNG, FileFormat.TIFF])
@pytest.mark.parametrize("rows", [1, 64, 200])
def test_picture_written_in_bands_keeps_every_pixel_and_its_alpha(
    chosen: FileFormat, rows: int
) -> None:
    pixels = noise_pixels(23, 150, seed=2)
    bands = (pixels[top : top + rows] for top in range(0, 150, rows))
    file = io.BytesIO()

    write_bands(bands, Shape(23, 150, opaque=False), file, FileSpec(chosen, 90, 72))

    np.testing.assert_array_equal(np.asarray(Image.open(file)), pixels)


@pytest.mark.parametrize(
    "chosen", [one for one in PICTURES if one is not FileFormat.GIF]
)
def test_opaque_picture_is_written_without_alpha(chosen: FileFormat) -> None:
    pixels = soft_pixels(90, 70, seed=2)
    file = io.BytesIO()

    write_picture(pixels, file, FileSpec(chosen, 95, 72))

    image = Image.open(file)
    assert image.mode == "RGB"
    assert psnr(np.asarray(image), pixels[..., :3]) > 40


def test_webp_keeps_see_through_places() -> None:
    pixels = soft_pixels(90, 70, seed=2)
    pixels[..., 3] = np.linspace(0, 255, 90).astype(np.uint8)
    file = io.BytesIO()

    write_picture(pixels, file, FileSpec(FileFormat.WEBP, 95, 72))

    read = np.asarray(Image.open(file))
    assert np.abs(read[..., 3].astype(int) - pixels[..., 3]).max() <= 2


def test_better_jpeg_quality_is_nearer_to_the_picture() -> None:
    pixels = soft_pixels(200, 150, seed=3)
    nearness = []

    for quality in (40, 95):
        file = io.BytesIO()
        write_picture(pixels, file, FileSpec(FileFormat.JPEG, quality, 72))
        nearness.append(psnr(np.asarray(Image.open(file)), pixels[..., :3]))

    assert nearness[0] < nearness[1]
    assert nearness[1] > 42


def test_frame_is_one_jpeg_where_opaque_and_two_where_not() -> None:
    opaque = soft_pixels(64, 48, seed=4)
    clear = opaque.copy()
    clear[:, :20, 3] = 0

    whole, split = encode_frame(opaque), encode_frame(clear)

    first, second = struct.unpack(">II", whole[:8])
    assert (len(whole), second) == (8 + first, 0)
    color = cv2.imdecode(np.frombuffer(whole[8:], np.uint8), cv2.IMREAD_COLOR_RGB)
    assert psnr(color, opaque[..., :3]) > 36
    first, second = struct.unpack(">II", split[:8])
    assert len(split) == 8 + first + second
    veil = cv2.imdecode(
        np.frombuffer(split[8 + first :], np.uint8), cv2.IMREAD_GRAYSCALE
    )
    assert veil[:, :16].min() > 250
    assert veil[:, 26:].max() < 5


def test_pyramid_is_loaded_as_it_was_saved_and_can_be_saved_twice(
    tmp_path: Path,
) -> None:
    pyramid = build_pyramid(noise_pixels(100, 80, seed=5))

    save_pyramid(tmp_path / "one", pyramid)
    save_pyramid(tmp_path / "one", pyramid)
    loaded = load_pyramid(tmp_path / "one")

    assert loaded is not None
    assert loaded.opaque == pyramid.opaque
    for read, kept in zip(loaded.levels, pyramid.levels, strict=True):
        np.testing.assert_array_equal(read, kept)
    assert [path.name for path in tmp_path.iterdir()] == ["one"]


def test_half_deleted_pyramid_counts_as_none(tmp_path: Path) -> None:
    save_pyramid(tmp_path / "one", build_pyramid(noise_pixels(100, 80, seed=5)))
    (tmp_path / "one" / "1.npy").unlink()

    assert load_pyramid(tmp_path / "one") is None


def test_thumbnail_of_a_see_through_picture_keeps_its_alpha() -> None:
    pixels = soft_pixels(900, 600, seed=6)
    pixels[:, :450, 3] = 0

    small = np.asarray(Image.open(io.BytesIO(encode_thumbnail(build_pyramid(pixels)))))

    assert small.shape == (213, 320, 4)
    assert small[100, 20, 3] == 0
    assert small[100, 300, 3] == 255
