"""Taking the backdrop of a picture file away, without a server or a database."""

from __future__ import annotations

from typing import TYPE_CHECKING, BinaryIO

from glyphaneme.codecs import FileFormat, FileSpec, Shape, read_picture, write_bands
from glyphaneme.core.document import Canvas, Composite, PhotoLayer
from glyphaneme.core.errors import NoSubjectError
from glyphaneme.core.mask import Mask, MattePart, Raster
from glyphaneme.core.place import Placement, build_pyramid
from glyphaneme.core.render import View, all_needed, own_pyramid, render_bands
from glyphaneme.services.errors import ExportSizeError, NoSubjectFoundError
from glyphaneme.services.matting import Cut

if TYPE_CHECKING:
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.render import Assets
    from glyphaneme.services.matting import CutRequest
    from glyphaneme.services.networks import Networks

PHOTO = "photo"
UNNAMED = "0" * 64
PPI = 72.0
LONGEST_SIDE = 30_000


def cut_file(
    source: BinaryIO,
    target: BinaryIO,
    *,
    request: CutRequest,
    networks: Networks,
    name: str,
    width: int | None = None,
) -> tuple[int, int]:
    """Write a picture without its backdrop as a PNG; returns its width and height.

    Its edge has the subject's own colours, and the matte is its alpha.

    Raises
    ------
    PictureRefusedError
        The file is no picture that can be read.
    NetworkMissingError
        There is no network to find the subject.
    NoSubjectFoundError
        Nothing stands out, and it is not said where to look.
    ExportSizeError
        The picture would be too large.
    """
    pyramid = build_pyramid(read_picture(source))
    size = width or pyramid.width
    scale = size / pyramid.width
    shape = Shape(size, max(1, round(pyramid.height * scale)), opaque=False)
    if max(shape.width, shape.height) > LONGEST_SIDE:
        limit = f"at most {LONGEST_SIDE} on a side"
        raise ExportSizeError(shape.width, shape.height, limit)
    cut = Cut.begun(networks, pyramid, request)
    try:
        matte, level = cut.matte()
    except NoSubjectError as cause:
        raise NoSubjectFoundError(name) from cause
    part = MattePart(id=PHOTO, picture=PHOTO, matte=UNNAMED, level=level)
    composite = _composite(pyramid, part)
    assets: Assets = {PHOTO: pyramid, part.raster: Raster(matte, part.share)}
    own = {
        one.name: own_pyramid(one, assets) for one in all_needed(composite).own_colors
    }
    view = View(0, 0, shape.width, shape.height, scale)
    bands = render_bands(composite, {**assets, **own}, view)
    write_bands(bands, shape, target, FileSpec(FileFormat.PNG, 100, PPI))
    return shape.width, shape.height


def _composite(pyramid: Pyramid, part: MattePart) -> Composite:
    width, height = pyramid.width, pyramid.height
    photo = PhotoLayer(
        id=PHOTO,
        name="Photo",
        picture=PHOTO,
        width=width,
        height=height,
        placement=Placement(x=width / 2, y=height / 2, scale_x=1, scale_y=1),
        mask=Mask(parts=(part,), cleaned=1.0),
    )
    canvas = Canvas(width=width, height=height, background=None)
    return Composite(canvas=canvas, layers=(photo,))
