"""The same work by general-purpose libraries, each in its own fast way.

The base is opaque in workload W, so that all may use the short form b + a (B - b).
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
import pyvips
import skia
from PIL import Image, ImageChops

from glyphaneme.core.blend import BlendMode

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from numpy.typing import NDArray

    from bench.workload import Part, Pixels

    Floats = NDArray[np.float32]

F32 = np.float32
NUMPY_ROWS = 16
OPENCV_ROWS = 64


def in_bands(
    compose: Callable[[list[Part], int, int], Floats], rows: int, threads: int
) -> Callable[[list[Part]], Pixels]:
    """Return a contestant that composes some rows at a time, which caches like."""

    def run(parts: list[Part]) -> Pixels:
        height, width = parts[0].pixels.shape[:2]
        out = np.full((height, width, 4), 255, np.uint8)

        def band(top: int) -> None:
            bottom = min(height, top + rows)
            out[top:bottom, :, :3] = compose(parts, top, bottom) * F32(255) + F32(0.5)

        with ThreadPoolExecutor(threads) as pool:
            list(pool.map(band, range(0, height, rows)))
        return out

    return run


def numpy_rows(parts: list[Part], top: int, bottom: int) -> Floats:
    """Compose rows with NumPy in float32."""
    below, _ = _numpy_source(parts[0], top, bottom)
    for part in parts[1:]:
        source, alpha = _numpy_source(part, top, bottom)
        change = _numpy_blend(part.mode, below, source) - below
        below = below + change * (alpha * F32(part.opacity))[..., None]
    return below


def _numpy_source(part: Part, top: int, bottom: int) -> tuple[Floats, Floats]:
    pixels = part.pixels
    if not part.is_turned:
        rows = pixels[top:bottom].astype(F32) * F32(1 / 255)
        return rows[..., :3], rows[..., 3]
    height, width = pixels.shape[:2]
    x = np.arange(width, dtype=F32) + F32(0.5)
    y = np.arange(top, bottom, dtype=F32)[:, None] + F32(0.5)
    m = part.to_source.astype(F32)
    u = m[0, 0] * x + m[0, 1] * y + (m[0, 2] - F32(0.5))
    v = m[1, 0] * x + m[1, 1] * y + (m[1, 2] - F32(0.5))
    left, above = np.floor(u).astype(np.int32), np.floor(v).astype(np.int32)
    total = np.zeros((*u.shape, 4), F32)
    for down in (0, 1):
        for across in (0, 1):
            column, row = left + across, above + down
            weight = (u - left if across else 1 - (u - left)) * (
                v - above if down else 1 - (v - above)
            )
            inside = (column >= 0) & (column < width) & (row >= 0) & (row < height)
            texels = pixels[row.clip(0, height - 1), column.clip(0, width - 1)]
            total += texels.astype(F32) * (weight * inside)[..., None]
    total *= F32(1 / 255)
    alpha = total[..., 3]
    return total[..., :3] / np.maximum(alpha, F32(1e-6))[..., None], alpha


def _luminosity(color: Floats) -> Floats:
    return color @ np.array([0.3, 0.59, 0.11], F32)


def _numpy_blend(mode: BlendMode, b: Floats, s: Floats) -> Floats:
    match mode:
        case BlendMode.MULTIPLY:
            return b * s
        case BlendMode.SCREEN:
            return b + s - b * s
        case BlendMode.SOFT_LIGHT:
            lift = np.where(b <= F32(0.25), ((16 * b - 12) * b + 4) * b, np.sqrt(b))
            light = b + (2 * s - 1) * (lift - b)
            return np.where(s <= F32(0.5), b - (1 - 2 * s) * b * (1 - b), light)
        case BlendMode.LUMINOSITY:
            wanted = _luminosity(s)
            color = b + (wanted - _luminosity(b))[..., None]
            low, high = color.min(-1), color.max(-1)
            shrink_low = wanted / np.maximum(wanted - low, F32(1e-6))
            shrink_high = (1 - wanted) / np.maximum(high - wanted, F32(1e-6))
            shrink = np.minimum(
                np.where(low < 0, shrink_low, 1), np.where(high > 1, shrink_high, 1)
            ).astype(F32)
            return wanted[..., None] + (color - wanted[..., None]) * shrink[..., None]
        case _:
            return s


def opencv_rows(parts: list[Part], top: int, bottom: int) -> Floats:
    """Compose rows with OpenCV's arithmetic in float32."""
    below: Any = None
    for part in parts:
        pixels = part.pixels[top:bottom]
        if part.is_turned:
            m = part.to_source.copy()
            m[:, 2] += m[:, :2] @ [0.5, 0.5] - 0.5 + m[:, 1] * top
            pixels = cv2.warpAffine(
                part.pixels,
                m,
                (part.pixels.shape[1], bottom - top),
                flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
                borderMode=cv2.BORDER_CONSTANT,
            )
        floats = cv2.multiply(pixels, (1 / 255,) * 4, dtype=cv2.CV_32F)
        *channels, alpha = cv2.split(floats)
        source = cv2.merge(channels)
        if part.is_turned:
            source = cv2.divide(source, cv2.merge([cv2.max(alpha, 1e-6)] * 3))
        if below is None:
            below = source
            continue
        if part.opacity != 1:
            alpha = cv2.multiply(alpha, part.opacity)
        change = cv2.subtract(_opencv_blend(part.mode, below, source), below)
        below = cv2.add(below, cv2.multiply(change, cv2.merge([alpha] * 3)))
    return below


