from __future__ import annotations

import io
import struct
from typing import TYPE_CHECKING, Any

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
from glyphaneme.codecs.color import coated_profile
from glyphaneme.codecs.writing import tiff
from glyphaneme.core.finish import About
from glyphaneme.core.place import build_pyramid
from tests.pdfs import said_by
from tests.pictures import noise_pixels, psnr, soft_pixels

if TYPE_CHECKING:
    from pathlib import Path

    from numpy.typing import NDArray


INK = coated_profile()
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


def written(
    pixels: NDArray[Any], path: Path, chosen: FileFormat, **fields: Any
) -> Path:
    """Write pixels as a file on disk."""
    height, width, channels = pixels.shape
    ink = fields.pop("ink", "rgb")
    opaque = bool((pixels[..., -1] == np.iinfo(pixels.dtype).max).all())
    bits = 8 * pixels.dtype.itemsize
    shape = Shape(width, height, opaque, ink, bits)
    assert channels == {"gray": 2, "rgb": 4, "cmyk": 5}[ink]
    with path.open("wb") as file:
        spec = FileSpec(chosen, fields.pop("quality", 90), 300, **fields)
        write_bands((pixels,), shape, file, spec)
    return path


def deep_pixels(width: int, height: int, *, opaque: bool) -> NDArray[np.uint16]:
    pixels = np.random.default_rng(7).integers(
        0, 65536, (height, width, 4), dtype=np.uint16
    )
    if opaque:
        pixels[..., 3] = 65535
    return pixels


@pytest.mark.parametrize("opaque", [True, False])
def test_deep_png_keeps_every_bit(tmp_path: Path, opaque: bool) -> None:
    # Higher than a band.
    pixels = deep_pixels(11, 600, opaque=opaque)

    file = written(pixels, tmp_path / "deep.png", FileFormat.PNG)

    read = cv2.imread(str(file), cv2.IMREAD_UNCHANGED)
    order = [2, 1, 0] if opaque else [2, 1, 0, 3]
    np.testing.assert_array_equal(read, pixels[..., order])
    with Image.open(file) as image:
        assert round(image.info["dpi"][0]) == 300
        assert image.info["icc_profile"]


@pytest.mark.parametrize("packing", ["deflate", "lzw"])
@pytest.mark.parametrize("opaque", [True, False])
def test_deep_tiff_keeps_every_bit(
    tmp_path: Path,
    opaque: bool,
    packing: str,
) -> None:
    pixels = deep_pixels(31, 150, opaque=opaque)

    file = written(pixels, tmp_path / "deep.tif", FileFormat.TIFF, packing=packing)

    read = cv2.imread(str(file), cv2.IMREAD_UNCHANGED)
    order = [2, 1, 0] if opaque else [2, 1, 0, 3]
    np.testing.assert_array_equal(read, pixels[..., order])
    assert (
        said_by(file)["IFD0:Compression"]
        == {
            "deflate": "Adobe Deflate",
            "lzw": "LZW",
        }[packing]
    )


def test_tiff_of_inks_is_one_for_printers(tmp_path: Path) -> None:
    inks = noise_pixels(20, 70, seed=3)
    pixels = np.dstack([inks, np.full((70, 20), 255, np.uint8)])

    file = written(
        pixels, tmp_path / "ink.tif", FileFormat.TIFF, ink="cmyk", profile=INK
    )

    with Image.open(file) as image:
        assert image.mode == "CMYK"
        np.testing.assert_array_equal(np.asarray(image), inks)
        assert image.info["icc_profile"] == INK


def test_jpeg_of_inks_is_read_as_it_was_meant(tmp_path: Path) -> None:
    inks = np.zeros((32, 32, 5), np.uint8)
    inks[...] = (200, 30, 90, 10, 255)

    file = written(inks, tmp_path / "ink.jpg", FileFormat.JPEG, ink="cmyk", profile=INK)

    with Image.open(file) as image:
        assert image.mode == "CMYK"
        assert np.abs(np.asarray(image)[16, 16].astype(int) - inks[0, 0, :4]).max() <= 3


