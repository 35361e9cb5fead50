"""Gradients of two colours, straight or round."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.color import Color
from glyphaneme.core.place.span import Span, axes_of

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

Opacity = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Stop(BaseModel):
    """One end of a gradient; `opacity` 0 is clear."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    color: Color
    opacity: Opacity = 1.0


class Gradient(Span):
    """Two colours that run into one another.

    A linear one runs along its span, with its middle there; a round one outwards.
    Beyond its ends the end's colour goes on. Colours are mixed premultiplied, on
    sRGB-encoded values, so that an end that is clear adds no colour of its own.

    Examples
    --------
    >>> dusk = Gradient(
    ...     x=50, y=50, length=100, start=Stop(color="#ff8000"),
    ...     end=Stop(color="#000040", opacity=0),
    ... )
    >>> dusk.shape
    'linear'
    """

    shape: Literal["linear", "round"] = "linear"
    start: Stop
    end: Stop


def progress_along(gradient: Gradient) -> MatrixF64:
    """Map positions to how far along a gradient they lie.

    Parameters
    ----------
    gradient : Gradient
        Where it lies.

    Returns
    -------
    (2, 3) float64
        Columns map x, y and 1. Linear: the first row gives 0 at the start and 1 at
        the end. Round: the length of the two rows' vector does.

    Examples
    --------
    >>> ends = {"start": Stop(color="#000000"), "end": Stop(color="#ffffff")}
    >>> progress = progress_along(Gradient(x=50, y=0, length=100, **ends))
    >>> progress @ (75, 20, 1)
    array([0.75, 0.2 ])
    """
    axes = axes_of(gradient)
    if gradient.shape == "linear":
        axes[0, 2] += 0.5
    return axes
