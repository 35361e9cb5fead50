"""Fits the formulas of `core/_kernels/transfer.py`, and says how far they are off.

`PYTHONPATH=src python -m tools.fit_transfer`
"""

from __future__ import annotations

import sys
from typing import TYPE_CHECKING

import numpy as np
from numpy.polynomial import Polynomial
from numpy.polynomial.chebyshev import Chebyshev

if TYPE_CHECKING:
    from collections.abc import Callable

    Curve = Callable[[np.ndarray], np.ndarray]

LINEAR_BELOW, ENCODED_BELOW = 0.0031308, 0.04045
"""Where the straight part of sRGB ends (IEC 61966-2-1)."""
ROUNDS = 60
NEAR_ROOT = 1_419_967_116
"""Four thirds of the bits of 1, nearly: less a third of a number's, its guess."""


def decoded(x: np.ndarray) -> np.ndarray:
    """Return linear light, above the straight part."""
    return ((x + 0.055) / 1.055) ** 2.4


def encoded_of_root(root: np.ndarray) -> np.ndarray:
    """Return the encoded value of linear light, by its square root."""
    return 1.055 * root ** (2 / 2.4) - 0.055


def polynomial(curve: Curve, low: float, high: float, degree: int) -> np.ndarray:
    """Return the coefficients of Chebyshev's interpolation, lowest first."""
    fitted = Chebyshev.interpolate(curve, degree, domain=[low, high])
    # Window and domain alike, the coefficients are those of x itself.
    return fitted.convert(kind=Polynomial, domain=[-1, 1]).coef


def rational(
    curve: Curve, low: float, high: float, above: int, below: int
) -> tuple[np.ndarray, np.ndarray]:
    """Return both polynomials of a quotient by Lawson's weights, the best of many."""
    x = low + (high - low) * (np.cos(np.linspace(0, np.pi, 4000)) + 1) / 2
    y = curve(x)
    weight, bottom = np.ones_like(x), np.ones_like(x)
    best = (np.inf, np.zeros(0), np.zeros(0))
    for _ in range(ROUNDS):
        columns = [x**power for power in range(above + 1)]
        columns += [-y * x**power for power in range(1, below + 1)]
        scale = np.sqrt(weight) / bottom
        matrix = np.column_stack(columns) * scale[:, None]
        found = np.linalg.lstsq(matrix, y * scale, rcond=None)[0]
        top = np.polyval(found[above::-1], x)
        down = np.r_[1, found[above + 1 :]]
        bottom = np.polyval(down[::-1], x)
        error = np.abs(top / bottom - y)
        if error.max() < best[0]:
            best = (float(error.max()), found[: above + 1], down)
        weight *= np.sqrt(error / error.max() + 1e-3)
        weight /= weight.sum()
    return best[1], best[2]


def root_guess() -> tuple[int, float]:
    """Return the bits that 1 / cube root is guessed from, and its largest rest."""
    x = np.exp2(np.linspace(0, 6, 20_001)).astype(np.float32)
    thirds = (x.view(np.int32).astype(np.float32) * np.float32(1 / 3)).astype(np.int32)
    rests = {}
    for bits in range(NEAR_ROOT - 600_000, NEAR_ROOT + 600_000, 4000):
        guess = (np.int32(bits) - thirds).view(np.float32).astype(float)
        rests[bits] = float(np.abs(1 - x * guess**3).max())
    best = min(rests, key=rests.__getitem__)
    return best, rests[best]


def main() -> None:
    """Print the coefficients, and the largest error of each formula."""
    root = float(np.sqrt(LINEAR_BELOW))
    top, bottom = rational(encoded_of_root, root, 1, 3, 2)
    bits, rest = root_guess()
    sys.stdout.write(f"bits of 1 / cube root: {bits}\n")
    _say("decode", decoded, (ENCODED_BELOW, 1), 7)
    _say("step of 1 / cube root", lambda h: (1 - h) ** (-1 / 3), (-rest, rest), 5)
    _say("log2", np.log2, (1, 2), 6)
    _say("exp2", np.exp2, (0, 1), 5)
    x = np.linspace(root, 1, 100_001)
    error = np.abs(_at(top, x) / _at(bottom, x) - encoded_of_root(x)).max()
    for name, coefficients in (("above", top), ("below", bottom)):
        sys.stdout.write(f"encode, {name}: {_listed(coefficients)}\n")
    sys.stdout.write(f"  off by {error:.1e} at most\n")


def _at(coefficients: np.ndarray, x: np.ndarray) -> np.ndarray:
    return np.polyval(coefficients[::-1], x)


def _say(name: str, curve: Curve, ends: tuple[float, float], degree: int) -> None:
    coefficients = polynomial(curve, *ends, degree)
    x = np.linspace(*ends, 100_001)
    error = np.abs(_at(coefficients, x) - curve(x)).max()
    sys.stdout.write(f"{name}: {_listed(coefficients)}\n  off by {error:.1e} at most\n")


def _listed(coefficients: np.ndarray) -> str:
    return ", ".join(str(np.float32(one)) for one in coefficients)


if __name__ == "__main__":
    main()
