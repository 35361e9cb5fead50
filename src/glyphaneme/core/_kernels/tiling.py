"""Cuts masks into tiles, and finds out how far pixels lie from an outline."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.layout import (
    HALF,
    INLINED,
    KERNEL,
    ONE,
    PART,
    TO_U16,
    ZERO,
)
from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE

F32 = np.float32
FAR = np.float32(3e38)
BAND = 2.0
"""So near to an edge its distance is reckoned from the edge itself."""
PIECE = 32.0
"""Edges are looked at in pieces no longer than this, in pixels."""
NONE = -1

LINES = types.f8[:, ::1]
FIELD_F32 = types.f4[:, ::1]
FIELD_I32 = types.i4[:, ::1]


@njit(types.void(types.u2[:, ::1], types.u2[:, :, ::1]), **KERNEL)
def find_extremes(values: np.ndarray, out: np.ndarray) -> None:
    """Write the least and greatest value of each tile and its border."""
    rows, columns = values.shape
    for tile_row in range(out.shape[0]):
        for tile_column in range(out.shape[1]):
            top, left = tile_row * TILE, tile_column * TILE
            bottom = min(top + TILE_STRIDE, rows)
            right = min(left + TILE_STRIDE, columns)
            least, most = np.uint16(65535), np.uint16(0)
            for row in range(top, bottom):
                line = values[row, left:right]
                for column in range(right - left):
                    least = min(least, line[column])
                    most = max(most, line[column])
            out[tile_row, tile_column, 0] = least
            out[tile_row, tile_column, 1] = most


@njit(
    types.void(types.u2[:, ::1], types.i8[:, ::1], types.u2[:, :, ::1]),
    **KERNEL,
)
def cut_tiles(values: np.ndarray, places: np.ndarray, out: np.ndarray) -> None:
    """Copy tiles with their borders; beyond the edges the last pixels repeat."""
    rows, columns = values.shape
    for at in range(places.shape[0]):
        top, left = places[at, 0] * TILE, places[at, 1] * TILE
        for row in range(TILE_STRIDE):
            line = values[min(top + row, rows - 1)]
            for column in range(TILE_STRIDE):
                out[at, row, column] = line[min(left + column, columns - 1)]


@njit(**INLINED)
def squared_from(edge: np.ndarray, x: float, y: float) -> float:
    """Return the square of a point's distance from an edge: x, y, and its way."""
    u, v = x - edge[0], y - edge[1]
    across, down = edge[2], edge[3]
    along = min(max((u * across + v * down) * edge[4], 0.0), 1.0)
    u, v = u - along * across, v - along * down
    return u * u + v * v


@njit(**INLINED)
def within(
    start: float, way: float, length: int, begin: float, end: float
) -> tuple[float, float]:
    """Return the shares of a way between which it is near 0..length, if at all."""
    least, most = -BAND - start, length + BAND - start
    if way == 0:
        return (begin, end) if least <= 0 <= most else (1.0, 0.0)
    one, other = least / way, most / way
    return max(begin, min(one, other)), min(end, max(one, other))


@njit(**PART)
def near_edges(edges: np.ndarray, squared: np.ndarray, nearest: np.ndarray) -> None:
    """Write the nearest edge and its squared distance where one is very near."""
    rows, columns = squared.shape
    for at in range(edges.shape[0]):
        edge = edges[at]
        # Only what lies near the field: edges may reach far beyond it.
        begin, end = within(edge[0], edge[2], columns, 0.0, 1.0)
        begin, end = within(edge[1], edge[3], rows, begin, end)
        if begin > end:
            continue
        length = np.sqrt(edge[2] * edge[2] + edge[3] * edge[3]) * (end - begin)
        pieces = int(np.ceil(length / PIECE)) if length > PIECE else 1
        share = (end - begin) / pieces
        for piece in range(pieces):
            x = edge[0] + edge[2] * (begin + share * piece)
            y = edge[1] + edge[3] * (begin + share * piece)
            other_x, other_y = x + edge[2] * share, y + edge[3] * share
            first = max(int(np.floor(min(x, other_x) - BAND - 0.5)), 0)
            last = min(int(np.ceil(max(x, other_x) + BAND - 0.5)) + 1, columns)
            top = max(int(np.floor(min(y, other_y) - BAND - 0.5)), 0)
            bottom = min(int(np.ceil(max(y, other_y) + BAND - 0.5)) + 1, rows)
            for row in range(top, bottom):
                for column in range(first, last):
                    here = F32(squared_from(edge, column + 0.5, row + 0.5))
                    if here < squared[row, column]:
                        squared[row, column] = here
                        nearest[row, column] = at


