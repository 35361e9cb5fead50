"""What every kind of tone is: a frozen value that knows what it does to colours."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar

from pydantic import BaseModel, ConfigDict, Field

if TYPE_CHECKING:
    from glyphaneme.core.tone.ops import Op

Share = Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)]
"""Of all that a control can do, either way; 0 does nothing."""
Part = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]

A_LITTLE = 0.25
MUCH = 0.7


class ToneBase(BaseModel):
    """One tone in a layer's order of tones; one that does not work is skipped."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    at_rest: ClassVar[str]
    """How it is called while it does nothing."""
    works: bool = True

    @property
    def is_neutral(self) -> bool:
        """Whether it changes not one bit, whatever it is given.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    @property
    def words(self) -> tuple[str, ...]:
        """What it does, each a few words that follow a layer's name and a comma.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError


class PixelTone(ToneBase):
    """A tone that makes of each pixel's colour another one, and looks at no other."""

    def ops(self) -> tuple[Op, ...]:
        """Return the operations that it is made of.

        Returns
        -------
        tuple of Op
            In their order.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError


def by_degree(value: float, below: str, above: str) -> tuple[str, ...]:
    """Say which way something goes, and how far.

    Parameters
    ----------
    value : float
        -1..1, or beyond.
    below, above : str
        What it is below 0 and above.

    Returns
    -------
    tuple of str
        None where it is 0.

    Examples
    --------
    >>> by_degree(-0.1, "darker", "lighter")
    ('a little darker',)
    """
    if value == 0:
        return ()
    word = below if value < 0 else above
    if abs(value) < A_LITTLE:
        return (f"a little {word}",)
    return (f"much {word}" if abs(value) > MUCH else word,)


def with_degree(value: float, below: str, above: str) -> tuple[str, ...]:
    """Say it as `by_degree` does, of what a layer has rather than is.

    Parameters
    ----------
    value : float
        -1..1, or beyond.
    below, above : str
        What there is below 0 and above.

    Returns
    -------
    tuple of str
        None where it is 0.

    Examples
    --------
    >>> with_degree(0.5, "less contrast", "more contrast")
    ('with more contrast',)
    """
    return tuple(f"with {one}" for one in by_degree(value, below, above))
