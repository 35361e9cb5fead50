"""Why a file is not taken as a picture."""

from __future__ import annotations

from enum import StrEnum


class RefusalCode(StrEnum):
    """Kinds of refusal, stable for clients."""

    EMPTY = "empty-file"
    UNKNOWN = "unknown-format"
    DAMAGED = "damaged-file"
    TOO_MANY_PIXELS = "too-many-pixels"
    TOO_HEAVY = "file-too-large"


class PictureRefusedError(ValueError):
    """A file cannot be brought in; the message tells people why and what to do."""

    def __init__(self, code: RefusalCode, message: str) -> None:
        super().__init__(message)
        self.code = code
