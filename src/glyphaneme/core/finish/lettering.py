"""Which words a page can hold as words: those that nothing is laid over or done to."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, NamedTuple

import numpy as np

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.model import ChangingLayer, FlatLayer, WordsLayer
from glyphaneme.core.document.reading import others_read
from glyphaneme.core.place import corners_on_canvas
from glyphaneme.core.render.reaching import reach_of
from glyphaneme.core.render.views import View
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.typesetting import typeset
from glyphaneme.core.words.values import PlainInk

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.place import Rect
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.words.typesetting import Typeset

PLAIN: Final = {"mask": None, "fades": (), "effects": (), "tones": ()}


class SetWords(NamedTuple):
    """Words that are drawn as letters, and not as pixels."""

    found: Typeset
    to_canvas: NDArray[np.float64]
    """Maps their own pixels to the canvas; (2, 3) float64."""
    color: str
    opacity: float


def words_apart(
    composite: Composite, assets: Assets
) -> tuple[Composite, list[SetWords]]:
    """Take those words out of a composite that can be drawn over all the rest.

    Parameters
    ----------
    composite : Composite
        What is shown.
    assets : mapping of id to what a render reads
        With the fonts of the words.

    Returns
    -------
    composite : Composite
        Without them.
    words : list of SetWords
        From back to front. They are of one colour, neither masked, faded, toned,
        blended nor shaped; nothing lies over them, and nothing else follows from them.
    """
    canvas = composite.canvas
    whole = View(0, 0, canvas.width, canvas.height, 1.0)
    over: list[Rect[int]] = []
    found: dict[str, SetWords] = {}
    for layer in reversed(composite.layers):
        if not layer.visible:
            continue
        if isinstance(layer, ChangingLayer) or not isinstance(layer, FlatLayer):
            # All that lies beneath may be changed, or covered.
            break
        reach = reach_of(layer, whole)
        words = _set(layer, assets) if isinstance(layer, WordsLayer) else None
        free = not any(reach.meets(other) for other in over)
        if words is not None and free and not _is_read(layer, composite):
            found[layer.id] = words
        else:
            over.append(reach)
    left = tuple(layer for layer in composite.layers if layer.id not in found)
    in_order = [found[layer.id] for layer in composite.layers if layer.id in found]
    return with_fields(composite, layers=left), in_order


def _set(layer: WordsLayer, assets: Assets) -> SetWords | None:
    ink = layer.words.ink
    plain = all(getattr(layer, name) == nothing for name, nothing in PLAIN.items())
    if (
        not plain
        or layer.blend is not BlendMode.NORMAL
        or layer.placement.is_warped
        or not isinstance(ink, PlainInk)
        or layer.words.contour is not None
        or layer.words.panel is not None
    ):
        return None
    faces = {
        one.id: face
        for one in layer.words.setting.fonts
        if isinstance(face := assets.get(one.id), Face)
    }
    if len(faces) < len(layer.words.setting.fonts):
        return None
    corners = corners_on_canvas(layer.placement, width=layer.width, height=layer.height)
    axes = (corners[[1, 3]] - corners[0]) / [[layer.width], [layer.height]]
    to_canvas = np.column_stack([*axes, corners[0]])
    opacity = ink.opacity * layer.opacity
    return SetWords(typeset(layer.words, faces), to_canvas, ink.color, opacity)


def _is_read(layer: Layer, composite: Composite) -> bool:
    """Tell whether another layer's mask follows from a layer."""
    return any(
        layer in others_read(other, composite.layers)
        for other in composite.layers
        if other is not layer
    )
