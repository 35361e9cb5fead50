"""The composite as a frozen value: canvas, and layers from back to front.

Positions are canvas pixels from the top left corner, angles degrees clockwise,
opacity 0..1, colours #rrggbb in sRGB. A composite is stored as its own JSON.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Final, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.color import Color
from glyphaneme.core.document.gradients import Gradient, Opacity
from glyphaneme.core.document.naming import Name
from glyphaneme.core.effect import Effects
from glyphaneme.core.errors import (
    GroupStretchedError,
    LayerMissingError,
    NoSuchWorkError,
    NotMeasuredError,
)
from glyphaneme.core.mask import MAX_FADES, Fade, Mask
from glyphaneme.core.mend import MAX_MENDS, Mend
from glyphaneme.core.place import Placement
from glyphaneme.core.place.limits import Position
from glyphaneme.core.tone import Tones
from glyphaneme.core.words import Measure, Words

if TYPE_CHECKING:
    from collections.abc import Iterator

SCHEMA_VERSION: Final = 9
"""Of stored composites and edits; a new one needs a step in `upcasting`."""

MAX_SIDE = 30_000
MAX_LAYERS = 200
MAX_DEPTH = 8

LayerId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]
PictureId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]
Pixels = Annotated[int, Field(ge=1, le=MAX_SIDE)]
Extent = Annotated[int, Field(ge=1)]
Mends = Annotated[tuple[Mend, ...], Field(max_length=MAX_MENDS)]


class Canvas(BaseModel):
    """The sheet that the picture is made on; `background` None is clear."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    width: Pixels
    height: Pixels
    ppi: Annotated[float, Field(ge=1, le=4800, allow_inf_nan=False)] = 240.0
    background: Color | None = "#ffffff"


class Box(BaseModel):
    """Some whole pixels of what layers lie in."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    left: Position
    top: Position
    width: Extent
    height: Extent


class LayerBase(BaseModel):
    """What every layer has: how it is called, and how it joins those beneath it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: LayerId
    name: Name
    blend: BlendMode = BlendMode.NORMAL
    opacity: Opacity = 1.0
    visible: bool = True
    locked: bool = False
    mask: Mask | None = None
    fades: Annotated[tuple[Fade, ...], Field(max_length=MAX_FADES)] = ()
    effects: Effects = ()

    def looks_like(self, other: LayerBase) -> bool:
        """Tell whether another layer has the same pixels, however each joins the rest.

        Parameters
        ----------
        other : LayerBase
            Of any kind.

        Returns
        -------
        bool
            True where they differ in nothing but how they are called, how they blend,
            what their shapes lay beneath them, and whether they are shown and locked.

        Examples
        --------
        >>> dusk = ColorLayer(id="d", name="Dusk", color="#203040")
        >>> dusk.looks_like(ColorLayer(id="d", name="Night", color="#203040"))
        True
        """
        if self is other:
            return True
        return (
            type(self) is type(other) and vars(self) | NEUTRAL == vars(other) | NEUTRAL
        )


NEUTRAL: Final = {
    "name": "-",
    "blend": BlendMode.NORMAL,
    "opacity": 1.0,
    "visible": True,
    "locked": False,
    "effects": (),
}
"""What a layer's own pixels do not follow from, as it is when it does nothing."""


class PhotoLayer(LayerBase):
    """One photo, as it is laid over what lies beneath it.

    `width` and `height` are the photo's own, so that its place can be reckoned
    without its pixels.
    """

    kind: Literal["photo"] = "photo"
    picture: PictureId
    width: Extent
    height: Extent
    placement: Placement
    mends: Mends = ()
    tones: Tones = ()


class ColorLayer(LayerBase):
    """One colour over everything beneath it."""

    kind: Literal["color"] = "color"
    color: Color


class GradientLayer(LayerBase):
    """A gradient over everything beneath it."""

    kind: Literal["gradient"] = "gradient"
    gradient: Gradient


class WordsLayer(LayerBase):
    """Words, as they are set and inked.

    `width` and `height` are the frame's that all of it shows in, and `measure` what
    else follows from the words and their fonts, so that its place can be reckoned
    without these.
    """

    kind: Literal["words"] = "words"
    words: Words
    measure: Measure
    width: Extent
    height: Extent
    placement: Placement
    tones: Tones = ()
    stand_in: PictureId | None = None
    """A picture of its frame as it was set, shown while its font is not at hand."""

    @model_validator(mode="after")
    def _is_whole(self) -> WordsLayer:
        if self.placement.crop is not None:
            raise NoSuchWorkError("words layer", "cannot be cropped; cut them instead")
        if (self.width, self.height) != (self.measure.width, self.measure.height):
            raise NotMeasuredError
        return self


class ToningLayer(LayerBase):
    """Tones of everything beneath it in its pile; it has no pixels of its own."""

    kind: Literal["toning"] = "toning"
    tones: Tones = ()


class MendingLayer(LayerBase):
    """Places of everything beneath it in its pile, each filled from around it.

    They are measured in what it lies in; what is filled follows what lies beneath.
    """

    kind: Literal["mending"] = "mending"
    mends: Mends = ()


class GroupLayer(LayerBase):
    """Layers that are laid over what lies beneath as one; blending is isolated.

    Its members are placed on a sheet of its own, `width` by `height` pixels and
    clear, and nothing is cut off at that sheet's edge.
    """

    kind: Literal["group"] = "group"
    width: Extent
    height: Extent
    placement: Placement
    layers: tuple[Layer, ...]
    tones: Tones = ()

    @model_validator(mode="after")
    def _keeps_proportions(self) -> GroupLayer:
        require_plain_group(self.placement)
        return self


