"""Which places layers mend of what lies beneath them, and what each follows from."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.document.grouping import lowered_through
from glyphaneme.core.document.model import (
    NEUTRAL,
    GroupLayer,
    MendingLayer,
    PlacedLayer,
    members_of,
    path_in,
)
from glyphaneme.core.document.reading import others_read
from glyphaneme.core.mend import AROUND, PATCH_VERSION
from glyphaneme.core.render.views import View
from glyphaneme.core.render.visibility import (
    NOTHING,
    Ground,
    looks_around,
    seen_from,
    source_map,
    spreads,
    touches,
)

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Canvas, Layer
    from glyphaneme.core.mend import Mend
    from glyphaneme.core.place import Pyramid, Rect

KEPT = 64
UNSEEN = {"name", "locked"}
BARE = NEUTRAL | {"mask": None, "fades": ()}


class MendedPlace(NamedTuple):
    """One place that is mended, and all that fills it."""

    name: str
    """The same only where the pixels are."""
    mend: Mend
    """In the pixels of the pile that it lies in."""
    on: Ground
    """What lies beneath it there, with places of the same layer mended before."""
    others: tuple[Layer, ...]
    """Those that masks of these read, as they lie in the pile."""

    @property
    def view(self) -> View:
        """The part of the pile that it is filled from, pixel by pixel."""
        return _view_of(_surroundings(self.mend, self.on.canvas))


def _surroundings(mend: Mend, canvas: Canvas | None) -> Rect[int]:
    """Return what a place is filled from: what lies beside the sheet does not count."""
    if canvas is None:
        return mend.surroundings
    return mend.area(canvas.width, canvas.height, AROUND)


def _view_of(area: Rect[int]) -> View:
    return View(area.left, area.top, area.width, area.height, 1)


class Tile(NamedTuple):
    """Pixels that are laid in a pile, so far from its left and top."""

    left: int
    top: int
    pyramid: Pyramid


@dataclass(frozen=True, eq=False)
class Laid:
    """What fills one place that is mended; two are the same if they are one."""

    tiles: tuple[Tile, ...]
    is_rough: bool = False
    """Whether it is filled smoothly, or not at all, as yet."""

    @property
    def nbytes(self) -> int:
        """How much memory it takes."""
        return sum(tile.pyramid.nbytes for tile in self.tiles)


def mended_places_of(
    layer: MendingLayer, on: Ground, pile: tuple[Layer, ...]
) -> tuple[MendedPlace, ...]:
    """Return the places that a layer mends.

    Parameters
    ----------
    layer : MendingLayer
        Which.
    on : Ground
        What lies beneath it.
    pile : tuple of Layer
        All layers of the composite.

    Returns
    -------
    tuple of MendedPlace
        Those at work, in their order; none where nothing lies beneath.
    """
    shown = tuple(one for one in on.layers if one.visible and one.opacity)
    working = tuple(mend for mend in layer.mends if mend.works)
    is_clear = on.canvas is None or on.canvas.background is None
    if not working or (is_clear and not shown):
        return ()
    groups = [
        one for one in path_in(pile, layer.id) or () if isinstance(one, GroupLayer)
    ]
    others = tuple(
        tuple(lowered_through(other, groups) for other in others_read(one, pile))
        for one in shown
    )
    bare = layer.model_copy(update=BARE | {"mends": working})
    return _patches(bare, on._replace(layers=shown), others)


@lru_cache(KEPT)
def _patches(
    layer: MendingLayer, on: Ground, others: tuple[tuple[Layer, ...], ...]
) -> tuple[MendedPlace, ...]:
    said = [_said(one, *read) for one, read in zip(on.layers, others, strict=True)]
    ground = on.canvas and on.canvas.background
    read = tuple({one.id: one for each in others for one in each}.values())
    found: list[MendedPlace] = []
    filled: list[tuple[Rect[int], str]] = []
    for place, mend in enumerate(layer.mends):
        around = _surroundings(mend, on.canvas)
        view = _view_of(around)
        if view.width <= 0 or view.height <= 0:
            continue
        near = [said[at] for at in _counting(on.layers, view)]
        before = [earlier for box, earlier in filled if box.meets(around)]
        how = mend.model_dump_json(include={"points", "size"})
        text = json.dumps([PATCH_VERSION, ground, around, how, near, before])
        name = f"patch-{hashlib.sha256(text.encode()).hexdigest()}"
        earlier = layer.model_copy(update={"mends": layer.mends[:place]})
        found.append(MendedPlace(name, mend, on.with_layers((earlier,)), read))
        filled.append((mend.box(), name))
    return tuple(found)


def _said(*layers: Layer) -> str:
    """Say all that the pixels of layers follow from, beside pictures."""
    return "\n".join(one.model_dump_json(exclude=UNSEEN) for one in layers)


def _counting(layers: tuple[Layer, ...], view: View) -> list[int]:
    """Return the places of layers that may count in a view, lower ones first."""
    found: list[int] = []
    looked_at = False
    for at in reversed(range(len(layers))):
        # What is mended or blurred in the view may come from beyond it.
        if looked_at or _may_show(layers[at], view):
            found.insert(0, at)
        looked_at = looked_at or looks_around(layers[at])
    return found


def _may_show(layer: Layer, view: View) -> bool:
    if not isinstance(layer, PlacedLayer) or spreads(layer):
        return True
    return seen_from(layer, view.to_canvas, view) is not None


def mended_places_in(
    layers: tuple[Layer, ...],
    pile: tuple[Layer, ...],
    on: Ground = NOTHING,
    view: View | None = None,
    to_pile: MatrixF64 | None = None,
    *,
    hidden: bool = False,
) -> Iterator[MendedPlace]:
    """Go through all places that layers mend, those in groups too.

    Parameters
    ----------
    layers : tuple of Layer
        Of one pile, from back to front.
    pile : tuple of Layer
        All layers of the composite.
    on : Ground
        What they lie on.
    view : View, optional
        What is shown; everything where it is not said.
    to_pile : (3, 3) float64, optional
        Maps the view's pixels to what the layers lie in, where that is not the canvas.
    hidden : bool
        Whether those of hidden layers count too.

    Yields
    ------
    MendedPlace
        Lower ones first, as far as the view may show something of them.
    """
    lying = to_pile if to_pile is not None or view is None else view.to_canvas
    for place, layer in enumerate(layers):
        if not (hidden or (layer.visible and layer.opacity)):
            continue
        if isinstance(layer, MendingLayer):
            for one in mended_places_of(layer, on.with_layers(layers[:place]), pile):
                box = one.mend.box()
                if view is None or lying is None or touches(lying[:2], box, view):
                    yield one
        elif isinstance(layer, GroupLayer):
            inner = None
            if lying is not None:
                inner = np.vstack([source_map(layer) @ lying, (0, 0, 1)])
            members = members_of(layer)
            yield from mended_places_in(
                members, pile, view=view, to_pile=inner, hidden=hidden
            )
