"""Lays all layers over one another, chunk by chunk, for some rows of a view.

A chunk is a part of one row or, of a narrow view, several whole rows: its lines, one
after another in the planes.
"""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numba import carray, from_dtype, njit, types

from glyphaneme.core._kernels.addressing import LINE, pointer, whole_lines
from glyphaneme.core._kernels.blend_loops import blend_copied, blend_span, blend_veiled
from glyphaneme.core._kernels.layout import (
    CHUNK,
    FROM_U8,
    FROM_U16,
    HALF,
    INLINED,
    KERNEL,
    ONE,
    PART,
    SA,
    SCRATCH_TEXELS,
    SR,
    TO_U8,
    TO_U16,
    WRITTEN_IN,
    ZERO,
    A,
    B,
    G,
    R,
)
from glyphaneme.core._kernels.masking import (
    ALL,
    STEP_TYPE,
    bounds_of_block,
    length,
    mask_line,
)
from glyphaneme.core._kernels.sampling import (
    MARGIN,
    average_alpha,
    average_opaque,
    bring_span_near,
    copy_span,
    edge_span,
    gather_corners,
    gather_nine,
    look_up_span,
    narrowed,
    weigh_alpha,
    weigh_opaque,
)
from glyphaneme.core._kernels.toning import FLOATS, TABLE, tone_span
from glyphaneme.core._kernels.toning import STEP_TYPE as TONE_TYPE
from glyphaneme.core._kernels.washing import (
    GROUP_BEGIN,
    GROUP_END,
    PHOTO,
    TONING,
    begin_group,
    end_group,
    take_composite,
    wash_span,
)

LAYER = np.dtype(
    [
        ("kind", "i8"),  # PHOTO … TONING
        ("address", "i8"),  # of the source's first texel
        ("rows", "i8"),
        ("columns", "i8"),
        ("mode", "i8"),
        ("opaque", "i8"),  # 1: every texel's alpha is 255
        ("copied", "i8"),  # 1: the map moves by whole pixels and nothing else
        ("first_step", "i8"),  # of its mask, in the table of steps
        ("steps", "i8"),  # how many it has
        ("first_tone", "i8"),  # of its tones' operations, in a table of their own
        ("tones", "i8"),
        ("opacity", "f4"),
        ("start", "f4"),  # how much shows before the first step
        ("widest", "f4"),  # pixels that cover more texels, either way, are averaged
        ("colors", "f4", 8),  # straight RGBA of a colour, or of a gradient's two ends
        ("to_source", "f8", 6),  # view pixels to texels, rows of a 2 x 3 matrix
        ("width", "f8"),  # of the picture in texels: half a texel less than the
        ("height", "f8"),  # columns or rows where an odd size was halved
    ],
    align=True,
)
"""One layer as the kernel reads it; a table of these needs no recompilation."""

LAYER_TYPE = from_dtype(LAYER)
PLANES = 4 * CHUNK
# The scratch, in float32: four spare planes, so that the composite can be seen as a
# source; the composite's planes and a layer's, with what toning either spares; texels
# round each pixel; how much masks let show; ten float64 for one fetch; and for each
# group in another, what lies beneath it and whether that is solid.
CORNERS = whole_lines(4 * CHUNK + SR + FLOATS)
VEILS = CORNERS + SCRATCH_TEXELS
SMALL = VEILS + 2 * CHUNK
BENEATH = SMALL + 2 * LINE
SOLID = PLANES
GROUP_FLOATS = PLANES + LINE
NORMAL = 0
CLEAR = np.uint32(0xFFFFFF)  # the highest texel whose alpha is 0
I32 = np.int32
U32 = np.uint32
F32 = np.float32
# Columns of the table of spans: where a layer shows in the chunk, where its picture is
# read without a look at its edges, and whether its mask hides some of it.
FIRST, LAST, WHOLE_FIRST, WHOLE_LAST, MASKED = range(5)
SPAN_COLUMNS = 5


def scratch_floats(groups: int) -> int:
    """Return how much scratch is needed where so many groups lie in one another."""
    return BENEATH + groups * GROUP_FLOATS


@njit(**PART)
def borrowed(array: np.ndarray) -> np.ndarray:
    """Return an array without its count of owners, for as long as the caller has it.

    Each slice of an owned array counts one more owner and one less, atomically; over
    the many short loops of a chunk that adds up to a tenth of its time.
    """
    return carray(pointer(array.ctypes.data), array.shape, array.dtype)


