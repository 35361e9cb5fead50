"""Frozen values: changed by making new ones, every field checked anew."""

from __future__ import annotations

from typing import TypeVar

from pydantic import BaseModel

ModelT = TypeVar("ModelT", bound=BaseModel)
MODEL_BYTES = 400
"""What a model takes besides its values."""
VALUE_BYTES = 48
"""What a number or a short string takes, and its place in what holds it."""


def with_fields(value: ModelT, **fields: object) -> ModelT:
    """Return a value with some of its fields replaced.

    Pydantic's own `model_copy` checks nothing, so that what it returns may be
    impossible to store and open again.

    Parameters
    ----------
    value : BaseModel
        Any frozen value; it stays unchanged.
    **fields : object
        The fields to replace.

    Returns
    -------
    BaseModel
        Of the same class; pydantic's ValidationError where a field is out of range.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> with_fields(Placement(x=1, y=2, scale_x=1, scale_y=1), x=9).x
    9.0
    """
    return type(value).model_validate({**dict(value), **fields})


def memory_of(value: object) -> int:
    """Return about how much memory a value takes, with all that is in it.

    Parameters
    ----------
    value : object
        A model, a tuple, or a plain value.

    Returns
    -------
    int, bytes
        What several share is counted each time.

    Examples
    --------
    >>> memory_of((1.0, (2.0, 3.0))) > memory_of((1.0,))
    True
    """
    if isinstance(value, BaseModel):
        return MODEL_BYTES + memory_of(tuple(vars(value).values()))
    if isinstance(value, tuple):
        return VALUE_BYTES + sum(map(memory_of, value))
    return VALUE_BYTES