def _opencv_blend(mode: BlendMode, b: Any, s: Any) -> Any:
    match mode:
        case BlendMode.MULTIPLY:
            return cv2.multiply(b, s)
        case BlendMode.SCREEN:
            return cv2.subtract(cv2.add(b, s), cv2.multiply(b, s))
        case BlendMode.SOFT_LIGHT:
            inner = cv2.subtract(cv2.multiply(b, (16.0,) * 4), (12.0,) * 4)
            inner = cv2.add(cv2.multiply(inner, b), (4.0,) * 4)
            root = cv2.sqrt(b)
            lift = np.where(b <= F32(0.25), cv2.multiply(inner, b), root)
            drop = cv2.subtract(b, cv2.multiply(b, b))
            choice = np.where(s > F32(0.5), cv2.subtract(lift, b), drop)
            doubled = cv2.subtract(cv2.multiply(s, (2.0,) * 4), (1.0,) * 4)
            return cv2.add(b, cv2.multiply(doubled, choice))
        case BlendMode.LUMINOSITY:
            return _opencv_luminosity(b, s)
        case _:
            return s


def _opencv_luminosity(b: Any, s: Any) -> Any:
    weights = np.array([[0.3, 0.59, 0.11]], F32)
    wanted = cv2.transform(s, weights)
    shift = cv2.subtract(wanted, cv2.transform(b, weights))
    color = cv2.add(b, cv2.merge([shift] * 3))
    red, green, blue = cv2.split(color)
    low = cv2.min(cv2.min(red, green), blue)
    high = cv2.max(cv2.max(red, green), blue)
    shrink_low = wanted / np.maximum(wanted - low, F32(1e-6))
    shrink_high = (1 - wanted) / np.maximum(high - wanted, F32(1e-6))
    shrink = cv2.min(
        np.where(low < 0, shrink_low, F32(1)), np.where(high > 1, shrink_high, F32(1))
    )
    grey = cv2.merge([wanted] * 3)
    spread = cv2.multiply(cv2.subtract(color, grey), cv2.merge([shrink] * 3))
    return cv2.add(grey, spread)


SKIA_MODES = {
    BlendMode.NORMAL: skia.BlendMode.kSrcOver,
    BlendMode.MULTIPLY: skia.BlendMode.kMultiply,
    BlendMode.SCREEN: skia.BlendMode.kScreen,
    BlendMode.SOFT_LIGHT: skia.BlendMode.kSoftLight,
    BlendMode.LUMINOSITY: skia.BlendMode.kLuminosity,
}


NO_COVERS: Mapping[int, Any] = {}


class Skia:
    """Skia's raster back end; its images are made beforehand, as a program would."""

    def __init__(
        self, parts: list[Part], covers: Mapping[int, Any] = NO_COVERS
    ) -> None:
        self._images = [_skia_image(part.pixels) for part in parts]
        # By the place of a part: a shader whose alpha says how much of it shows.
        self._covers = covers

    def run(self, parts: list[Part]) -> Pixels:
        """Compose the whole canvas on one thread."""
        height, width = parts[0].pixels.shape[:2]
        out = np.empty((height, width, 4), np.uint8)
        surface = skia.Surface.MakeRasterDirect(
            skia.ImageInfo.Make(
                width, height, skia.kRGBA_8888_ColorType, skia.kPremul_AlphaType
            ),
            out,
        )
        canvas = surface.getCanvas()
        for place, (part, image) in enumerate(zip(parts, self._images, strict=True)):
            mode = SKIA_MODES[part.mode] if place else skia.BlendMode.kSrc
            paint = skia.Paint(Alphaf=part.opacity, BlendMode=mode, AntiAlias=False)
            canvas.save()
            options = skia.SamplingOptions()
            if part.is_turned:
                forward = np.linalg.inv(np.vstack([part.to_source, [0, 0, 1]]))
                canvas.concat(skia.Matrix.MakeAll(*forward.ravel().tolist()))
                options = skia.SamplingOptions(skia.FilterMode.kLinear)
            if place in self._covers:
                # A layer of its own, as shaders blended in shaders are far slower.
                canvas.saveLayer(None, paint)
                canvas.drawImage(image, 0, 0, options)
                cover = self._covers[place]
                canvas.drawPaint(
                    skia.Paint(BlendMode=skia.BlendMode.kDstIn, Shader=cover)
                )
                canvas.restore()
            else:
                canvas.drawImage(image, 0, 0, options, paint)
            canvas.restore()
        return out