@njit(**INLINED)
def is_wide(one: Any, foot_u: float, foot_v: float) -> bool:
    """Tell whether view pixels cover so many texels that they must be averaged."""
    return max(foot_u, foot_v) > one.widest


@njit(**INLINED)
def copied_span(one: Any, row: int, column: int, n: int) -> tuple[int, int]:
    """Return which of the chunk's `n` pixels a copied layer has that are not clear."""
    u, v = column + round(one.to_source[2]), row + round(one.to_source[5])
    first, last = max(0, -u), min(n, one.columns - u)
    if v < 0 or v >= one.rows or first >= last:
        return 0, 0
    start = v * one.columns + u
    if one.opaque == 1:
        return first, last
    texels = carray(pointer(one.address), (one.rows * one.columns,), np.uint32)
    while first < last and texels[start + first] <= CLEAR:
        first += 1
    while first < last and texels[start + last - 1] <= CLEAR:
        last -= 1
    return first, last


@njit(**INLINED)
def find_span(
    layers: np.ndarray, layer: int, row: int, column: float, n: int, spans: np.ndarray
) -> None:
    """Write which of the chunk's `n` pixels the layer touches and fills whole."""
    if layers[layer].kind != PHOTO:
        spans[layer, FIRST], spans[layer, LAST] = 0, n
        spans[layer, WHOLE_FIRST], spans[layer, WHOLE_LAST] = 0, n
        return
    if layers[layer].copied == 1:
        first, last = copied_span(layers[layer], row, int(column), n)
        spans[layer, FIRST], spans[layer, LAST] = first, last
        spans[layer, WHOLE_FIRST], spans[layer, WHOLE_LAST] = first, last
        return
    m = layers[layer].to_source
    across, down = m[0], m[3]
    u = m[0] * (column + 0.5) + m[1] * (row + 0.5) + m[2]
    v = m[3] * (column + 0.5) + m[4] * (row + 0.5) + m[5]
    foot_u = length(m[0], m[1])
    foot_v = length(m[3], m[4])
    width, height = layers[layer].width, layers[layer].height
    first, last = narrowed(across, u, -foot_u / 2, width + foot_u / 2, 0, n)
    first, last = narrowed(down, v, -foot_v / 2, height + foot_v / 2, first, last)
    spans[layer, FIRST], spans[layer, LAST] = first, last
    read = (1.0 if is_wide(layers[layer], foot_u, foot_v) else 0.5) + MARGIN
    edge_u, edge_v = max(foot_u / 2, read), max(foot_v / 2, read)
    low_u = min(width - foot_u / 2, layers[layer].columns - read)
    low_v = min(height - foot_v / 2, layers[layer].rows - read)
    first, last = narrowed(across, u, edge_u, low_u, first, last)
    first, last = narrowed(down, v, edge_v, low_v, first, last)
    if first >= last:
        first = last = spans[layer, LAST]
    spans[layer, WHOLE_FIRST], spans[layer, WHOLE_LAST] = first, last


@njit(**INLINED)
def look_at_mask(
    layers: np.ndarray,
    steps: np.ndarray,
    layer: int,
    row: int,
    column: float,
    spans: np.ndarray,
) -> None:
    """Find out whether the layer's mask hides none, some or all of its span."""
    spans[layer, MASKED] = 0
    first, last = spans[layer, FIRST], spans[layer, LAST]
    if layers[layer].steps == 0 or first >= last:
        return
    own = steps[layers[layer].first_step :][: layers[layer].steps]
    start = layers[layer].start
    low, high = bounds_of_block(own, start, row, column, first, last)
    if high <= 0:
        spans[layer, LAST] = spans[layer, WHOLE_FIRST] = spans[layer, WHOLE_LAST] = (
            first
        )
    elif low < ALL:
        spans[layer, MASKED] = 1


