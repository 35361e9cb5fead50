"""What somebody changed of a plan's picture, and what the plan may still change."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer
    from glyphaneme.core.plans.values import Facet

OF_FACET: dict[Facet, tuple[str, ...]] = {
    "lettering": ("words",),
    "wash": ("color", "gradient", "opacity", "blend", "visible"),
    "place": ("placement",),
    "cut": ("mask",),
    "fade": ("fades",),
    "blend": ("blend", "opacity"),
    "tone": ("tones",),
    "shadow": ("effects",),
}
"""What of a layer each facet changes."""


def is_touched(
    before: Composite, now: Composite, layer_id: str | None, facet: Facet
) -> bool:
    """Tell whether somebody changed what a step is about.

    Parameters
    ----------
    before : Composite
        As the plan left it.
    now : Composite
        As it stands.
    layer_id : str, optional
        Which layer of `before`; None where none was there.
    facet : str
        What of it.

    Returns
    -------
    bool
        Also where the layer is gone.
    """
    was = _layer(before, layer_id)
    if was is None:
        return False
    is_now = _layer(now, layer_id)
    return is_now is None or any(
        getattr(was, name, None) != getattr(is_now, name, None)
        for name in OF_FACET[facet]
    )


def renewed_where_untouched(
    before: Composite, now: Composite, after: Composite
) -> Composite:
    """Return a picture with what a plan found since, where nobody changed it.

    Parameters
    ----------
    before : Composite
        As the plan left it.
    now : Composite
        As it stands.
    after : Composite
        As the plan would make it now.

    Returns
    -------
    Composite
        `now` with those layers of `after` that are in `now` as they were in `before`.
        All of `after` where nothing was changed at all; where the sheet is another one
        after, and something was changed, `now` as it is.
    """
    if now == before:
        return after
    if before.canvas != after.canvas:
        return now
    layers: list[Any] = []
    for layer in now.layers:
        was, will = _layer(before, layer.id), _layer(after, layer.id)
        layers.append(will if was == layer and will is not None else layer)
    return with_fields(now, layers=tuple(layers))


def _layer(composite: Composite, layer_id: str | None) -> Layer | None:
    layers = composite.all_layers()
    return next((one for one in layers if one.id == layer_id), None)
