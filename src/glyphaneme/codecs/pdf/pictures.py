"""Pixels as picture objects of a PDF (ISO 32000-2, 8.9)."""

from __future__ import annotations

import io
import zlib
from typing import TYPE_CHECKING, Any, Final

import pikepdf
from pikepdf import Array, Dictionary, Name

from glyphaneme.codecs.color.converting import CHANNELS
from glyphaneme.codecs.writing import jpeg
from glyphaneme.codecs.writing.differencing import differenced

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

BAND_ROWS: Final = 256
DEFLATE_LEVEL: Final = 6
DIFFERENCED: Final = 2
"""The predictor of TIFF (ISO 32000-2, table 10)."""


def picture_object(
    pdf: pikepdf.Pdf, spool: Spool, spec: FileSpec, colors: pikepdf.Object
) -> pikepdf.Object:
    """Write pixels into a PDF, and return what names them.

    Parameters
    ----------
    pdf : Pdf
        Where they are written.
    spool : Spool
        8 bits a channel.
    spec : FileSpec
        Whether every pixel is kept, or how good a JPEG is made.
    colors : Object
        The colour space that they are in.
    """
    shape = spool.shape
    channels = CHANNELS[shape.ink]
    about: dict[str, Any] = {
        "/Type": Name.XObject,
        "/Subtype": Name.Image,
        "/Width": shape.width,
        "/Height": shape.height,
        "/ColorSpace": colors,
        "/BitsPerComponent": 8,
    }
    if not shape.opaque:
        mask = about | {"/ColorSpace": Name.DeviceGray}
        alpha = (band[..., -1:] for band in spool.bands(BAND_ROWS))
        about["/SMask"] = _deflated(pdf, alpha, mask, 1)
    if spec.exact or not shape.opaque:
        # A JPEG's waves would show where colours end and see-through begins.
        bands = (band[..., :channels] for band in spool.bands(BAND_ROWS))
        return _deflated(pdf, bands, about, channels)
    return _as_jpeg(pdf, spool, spec, about)


def _as_jpeg(
    pdf: pikepdf.Pdf, spool: Spool, spec: FileSpec, about: dict[str, Any]
) -> pikepdf.Object:
    file = io.BytesIO()
    jpeg.write_plain(spool, file, spec)
    about["/Filter"] = Name.DCTDecode
    if spool.shape.ink == "cmyk":
        # As JPEGs hold inks, 0 is all of it.
        about["/Decode"] = Array([1, 0] * 4)
    stream = pikepdf.Stream(pdf, file.getvalue(), Dictionary(about))
    return pdf.make_indirect(stream)


def _deflated(
    pdf: pikepdf.Pdf,
    bands: Iterator[NDArray[Any]],
    about: dict[str, Any],
    channels: int,
) -> pikepdf.Object:
    packer = zlib.compressobj(DEFLATE_LEVEL)
    packed = [packer.compress(differenced(band).tobytes()) for band in bands]
    packed.append(packer.flush())
    parameters = Dictionary(
        Predictor=DIFFERENCED,
        Colors=channels,
        BitsPerComponent=8,
        Columns=about["/Width"],
    )
    kept = about | {"/Filter": Name.FlateDecode, "/DecodeParms": parameters}
    return pdf.make_indirect(pikepdf.Stream(pdf, b"".join(packed), Dictionary(kept)))