@njit(**INLINED)
def mask_lines(
    layers: np.ndarray,
    steps: np.ndarray,
    layer: int,
    row: int,
    column: float,
    spans: np.ndarray,
    veils: np.ndarray,
    n: int,
) -> None:
    """Write how much of the layer its mask shows; leave hidden ends out of spans."""
    own = steps[layers[layer].first_step :][: layers[layer].steps]
    start = layers[layer].start
    shown, values = veils[:CHUNK], veils[CHUNK:]
    for line in range(spans.shape[0]):
        first, last = spans[line, layer, FIRST], spans[line, layer, LAST]
        here = shown[line * n :]
        if spans[line, layer, MASKED] == 0:
            plain = here[first:]
            for i in range(last - first):
                plain[i] = ONE
            continue
        first, last = mask_line(
            own, start, row + line, column, here, values, first, last
        )
        spans[line, layer, FIRST], spans[line, layer, LAST] = first, last
        whole_first = min(max(spans[line, layer, WHOLE_FIRST], first), last)
        whole_last = max(min(spans[line, layer, WHOLE_LAST], last), whole_first)
        spans[line, layer, WHOLE_FIRST] = whole_first
        spans[line, layer, WHOLE_LAST] = whole_last


@njit(**INLINED)
def hide_lines(
    layer: int, spans: np.ndarray, veils: np.ndarray, t: np.ndarray, n: int
) -> None:
    """Take away from the alpha of fetched lines what the layer's mask hides."""
    for line in range(spans.shape[0]):
        first, last = spans[line, layer, FIRST], spans[line, layer, LAST]
        here, shown = t[line * n + first :], veils[line * n + first :]
        for i in range(last - first):
            here[SA + i] *= shown[i]


@njit(**INLINED)
def is_masked(layers: np.ndarray, layer: int, spans: np.ndarray) -> bool:
    """Tell whether the layer's mask hides some of it in any line of the chunk."""
    masked = False
    if layers[layer].steps > 0:
        for line in range(spans.shape[0]):
            masked |= spans[line, layer, MASKED] == 1
    return masked


@njit(**INLINED)
def levels_of(
    layers: np.ndarray, layer: int, tones: np.ndarray, numbers: np.ndarray
) -> np.ndarray:
    """Return the table by which the layer's texels are read, or nothing."""
    first = layers[layer].first_tone
    if layers[layer].tones == 0 or tones[first].code != TABLE:
        return numbers[:0]
    return numbers[tones[first].first :]


@njit(**INLINED)
def read_span(
    texels: np.ndarray,
    start: int,
    levels: np.ndarray,
    opacity: F32,
    t: np.ndarray,
    n: int,
) -> None:
    """Read texels that lie under the view's pixels, by a table where there is one."""
    if len(levels) > 0:
        look_up_span(texels, start, levels, opacity, t, n)
    else:
        copy_span(texels, start, opacity, t, n)


@njit(**PART)
def fetch(
    layers: np.ndarray,
    layer: int,
    levels: np.ndarray,
    row: int,
    column: float,
    spans: np.ndarray,
    t: np.ndarray,
    corners: np.ndarray,
    small: np.ndarray,
) -> None:
    """Read the layer's pixels in its span into the source planes."""
    one = layers[layer]
    if one.kind != PHOTO:
        wash_span(one, row, column, t, spans[layer, LAST])
        return
    rows, columns = one.rows, one.columns
    texels = carray(pointer(one.address), (rows * columns,), np.uint32)
    m = one.to_source
    ray, extent = small[:4], small[4:]
    ray[0] = m[0] * (column + 0.5) + m[1] * (row + 0.5) + m[2] - 0.5
    ray[1] = m[3] * (column + 0.5) + m[4] * (row + 0.5) + m[5] - 0.5
    ray[2], ray[3] = m[0], m[3]
    first, last = spans[layer, FIRST], spans[layer, LAST]
    whole_first, whole_last = spans[layer, WHOLE_FIRST], spans[layer, WHOLE_LAST]
    if one.copied == 1:
        start = round(ray[1]) * columns + round(ray[0]) + first
        read_span(texels, start, levels, one.opacity, t[first:], last - first)
        return
    foot_u, foot_v = length(m[0], m[1]), length(m[3], m[4])
    wide = is_wide(one, foot_u, foot_v)
    extent[0] = min(max(foot_u, 1.0), 2.0) if wide else 1.0
    extent[1] = min(max(foot_v, 1.0), 2.0) if wide else 1.0
    extent[2], extent[3] = one.width, one.height
    extent[4], extent[5] = foot_u, foot_v
    edge_span(texels, columns, rows, ray, extent, one.opacity, t, first, whole_first)
    edge_span(texels, columns, rows, ray, extent, one.opacity, t, whole_last, last)
    n = whole_last - whole_first
    if n <= 0:
        return
    ray[0] += whole_first * ray[2]
    ray[1] += whole_first * ray[3]
    ahead = 0
    if m[3] != 0:
        ahead = 4 * (round(m[4] + 1) * columns + round(m[1]))
    inner = t[whole_first:]
    if wide:
        gather_nine(one.address, columns, ray, ahead, inner, corners, n)
        if one.opaque == 1:
            average_opaque(corners, extent, one.opacity, inner, n)
        else:
            average_alpha(corners, extent, one.opacity, inner, n)
    else:
        gather_corners(one.address, columns, ray, ahead, inner, corners, n)
        if one.opaque == 1:
            weigh_opaque(corners, one.opacity, inner, n)
        else:
            weigh_alpha(corners, one.opacity, inner, n)


