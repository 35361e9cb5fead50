"""Differences between neighbours, which pack better than the pixels themselves."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from numpy.typing import NDArray


def differenced(rows: NDArray[Any]) -> NDArray[Any]:
    """Return differences to the pixel before (TIFF 6.0, section 14).

    Parameters
    ----------
    rows : (H, W, channels) uint8 or uint16
        They wrap around.
    """
    differences = rows.copy()
    differences[:, 1:] -= rows[:, :-1]
    return differences
