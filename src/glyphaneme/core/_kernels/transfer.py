"""The sRGB transfer curves, cube roots and powers by arithmetic alone.

Nothing here branches, divides twice or reads a table, so that every loop that calls it
is vectorised: a table of 1024 cells costs four times as much and errs by 3 levels near
black. `tools/fit_transfer.py` fitted the numbers; IEC 61966-2-1 gives the curves.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import INLINED, ONE, ZERO

F32 = np.float32
I32 = np.int32
THIRD = F32(1 / 3)
SLOPE, UNSLOPE = F32(12.92), F32(1 / 12.92)
DECODE_LOW, ENCODE_LOW = F32(0.04045), F32(0.0031308)
SMALLEST = F32(1e-12)

# Chebyshev, degree 7, of ((x + 0.055) / 1.055) ^ 2.4 over 0.04045..1: 3e-6.
D0, D1, D2, D3, D4, D5, D6, D7 = (
    F32(one)
    for one in (
        0.00088071945,
        0.034307856,
        0.49808115,
        0.7859929,
        -0.6167091,
        0.4819667,
        -0.23517612,
        0.050656643,
    )
)
# Rational of the square root, 1.055 s ^ (2 / 2.4) - 0.055: 0.005 levels.
N0, N1, N2, N3 = (F32(one) for one in (-0.047145702, 1.3450525, 10.591399, 4.3515253))
Q1, Q2 = F32(9.186853), F32(6.0536895)
# A guess from the bits of 1 / cube root, and one step of fifth order: less leaves the
# gamut's edge off by up to 3 levels near white.
ROOT_BITS = I32(1419899116)
A0, A1, A2, A3, A4, A5 = (
    F32(one)
    for one in (1.0, 0.33333334, 0.22221531, 0.17283326, 0.14578976, 0.12641841)
)
# log2 of 1..2 and exp2 of 0..1.
L0, L1, L2, L3, L4, L5, L6 = (
    F32(one)
    for one in (
        -3.0291514,
        6.0668716,
        -5.2616825,
        3.2128003,
        -1.229291,
        0.2650243,
        -0.024568535,
    )
)
X0, X1, X2, X3, X4, X5 = (
    F32(one)
    for one in (
        0.9999999,
        0.6931545,
        0.24014182,
        0.055860337,
        0.008949591,
        0.001893754,
    )
)


@njit(**INLINED)
def bits_of(x: F32) -> I32:
    """Return the bits of a float32."""
    return F32(x).view(np.int32)


@njit(**INLINED)
def of_bits(bits: I32) -> F32:
    """Return the float32 that has these bits."""
    return I32(bits).view(np.float32)


@njit(**INLINED)
def decoded(x: F32) -> F32:
    """Return the linear light of an sRGB component 0..1."""
    high = D0 + x * (D1 + x * (D2 + x * (D3 + x * (D4 + x * (D5 + x * (D6 + x * D7))))))
    return x * UNSLOPE if x <= DECODE_LOW else high


@njit(**INLINED)
def encoded(x: F32) -> F32:
    """Return the sRGB component of linear light, held within 0..1."""
    x = min(max(x, ZERO), ONE)
    s = np.sqrt(x)
    high = (N0 + s * (N1 + s * (N2 + s * N3))) / (ONE + s * (Q1 + s * Q2))
    return x * SLOPE if x <= ENCODE_LOW else high


@njit(**INLINED)
def cube_root(x: F32) -> F32:
    """Return the cube root of any number, to 3e-7 of it."""
    size = abs(x) + SMALLEST
    y = of_bits(ROOT_BITS - I32(F32(bits_of(size)) * THIRD))
    rest = ONE - size * (y * y * y)
    step = A0 + rest * (A1 + rest * (A2 + rest * (A3 + rest * (A4 + rest * A5))))
    y = y * step
    return x * (y * y)


@njit(**INLINED)
def logarithm(x: F32) -> F32:
    """Return the logarithm to base 2 of a normal number above 0."""
    bits = bits_of(x)
    whole = F32((bits >> I32(23)) - I32(127))
    m = of_bits((bits & I32(0x7FFFFF)) | I32(0x3F800000))
    return whole + (L0 + m * (L1 + m * (L2 + m * (L3 + m * (L4 + m * (L5 + m * L6))))))


@njit(**INLINED)
def two_to(x: F32) -> F32:
    """Return 2 to a power from -126 up."""
    floor = np.floor(x)
    f = x - floor
    scaled = X0 + f * (X1 + f * (X2 + f * (X3 + f * (X4 + f * X5))))
    return of_bits(bits_of(scaled) + (I32(floor) << I32(23)))
