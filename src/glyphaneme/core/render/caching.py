"""Renders frame after frame of the same picture, and keeps what they have in common.

While strokes are painted, all but the part that they change stays as it is. While one
layer is worked on, what lies beneath it stays, and so do the pixels of the
layers above it, and its own where its tones alone change. All are kept once two frames
in a row had them: a view that moves with every frame, as in zooming, keeps nothing and
pays nothing.
"""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, NamedTuple
from weakref import ReferenceType, ref

import numpy as np

from glyphaneme.core.bands import LITTLE
from glyphaneme.core.document.model import NEUTRAL, Layer, PlacedLayer
from glyphaneme.core.mask.paintings import Painting
from glyphaneme.core.render.composing import (
    NO_BASE,
    Base,
    Into,
    background_of,
    compose,
    compose_base,
    require_view,
)
from glyphaneme.core.render.finer import Fineness, Finer, as_it_is, finer, samples_for
from glyphaneme.core.render.following import followed
from glyphaneme.core.render.passes import Passes
from glyphaneme.core.render.reaching import reach_of
from glyphaneme.core.render.reading import NOTHING_PLACED, Placed, Reading
from glyphaneme.core.render.rendering import render_exact
from glyphaneme.core.render.repainted import Repainted, repainted, strokes_between
from glyphaneme.core.render.sheets import Sheets
from glyphaneme.core.render.tables import build_table
from glyphaneme.core.render.views import View
from glyphaneme.core.render.visibility import Ground
from glyphaneme.core.tone import split
from glyphaneme.core.weighed import ENTRY, WeighedCache

if TYPE_CHECKING:
    from collections.abc import Callable, Hashable, Mapping

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document.model import Composite
    from glyphaneme.core.place import Rect
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.rows import Table

LARGEST_KEPT = 2560 * 1600
"""Pixels up to which exact frames are kept: they are blended of four times as many."""
CLEAR = np.zeros(4, np.float32)
NO_FRAME = np.empty((0, 0, 4), np.uint8)
NO_PAINTINGS: Mapping[str, ReferenceType[Painting]] = {}
LEAST_SHARE = 8
"""Of a frame: where less is stale, making what could be kept takes longer."""


class Seen(NamedTuple):
    """A layer, and all others that its masks read, as they lie on the canvas."""

    layer: Layer
    others: tuple[Layer, ...]


class Written(NamedTuple):
    """A table that keeps nothing alive of what it points into."""

    table: Table
    alive: tuple[ReferenceType[object], ...]


class Scene(NamedTuple):
    """What is kept of one picture in one view; replaced whole, never changed."""

    layers: tuple[Seen, ...] = ()
    base: Base = NO_BASE
    beneath: int = 0
    """How many of `layers` lie in `base`."""
    placed: Mapping[str, Placed] = NOTHING_PLACED
    is_settled: bool = False
    """Whether all has been kept that the frame before had too."""
    frame: PixelsU8 = NO_FRAME
    written: Written | None = None
    paintings: Mapping[str, ReferenceType[Painting]] = NO_PAINTINGS
    """What strokes left in it, by the last one; kept where they are kept anyhow."""

    @property
    def size(self) -> int:
        """How many bytes it holds."""
        placed = sum(one.pixels.nbytes for one in self.placed.values())
        return self.base.planes.nbytes + self.frame.nbytes + placed + ENTRY

    @property
    def table(self) -> Table | None:
        """What the frame was composed from, where all of that is there still."""
        if self.written is None:
            return None
        alive = tuple(one() for one in self.written.alive)
        if any(one is None for one in alive):
            return None
        return self.written.table._replace(alive=alive)


NO_SCENE = Scene()