def skia_mask(shown: NDArray[np.uint8]) -> Any:
    """Return a shader that shows as much as a mask's pixels say."""
    height, width = shown.shape
    info = skia.ImageInfo.MakeA8(width, height)
    pixels = np.ascontiguousarray(shown)
    image = skia.Image.MakeRasterCopy(skia.Pixmap(info, pixels, width))
    return image.makeShader(
        skia.TileMode.kClamp, skia.TileMode.kClamp, skia.SamplingOptions()
    )


def skia_fade(start: tuple[float, float], end: tuple[float, float]) -> Any:
    """Return a shader that shows nothing at one point and all at another."""
    return skia.GradientShader.MakeLinear(
        points=[start, end], colors=[skia.ColorTRANSPARENT, skia.ColorBLACK]
    )


def _skia_image(pixels: Pixels) -> Any:
    height, width = pixels.shape[:2]
    opaque = pixels[..., 3].min() == 255
    info = skia.ImageInfo.Make(
        width,
        height,
        skia.kRGBA_8888_ColorType,
        skia.kOpaque_AlphaType if opaque else skia.kUnpremul_AlphaType,
    )
    image = skia.Image.MakeRasterCopy(
        skia.Pixmap(info, pixels.reshape(height, -1), width * 4)
    )
    if opaque:
        return image
    # Skia blends premultiplied pixels fastest.
    surface = skia.Surface.MakeRasterN32Premul(width, height)
    surface.getCanvas().drawImage(image, 0, 0)
    return surface.makeImageSnapshot()


PILLOW_MODES: dict[BlendMode, Callable[[Any, Any], Any]] = {
    BlendMode.NORMAL: lambda _below, source: source,
    BlendMode.MULTIPLY: ImageChops.multiply,
    BlendMode.SCREEN: ImageChops.screen,
    BlendMode.SOFT_LIGHT: ImageChops.soft_light,
}


def pillow(parts: list[Part]) -> Pixels:
    """Compose with Pillow, which has no luminosity: without the sixth layer."""
    below: Any = None
    for part in parts:
        size = part.pixels.shape[1::-1]
        image = Image.fromarray(np.ascontiguousarray(part.pixels[..., :3]))
        alpha = Image.fromarray(np.ascontiguousarray(part.pixels[..., 3]))
        if below is None:
            below = image
            continue
        if part.is_turned:
            way = part.to_source.ravel().tolist()
            how = (size, Image.Transform.AFFINE, way, Image.Resampling.BILINEAR)
            image, alpha = image.transform(*how), alpha.transform(*how)
        if part.opacity != 1:
            strength = part.opacity
            alpha = alpha.point([round(level * strength) for level in range(256)])
        blended = PILLOW_MODES[part.mode](below, image)
        below = Image.composite(blended, below, alpha)
    return np.asarray(below)


VIPS_MODES = {
    BlendMode.NORMAL: "over",
    BlendMode.MULTIPLY: "multiply",
    BlendMode.SCREEN: "screen",
    BlendMode.SOFT_LIGHT: "soft-light",
}


def vips(parts: list[Part]) -> Pixels:
    """Compose with libvips, which has no luminosity: without the sixth layer."""
    below: Any = None
    for part in parts:
        height, width = part.pixels.shape[:2]
        image = pyvips.Image.new_from_memory(part.pixels, width, height, 4, "uchar")
        image = image.copy(interpretation="srgb")
        if part.is_turned:
            image = _vips_turned(image, part)
        if part.opacity != 1:
            alpha = (image[3] * part.opacity).cast("uchar")
            image = image[0:3].bandjoin(alpha)
        below = (
            image
            if below is None
            else below.composite2(
                image, VIPS_MODES[part.mode], compositing_space="srgb"
            )
        )
    data = below.cast("uchar").write_to_memory()
    return np.frombuffer(data, np.uint8).reshape(below.height, below.width, -1)


def _vips_turned(image: Any, part: Part) -> Any:
    forward = np.linalg.inv(np.vstack([part.to_source, [0, 0, 1]]))
    shift = forward[:2, :2] @ [0.5, 0.5] + forward[:2, 2] - 0.5
    turned = image.premultiply().affine(
        forward[:2, :2].ravel().tolist(),
        interpolate=pyvips.Interpolate.new("bilinear"),
        odx=shift[0],
        ody=shift[1],
        oarea=[0, 0, image.width, image.height],
        background=[0, 0, 0, 0],
        extend="background",
    )
    return turned.unpremultiply().cast("uchar")
