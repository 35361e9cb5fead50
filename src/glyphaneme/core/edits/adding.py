"""Laying something new on: a photo, a colour, a gradient, tones, repairs."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import Field

from glyphaneme.core.color import Color
from glyphaneme.core.document.changing import with_layers
from glyphaneme.core.document.gradients import Gradient
from glyphaneme.core.document.model import (
    MAX_LAYERS,
    ColorLayer,
    GradientLayer,
    LayerId,
    MendingLayer,
    PhotoLayer,
    PictureId,
    Pixels,
    ToningLayer,
)
from glyphaneme.core.document.naming import Name
from glyphaneme.core.document.tree import inserted
from glyphaneme.core.edits.base import EditBase
from glyphaneme.core.place import Beside, Placement, fit_placement, side_by_side
from glyphaneme.core.place.limits import Position
from glyphaneme.core.tone import Tones
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer

LayerIndex = Annotated[int, Field(ge=0, le=MAX_LAYERS)]


class Adding(EditBase):
    """Lay one new layer over the others, or between them."""

    layer_id: LayerId
    name: Name
    index: LayerIndex | None = None
    """Counted from the back; None for in front of everything."""

    def applied(self, composite: Composite) -> Composite:
        place = len(composite.layers) if self.index is None else self.index
        return with_layers(
            composite, inserted(composite.layers, self.new_layer(composite), place)
        )

    def label(self, _composite: Composite) -> str:
        return f"{self.name} laid on"

    def new_layer(self, composite: Composite) -> Layer:
        """Return what is laid on.

        Parameters
        ----------
        composite : Composite
            The state before.

        Returns
        -------
        Layer
            Placed in what it is laid on.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError


class AddLayer(Adding):
    """Lay a picture over the others, whole in the middle unless told where.

    With `at` alone its middle comes to lie there; with `beside` it lies beside others
    that come with it; `placement` says all.
    """

    kind: Literal["add_layer"] = "add_layer"
    picture: PictureId
    width: Pixels
    height: Pixels
    at: tuple[Position, Position] | None = None
    beside: Beside | None = None
    placement: Placement | None = None

    def decided(self, composite: Composite) -> Self:
        return with_fields(self, placement=self._place(composite))

    def new_layer(self, composite: Composite) -> Layer:
        return PhotoLayer(
            id=self.layer_id,
            name=self.name,
            picture=self.picture,
            width=self.width,
            height=self.height,
            placement=self._place(composite),
        )

    def _place(self, composite: Composite) -> Placement:
        if self.placement is not None:
            return self.placement
        canvas = composite.canvas
        size = {"canvas_width": canvas.width, "canvas_height": canvas.height}
        if self.beside is not None:
            return side_by_side(self.width, self.height, self.beside, **size)
        placement = fit_placement(self.width, self.height, **size)
        if self.at is None:
            return placement
        return with_fields(placement, x=self.at[0], y=self.at[1])


class AddColor(Adding):
    """Lay one colour over everything."""

    kind: Literal["add_color"] = "add_color"
    color: Color

    def new_layer(self, _composite: Composite) -> Layer:
        return ColorLayer(id=self.layer_id, name=self.name, color=self.color)


class AddGradient(Adding):
    """Lay a gradient over everything."""

    kind: Literal["add_gradient"] = "add_gradient"
    gradient: Gradient

    def new_layer(self, _composite: Composite) -> Layer:
        return GradientLayer(id=self.layer_id, name=self.name, gradient=self.gradient)


class AddToning(Adding):
    """Tone everything beneath."""

    kind: Literal["add_toning"] = "add_toning"
    tones: Tones = ()

    def new_layer(self, _composite: Composite) -> Layer:
        return ToningLayer(id=self.layer_id, name=self.name, tones=self.tones)


class AddMending(Adding):
    """Mend what is made of everything beneath."""

    kind: Literal["add_mending"] = "add_mending"

    def new_layer(self, _composite: Composite) -> Layer:
        return MendingLayer(id=self.layer_id, name=self.name)
