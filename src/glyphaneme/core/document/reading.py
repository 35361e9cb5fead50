"""Which layers read which others through their masks: every walk along them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import MAX_DEPTH, members_of
from glyphaneme.core.errors import LayerPartLimitError, MaskCircleError

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator, Mapping

    from glyphaneme.core.document.model import Layer

    Path = tuple[Layer, ...]

MAX_IN_A_ROW = 2 * MAX_DEPTH
"""How many layers in a row masks may read, and groups hold."""
MAX_LAYER_PARTS = 512
"""How many parts of all masks of a composite may be other layers."""


def all_of(layer: Layer) -> Iterator[Layer]:
    """Go through a layer and all that lies in it.

    Parameters
    ----------
    layer : Layer
        Any layer.

    Yields
    ------
    Layer
        A group right before its members.
    """
    yield layer
    for member in members_of(layer):
        yield from all_of(member)


def others_read(layer: Layer, pile: tuple[Layer, ...]) -> tuple[Layer, ...]:
    """Return the layers that a layer's masks read, and those that theirs do.

    Parameters
    ----------
    layer : Layer
        A group's members count too.
    pile : tuple of Layer
        All layers of the composite.

    Returns
    -------
    tuple of Layer
        As they lie on the canvas, each once; a layer that is gone is none.
    """
    waiting = list(_read_at_work(layer))
    if not waiting:
        return ()
    paths = dict(_paths_in(pile))
    found: dict[str, Layer] = {}
    for layer_id in waiting:
        path = paths.get(layer_id)
        if path is not None and layer_id not in found:
            found[layer_id] = on_canvas(path)
            waiting += _read_at_work(path[-1])
    return tuple(found.values())


def require_readable(layers: Iterable[Layer]) -> None:
    """Require masks of which none follows from its own layer, and not too many parts.

    Parameters
    ----------
    layers : iterable of Layer
        All layers of a composite, those in groups too.

    Raises
    ------
    LayerPartLimitError
        Too many parts of masks are other layers.
    MaskCircleError
        A layer's mask comes back to the layer itself, or reads too many in a row.
    """
    by_id = {layer.id: layer for layer in layers}
    read = {layer.id: _read_by(layer) for layer in by_id.values()}
    if sum(map(len, read.values())) > MAX_LAYER_PARTS:
        raise LayerPartLimitError(MAX_LAYER_PARTS)
    lengths: dict[str, int] = {}
    for layer_id, others in read.items():
        if others and _row_from(layer_id, by_id, lengths) > MAX_IN_A_ROW + 1:
            raise MaskCircleError(by_id[layer_id].name)


ENDLESS = 10**6
"""More layers in a row than there are."""


def _row_from(layer_id: str, by_id: Mapping[str, Layer], known: dict[str, int]) -> int:
    """Count how many layers follow in a row at most, the first among them.

    `known` remembers those that were counted; one that is being counted has no end.
    """
    if layer_id not in known:
        known[layer_id] = ENDLESS
        layer = by_id[layer_id]
        following = {*_read_by(layer), *(one.id for one in members_of(layer))}
        rows = [
            _row_from(one, by_id, known) for one in sorted(following) if one in by_id
        ]
        known[layer_id] = 1 + max(rows, default=0)
    return known[layer_id]


def _read_by(layer: Layer) -> list[str]:
    parts = layer.mask.parts if layer.mask else ()
    return [layer_id for part in parts for layer_id in part.reads.layers]


def _read_at_work(layer: Layer) -> Iterator[str]:
    """Yield the ids that a layer's masks read now, its members' too."""
    for one in all_of(layer):
        for part in one.mask.working if one.mask else ():
            yield from part.reads.layers


def _paths_in(pile: tuple[Layer, ...], above: Path = ()) -> Iterator[tuple[str, Path]]:
    for layer in pile:
        path = (*above, layer)
        yield layer.id, path
        yield from _paths_in(members_of(layer), path)
