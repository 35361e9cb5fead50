"""Operations on colours: what tones are made of, and the order that is written out."""

from __future__ import annotations

from enum import Enum
from functools import lru_cache
from itertools import takewhile
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels import toning
from glyphaneme.core._kernels.layout import LEVELS
from glyphaneme.core.color.spaces import TO_CONES, TO_LAB

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator, Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.tone.splines import Spline

ALL = 0b111
CHANNELS = (0b001, 0b010, 0b100)


class Domain(Enum):
    """What the numbers of a colour are while an operation works on them.

    Encoded sRGB is what people mean by a grey halfway, and what histograms show; light
    adds up and is filtered in linear light; hue and colourfulness are near to what is
    seen in Oklab (B. Ottosson, "A perceptual color space for image processing", 2020).
    """

    ENCODED = "encoded"
    LINEAR = "linear"
    LAB = "lab"


class Op(NamedTuple):
    """One operation; `planes` has a bit for each component that it works on."""

    domain: Domain
    code: int
    numbers: tuple[float, ...] = ()
    planes: int = ALL
    pieces: int = 0


class Program(NamedTuple):
    """Operations as the kernel reads them."""

    steps: NDArray[np.void]
    numbers: NDArray[np.float32]


NO_STEPS = np.empty(0, toning.STEP)
LOOK_AT_ONE = (toning.AFFINE, toning.POWER, toning.CURVE, toning.DECODE)
"""Codes of operations that look at one component at a time."""
LONGER = (toning.POWER, toning.CURVE)
"""Those of them that take longer than it takes to look a level up."""
TABLES = 64
"""Tables that are kept, 25 KB each."""


def affine(scale: float, shift: float, planes: int = ALL) -> Op:
    """Scale and shift encoded components, held within 0..1.

    Parameters
    ----------
    scale, shift : float
        The first multiplies, the second is added.
    planes : int
        A bit for each component.

    Returns
    -------
    Op
        The same for all its components.
    """
    return Op(Domain.ENCODED, toning.AFFINE, (scale, shift), planes)


def power(
    ends: tuple[float, float], exponent: float, out: tuple[float, float], planes: int
) -> Op:
    """Raise encoded components, between two ends, to a power.

    Parameters
    ----------
    ends : (float, float)
        What becomes the first and the second of `out`; what lies beyond is held.
    exponent : float, above 0
        Below 1 what lies in the middle grows lighter.
    out : (float, float)
        Between which the result lies.
    planes : int
        A bit for each component.

    Returns
    -------
    Op
        The same for all its components.
    """
    black, white = ends
    numbers = (black, 1 / (white - black), exponent, out[0], out[1] - out[0])
    return Op(Domain.ENCODED, toning.POWER, numbers, planes)


def curve(spline: Spline, planes: int) -> Op:
    """Put encoded components through a curve.

    Parameters
    ----------
    spline : Spline
        Flat beyond its ends.
    planes : int
        A bit for each component.

    Returns
    -------
    Op
        The same for all its components.
    """
    rows = [piece for one in spline.pieces for piece in one]
    count = len(spline.pieces)
    empty = -count % toning.AT_ONCE
    numbers = (spline.start, *rows, *[0.0] * (empty * toning.PIECE))
    return Op(Domain.ENCODED, toning.CURVE, numbers, planes, count + empty)


def grey(weights: Sequence[float]) -> Op:
    """Make colours grey by six weights of hue.

    Parameters
    ----------
    weights : sequence of six floats
        Of red, yellow, green, cyan, blue and magenta.

    Returns
    -------
    Op
        On encoded values.
    """
    return Op(Domain.ENCODED, toning.GREY, tuple(weights))


def light_matrix(matrix: NDArray[np.float64]) -> Op:
    """Multiply linear light by a matrix.

    Parameters
    ----------
    matrix : (3, 3) float64
        Columns of colours.

    Returns
    -------
    Op
        Nothing is held within limits before it is encoded again.
    """
    return _matrix(Domain.LINEAR, matrix)


def chroma_matrix(factor: float, turn: float) -> Op:
    """Stretch chroma and turn hue, at the same lightness.

    Parameters
    ----------
    factor : float
        Of chroma.
    turn : float, degrees
        Of hue, from red towards yellow.

    Returns
    -------
    Op
        On Oklab's a and b.
    """
    m0, m1, m2, m3 = turned(factor, turn)
    return _matrix(Domain.LAB, np.array([[1, 0, 0], [0, m0, m1], [0, m2, m3]]))


