"""How a file will look: its own pixels as they are written, or all of it small."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Any, Final, Literal, NamedTuple

import numpy as np
from PIL import Image
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.codecs import FileFormat, FileSpec, Shape, write_bands
from glyphaneme.codecs.color import Conversion, outside_gamut, proofed
from glyphaneme.core.color import levels_of
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.place import Rect
from glyphaneme.core.render import View, render
from glyphaneme.services.assets import assets_of
from glyphaneme.services.file_making import making_of
from glyphaneme.services.filing import finer_photos, on_something
from glyphaneme.services.projects import require_project, require_revision

if TYPE_CHECKING:
    import uuid

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.services.file_requests import ExportRequest
    from glyphaneme.services.filing import Making
    from glyphaneme.services.studio import Visit

LARGEST_SIDE: Final = 2600
MOST_FINER_PIXELS: Final = 24_000_000
BLOCK: Final = 16
"""Encoders work on blocks of so many pixels: what is looked at begins with one."""
STITCH: Final = 8
"""From one mark of what no ink reaches to the next, in shown pixels."""
THREADS: Final = ((37, 34, 29), (251, 249, 243))
"""Dark and light, so that one of them is seen on any colour."""


class LookedAt(BaseModel):
    """Which part of a file is looked at, in its pixels, and how large."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: int = Field(default=0, ge=0, le=40_000)
    y: int = Field(default=0, ge=0, le=40_000)
    width: int = Field(ge=1, le=40_000)
    height: int = Field(ge=1, le=40_000)
    scale: float = Field(default=1.0, gt=0, le=1)
    """Shown pixels for one of the file's; 1 shows it as it is written."""
    marks: Literal["none", "gamut"] = "none"
    """Whether colours that the printer's inks cannot reach are marked."""


class Look(NamedTuple):
    """A picture of a file, or of a part of it."""

    data: bytes
    media_type: str
    x: int
    y: int
    """Where in the file it begins."""
    outside: float
    """Which share of it no ink reaches, 0..1."""


def look_at_file(
    visit: Visit, project_id: uuid.UUID, request: ExportRequest, seen: LookedAt
) -> Look:
    """Return how a part of a file will look.

    Raises
    ------
    NotThereError
        There is no such project, moment, layer or profile.
    """
    require_project(visit, project_id)
    require_revision(visit, project_id, request.revision)
    making = on_something(making_of(visit, request, with_assets=False))
    window = _window(making, seen)
    scale = min(seen.scale, LARGEST_SIDE / max(window.width, window.height))
    pixels = _pixels(visit, making, window, scale)
    conversion = Conversion.into(request.coloring, making.profile)
    outside = np.zeros(pixels.shape[:2], np.bool_)
    if request.coloring.space == "ink":
        outside = outside_gamut(pixels, conversion)
    share = float(outside.mean())
    if request.format != LAYERED and scale == 1 and seen.marks == "none":
        data, media_type = _encoded(pixels, making, conversion)
    else:
        shown = proofed(pixels, conversion)
        if seen.marks == "gamut":
            shown = _marked(shown, outside)
        data, media_type = _plain(shown)
    return Look(data, media_type, window.left, window.top, share)


def _window(making: Making, seen: LookedAt) -> Rect[int]:
    """Return what is looked at: within the file, from where a block begins."""
    made = making.dimensions
    whole = Rect(0, 0, made.file_width, made.file_height)
    left = min(seen.x, made.file_width - 1) // BLOCK * BLOCK
    top = min(seen.y, made.file_height - 1) // BLOCK * BLOCK
    return Rect(left, top, seen.x + seen.width, seen.y + seen.height).within(whole)


