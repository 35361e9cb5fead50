"""Picture files of every kind, written by libraries other than those that read them."""

from __future__ import annotations

import io
from pathlib import Path
from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest
import tifffile
from PIL import Image, ImageCms

from glyphaneme.codecs import (
    PictureRefusedError,
    RefusalCode,
    identify_picture,
    media_type_of,
    read_picture,
)
from tests.pictures import noise_pixels, psnr, soft_pixels

if TYPE_CHECKING:
    from numpy.typing import NDArray

FILES = Path(__file__).parent / "files"
SOFT = soft_pixels(64, 40, seed=5)
CLEAR = SOFT.copy()
CLEAR[:, :20, 3] = 0
DEEP = np.random.default_rng(3).integers(0, 65536, (30, 40, 4), np.uint16)


def by_pillow(pixels: NDArray[np.uint8], kind: str, **options: object) -> io.BytesIO:
    file = io.BytesIO()
    Image.fromarray(pixels).save(file, kind, **options)
    return file


def by_opencv(pixels: np.ndarray, ending: str, *options: int) -> io.BytesIO:
    """Write an array whose channels are in our order."""
    order = [2, 1, 0, 3][: pixels.shape[2]]
    done, data = cv2.imencode(ending, pixels[..., order], options)
    assert done
    return io.BytesIO(data.tobytes())


def by_tifffile(pixels: np.ndarray, **options: object) -> io.BytesIO:
    file = io.BytesIO()
    tifffile.imwrite(file, pixels, **options)
    return file


@pytest.mark.parametrize(
    ("file", "kind"),
    [
        (by_opencv(SOFT[..., :3], ".png"), "PNG"),
        (by_opencv(SOFT[..., :3], ".bmp"), "BMP"),
        (by_opencv(SOFT[..., :3], ".webp", cv2.IMWRITE_WEBP_QUALITY, 101), "WEBP"),
        (by_pillow(SOFT[..., :3], "JPEG2000", irreversible=False), "JPEG2000"),
        (by_tifffile(SOFT[..., :3], photometric="rgb"), "TIFF"),
        (by_tifffile(SOFT[..., :3], photometric="rgb", tile=(16, 16)), "TIFF"),
        (by_tifffile(SOFT[..., :3], photometric="rgb", compression="zlib"), "TIFF"),
        (by_tifffile(SOFT[..., :3], photometric="rgb", planarconfig="contig"), "TIFF"),
        (by_pillow(SOFT[..., :3], "TIFF", compression="tiff_lzw"), "TIFF"),
        (by_pillow(SOFT[..., :3], "TIFF", compression="packbits"), "TIFF"),
    ],
)
def test_exact_formats_are_read_exactly(file: io.BytesIO, kind: str) -> None:
    facts = identify_picture(file)

    assert facts == (kind, 64, 40, None, None)
    np.testing.assert_array_equal(read_picture(file), SOFT)


@pytest.mark.parametrize(
    ("file", "kind"),
    [
        (by_opencv(SOFT[..., :3], ".jpg", cv2.IMWRITE_JPEG_QUALITY, 98), "JPEG"),
        (
            by_opencv(
                SOFT[..., :3],
                ".jpg",
                cv2.IMWRITE_JPEG_QUALITY,
                98,
                cv2.IMWRITE_JPEG_PROGRESSIVE,
                1,
            ),
            "JPEG",
        ),
        (by_opencv(SOFT[..., :3], ".avif", cv2.IMWRITE_AVIF_QUALITY, 98), "AVIF"),
        (by_opencv(SOFT[..., :3], ".webp", cv2.IMWRITE_WEBP_QUALITY, 98), "WEBP"),
        (io.BytesIO((FILES / "photo.heic").read_bytes()), "HEIC"),
    ],
    ids=["jpeg", "progressive", "avif", "webp", "heic"],
)
def test_lossy_formats_are_read_as_other_decoders_read_them(
    file: io.BytesIO, kind: str
) -> None:
    assert identify_picture(file)[:3] == (kind, 64, 40)

    assert psnr(read_picture(file), SOFT) > 35


@pytest.mark.parametrize(
    "file",
    [
        by_opencv(CLEAR, ".png"),
        by_opencv(CLEAR, ".webp", cv2.IMWRITE_WEBP_QUALITY, 101),
        by_tifffile(CLEAR, photometric="rgb", extrasamples=["unassalpha"]),
        io.BytesIO((FILES / "cut-out.heic").read_bytes()),
    ],
    ids=["png", "webp", "tiff", "heic"],
)
def test_see_through_places_stay_so(file: io.BytesIO) -> None:
    read = read_picture(file)

    assert read[:, :18, 3].max() <= 1
    assert read[:, 22:, 3].min() >= 254


def test_premultiplied_tiff_becomes_straight() -> None:
    half = np.full((6, 8, 4), (100, 50, 20, 128), np.uint8)
    file = by_tifffile(half, photometric="rgb", extrasamples=["assocalpha"])

    assert np.abs(read_picture(file)[0, 0].astype(int) - (199, 100, 40, 128)).max() <= 1