@njit(**PART)
def fetch_toned(
    layers: np.ndarray,
    layer: int,
    levels: np.ndarray,
    row: int,
    column: int,
    lines: int,
    t: np.ndarray,
    n: int,
) -> None:
    """Read what has been toned before; it stays as see-through as what lies there."""
    one = layers[layer]
    texels = carray(pointer(one.address), (one.rows * one.columns,), np.uint32)
    for line in range(lines):
        here = t[line * n :]
        start = (row + line) * one.columns + column
        read_span(texels, start, levels, ONE, here, n)
        for i in range(n):
            here[SA + i] = one.opacity


@njit(**PART)
def fetch_lines(
    layers: np.ndarray,
    layer: int,
    levels: np.ndarray,
    row: int,
    column: float,
    spans: np.ndarray,
    t: np.ndarray,
    corners: np.ndarray,
    small: np.ndarray,
    n: int,
) -> None:
    """Read the layer's pixels in all lines of the chunk, `n` pixels each."""
    for line in range(spans.shape[0]):
        own = spans[line]
        if own[layer, FIRST] < own[layer, LAST]:
            here = t[line * n :]
            fetch(layers, layer, levels, row + line, column, own, here, corners, small)


@njit(**PART)
def blend_lines(
    layers: np.ndarray,
    layer: int,
    solid: bool,
    spans: np.ndarray,
    t: np.ndarray,
    n: int,
) -> None:
    """Blend the layer's spans, as one where they fill all lines of the chunk."""
    lines = spans.shape[0]
    whole = True
    for line in range(lines):
        whole &= spans[line, layer, FIRST] == 0 and spans[line, layer, LAST] == n
    for line in range(1 if whole else lines):
        first, last = spans[line, layer, FIRST], spans[line, layer, LAST]
        length = lines * n if whole else last - first
        blend_span(layers[layer].mode, solid, t[line * n + first :], length)


@njit(**PART)
def tone_lines(
    layers: np.ndarray,
    layer: int,
    tones: np.ndarray,
    numbers: np.ndarray,
    spans: np.ndarray,
    t: np.ndarray,
    n: int,
) -> None:
    """Work out the layer's tones in its spans, on three planes from `t` on."""
    own = tones[layers[layer].first_tone :][: layers[layer].tones]
    lines = spans.shape[0]
    whole = True
    for line in range(lines):
        whole &= spans[line, layer, FIRST] == 0 and spans[line, layer, LAST] == n
    for line in range(1 if whole else lines):
        first, last = spans[line, layer, FIRST], spans[line, layer, LAST]
        length = lines * n if whole else last - first
        if length > 0:
            tone_span(own, numbers, t[line * n + first :], length)


@njit(**INLINED)
def lay_copied_lines(
    layers: np.ndarray,
    layer: int,
    row: int,
    column: int,
    spans: np.ndarray,
    veils: np.ndarray,
    t: np.ndarray,
    n: int,
    below: int,
    right: int,
) -> None:
    """Fetch and blend a copied layer at once, over a solid backdrop.

    The next chunk lies so many rows below and so many columns to the right. `veils`
    count where the layer's mask hides some of it.
    """
    one = layers[layer]
    ahead = below * one.columns + right
    texels = carray(pointer(one.address), (one.rows * one.columns,), np.uint32)
    strength = one.opacity * FROM_U8
    u, v = column + round(one.to_source[2]), row + round(one.to_source[5])
    masked = is_masked(layers, layer, spans)
    for line in range(spans.shape[0]):
        first, last = spans[line, layer, FIRST], spans[line, layer, LAST]
        start = (v + line) * one.columns + u + first
        bring_span_near(one.address + 4 * (start + ahead), 4 * (last - first))
        here = t[line * n + first :]
        if masked:
            shown = veils[line * n + first :]
            for i in range(last - first):
                here[SA + i] = strength * shown[i]
            blend_veiled(one.mode, texels[start:], here, last - first)
        else:
            blend_copied(one.mode, texels[start:], strength, here, last - first)


