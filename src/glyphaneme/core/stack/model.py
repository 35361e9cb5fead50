"""The composite as a frozen value: canvas, and layers from back to front.

Positions are canvas pixels from the top left corner, angles degrees clockwise,
opacity 0..1, colours #rrggbb in sRGB. A composite is stored as its own JSON.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.errors import LayerMissingError
from glyphaneme.core.place import Placement

MAX_SIDE = 30_000
MAX_LAYERS = 200

LayerId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]
PictureId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Pixels = Annotated[int, Field(ge=1, le=MAX_SIDE)]
Color = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]
Opacity = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Canvas(BaseModel):
    """The sheet that the picture is made on; `background` None is clear."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    width: Pixels
    height: Pixels
    ppi: Annotated[float, Field(ge=1, le=4800, allow_inf_nan=False)] = 240.0
    background: Color | None = "#ffffff"


class Layer(BaseModel):
    """One photo of the composite, as it is laid over what lies beneath it.

    `width` and `height` are the photo's own, so that its place can be reckoned
    without its pixels.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: LayerId
    kind: Literal["photo"] = "photo"
    name: Name
    picture: PictureId
    width: Annotated[int, Field(ge=1)]
    height: Annotated[int, Field(ge=1)]
    placement: Placement
    blend: BlendMode = BlendMode.NORMAL
    opacity: Opacity = 1.0
    visible: bool = True
    locked: bool = False


class Composite(BaseModel):
    """Everything a picture is made of, and nothing of how it was made.

    Examples
    --------
    >>> Composite(canvas=Canvas(width=300, height=200)).layers
    ()
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    schema_version: Literal[1] = 1
    canvas: Canvas
    layers: tuple[Layer, ...] = ()

    def index_of(self, layer_id: str) -> int:
        """Return the layer's place, counted from the back.

        Parameters
        ----------
        layer_id : str
            Id of a layer.

        Returns
        -------
        int
            0 for the layer at the very back.

        Raises
        ------
        LayerMissingError
            No layer has that id.
        """
        for index, layer in enumerate(self.layers):
            if layer.id == layer_id:
                return index
        raise LayerMissingError(layer_id)

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
        return self.layers[self.index_of(layer_id)]