def turned(factor: float, turn: float) -> tuple[float, float, float, float]:
    """Return the matrix that stretches and turns Oklab's a and b.

    Parameters
    ----------
    factor : float
        Of chroma.
    turn : float, degrees
        Of hue.

    Returns
    -------
    tuple of four floats
        Its rows.
    """
    cosine, sine = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    return (
        float(factor * cosine),
        float(-factor * sine),
        float(factor * sine),
        float(factor * cosine),
    )


def planned(ops: Iterable[Op]) -> tuple[Op, ...]:
    """Return operations with all that changes from one domain to the other between.

    Neighbours that can be one exactly are one: matrices multiply, those on the way to
    Oklab and back too. Between operations of linear light or Oklab nothing is held
    within limits.

    Parameters
    ----------
    ops : iterable of Op
        In their order.

    Returns
    -------
    tuple of Op
        They begin and end with encoded values.
    """
    found: list[Op] = []
    domain = Domain.ENCODED
    for op in ops:
        for one in (*_changes(domain, op.domain), op):
            _add(found, one)
        domain = op.domain
    for one in _changes(domain, Domain.ENCODED):
        _add(found, one)
    return tuple(found)


def tabled(ops: tuple[Op, ...]) -> tuple[Op, ...]:
    """Return what does the same to a picture of 8 bits that is read pixel for pixel.

    As long as each operation looks at one component alone, 256 levels are all that
    there is: what becomes of them is worked out once and looked up.

    Parameters
    ----------
    ops : tuple of Op
        As `planned` returned them.

    Returns
    -------
    tuple of Op
        The same where a table would take longer.
    """
    first = tuple(takewhile(lambda op: op.code in LOOK_AT_ONE, ops))
    if not any(op.code in LONGER for op in first):
        return ops
    return (_table(first), *ops[len(first) :])


@lru_cache(TABLES)
def _table(ops: tuple[Op, ...]) -> Op:
    # Here, not above: loading a kernel takes a moment at every start.
    from glyphaneme.core._kernels.tabling import tone_levels_into

    levels = np.empty((3, LEVELS), np.float32)
    tone_levels_into(*program(ops), levels)
    return Op(ops[-1].domain, toning.TABLE, tuple(levels.ravel().tolist()))


def program(ops: Sequence[Op]) -> Program:
    """Write operations as the kernel reads them.

    Parameters
    ----------
    ops : sequence of Op
        As `planned` returned them.

    Returns
    -------
    Program
        Their rows, and all their numbers.
    """
    rows: list[tuple[int, ...]] = []
    numbers: list[float] = []
    for op in ops:
        rows.append((op.code, len(numbers), op.planes, op.pieces))
        numbers += op.numbers
    steps = np.array(rows, toning.STEP) if rows else NO_STEPS
    return Program(steps, np.array(numbers, np.float32))


def _changes(before: Domain, after: Domain) -> Iterator[Op]:
    """Yield what leads from one domain to another; they lie in a row."""
    order = list(Domain)
    start, end = order.index(before), order.index(after)
    for place in range(start + 1, end + 1):
        yield from UP[order[place]]
    for place in range(start - 1, end - 1, -1):
        yield from DOWN[order[place]]


def _matrix(domain: Domain, matrix: NDArray[np.float64]) -> Op:
    return Op(domain, toning.MATRIX, tuple(np.ravel(matrix).tolist()))


UP = {
    Domain.LINEAR: (Op(Domain.LINEAR, toning.DECODE),),
    Domain.LAB: (
        _matrix(Domain.LAB, TO_CONES),
        Op(Domain.LAB, toning.ROOTS),
        _matrix(Domain.LAB, TO_LAB),
    ),
}
DOWN = {
    Domain.ENCODED: (Op(Domain.ENCODED, toning.ENCODE),),
    Domain.LINEAR: (
        _matrix(Domain.LAB, np.linalg.inv(TO_LAB)),
        Op(Domain.LINEAR, toning.LIGHT),
    ),
}


def _add(found: list[Op], op: Op) -> None:
    """Add an operation to others; two matrices in a row become one."""
    if not found or (found[-1].code, op.code) != (toning.MATRIX, toning.MATRIX):
        found.append(op)
        return
    before, after = (np.reshape(one.numbers, (3, 3)) for one in (found[-1], op))
    found[-1] = _matrix(op.domain, after @ before)
