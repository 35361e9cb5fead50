"""Which part of a sheet shows anything at all."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import numpy as np

from glyphaneme.core.place import Rect
from glyphaneme.core.render.rendering import render
from glyphaneme.core.render.views import View

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.core.render.assets import Assets

LOOKED_AT: Final = 1600
"""How many pixels the longer side has that is looked at."""


def shown_part(
    composite: Composite, assets: Assets, whole: Composite
) -> Rect[float] | None:
    """Return the smallest part of a sheet that has all that shows on it.

    Parameters
    ----------
    composite : Composite
        On a clear sheet.
    assets : mapping
        All that rendering it reads.
    whole : Composite
        Where masks by other layers find those.

    Returns
    -------
    Rect, or None
        In whole pixels of the canvas, at most one pixel of what is looked at too large
        on each side; None where nothing shows.
    """
    canvas = composite.canvas
    scale = min(1.0, LOOKED_AT / max(canvas.width, canvas.height))
    width, height = (
        max(1, round(side * scale)) for side in (canvas.width, canvas.height)
    )
    view = View(0, 0, width, height, scale)
    shows = render(composite, assets, view, pile=whole.layers)[..., 3] > 0
    if not shows.any():
        return None
    across, down = np.flatnonzero(shows.any(axis=0)), np.flatnonzero(shows.any(axis=1))
    # Shown small, a pixel may have lost what only touches it.
    slack = 0 if scale == 1 else 1
    return Rect(
        float(np.floor(max(0, across[0] - slack) / scale)),
        float(np.floor(max(0, down[0] - slack) / scale)),
        min(float(canvas.width), float(np.ceil((across[-1] + 1 + slack) / scale))),
        min(float(canvas.height), float(np.ceil((down[-1] + 1 + slack) / scale))),
    )
