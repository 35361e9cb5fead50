"""PDF files at true paper size: pages with pictures, words, and marks to cut by."""

from __future__ import annotations

from glyphaneme.codecs.pdf.document import PdfDocument, PdfTarget
from glyphaneme.codecs.pdf.pages import (
    Box,
    PdfPage,
    Picture,
    PlacedPicture,
    PlacedWords,
    framed,
)

__all__ = [
    "Box",
    "PdfDocument",
    "PdfPage",
    "PdfTarget",
    "Picture",
    "PlacedPicture",
    "PlacedWords",
    "framed",
]
