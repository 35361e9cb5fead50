"""Finished pictures, written band by band: a module a format, and their table."""

from __future__ import annotations

from glyphaneme.codecs.writing.spec import FileSpec, Shape
from glyphaneme.codecs.writing.spooling import Spool, spooled
from glyphaneme.codecs.writing.writers import write_bands, write_picture, write_spooled
from glyphaneme.core.finish.formats import FileFormat

__all__ = [
    "FileFormat",
    "FileSpec",
    "Shape",
    "Spool",
    "spooled",
    "write_bands",
    "write_picture",
    "write_spooled",
]
