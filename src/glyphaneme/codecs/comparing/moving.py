"""Two pictures of which one wipes over the other, and back: as WebP, GIF or MP4."""

from __future__ import annotations

from typing import TYPE_CHECKING, BinaryIO, Final, Literal

import numpy as np
from PIL import Image

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import PixelsU8

FRAMES_A_SECOND: Final = 20
WIPE_S, REST_S = 1.6, 1.0
BAR: Final = 3
"""How many pixels wide the bar between them is."""
PAPER: Final = (251, 249, 243)
GIF_COLORS: Final = 255


def write_moving(
    before: PixelsU8,
    after: PixelsU8,
    file: BinaryIO,
    kind: Literal["webp", "gif", "mp4"],
    *,
    quality: int,
) -> None:
    """Write pictures that wipe over one another, without an end.

    Parameters
    ----------
    before, after : (H, W, 4) uint8
        Opaque, of one size.
    file : binary file
        Where to write; seekable.
    kind : "webp", "gif" or "mp4"
        A film has H.264 and even sides; the last row or column may be left out.
    quality : int, 1..100
        Of WebP and film.
    """
    first, second = before[..., :3], after[..., :3]
    if kind == "mp4":
        _write_film(first, second, file, quality)
        return
    pictures = (Image.fromarray(frame) for frame in _frames(first, second))
    begun = next(pictures)
    common = {
        "save_all": True,
        "append_images": pictures,
        "duration": round(1000 / FRAMES_A_SECOND),
        "loop": 0,
    }
    if kind == "webp":
        begun.save(file, "WEBP", quality=quality, method=2, **common)
        return
    both = Image.fromarray(np.concatenate([first, second]))
    palette = both.quantize(GIF_COLORS)
    few = (picture.quantize(palette=palette) for picture in pictures)
    begun.quantize(palette=palette).save(
        file, "GIF", **(common | {"append_images": few})
    )


def _frames(first: PixelsU8, second: PixelsU8) -> Iterator[PixelsU8]:
    for share in _shares():
        at = round(share * first.shape[1])
        frame = second.copy()
        frame[:, :at] = first[:, :at]
        if 0 < share < 1:
            frame[:, max(0, at - BAR // 2) : at + BAR // 2 + 1] = PAPER
        yield frame


def _shares() -> Iterator[float]:
    """Yield how much of the first is seen: there, to and fro, with rests."""
    wipe = round(WIPE_S * FRAMES_A_SECOND)
    rest = round(REST_S * FRAMES_A_SECOND)
    # Slow at both ends, as a hand is.
    eased = [(1 - np.cos(np.pi * step / wipe)) / 2 for step in range(1, wipe + 1)]
    yield from [1.0] * rest
    yield from (float(1 - share) for share in eased)
    yield from [0.0] * rest
    yield from map(float, eased)


def _write_film(
    first: PixelsU8, second: PixelsU8, file: BinaryIO, quality: int
) -> None:
    # Imported late: it brings all of a film library along.
    import av

    rows, columns = (max(2, side // 2 * 2) for side in first.shape[:2])
    # From nearly lossless to what messages send.
    rate = round(14 + (100 - quality) / 100 * 22)
    with av.open(file, "w", format="mp4") as film:
        stream = film.add_stream("h264", rate=FRAMES_A_SECOND)
        stream.width, stream.height = columns, rows
        stream.pix_fmt = "yuv420p"
        stream.options = {"crf": str(rate), "preset": "medium"}
        for pixels in _frames(first, second):
            even = np.ascontiguousarray(_padded(pixels, rows, columns))
            frame = av.VideoFrame.from_ndarray(even, format="rgb24")
            film.mux(stream.encode(frame))
        film.mux(stream.encode(None))


def _padded(pixels: PixelsU8, rows: int, columns: int) -> PixelsU8:
    more = (max(0, rows - pixels.shape[0]), max(0, columns - pixels.shape[1]))
    wide = np.pad(pixels, ((0, more[0]), (0, more[1]), (0, 0)), mode="edge")
    return wide[:rows, :columns]