@njit(**INLINED)
def taken_over(
    edges: np.ndarray,
    squared: np.ndarray,
    nearest: np.ndarray,
    far: F32,
    row: int,
    column: int,
    other_row: int,
    other_column: int,
) -> None:
    """Take a neighbour's nearest edge, where that is nearer than the one known."""
    edge = nearest[other_row, other_column]
    if edge == NONE or edge == nearest[row, column]:
        return
    if squared[other_row, other_column] > far:
        return
    here = F32(squared_from(edges[edge], column + 0.5, row + 0.5))
    if here < squared[row, column]:
        squared[row, column] = here
        nearest[row, column] = edge


@njit(**PART)
def spread_row(
    edges: np.ndarray,
    squared: np.ndarray,
    nearest: np.ndarray,
    far: F32,
    row: int,
    other_row: int,
) -> None:
    """Take nearest edges over from another row, then along the row, to and fro."""
    columns = squared.shape[1]
    for column in range(columns):
        if other_row >= 0:
            for step in range(-1, 2):
                beside = column + step
                if 0 <= beside < columns:
                    taken_over(
                        edges, squared, nearest, far, row, column, other_row, beside
                    )
        if column > 0:
            taken_over(edges, squared, nearest, far, row, column, row, column - 1)
    for column in range(columns - 2, -1, -1):
        taken_over(edges, squared, nearest, far, row, column, row, column + 1)


@njit(**PART)
def spread(
    edges: np.ndarray, squared: np.ndarray, nearest: np.ndarray, far: F32
) -> None:
    """Hand nearest edges on from pixel to pixel: row by row down, then up."""
    rows = squared.shape[0]
    for row in range(rows):
        spread_row(edges, squared, nearest, far, row, row - 1)
    for row in range(rows - 2, -1, -1):
        spread_row(edges, squared, nearest, far, row, row + 1)


@njit(**PART)
def count_crossings(edges: np.ndarray, inside: np.ndarray) -> None:
    """Turn pixels from the first beyond each crossing of an edge; rows end up even."""
    rows, columns = inside.shape
    for at in range(edges.shape[0]):
        x, y = edges[at, 0], edges[at, 1]
        across, down = edges[at, 2], edges[at, 3]
        top, bottom = min(y, y + down), max(y, y + down)
        first = min(max(int(np.ceil(top - 0.5)), 0), rows)
        last = min(max(int(np.ceil(bottom - 0.5)), 0), rows)
        for row in range(first, last):
            crossing = x + across * ((row + 0.5 - y) / down)
            column = int(np.ceil(min(max(crossing - 0.5, 0.0), float(columns))))
            if column < columns:
                inside[row, column] ^= 1
    for row in range(rows):
        turned = 0
        for column in range(columns):
            turned ^= inside[row, column]
            inside[row, column] = turned


@njit(
    types.void(
        LINES,
        types.f8,
        types.f8[::1],
        FIELD_F32,
        FIELD_I32,
        types.u1[:, ::1],
        types.u2[:, ::1],
    ),
    **KERNEL,
)
def outline_into(
    edges: np.ndarray,
    reach: float,
    edge: np.ndarray,
    squared: np.ndarray,
    nearest: np.ndarray,
    inside: np.ndarray,
    out: np.ndarray,
) -> None:
    """Write how much pixels belong to what an outline encloses, 0..65535.

    `edges` are rows of x, y, the way to the other end, and one divided by the square of
    its length, or 0; inside is what a line to the left leaves after an odd number of
    crossings. `edge` is slope, offset and curve of the value by distance, which counts
    as far as `reach`; the other arrays are room to work in.
    """
    squared[:] = FAR
    nearest[:] = NONE
    inside[:] = 0
    near_edges(edges, squared, nearest)
    if reach > 1:
        spread(edges, squared, nearest, F32((reach + 1) * (reach + 1)))
    count_crossings(edges, inside)
    slope, offset = F32(edge[0]), F32(edge[1])
    one, two, three = F32(edge[2]), F32(edge[3]), F32(edge[4])
    for row in range(out.shape[0]):
        for column in range(out.shape[1]):
            away = np.sqrt(squared[row, column])
            if inside[row, column]:
                away = ZERO - away
            share = min(max(offset + slope * away, ZERO), ONE)
            value = share * (one + share * (two + share * three))
            out[row, column] = np.uint16(value * TO_U16 + HALF)
