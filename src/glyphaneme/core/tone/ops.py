"""Operations on colours: what tones are made of, and the order that is written out."""

from __future__ import annotations

from enum import Enum
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels import toning

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
    return Op(Domain.LINEAR, toning.MATRIX, tuple(np.ravel(matrix).tolist()))


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
    return Op(Domain.LAB, toning.CHROMA_MATRIX, turned(factor, turn))


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

    Neighbours that can be one exactly are one: matrices multiply, and so do those of
    chroma. Between operations of linear light or Oklab nothing is held within limits.

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
        if found and domain is op.domain and _is_one_with(found[-1], op):
            found[-1] = _joined(found[-1], op)
            continue
        found += [*_changes(domain, op.domain), op]
        domain = op.domain
    return (*found, *_changes(domain, Domain.ENCODED))


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
    up = {1: toning.DECODE, 2: toning.TO_LAB}
    down = {0: toning.ENCODE, 1: toning.FROM_LAB}
    for place in range(start + 1, end + 1):
        yield Op(order[place], up[place])
    for place in range(start - 1, end - 1, -1):
        yield Op(order[place], down[place])


MATRIX_SIDES = {toning.MATRIX: 3, toning.CHROMA_MATRIX: 2}


def _is_one_with(first: Op, second: Op) -> bool:
    return first.code == second.code and first.code in MATRIX_SIDES


def _joined(first: Op, second: Op) -> Op:
    side = MATRIX_SIDES[first.code]
    before, after = (np.reshape(one.numbers, (side, side)) for one in (first, second))
    return first._replace(numbers=tuple(np.ravel(after @ before).tolist()))
