"""Open picture formats to arrays and back."""

from __future__ import annotations

from glyphaneme.codecs.drafting import drafted, drop_drafts
from glyphaneme.codecs.dropping import drop_oldest
from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode
from glyphaneme.codecs.frames import encode_frame, encode_thumbnail
from glyphaneme.codecs.kinds import media_type_of
from glyphaneme.codecs.mattes import decode_matte, encode_matte
from glyphaneme.codecs.paintings import load_painting, save_painting
from glyphaneme.codecs.patches import load_patch, save_patch
from glyphaneme.codecs.pyramids import held_by, let_go, load_pyramid, save_pyramid
from glyphaneme.codecs.reading import (
    MAX_PIXELS,
    PictureFacts,
    identify_picture,
    read_picture,
)
from glyphaneme.codecs.writing import (
    FileFormat,
    FileSpec,
    Shape,
    Spool,
    spooled,
    write_bands,
    write_picture,
    write_spooled,
)

__all__ = [
    "MAX_PIXELS",
    "FileFormat",
    "FileSpec",
    "PictureFacts",
    "PictureRefusedError",
    "RefusalCode",
    "Shape",
    "Spool",
    "decode_matte",
    "drafted",
    "drop_drafts",
    "drop_oldest",
    "encode_frame",
    "encode_matte",
    "encode_thumbnail",
    "held_by",
    "identify_picture",
    "let_go",
    "load_painting",
    "load_patch",
    "load_pyramid",
    "media_type_of",
    "read_picture",
    "save_painting",
    "save_patch",
    "save_pyramid",
    "spooled",
    "write_bands",
    "write_picture",
    "write_spooled",
]
