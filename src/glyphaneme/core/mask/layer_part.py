"""Parts that are another layer: its shape, or how light it is."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.mask.parts import (
    JOINS,
    Join,
    LayerQuality,
    PartBase,
    PartId,
    Reads,
)
from glyphaneme.core.mask.steps import Step

if TYPE_CHECKING:
    from glyphaneme.core.mask.parts import Seeing


class LayerPart(PartBase):
    """Another layer as it lies, also while it is hidden; nothing once it is gone."""

    kind: Literal["layer"] = "layer"
    join: Join = Join.KEEP
    layer_id: PartId
    quality: LayerQuality = LayerQuality.SHAPE

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Read the other layer's pixels, as they lie in the view."""
        plane = seeing.other(self.layer_id, self.quality)
        if plane is None:
            return ()
        return (
            Step(
                kind=masking.PLANE,
                to_step=np.eye(2, 3),
                join=JOINS[self.join],
                inverted=self.inverted,
                plane=plane,
                in_view=True,
            ),
        )

    @property
    def reads(self) -> Reads:
        """The other layer."""
        return Reads(layers=(self.layer_id,))

    @property
    def words(self) -> str:
        """What of it counts; whose it is, only the composite knows."""
        return f"the {self.quality} of another layer"
