"""Pictures for tests, and comparisons of pictures with a stated tolerance."""

from __future__ import annotations

import struct
import zlib
from typing import TYPE_CHECKING, Any

import numpy as np

from glyphaneme.core.document import Canvas, Composite, Layer, PhotoLayer
from glyphaneme.core.place import Placement, Pyramid, build_pyramid

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.render import View


def flat_pixels(
    width: int, height: int, color: tuple[int, int, int, int]
) -> NDArray[np.uint8]:
    return np.full((height, width, 4), color, np.uint8)


def noise_pixels(
    width: int, height: int, *, seed: int, opaque: bool = False
) -> NDArray[np.uint8]:
    pixels = np.random.default_rng(seed).integers(0, 256, (height, width, 4), np.uint8)
    if opaque:
        pixels[..., 3] = 255
    return pixels


def soft_pixels(width: int, height: int, *, seed: int) -> NDArray[np.uint8]:
    """Return an opaque picture without detail finer than some pixels."""
    row, column = np.mgrid[0:height, 0:width] / max(width, height)
    phases = np.random.default_rng(seed).uniform(0, 6, 3)
    waves = [
        0.5 + 0.45 * np.sin(7 * column + 5 * row * k + p) for k, p in enumerate(phases)
    ]
    return (np.dstack([*waves, np.ones_like(row)]) * 255 + 0.5).astype(np.uint8)


def photo_layer(
    layer_id: str,
    pixels: NDArray[np.uint8],
    **changes: Any,
) -> PhotoLayer:
    """Return a layer of that picture at its own size in the top left corner."""
    height, width = pixels.shape[:2]
    fields = {
        "id": layer_id,
        "name": layer_id.capitalize(),
        "picture": layer_id,
        "width": width,
        "height": height,
        "placement": Placement(x=width / 2, y=height / 2, scale_x=1, scale_y=1),
    }
    return PhotoLayer(**{**fields, **changes})


def composite_of(
    *layers: Layer, width: int, height: int, background: str | None = None
) -> Composite:
    return Composite(
        canvas=Canvas(width=width, height=height, background=background), layers=layers
    )


def pyramids(**pictures: NDArray[np.uint8]) -> dict[str, Pyramid]:
    return {name: build_pyramid(pixels) for name, pixels in pictures.items()}


def premultiplied(pixels: NDArray[Any]) -> NDArray[np.float64]:
    """Return 0..255 premultiplied colour and alpha: the error that can be seen."""
    out = pixels.astype(np.float64)
    out[..., :3] *= out[..., 3:] / 255
    return out


def area_mean(pixels: NDArray[np.uint8], view: View) -> NDArray[np.float64]:
    """Return what a view shows of pixels of full size: the mean over each of its own.

    Straight RGBA, 0..255; colours weighted by alpha, nothing around the pixels.
    """
    rows, columns = pixels.shape[:2]
    down = _overlaps(rows, view.y, view.height, 1 / view.scale)
    across = _overlaps(columns, view.x, view.width, 1 / view.scale)
    summed = np.tensordot(down, premultiplied(pixels), axes=(1, 0))
    mean = np.einsum("xc,ycn->yxn", across, summed, optimize=True)
    mean *= view.scale**2
    mean[..., :3] *= 255 / np.maximum(mean[..., 3:], 1e-9)
    return mean


def _overlaps(pixels: int, start: float, count: int, step: float) -> NDArray[Any]:
    """Return how much of each pixel lies in each of the steps, (count, pixels)."""
    begin = start + step * np.arange(count)[:, None]
    place = np.arange(pixels)
    shared = np.minimum(begin + step, place + 1) - np.maximum(begin, place)
    return np.maximum(shared, 0)


def psnr(shown: NDArray[Any], wanted: NDArray[Any]) -> float:
    """Return the peak signal to noise ratio of two 8-bit pictures, in dB."""
    error = np.mean((shown.astype(np.float64) - wanted.astype(np.float64)) ** 2)
    return float("inf") if error == 0 else float(10 * np.log10(255**2 / error))


def png_header(width: int, height: int) -> bytes:
    """Return a PNG that claims a size and holds no pixels."""

    def chunk(name: bytes, data: bytes) -> bytes:
        check = zlib.crc32(name + data)
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", check)

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b""))
        + chunk(b"IEND", b"")
    )
