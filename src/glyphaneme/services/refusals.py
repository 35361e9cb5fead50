"""Why a file was not taken as a picture, for those who may not reach the codecs."""

from __future__ import annotations

from glyphaneme.codecs import PictureRefusedError, RefusalCode

__all__ = ["PictureRefusedError", "RefusalCode"]