def _pixels(visit: Visit, making: Making, window: Rect[int], scale: float) -> PixelsU8:
    """Render a part of a file, with the ground that it is laid on."""
    made = making.dimensions
    left, top = (made.laid.left, made.laid.top) if made.laid else (0, 0)
    picture = Rect(left, top, left + made.width, top + made.height).within(window)
    size = [max(1, round(side * scale)) for side in (window.width, window.height)]
    if made.laid is None:
        shown = Rect(0, 0, size[0], size[1])
    else:
        shown = Rect(
            round((picture.left - window.left) * scale),
            round((picture.top - window.top) * scale),
            round((picture.right - window.left) * scale),
            round((picture.bottom - window.top) * scale),
        )
    if shown.is_empty:
        return _bare(size, made.laid.color if made.laid else "#000000")
    view = View(
        made.area.left + (picture.left - left) / made.scale,
        made.area.top + (picture.top - top) / made.scale,
        shown.width,
        shown.height,
        made.scale * scale,
    )
    assets = assets_of(visit, making.composite, view, pile=making.pile)
    # Only where it is quick: what is looked at is waited for.
    room = MOST_FINER_PIXELS if scale == 1 else 0
    with finer_photos(making._replace(assets=assets), most=room) as finer:
        rendered = render(making.composite, finer.assets, view, pile=making.pile)
    if made.laid is None:
        return rendered
    whole = _bare(size, made.laid.color)
    whole[shown.window] = rendered
    return whole


def _bare(size: list[int], color: str) -> PixelsU8:
    channels = np.array([*levels_of(color), 255], np.uint8)
    return np.tile(channels, (size[1], size[0], 1))


def _encoded(
    pixels: PixelsU8, making: Making, conversion: Conversion
) -> tuple[bytes, str]:
    """Return pixels as the file will hold them, in a way that browsers show."""
    settings, chosen = making.settings, making.chosen
    written = chosen
    if chosen is FileFormat.PDF:
        # A page holds its picture as a JPEG, or every pixel as it is.
        written = FileFormat.PNG if settings.exact else FileFormat.JPEG
    if written is FileFormat.TIFF or (
        conversion.ink == "cmyk" and written is FileFormat.PNG
    ):
        return _plain(proofed(pixels, conversion))
    if conversion.ink == "gray" and not written.facts.has_gray:
        conversion = conversion._replace(as_rgb=True)
    opaque = bool(pixels[..., 3].min() == 255)  # all of it
    height, width = pixels.shape[:2]
    shape = Shape(width, height, opaque or not written.facts.keeps_alpha)
    shape = shape._replace(ink=conversion.file_ink)
    spec = FileSpec(
        written,
        settings.quality,
        making.dimensions.ppi,
        exact=settings.exact,
        fine_color=settings.fine_color,
        profile=None if conversion.is_same else conversion.file_profile,
    )
    file = io.BytesIO()
    write_bands((conversion.of(pixels),), shape, file, spec)
    if conversion.ink != "cmyk" and written.facts.is_shown:
        return file.getvalue(), written.facts.media_type
    # No browser shows inks: what they look like is shown instead.
    inks: NDArray[Any] = np.asarray(Image.open(file))
    alpha = np.full(inks.shape[:2], 255, np.uint8)
    return _plain(np.dstack([conversion.back(inks), alpha]))


def _marked(pixels: PixelsU8, outside: NDArray[np.bool_]) -> PixelsU8:
    """Stitch crosses of a dark and a light thread over what no ink reaches."""
    rows, columns = (np.arange(side) for side in outside.shape)
    marked = pixels.copy()
    for along, thread in zip((columns, -columns), THREADS, strict=True):
        stitched = np.add.outer(rows, along) % STITCH < STITCH // 4
        marked[outside & stitched, :3] = thread
    return marked


def _plain(pixels: PixelsU8) -> tuple[bytes, str]:
    """Encode pixels that are shown as they are, and that are no file's own."""
    opaque = pixels[..., 3].min() == 255  # all of it
    chosen = FileFormat.JPEG if opaque else FileFormat.PNG
    height, width = pixels.shape[:2]
    file = io.BytesIO()
    spec = FileSpec(chosen, 93, 72)
    write_bands((pixels,), Shape(width, height, bool(opaque)), file, spec)
    return file.getvalue(), chosen.facts.media_type
