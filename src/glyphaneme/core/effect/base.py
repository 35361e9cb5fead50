"""What every effect is: a colour laid beneath a layer, where its shape says."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, NamedTuple, Self

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.color import Color
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.place import Rect

    Shape = NDArray[np.float32]
    Values = NDArray[np.uint8]

LONGEST = 2000.0
"""Pixels."""
TAIL = 3.0
"""How many standard deviations of a Gaussian count."""

Part = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Length = Annotated[float, Field(ge=0, le=LONGEST, allow_inf_nan=False)]
Angle = Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]


class Asked(NamedTuple):
    """Where an effect is wanted, and of what; all in the same pixels.

    `target` is where it may be seen, `shape` where the layer shows, as far as that is
    known; `scale` is how many pixels lie on one of what the layer lies in.
    """

    target: Rect[float]
    shape: Rect[float]
    scale: float


class Source(NamedTuple):
    """What of a layer's shape an effect reads: in squares of `factor` pixels a side."""

    extent: Rect[float]
    factor: int = 1

    @property
    def squares(self) -> float:
        """How many squares lie in it."""
        left, top, right, bottom = self.extent
        return (right - left) * (bottom - top) / self.factor**2


class Veil(NamedTuple):
    """How strong an effect is, 0..255, in squares of `factor` pixels a side.

    The first of them begins at `left`, `top`; beyond `values` there is nothing.
    """

    values: Values
    left: float
    top: float
    factor: int = 1


class EffectBase(BaseModel):
    """One effect; one that does not work is skipped.

    Its lengths are in pixels of what the layer lies in, its angles count in that too.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    lengths: ClassVar[tuple[str, ...]] = ()
    """Which of its values are lengths."""
    stands: ClassVar[bool] = False
    """Whether it asks where the layer's shape ends: one that lies everywhere has no
    such place."""
    works: bool = True
    color: Color = "#17120e"
    strength: Part = 0.6

    @property
    def slope(self) -> float:
        """How far the pixels that it is reckoned in fall for each to the right."""
        return 0.0

    @property
    def words(self) -> str:
        """What it is, in a few words, such as "a soft shadow".

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    def scaled(self, by: float) -> Self:
        """Return it as it must be where all lengths are so many times as long.

        Parameters
        ----------
        by : float
            Positive.

        Returns
        -------
        EffectBase
            Within its limits.
        """
        longer = {name: min(getattr(self, name) * by, LONGEST) for name in self.lengths}
        return with_fields(self, **longer) if longer else self

    def extent(self, shape: Rect[float], scale: float) -> Rect[float]:
        """Return where it may show anything.

        Parameters
        ----------
        shape : Rect
            Where the layer shows.
        scale : float
            As in `Asked`.

        Returns
        -------
        Rect
            In the same pixels.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    def source(self, asked: Asked) -> Source:
        """Return what of the layer's shape it reads.

        Parameters
        ----------
        asked : Asked
            Where it is wanted.

        Returns
        -------
        Source
            It may be larger than the shape.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    def made(self, alpha: Shape, source: Source, asked: Asked) -> Veil:
        """Return how strong it is.

        Parameters
        ----------
        alpha : (H, W) float32, 0..1
            The layer's shape in the source's squares.
        source : Source
            Where those lie; its sides are multiples of its factor.
        asked : Asked
            Where it is wanted.

        Returns
        -------
        Veil
            At least there.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError


def as_values(strength: Shape) -> Values:
    """Return strengths as the nearest levels.

    Parameters
    ----------
    strength : (H, W) float32
        0..1 and what rounding left beyond.

    Returns
    -------
    (H, W) uint8
        0..255.

    Examples
    --------
    >>> as_values(np.float32([[0, 0.5, 1.001]])).tolist()
    [[0, 128, 255]]
    """
    return np.asarray(cv2.convertScaleAbs(strength, alpha=255), np.uint8)


def factor_for(sigma: float, least: float = 4.0, most: int = 64) -> int:
    """Return over how many pixels may be averaged before a Gaussian.

    Parameters
    ----------
    sigma : float, pixels
        Standard deviation.
    least : float
        How wide it must still be, in squares.
    most : int
        The largest factor.

    Returns
    -------
    int
        A power of two.

    Examples
    --------
    >>> factor_for(20), factor_for(3)
    (4, 1)
    """
    factor = 1
    while sigma / (2 * factor) >= least and factor < most:
        factor *= 2
    return factor