class FrameCache:
    """Renders frames like `render`, faster where they resemble the one before.

    Kept pixels are rounded to 8 bits a layer (16 for what lies beneath), so that a
    frame may differ from `render`'s by a level; while a layer's tones change, by as
    much as they make of a level of it. Safe to use from several threads.

    Parameters
    ----------
    budget : int, bytes
        How much to keep; the least lately used goes first.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> bare = Composite(canvas=Canvas(width=4, height=4, background="#ff8000"))
    >>> frames = FrameCache(1_000_000)
    >>> frames.render("poster", bare, {}, View(0, 0, 2, 2, 0.5))[0, 0].tolist()
    [255, 128, 0, 255]
    """

    def __init__(self, budget: int) -> None:
        self._budget = budget
        self._sheets = Sheets()
        self._scenes: WeighedCache[tuple[Hashable, ...], Scene] = WeighedCache(
            budget, lambda one: one.size
        )

    @property
    def size(self) -> int:
        """How many bytes are kept of scenes; sheets have a budget of their own."""
        return self._scenes.weight

    def render(
        self,
        picture: Hashable,
        composite: Composite,
        assets: Assets,
        view: View,
        *,
        fineness: Fineness = "quick",
        pile: tuple[Layer, ...] | None = None,
    ) -> PixelsU8:
        """Render a view of a composite.

        Parameters
        ----------
        picture : hashable
            Which picture it is: frames of one picture resemble each other.
        composite, assets, view
            As for `render`.
        fineness : "quick", "fine" or "exact"
            How near to the export: quick for what moves, fine for what rests, exact, as
            `render_exact`, for what stays to be looked at. Each takes longer than the
            one before.
        pile : tuple of Layer, optional
            As for `render`.

        Returns
        -------
        (view.height, view.width, 4) uint8
            Straight RGBA, sRGB-encoded. It may be kept: not to be written to.

        Raises
        ------
        PixelsMissingError, PixelsShapeError, ViewSizeError
            As for `render`.
        """
        require_view(view)
        around = composite.layers if pile is None else pile
        if fineness != "exact" or view.scale >= 1:
            more = as_it_is(view)
        elif view.width * view.height > LARGEST_KEPT:
            return render_exact(composite, assets, view, pile=around)
        else:
            more = finer(view, samples_for(view))
        return self._shown(
            picture, composite, assets, more, averaged=fineness != "quick", pile=around
        )

    def forget(self, picture: Hashable) -> None:
        """Let go of what is kept of one picture: what it was made from has changed.

        Parameters
        ----------
        picture : hashable
            As for `render`.
        """
        self._scenes.drop(lambda key: key[0] == picture)

    def clear(self) -> None:
        """Let go of everything."""
        self._scenes.clear()
        self._sheets.clear()

    def _shown(
        self,
        picture: Hashable,
        composite: Composite,
        assets: Assets,
        more: Finer,
        *,
        averaged: bool,
        pile: tuple[Layer, ...],
    ) -> PixelsU8:
        view = more.view
        key = (picture, more, composite.canvas, averaged)
        layers = tuple(
            Seen(one, followed((one,), pile).others)
            for one in composite.layers
            if one.visible and one.opacity
        )
        background = background_of(composite.canvas)
        passes = Passes(pile, assets, view, self._sheets, composite.canvas)
        before = self._scenes.get(key) or NO_SCENE
        reading = Reading(assets, view, passes, averaged=averaged)
        again = _repainted(before, layers, reading)
        if again is None:
            scene = _next_scene(before, layers, reading, background)
            table = build_table(
                tuple(one.layer for one in layers[scene.beneath :]),
                reading,
                placed=scene.placed,
                on=_ground(layers[: scene.beneath], reading),
            )
            frame = more.averaged(compose(table, background, view, base=scene.base))
        else:
            scene, table = before._replace(layers=layers), again.table
            composed = partial(compose, table, background, view, base=scene.base)
            frame = _renewed(before.frame, again.stale, more, composed)
        scene = _with_frame(scene, frame, table, assets)
        # One of many layers on a large screen may be more than is ever kept.
        self._scenes.put(key, scene if scene.size <= self._budget else NO_SCENE)
        return frame


def _renewed(
    frame: PixelsU8, stale: Rect[int], more: Finer, composed: Callable[..., PixelsU8]
) -> PixelsU8:
    """Return a frame with what is stale of the pixels it is made of composed anew."""
    out = frame.copy()
    if more.step == 1:
        return composed(into=Into(out, stale))
    shown = more.shown_in(stale)
    if shown.is_empty:
        return out
    part, place = more.of_part(shown)
    # What is not written of it takes no memory.
    whole = np.empty((more.view.height, more.view.width, 4), np.uint8)
    left, top, right, bottom = place
    blended = composed(into=Into(whole, place))[top:bottom, left:right]
    made = part.averaged(np.ascontiguousarray(blended))
    out[shown.window] = made
    return out


def _with_frame(scene: Scene, frame: PixelsU8, table: Table, assets: Assets) -> Scene:
    # Tones stretch what was rounded before them: the frame after shall not have that.
    if not all(one.toned for one in scene.placed.values()):
        return scene._replace(frame=NO_FRAME)
    paintings = {
        name: ref(one) for name, one in assets.items() if isinstance(one, Painting)
    }
    written = Written(
        table._replace(alive=()),
        tuple(ref(one) for one in table.alive if one is not None),
    )
    return scene._replace(frame=frame, written=written, paintings=paintings)


