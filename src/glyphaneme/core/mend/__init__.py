"""Repairs: specks, scratches and wires of a photo are filled from around."""

from __future__ import annotations

from glyphaneme.core.mend.filling import filled, smoothed_over
from glyphaneme.core.mend.patches import VERSION as PATCH_VERSION
from glyphaneme.core.mend.patches import Patch, lay_patch, patch_for, patch_names
from glyphaneme.core.mend.values import AROUND, MAX_MENDS, Mend, MendId

__all__ = [
    "AROUND",
    "MAX_MENDS",
    "PATCH_VERSION",
    "Mend",
    "MendId",
    "Patch",
    "filled",
    "lay_patch",
    "patch_for",
    "patch_names",
    "smoothed_over",
]