def test_tiff_beyond_four_gigabytes_is_of_the_larger_kind(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(tiff, "LARGE_BYTES", 1000)
    pixels = noise_pixels(30, 40, seed=5)

    file = written(pixels, tmp_path / "big.tif", FileFormat.TIFF)

    assert file.read_bytes()[:4] == b"II+\0"
    with Image.open(file) as image:
        np.testing.assert_array_equal(np.asarray(image), pixels)


def test_webp_without_loss_keeps_every_pixel(tmp_path: Path) -> None:
    pixels = noise_pixels(40, 30, seed=6)

    file = written(pixels, tmp_path / "exact.webp", FileFormat.WEBP, exact=True)

    with Image.open(file) as image:
        np.testing.assert_array_equal(np.asarray(image), pixels)


def test_avif_keeps_see_through_places_and_is_near(tmp_path: Path) -> None:
    pixels = soft_pixels(90, 70, seed=2)
    pixels[:, :30, 3] = 0

    file = written(pixels, tmp_path / "a.avif", FileFormat.AVIF)

    with Image.open(file) as image:
        read = np.asarray(image)
    assert read[..., 3].min() == 0
    assert psnr(read[:, 30:, :3], pixels[:, 30:, :3]) > 38


def test_gif_has_its_own_colours_and_is_see_through_or_not(tmp_path: Path) -> None:
    pixels = soft_pixels(90, 70, seed=2)
    pixels[:, :30, 3] = 100
    pixels[:, 30:40, 3] = 200

    file = written(pixels, tmp_path / "a.gif", FileFormat.GIF)

    with Image.open(file) as image:
        read = np.asarray(image.convert("RGBA"))
    assert set(np.unique(read[..., 3])) == {0, 255}
    assert (read[:, :30, 3] == 0).all()
    assert psnr(read[:, 40:, :3], pixels[:, 40:, :3]) > 24


def test_png_of_few_colours_is_small_and_exact(tmp_path: Path) -> None:
    pixels = np.zeros((100, 100, 4), np.uint8)
    pixels[:50] = (200, 30, 40, 255)
    pixels[50:] = (10, 20, 30, 128)

    few = written(pixels, tmp_path / "few.png", FileFormat.PNG, few_colors=True)
    plain = written(pixels, tmp_path / "plain.png", FileFormat.PNG)

    assert few.stat().st_size < plain.stat().st_size
    with Image.open(few) as image:
        assert image.mode == "P"
        np.testing.assert_array_equal(np.asarray(image.convert("RGBA")), pixels)


@pytest.mark.parametrize("fine", [True, False])
def test_colours_of_a_jpeg_are_fine_or_not(tmp_path: Path, fine: bool) -> None:
    file = written(
        soft_pixels(64, 48, seed=2),
        tmp_path / "a.jpg",
        FileFormat.JPEG,
        fine_color=fine,
        progressive=True,
    )

    said = said_by(file)
    assert said["File:YCbCrSubSampling"].startswith(
        "YCbCr4:4:4" if fine else "YCbCr4:2:0"
    )
    assert said["File:EncodingProcess"] == "Progressive DCT, Huffman coding"


ABOUT = About(
    title="Ночь <премьеры> & мотыльки",
    author="The Lanternmoth Marionettes",
    description="A puppet, and a forest inside it.",
    licence="CC BY 4.0",
    alt="A puppet in profile",
)


@pytest.mark.parametrize(
    "chosen", [one for one in PICTURES if one is not FileFormat.GIF]
)
def test_file_says_who_made_it_and_nothing_private(
    tmp_path: Path, chosen: FileFormat
) -> None:
    file = written(soft_pixels(64, 48, seed=2), tmp_path / "a", chosen, about=ABOUT)

    said = said_by(file)
    assert said["XMP-dc:Title"] == ABOUT.title
    assert said["XMP-dc:Creator"] == ABOUT.author
    assert said["XMP-dc:Description"] == ABOUT.description
    assert said["XMP-dc:Rights"] == ABOUT.licence
    assert said["XMP-iptcCore:AltTextAccessibility"] == ABOUT.alt
    private = ("GPS", "Serial", "Software", "HostComputer", "Model", "CreatorTool")
    told = [name for name in said if any(word in name for word in private)]
    assert [one for one in told if "ICC" not in one] == []


def test_file_that_says_nothing_has_no_packet(tmp_path: Path) -> None:
    file = written(soft_pixels(64, 48, seed=2), tmp_path / "a.jpg", FileFormat.JPEG)

    assert not [name for name in said_by(file) if name.startswith("XMP")]


@pytest.mark.parametrize("chosen", PICTURES)
def test_picture_of_one_pixel_is_written(tmp_path: Path, chosen: FileFormat) -> None:
    pixels = np.full((1, 1, 4), (10, 120, 240, 255), np.uint8)

    file = written(pixels, tmp_path / "one", chosen)

    with Image.open(file) as image:
        assert image.size == (1, 1)