def _repainted(
    before: Scene, layers: tuple[Seen, ...], reading: Reading
) -> Repainted | None:
    """Return the table of the frame before, where other strokes alone are in it."""
    table = before.table
    others = [one.others for one in before.layers] == [one.others for one in layers]
    if table is None or not others:
        return None
    strokes = strokes_between(
        tuple(one.layer for one in before.layers), tuple(one.layer for one in layers)
    )
    if strokes is None:
        return None

    def painting_of(last: str) -> Painting | None:
        found = reading.assets.get(last)
        if found is None and last in before.paintings:
            found = before.paintings[last]()
        return found if isinstance(found, Painting) else None

    again = repainted(table, strokes, painting_of, reading.view)
    if again is None or not (
        before.is_settled or _is_little(again.stale, reading.view)
    ):
        return None
    return again


def _is_little(stale: Rect[int], view: View) -> bool:
    """Tell whether so little is composed that nothing need be kept for it."""
    return view.width * view.height > LITTLE + LEAST_SHARE * stale.area


def _next_scene(
    before: Scene,
    layers: tuple[Seen, ...],
    reading: Reading,
    background: NDArray[np.float32],
) -> Scene:
    """Keep what both the frame before and this one have."""
    same = _common(before.layers, layers)
    base, beneath = before.base, before.beneath
    if beneath > same:
        base, beneath = NO_BASE, 0
    # With nothing above it, the base alone would be the frame that is there already.
    if beneath < same < len(layers):
        table = build_table(
            tuple(one.layer for one in layers[beneath:same]),
            reading,
            placed=before.placed,
            on=_ground(layers[:beneath], reading),
        )
        base = compose_base(table, background, reading.view, base=base)
        beneath = same
    placed = _placed_again(before, layers[beneath:], reading)
    is_settled = 0 < len(before.layers) == len(layers)
    return Scene(layers, base, beneath, placed, is_settled)


def _ground(layers: tuple[Seen, ...], reading: Reading) -> Ground:
    return Ground(tuple(one.layer for one in layers), reading.passes.canvas)


def _common(one: tuple[Seen, ...], other: tuple[Seen, ...]) -> int:
    pairs = zip(one, other, strict=False)
    return next(
        (place for place, (a, b) in enumerate(pairs) if not _is_same(a, b)),
        min(len(one), len(other)),
    )


def _is_same(one: Seen, other: Seen) -> bool:
    alike = one.layer is other.layer or one.layer == other.layer
    return alike and one.others == other.others


def _placed_again(
    before: Scene,
    layers: tuple[Seen, ...],
    reading: Reading,
) -> dict[str, Placed]:
    """Return the pixels of layers that lie where they did a frame ago.

    Where only tones of single pixels differ, they are those before such tones.
    """
    last = {one.layer.id: one for one in before.layers}
    found = {}
    for seen in layers:
        layer = seen.layer
        if not isinstance(layer, PlacedLayer):
            continue  # colours and gradients are made faster than they are read
        same = last.get(layer.id)
        if same is None or same.others != seen.others:
            continue
        toned = layer.looks_like(same.layer)
        if not toned and not _untoned(layer).looks_like(_untoned(same.layer)):
            continue
        ready = before.placed.get(layer.id)
        if ready is None or ready.toned != toned:
            ready = _place(layer if toned else _untoned(layer), reading, toned=toned)
        if ready is not None:
            found[layer.id] = ready
    return found


def _untoned(layer: Layer) -> Layer:
    """Return a layer without what is worked out beside its pixels."""
    if not isinstance(layer, PlacedLayer) or not layer.tones:
        return layer
    return layer.model_copy(update={"tones": split(layer.tones).first})


def _place(layer: Layer, reading: Reading, *, toned: bool) -> Placed | None:
    """Render one layer alone, as far as it reaches in the view."""
    view = reading.view
    left, top, right, bottom = reach_of(layer, view)
    if left >= right or top >= bottom:
        return None
    part = View(
        x=view.x + left / view.scale,
        y=view.y + top / view.scale,
        width=right - left,
        height=bottom - top,
        scale=view.scale,
    )
    alone = layer.model_copy(update=NEUTRAL)
    passes = reading.passes.of_part(part)
    table = build_table((alone,), reading._replace(view=part, passes=passes))
    shown = compose(table, CLEAR, part)
    opaque = bool(shown[..., 3].min() == 255)
    return Placed(shown, left, top, opaque=opaque, toned=toned)
