"""The steps in which a mask is worked out: what the compositor reads of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from glyphaneme.core._kernels import masking

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.mask.planes import Plane

EVEN = (1.0, 0.0, 0.0)
GENTLE = (0.0, 3.0, -2.0)
EARLY = (0.0, 1.0, 0.0)
LATE = (2.0, -1.0, 0.0)
"""Curves as factors of t, t² and t³: they keep 0 and 1, and rise between."""

NOWHERE = 1e-6


@dataclass(frozen=True)
class Step:
    """One step; `to_step`, 2 x 3, maps the mask's own positions to its units.

    `kind`, `join` and `numbers` are as the kernel explains them.
    """

    kind: int
    to_step: MatrixF64
    numbers: tuple[float, ...] = ()
    join: int = masking.MULTIPLY
    inverted: bool = False
    plane: Plane | None = None
    in_view: bool = False
    """Whether `to_step` counts from the view's pixels already."""


def soft_edge(softness: float, pixel: float) -> tuple[float, ...]:
    """Return how a value falls from 1 to 0 across a shape's outline.

    Parameters
    ----------
    softness : float, pixels
        How wide the edge is, half of it on either side of the outline.
    pixel : float, pixels
        What a shown pixel covers: no edge is harder than that.

    Returns
    -------
    tuple of 5 float
        Slope and offset of the straight part, by distance, and factors of its curve:
        t² (3 - 2 t), or t itself where the edge is a shown pixel wide.

    Examples
    --------
    >>> soft_edge(40, 1)[:2]
    (-0.025, 0.5)
    """
    width = max(softness, pixel, NOWHERE)
    return (-1 / width, 0.5, *(GENTLE if softness > pixel else EVEN))
