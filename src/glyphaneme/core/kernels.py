"""Compiles kernels, or loads them where that was done before.

Run as a module, those of one share: two processes are done in two thirds of the time.
"""

from __future__ import annotations

import sys
from importlib import import_module

SHARES = (
    ("composing",),
    (
        "averaging",
        "carrying",
        "daubing",
        "halving",
        "matting",
        "nearness",
        "own_colors",
        "painting",
        "splitting",
        "tabling",
        "tiling",
        "warping",
    ),
)
"""Modules of kernels: the compositor takes longer than all others."""


def load_kernels(share: int) -> None:
    """Load the kernels of one share; those that are new on this machine take minutes.

    Parameters
    ----------
    share : int
        Which of `SHARES`.
    """
    for name in SHARES[share]:
        import_module(f"glyphaneme.core._kernels.{name}")


if __name__ == "__main__":
    load_kernels(int(sys.argv[1]))