@pytest.mark.parametrize("channels", [3, 4])
@pytest.mark.parametrize("kind", ["png", "tiff", "tiff deflated", "opencv's tiff"])
def test_sixteen_bits_are_rounded_to_eight(kind: str, channels: int) -> None:
    deep = DEEP[..., :channels]
    extra = {"extrasamples": ["unassalpha"]} if channels == 4 else {}
    file = {
        "png": lambda: by_opencv(deep, ".png"),
        "tiff": lambda: by_tifffile(deep, photometric="rgb", **extra),
        "tiff deflated": lambda: by_tifffile(
            deep, photometric="rgb", compression="zlib", **extra
        ),
        "opencv's tiff": lambda: by_opencv(deep[..., :3], ".tiff"),
    }[kind]()

    read = read_picture(file)

    wanted = np.round(deep / 257)
    if kind == "opencv's tiff":
        wanted = wanted[..., :3]
    np.testing.assert_array_equal(read[..., : wanted.shape[2]], wanted)
    assert channels == 4 or read[..., 3].min() == 255


def test_deep_picture_in_a_wide_profile_is_converted() -> None:
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    swapped = profile.replace(b"rXYZ", b"tmp_").replace(b"gXYZ", b"rXYZ")
    swapped = swapped.replace(b"tmp_", b"gXYZ")
    swapped = swapped.replace("sRGB".encode("utf-16-be"), b"\0X" * 4)
    red = np.zeros((6, 8, 3), np.uint16)
    red[..., 0] = 65535
    file = by_tifffile(
        red, photometric="rgb", extratags=[(34675, 7, len(swapped), swapped, True)]
    )

    read = read_picture(file)

    assert read[2, 2, 1] > 200
    assert read[2, 2, 0] < 60


def test_colours_of_a_lab_picture_are_those_it_was_made_from() -> None:
    srgb, lab = ImageCms.createProfile("sRGB"), ImageCms.createProfile("LAB")
    image = ImageCms.profileToProfile(
        Image.fromarray(SOFT[..., :3]), srgb, lab, outputMode="LAB"
    )
    file = io.BytesIO()
    image.save(file, "TIFF")

    assert psnr(read_picture(file), SOFT) > 35


def test_phone_photo_of_heic_is_upright() -> None:
    file = io.BytesIO((FILES / "turned.heic").read_bytes())

    assert identify_picture(file)[1:3] == (40, 64)
    assert psnr(read_picture(file), np.rot90(SOFT, -1)) > 33


def frames_by_pillow(kind: str, **options: object) -> io.BytesIO:
    other = Image.fromarray(np.full_like(SOFT, 7)[..., :3])
    return by_pillow(
        SOFT[..., :3], kind, save_all=True, append_images=[other, other], **options
    )


@pytest.mark.parametrize(
    ("file", "words"),
    [
        (frames_by_pillow("TIFF"), "It has 3 pages; the first was taken."),
        (frames_by_pillow("GIF"), "the first of its"),
        (frames_by_pillow("WEBP", lossless=True), "the first of its"),
        (frames_by_pillow("PNG"), "the first of its"),
        (io.BytesIO((FILES / "two.heic").read_bytes()), "holds 2 pictures"),
    ],
    ids=["tiff", "gif", "webp", "apng", "heic"],
)
def test_of_several_pictures_the_first_is_taken_and_that_is_said(
    file: io.BytesIO, words: str
) -> None:
    facts = identify_picture(file)

    assert words in (facts.note or "")
    assert psnr(read_picture(file), SOFT) > 25


def test_phones_previews_are_not_counted_as_pages() -> None:
    file = frames_by_pillow("MPO", quality=97)

    assert identify_picture(file)[::3] == ("JPEG", None)
    assert psnr(read_picture(file), SOFT) > 35


def test_map_coordinates_are_kept(demo_photos: Path) -> None:
    with (demo_photos / "meadow-spring.tif").open("rb") as file:
        facts = identify_picture(file)

    assert facts.map_tags is not None
    assert facts.map_tags["pixel_scale"] == [0.1, 0.1, 0.0]
    assert facts.map_tags["tie_points"][3:5] == [612348.0, 5290304.0]
    assert 32632 in facts.map_tags["geo_keys"]


@pytest.mark.parametrize("value", [np.nan, np.inf])
def test_broken_map_coordinates_are_passed_over(value: float) -> None:
    tags = [(33550, 12, 3, (value, 1.0, 0.0), True)]
    file = by_tifffile(SOFT[..., :3], photometric="rgb", extratags=tags)

    assert identify_picture(file).map_tags is None


def test_measurements_are_no_picture() -> None:
    heights = np.linspace(0, 900, 48, dtype=np.float32).reshape(6, 8)

    with pytest.raises(PictureRefusedError, match="measurements") as refusal:
        identify_picture(by_tifffile(heights))

    assert refusal.value.code == RefusalCode.UNKNOWN


@pytest.mark.parametrize("kind", ["PPM", "ICO", "TGA"])
def test_other_kinds_are_refused_by_what_is_read(kind: str) -> None:
    file = by_pillow(noise_pixels(16, 16, seed=1, opaque=True)[..., :3], kind)

    with pytest.raises(PictureRefusedError, match="HEIC, AVIF"):
        identify_picture(file)


def test_every_kind_has_its_media_type() -> None:
    assert media_type_of("JPEG2000") == "image/jp2"
    assert media_type_of("HEIC") == "image/heic"
