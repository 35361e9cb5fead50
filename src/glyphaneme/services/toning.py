"""What the page shows of a layer's tones, and levels that are found for it."""

from __future__ import annotations

import base64
from typing import TYPE_CHECKING, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core.document.apart import before_tone, beneath
from glyphaneme.core.document.model import LayerId, TonedLayer
from glyphaneme.core.errors import NoColorThereError, NoSuchWorkError
from glyphaneme.core.render import View, histograms, render
from glyphaneme.core.tone import MAX_TONES, LevelsTone
from glyphaneme.core.tone.finding import levels_by, levels_of
from glyphaneme.services.assets import assets_of
from glyphaneme.services.showing import Draft, drafted, whole_view

if TYPE_CHECKING:
    import uuid

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.services.studio import Visit

    Counts = NDArray[np.float64]

SpotColor = tuple[float, float, float]
COUNTED_WIDTH = 320
"""How wide what is counted is rendered: more changes no curve that can be seen."""
LARGEST_SPOT = 64


class ToneRequest(Draft):
    """A draft, and which tone of which of its layers is worked on."""

    layer_id: LayerId
    place: int = Field(ge=0, le=MAX_TONES)
    """As many tones are at work before it."""


class SpotRequest(ToneRequest):
    """The same, and a spot of the canvas."""

    x: float = Field(ge=-1e6, le=1e6)
    y: float = Field(ge=-1e6, le=1e6)
    radius: float = Field(default=2.0, gt=0, le=LARGEST_SPOT)


class LevelsRequest(SpotRequest):
    """The same, and what the spot shall become; or how levels are found without one."""

    role: Literal["black", "grey", "white", "ends", "each"]


def counted(
    visit: Visit, project_id: uuid.UUID, *, draft: Draft, layer_id: str, place: int
) -> str:
    """Return how often each level occurs, in what a tone finds and in what lies behind.

    Returns
    -------
    str
        Base64 of two times four times 256 bytes: of all components, of red, green and
        blue; each 0..255 of the most frequent level but the ends.
    """
    composite = drafted(visit, project_id, draft)
    parts = (before_tone(composite, layer_id, place), beneath(composite, layer_id))
    pile = composite.layers
    drawn = [_drawn(_counts(visit, part, pile)) for part in parts]
    return base64.b64encode(np.concatenate(drawn).tobytes()).decode()


def color_before(visit: Visit, project_id: uuid.UUID, asked: SpotRequest) -> SpotColor:
    """Return the colour of a spot as a tone finds it, 0..1.

    Raises
    ------
    NoColorThereError
        The layer shows nothing there.
    """
    composite = drafted(visit, project_id, asked)
    shown = before_tone(composite, asked.layer_id, asked.place)
    at = (asked.x, asked.y)
    return color_at(visit, shown, at, asked.radius, pile=composite.layers)


def color_at(
    visit: Visit,
    shown: Composite,
    at: tuple[float, float],
    radius: float,
    *,
    pile: tuple[Layer, ...],
) -> SpotColor:
    """Return the mean colour round a spot of what is shown, 0..1.

    Raises
    ------
    NoColorThereError
        Nothing shows there.
    """
    size = max(round(2 * radius), 1)
    view = View(at[0] - size / 2, at[1] - size / 2, size, size, 1.0)
    assets = assets_of(visit, shown, view, pile=pile)
    pixels = render(shown, assets, view, pile=pile).reshape(-1, 4)
    weight = pixels[:, 3].astype(np.float64)
    if not weight.any():
        raise NoColorThereError
    red, green, blue = (weight @ pixels[:, :3] / weight.sum() / 255).tolist()
    return red, green, blue


def find_levels(
    visit: Visit, project_id: uuid.UUID, asked: LevelsRequest
) -> LevelsTone:
    """Return the levels of a tone's place, with ends or middles that are found.

    Raises
    ------
    NoColorThereError
        The layer shows nothing at the spot.
    NoSuchWorkError
        There are no levels at that place.
    """
    composite = drafted(visit, project_id, asked)
    layer = composite.layer(asked.layer_id)
    tones = layer.tones if isinstance(layer, TonedLayer) else ()
    levels = tones[asked.place] if asked.place < len(tones) else None
    if not isinstance(levels, LevelsTone):
        raise NoSuchWorkError(layer.kind, "without levels cannot have theirs found")
    if asked.role == "ends" or asked.role == "each":
        shown = before_tone(composite, asked.layer_id, asked.place)
        counts = _counts(visit, shown, composite.layers)
        return levels_of(levels, counts, each=asked.role == "each")
    color = color_before(visit, project_id, asked)
    return levels_by(levels, color, asked.role)


def _counts(visit: Visit, composite: Composite, pile: tuple[Layer, ...]) -> Counts:
    canvas = composite.canvas
    width, tallest = (min(COUNTED_WIDTH, one) for one in (canvas.width, canvas.height))
    view = whole_view(composite, width, tallest=tallest)
    assets = assets_of(visit, composite, view, pile=pile, quick=True)
    pixels: PixelsU8 = render(composite, assets, view, pile=pile)
    return histograms(pixels)


def _drawn(counts: Counts) -> NDArray[np.uint8]:
    """Return counts as heights; what lies at the ends would dwarf all else."""
    highest = max(float(counts[:, 1:-1].max()), float(counts.max()) / 8, 1e-9)
    return np.asarray(np.minimum(counts / highest, 1) * 255, np.uint8)
