"""Compiles kernels, or loads them where that was done before.

Run as a module, those of one share: two processes are done in two thirds of the time.
"""

from __future__ import annotations

import gc
import sys
from importlib import import_module

SHARES = (
    # Tables of tones are worked out by loops that are the compositor's too.
    ("composing", "tabling"),
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
        "tiling",
        "warping",
    ),
)
"""Modules of kernels: the compositor takes longer than all others."""


def load_kernels(share: int) -> None:
    """Load the kernels of one share; those that are new on this machine take a minute.

    Parameters
    ----------
    share : int
        Which of `SHARES`.
    """
    for name in SHARES[share]:
        import_module(f"glyphaneme.core._kernels.{name}")


if __name__ == "__main__":
    # The compiler makes millions of small objects and keeps most: to walk them again
    # and again took a quarter of its time. This process ends when it is done.
    gc.disable()
    load_kernels(int(sys.argv[1]))
