"""One layer by itself, in the frame of the whole."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import NEUTRAL, ToningLayer
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite


def alone(composite: Composite, layer_id: str) -> Composite:
    """Return a composite with one of its layers alone on the same sheet.

    Parameters
    ----------
    composite : Composite
        Any state.
    layer_id : str
        Which layer, in whatever groups.

    Returns
    -------
    Composite
        The layer lies where it lies, with its mask; how it joins those beneath it, by
        blend mode, opacity and fades, does not count, and it is shown if it was hidden.

    Raises
    ------
    LayerMissingError
        There is no such layer.
    NoSuchWorkError
        It only tones others, and has no pixels of its own.
    """
    path = composite.path_to(layer_id)
    if isinstance(path[-1], ToningLayer):
        raise NoSuchWorkError(path[-1].kind, "has no pixels of its own")
    plain = NEUTRAL | {"name": path[-1].name, "fades": ()}
    return with_fields(composite, layers=(with_fields(on_canvas(path), **plain),))
