"""The rows that the compositing kernel reads, and the table of them."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core._kernels.composing import LAYER
from glyphaneme.core._kernels.washing import COLOR, PHOTO
from glyphaneme.core.color.spaces import levels_of
from glyphaneme.core.render.masks import UNMASKED, Masking, step_fields
from glyphaneme.core.tone import Op, Program, ops_of, planned, program, tabled

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.tone import Tone

WIDEST_LINEAR = 1.3
"""Up to so many texels a pixel, two of them are as good as the average of all."""
ANY_WIDTH = 1e9
NO_STEPS = np.empty(0, masking.STEP)


class Table(NamedTuple):
    """What the kernel reads; `alive` keeps the arrays that it points into."""

    rows: NDArray[np.void]
    steps: NDArray[np.void]
    tones: Program
    groups: int
    alive: tuple[object, ...]


class Fields(NamedTuple):
    """The fields of one row, in the order in which `LAYER` explains them."""

    kind: int
    address: int = 0
    rows: int = 0
    columns: int = 0
    mode: int = 0
    opaque: bool = False
    copied: bool = False
    first_step: int = 0
    steps: int = 0
    first_tone: int = 0
    tones: int = 0
    opacity: float = 0
    start: float = 1
    widest: float = 0
    colors: Sequence[float] = (0,) * 8
    to_source: Sequence[float] = (0,) * 6
    width: float = 0
    height: float = 0


class Row(NamedTuple):
    """A row, its mask, how many groups it lies in, and the array it points into."""

    fields: Fields
    masking: Masking = UNMASKED
    depth: int = 0
    alive: PixelsU8 | None = None
    tones: tuple[Tone, ...] = ()


def table_of(found: Sequence[Row], *, averaged: bool = True) -> Table:
    """Write rows as a table.

    Parameters
    ----------
    found : sequence of Row
        From back to front.
    averaged : bool
        As `Reading` says.

    Returns
    -------
    Table
        With the steps of their masks and the operations of their tones.
    """
    steps = _StepTable()
    tones = _ToneTable()
    fields = [steps.given(tones.given(row), row.masking) for row in found]
    rows = np.array(fields, LAYER)
    rows["widest"] = WIDEST_LINEAR if averaged else ANY_WIDTH
    return Table(
        rows=rows,
        steps=steps.rows,
        tones=tones.program,
        groups=max((row.depth for row in found), default=0),
        alive=(*(row.alive for row in found), *steps.alive),
    )


def white_table(mask: Masking) -> Table:
    """Write white over everything, masked.

    Parameters
    ----------
    mask : Masking
        What of it shows.

    Returns
    -------
    Table
        Of one row: its alpha is what the mask leaves.
    """
    steps = _StepTable()
    white = Fields(COLOR, opaque=True, colors=(1.0,) * 8, opacity=1.0)
    rows = np.array([steps.given(white, mask)], LAYER)
    return Table(
        rows=rows,
        steps=steps.rows,
        tones=program(()),
        groups=0,
        alive=tuple(steps.alive),
    )


def pixels_table(pixels: PixelsU8, tones: tuple[Tone, ...]) -> Table:
    """Write pixels as they are, toned.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, C-contiguous.
    tones : tuple of Tone
        None of them looks at neighbours.

    Returns
    -------
    Table
        Of one row.
    """
    fields = pixels_fields(pixels)
    return table_of([Row(fields, alive=pixels, tones=tones)])


def pixels_fields(pixels: PixelsU8, left: int = 0, top: int = 0) -> Fields:
    """Write pixels as they are, one for one.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, C-contiguous.
    left, top : int, pixels
        Where in the view they begin.

    Returns
    -------
    Fields
        At full strength.
    """
    rows, columns = pixels.shape[:2]
    return Fields(
        PHOTO,
        address=pixels.ctypes.data,
        rows=rows,
        columns=columns,
        width=columns,
        height=rows,
        copied=True,
        opacity=1.0,
        to_source=(1, 0, -left, 0, 1, -top),
    )


def rgba(color: str, opacity: float = 1.0) -> NDArray[np.float32]:
    """Read a colour.

    Parameters
    ----------
    color : str
        Such as "#ff8000", sRGB.
    opacity : float, 0..1
        Its alpha.

    Returns
    -------
    (4,) float32, 0..1
        Straight R, G, B, A.

    Examples
    --------
    >>> rgba("#ff0000").tolist()
    [1.0, 0.0, 0.0, 1.0]
    """
    channels = [level / 255 for level in levels_of(color)]
    return np.array([*channels, opacity], np.float32)


class _StepTable:
    """Collects the steps of all masks, each layer's one after the other."""

    def __init__(self) -> None:
        self._rows: list[tuple[object, ...]] = []
        self.alive: list[Plane] = []

    @property
    def rows(self) -> NDArray[np.void]:
        """The table that the kernel reads."""
        return np.array(self._rows, masking.STEP) if self._rows else NO_STEPS

    def given(self, fields: Fields, mask: Masking) -> Fields:
        """Add a mask's steps, and return its layer's row with their place."""
        if not mask.steps:
            return fields
        first = len(self._rows)
        for step in mask.steps:
            self._rows.append(step_fields(step))
            if step.plane is not None:
                self.alive.append(step.plane)
        return fields._replace(
            first_step=first, steps=len(mask.steps), start=mask.start
        )


class _ToneTable:
    """Collects the operations of all tones, each layer's one after the other."""

    def __init__(self) -> None:
        self._ops: list[Op] = []

    @property
    def program(self) -> Program:
        """What the kernel reads."""
        return program(self._ops)

    def given(self, row: Row) -> Fields:
        """Add a layer's tones, and return its row with their place."""
        ops = planned(ops_of(row.tones))
        if row.fields.copied:
            ops = tabled(ops)
        first = len(self._ops)
        self._ops += ops
        return row.fields._replace(first_tone=first, tones=len(ops))