@njit(**INLINED)
def lowest_shown(layers: np.ndarray, spans: np.ndarray, n: int) -> int:
    """Return the frontmost layer that hides all that lies beneath it, or -1."""
    lowest = -1
    depth = 0
    for layer in range(layers.shape[0]):
        kind = layers[layer].kind
        if kind == GROUP_BEGIN:
            depth += 1
        elif kind == GROUP_END:
            depth -= 1
        elif (
            depth == 0
            and kind != TONING
            and layers[layer].mode == NORMAL
            and fills(layers, layer, spans, n)
        ):
            lowest = layer
    return lowest


@njit(**INLINED)
def fills(layers: np.ndarray, layer: int, spans: np.ndarray, n: int) -> bool:
    """Tell whether the layer leaves nothing see-through in the chunk."""
    whole = layers[layer].opaque == 1 and layers[layer].opacity == ONE
    for line in range(spans.shape[0]):
        whole &= spans[line, layer, WHOLE_FIRST] == 0
        whole &= spans[line, layer, WHOLE_LAST] == n
    return whole and not is_masked(layers, layer, spans)


@njit(**PART)
def fill(background: np.ndarray, t: np.ndarray, n: int) -> None:
    """Start a chunk with the canvas's own colour and alpha."""
    for i in range(n):
        t[R + i] = background[0]
        t[G + i] = background[1]
        t[B + i] = background[2]
        t[A + i] = background[3]


@njit(**INLINED)
def as_byte(value: F32, threshold: F32) -> U32:
    """Turn 0..1 into one of 256 levels; a threshold of one half gives the nearest."""
    return U32(I32(min(max(value, F32(0)), ONE) * TO_U8 + threshold))


@njit(**PART)
def store(t: np.ndarray, thresholds: np.ndarray, out: np.ndarray, n: int) -> None:
    """Write straight RGBA, one u32 a pixel."""
    for i in range(n):
        threshold = thresholds[i]
        out[i] = (
            as_byte(t[R + i], threshold)
            | (as_byte(t[G + i], threshold) << U32(8))
            | (as_byte(t[B + i], threshold) << U32(16))
            | (as_byte(t[A + i], HALF) << U32(24))
        )


@njit(**PART)
def take_up(base: np.ndarray, row: int, column: int, t: np.ndarray, n: int) -> None:
    """Start a chunk with a composite that was kept."""
    for plane in range(4):
        source, target = base[row, plane, column:], t[plane * CHUNK :]
        bring_span_near(source.ctypes.data + base.strides[0], 2 * n)
        for i in range(n):
            target[i] = F32(I32(source[i])) * FROM_U16


@njit(**PART)
def put_by(t: np.ndarray, kept: np.ndarray, row: int, column: int, n: int) -> None:
    """Keep a chunk: 16 bits a channel err by 0.03 levels over 20 layers, 8 by 5.7."""
    for plane in range(4):
        source, target = t[plane * CHUNK :], kept[row, plane, column:]
        for i in range(n):
            level = min(max(source[i], ZERO), ONE) * TO_U16 + HALF
            target[i] = np.uint16(I32(level))