PlacedLayer: TypeAlias = PhotoLayer | GroupLayer | WordsLayer
TonedLayer: TypeAlias = PhotoLayer | GroupLayer | WordsLayer | ToningLayer
FlatLayer: TypeAlias = PhotoLayer | WordsLayer
"""Those that are placed and hold no others: they may be set into corners, and bent."""
MendedLayer: TypeAlias = PhotoLayer | MendingLayer
ChangingLayer: TypeAlias = ToningLayer | MendingLayer
"""Those that change what lies beneath them, and have no pixels of their own."""
Layer: TypeAlias = Annotated[
    PhotoLayer
    | ColorLayer
    | GradientLayer
    | ToningLayer
    | MendingLayer
    | WordsLayer
    | GroupLayer,
    Field(discriminator="kind"),
]


class Composite(BaseModel):
    """Everything a picture is made of, and nothing of how it was made.

    Examples
    --------
    >>> Composite(canvas=Canvas(width=300, height=200)).layers
    ()
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    schema_version: Literal[9] = SCHEMA_VERSION
    canvas: Canvas
    layers: tuple[Layer, ...] = ()

    def path_to(self, layer_id: str) -> tuple[Layer, ...]:
        """Return a layer and the groups that it lies in.

        Parameters
        ----------
        layer_id : str
            Id of a layer.

        Returns
        -------
        tuple of Layer
            The outermost group first, the layer itself last.

        Raises
        ------
        LayerMissingError
            No layer has that id.
        """
        path = path_in(self.layers, layer_id)
        if path is None:
            raise LayerMissingError(layer_id)
        return path

    def layer(self, layer_id: str) -> Layer:
        """Return one layer.

        Parameters
        ----------
        layer_id : str
            Id of a layer.

        Returns
        -------
        Layer
            The layer with that id; `LayerMissingError` where there is none.
        """
        return self.path_to(layer_id)[-1]

    def siblings_of(self, layer_id: str) -> tuple[Layer, ...]:
        """Return all layers of the group, or the composite, that a layer lies in.

        Parameters
        ----------
        layer_id : str
            Id of a layer.

        Returns
        -------
        tuple of Layer
            From back to front, itself among them; `LayerMissingError` where there is
            none.
        """
        *groups, _ = self.path_to(layer_id)
        return members_of(groups[-1]) if groups else self.layers

    def all_layers(self) -> Iterator[Layer]:
        """Go through all layers, those in groups too.

        Yields
        ------
        Layer
            From back to front, a group right after its members.
        """
        yield from _all_of(self.layers)

    @property
    def layer_count(self) -> int:
        """How many layers it has, those in groups too, but groups themselves not."""
        return sum(not isinstance(one, GroupLayer) for one in self.all_layers())

    def pictures(self) -> frozenset[str]:
        """Return the ids of all pictures, those of hidden layers and of masks too.

        Returns
        -------
        frozenset of str
            Each once, however many layers show it.
        """
        layers = list(self.all_layers())
        photos = [name for layer in layers for name in shown_by(layer)]
        parts = [part for layer in layers if layer.mask for part in layer.mask.parts]
        return frozenset(
            [*photos, *(picture for one in parts for picture in one.reads.pictures)]
        )


def shown_by(layer: Layer) -> tuple[str, ...]:
    """Return the pictures that a layer itself may show.

    Parameters
    ----------
    layer : Layer
        Any layer; those in a group are not its own.

    Returns
    -------
    tuple of str
        A photo's, and what stands in for words.
    """
    if isinstance(layer, PhotoLayer):
        return (layer.picture,)
    if isinstance(layer, WordsLayer) and layer.stand_in is not None:
        return (layer.stand_in,)
    return ()


def members_of(layer: Layer) -> tuple[Layer, ...]:
    """Return what lies in a group.

    Parameters
    ----------
    layer : Layer
        Any layer.

    Returns
    -------
    tuple of Layer
        From back to front; none where it is no group.
    """
    return layer.layers if isinstance(layer, GroupLayer) else ()


def require_plain_group(placement: Placement) -> None:
    """Check that a group's placement keeps its proportions and its shape.

    Parameters
    ----------
    placement : Placement
        Where the group shall lie.

    Raises
    ------
    GroupStretchedError
        It is scaled differently across and down.
    NoSuchWorkError
        It is cropped or warped.
    """
    if placement.is_shaped:
        raise NoSuchWorkError("group", "cannot be cropped, cornered or bent as one")
    if placement.scale_x != placement.scale_y:
        raise GroupStretchedError(placement.scale_x, placement.scale_y)


def path_in(layers: tuple[Layer, ...], layer_id: str) -> tuple[Layer, ...] | None:
    """Return a layer and the groups that it lies in.

    Parameters
    ----------
    layers : tuple of Layer
        A pile.
    layer_id : str
        Id of a layer.

    Returns
    -------
    tuple of Layer, or None
        The outermost group first, the layer itself last; None where there is none.
    """
    for layer in layers:
        if layer.id == layer_id:
            return (layer,)
        inner = path_in(members_of(layer), layer_id)
        if inner is not None:
            return (layer, *inner)
    return None


def _all_of(layers: tuple[Layer, ...]) -> Iterator[Layer]:
    for layer in layers:
        yield from _all_of(members_of(layer))
        yield layer
