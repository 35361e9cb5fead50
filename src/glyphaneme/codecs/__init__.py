"""Open picture formats to arrays and back."""

from __future__ import annotations

from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode
from glyphaneme.codecs.frames import encode_frame, encode_thumbnail
from glyphaneme.codecs.pyramids import load_pyramid, save_pyramid
from glyphaneme.codecs.reading import (
    MAX_PIXELS,
    PictureFacts,
    identify_picture,
    read_picture,
)
from glyphaneme.codecs.writing import FileFormat, FileSpec, write_picture

__all__ = [
    "MAX_PIXELS",
    "FileFormat",
    "FileSpec",
    "PictureFacts",
    "PictureRefusedError",
    "RefusalCode",
    "encode_frame",
    "encode_thumbnail",
    "identify_picture",
    "load_pyramid",
    "read_picture",
    "save_pyramid",
    "write_picture",
]