@njit(**PART)
def chunk_length(columns: int) -> int:
    """Return into how long parts a row is cut: alike, and a multiple of 16."""
    chunks = (columns + CHUNK - 1) // CHUNK
    return ((columns + chunks - 1) // chunks + 15) // 16 * 16


class Tables(NamedTuple):
    """All layers, and what they need more of than one row of a table."""

    layers: np.ndarray
    steps: np.ndarray
    tones: np.ndarray
    numbers: np.ndarray


class Room(NamedTuple):
    """Where a chunk is worked out; `t` are the composite's planes and a layer's."""

    earlier: np.ndarray
    """Seen from four planes earlier, what is fetched as a source is the composite."""
    t: np.ndarray
    corners: np.ndarray
    veils: np.ndarray
    small: np.ndarray
    beneath: np.ndarray


class Chunk(NamedTuple):
    """Where a chunk lies: `n` pixels of some lines; the next one is so far from it."""

    row: int
    start: int
    n: int
    below: int
    right: int


@njit(**WRITTEN_IN)
def room_in(scratch: np.ndarray) -> Room:
    """Divide the scratch."""
    return Room(
        scratch,
        scratch[4 * CHUNK :],
        scratch[CORNERS:VEILS].view(np.uint32),
        scratch[VEILS:SMALL],
        scratch[SMALL:BENEATH].view(np.float64),
        scratch[BENEATH:],
    )


@njit(**WRITTEN_IN)
def find_spans(tables: Tables, chunk: Chunk, spans: np.ndarray) -> None:
    """Find out where each layer shows in a chunk, and whether its mask counts there."""
    layers, column = tables.layers, float(chunk.start)
    for line in range(len(spans)):
        row = chunk.row + line
        for layer in range(layers.shape[0]):
            find_span(layers, layer, row, column, chunk.n, spans[line])
            look_at_mask(layers, tables.steps, layer, row, column, spans[line])


@njit(**WRITTEN_IN)
def lay_lowest(
    tables: Tables, lowest: int, chunk: Chunk, spans: np.ndarray, room: Room
) -> None:
    """Start a chunk with the layer that hides all that lies beneath it."""
    layers, tones, numbers = tables.layers, tables.tones, tables.numbers
    levels = levels_of(layers, lowest, tones, numbers)
    column, n = float(chunk.start), chunk.n
    fetch_lines(
        layers,
        lowest,
        levels,
        chunk.row,
        column,
        spans,
        room.earlier,
        room.corners,
        room.small,
        n,
    )
    if layers[lowest].tones > 0:
        tone_lines(layers, lowest, tones, numbers, spans, room.t, n)


@njit(**WRITTEN_IN)
def lay_ground(
    background: np.ndarray,
    base: np.ndarray,
    chunk: Chunk,
    lines: int,
    t: np.ndarray,
) -> None:
    """Start a chunk with what was composed before, or with the canvas."""
    if base.shape[0] > 0:
        for line in range(lines):
            take_up(base, chunk.row + line, chunk.start, t[line * chunk.n :], chunk.n)
    else:
        fill(background, t, lines * chunk.n)


@njit(**WRITTEN_IN)
def lay_layer(
    tables: Tables,
    layer: int,
    chunk: Chunk,
    spans: np.ndarray,
    room: Room,
    solid: bool,
) -> bool:
    """Lay a layer, toned and masked, over the composite; tell whether that is solid."""
    layers, tones, numbers = tables.layers, tables.tones, tables.numbers
    row, start, n, t = chunk.row, chunk.start, chunk.n, room.t
    one = layers[layer]
    column, size = float(start), len(spans) * n
    levels = levels_of(layers, layer, tones, numbers)
    masked = is_masked(layers, layer, spans)
    if masked:
        mask_lines(layers, tables.steps, layer, row, column, spans, room.veils, n)
    if one.kind == TONING:
        if one.copied == 1:
            fetch_toned(layers, layer, levels, row, start, len(spans), t, n)
        else:
            take_composite(t, one.opacity, size)
    elif solid and one.copied == 1 and one.tones == 0 and one.kind != GROUP_END:
        below, right = chunk.below, chunk.right
        lay_copied_lines(
            layers, layer, row, start, spans, room.veils, t, n, below, right
        )
        return True
    elif one.kind != GROUP_END:
        corners, small = room.corners, room.small
        fetch_lines(layers, layer, levels, row, column, spans, t, corners, small, n)
    if one.tones > 0:
        tone_lines(layers, layer, tones, numbers, spans, t[SR:], n)
    if masked:
        hide_lines(layer, spans, room.veils, t, n)
    # What is toned stays as see-through as it is.
    blend_lines(layers, layer, solid or one.kind == TONING, spans, t, n)
    return solid or fills(layers, layer, spans, n)


@njit(**WRITTEN_IN)
def lay_layers(
    tables: Tables,
    first: int,
    chunk: Chunk,
    spans: np.ndarray,
    room: Room,
    solid: bool,
) -> None:
    """Lay all layers from one on over the composite; groups lie on nothing at first."""
    layers, t, size = tables.layers, room.t, len(spans) * chunk.n
    depth = 0
    for layer in range(first, layers.shape[0]):
        kind = layers[layer].kind
        if kind == GROUP_BEGIN:
            outer = room.beneath[depth * GROUP_FLOATS :]
            begin_group(t, outer, size)
            outer[SOLID] = ONE if solid else ZERO
            depth += 1
            solid = False
            continue
        if kind == GROUP_END:
            depth -= 1
            outer = room.beneath[depth * GROUP_FLOATS :]
            end_group(t, outer, layers[layer].opacity, size)
            solid = outer[SOLID] == ONE
        solid = lay_layer(tables, layer, chunk, spans, room, solid)


@njit(**WRITTEN_IN)
def put_lines(
    kept: np.ndarray,
    thresholds: np.ndarray,
    out: np.ndarray,
    chunk: Chunk,
    lines: int,
    t: np.ndarray,
) -> None:
    """Write a chunk out, or put it by for others to be laid over it."""
    start, n = chunk.start, chunk.n
    for line in range(lines):
        here, at = t[line * n :], chunk.row + line
        if kept.shape[0] > 0:
            put_by(here, kept, at, start, n)
        else:
            threshold = thresholds[at % thresholds.shape[0]]
            store(here, threshold, out[at, start : start + n], n)


@njit(
    types.void(
        LAYER_TYPE[::1],
        STEP_TYPE[::1],
        TONE_TYPE[::1],
        types.f4[::1],
        types.f4[::1],
        types.u2[:, :, ::1],
        types.u2[:, :, ::1],
        types.f4[:, ::1],
        types.f4[::1],
        types.i8[:, :, ::1],
        types.u4[:, ::1],
        types.i8,
        types.i8,
        types.i8,
        types.i8,
    ),
    **KERNEL,
)
def compose_rows_into(
    layers: np.ndarray,
    steps: np.ndarray,
    tones: np.ndarray,
    numbers: np.ndarray,
    background: np.ndarray,
    base: np.ndarray,
    kept: np.ndarray,
    thresholds: np.ndarray,
    scratch: np.ndarray,
    spans: np.ndarray,
    out: np.ndarray,
    first: int,
    last: int,
    left: int,
    end: int,
) -> None:
    """Compose rows first..last and columns left..end (both exclusive) into `out`.

    `steps` are those of all masks, each layer's one after the other; so are `tones`,
    whose numbers lie in `numbers`. Where `base`, rows of four planes, is not empty,
    layers are laid over it instead of the background; where `kept` is not empty, the
    result goes there instead of to `out`. `thresholds`, rows of a chunk's length that
    repeat, is what is added to levels before they are cut off. `scratch` has
    `scratch_floats` values and begins where a line of memory does; `spans` has
    SPAN_COLUMNS for each layer in each line of a chunk.
    """
    layers, background, thresholds = (
        borrowed(layers),
        borrowed(background),
        borrowed(thresholds),
    )
    base, kept, out = borrowed(base), borrowed(kept), borrowed(out)
    scratch, all_spans = borrowed(scratch), borrowed(spans)
    steps, tones, numbers = borrowed(steps), borrowed(tones), borrowed(numbers)
    tables = Tables(layers, steps, tones, numbers)
    room = room_in(scratch)
    most = all_spans.shape[0]
    step = chunk_length(end - left)
    for row in range(first, last, most):
        spans = all_spans[: min(most, last - row)]
        for start in range(left, end, step):
            n = min(step, end - start)
            below, right = 0, step
            if start + step >= end:
                below, right = most, left - start
            chunk = Chunk(row, start, n, below, right)
            find_spans(tables, chunk, spans)
            lowest = lowest_shown(layers, spans, n)
            if lowest >= 0:
                lay_lowest(tables, lowest, chunk, spans, room)
            else:
                lay_ground(background, base, chunk, len(spans), room.t)
            solid = lowest >= 0 or background[3] == ONE
            lay_layers(tables, lowest + 1, chunk, spans, room, solid)
            put_lines(kept, thresholds, out, chunk, len(spans), room.t)
