"""A shadow that falls over the ground on which a layer stands."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from glyphaneme.core.effect.base import (
    TAIL,
    Angle,
    EffectBase,
    Part,
    Source,
    Veil,
    as_values,
    factor_for,
)
from glyphaneme.core.place import Rect
from glyphaneme.core.tone.areas import blurred, shrunk, sigma_left

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.effect.base import Asked, Shape

FLATTEST = 0.03
"""Of its height a shape falls towards or away from the eye at least."""
LEVELS = 5
"""How many Gaussians lie between none and the widest, each twice the one before."""
MOST_LINES = 32
LEAST_SIGMA = 0.05
"""Squares; less is not seen."""
FOOT = 0.5
"""How high the contact is, of how far it reaches to the sides."""

Long = Annotated[float, Field(ge=0, le=3, allow_inf_nan=False)]
Softness = Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)]
Tilt = Annotated[float, Field(ge=-45, le=45, allow_inf_nan=False)]
Lift = Annotated[float, Field(ge=-0.5, le=0.5, allow_inf_nan=False)]
Wide = Annotated[float, Field(ge=0, le=0.25, allow_inf_nan=False)]


class CastShadow(EffectBase):
    """A point h above the ground falls `length` h along `direction`.

    The ground is a line through the shape's lowest point, `lift` of its height higher
    and falling by `tilt` degrees to the right. Direction 0 is towards the eye, down the
    picture, positive to the right; a half turn away. The farther, the softer: blurred
    by a Gaussian of standard deviation `softness` h; and the fainter, by `fading` at
    the far end. Where it stands, a `contact` shadow reaches `foot` of its width.

    Examples
    --------
    >>> CastShadow(direction=-60).words
    'a shadow to the lower left'
    """

    stands: ClassVar[bool] = True
    kind: Literal["cast"] = "cast"
    direction: Angle = 55.0
    length: Long = 0.7
    softness: Softness = 0.06
    fading: Part = 0.5
    contact: Part = 0.7
    foot: Wide = 0.04
    tilt: Tilt = 0.0
    lift: Lift = 0.0

    @property
    def slope(self) -> float:
        """As the ground falls."""
        return math.tan(math.radians(self.tilt))

    @property
    def words(self) -> str:
        across = "right" if self.direction > 0 else "left"
        turned = abs(self.direction)
        if turned < 22.5:
            return "a shadow towards the front"
        if turned > 157.5:
            return "a shadow to the back"
        if 67.5 <= turned <= 112.5:
            return f"a shadow to the {across}"
        return f"a shadow to the {'lower' if turned < 90 else 'upper'} {across}"

    def extent(self, shape: Rect[float], scale: float) -> Rect[float]:
        """Let the shape fall, and add softness and contact."""
        del scale
        ground, tall = self._ground(shape), self._tall(shape)
        lean, fall = self._falling()
        far = TAIL * self.softness * tall + 2
        ends = (ground, ground + fall * tall)
        fallen = Rect(
            shape.left + min(lean * tall, 0),
            min(ends),
            shape.right + max(lean * tall, 0),
            max(ends),
        ).widened(far, far)
        near = TAIL * self._foot(shape)
        return Rect(
            min(fallen.left, shape.left - near),
            min(fallen.top, ground - near * FOOT),
            max(fallen.right, shape.right + near),
            max(fallen.bottom, ground + near * FOOT),
        )

    def source(self, asked: Asked) -> Source:
        """Read what falls into the target, and its foot where that counts."""
        ground = self._ground(asked.shape)
        lean, _ = self._falling()
        low, high, sigma = self._heights(asked)
        foot = self._foot(asked.shape)
        touches = self._touches_foot(asked)
        factor = 1 if touches else factor_for(self.softness * low, 2.0, 16)
        far = TAIL * sigma + 2 * factor + 2
        leans = (lean * low, lean * high)
        rows = Rect(
            asked.target.left - max(leans) - far,
            ground - high - 2 * factor,
            asked.target.right - min(leans) + far,
            ground - low + 2 * factor,
        )
        if touches:
            reach = TAIL * foot
            rows = Rect(
                min(rows.left, asked.target.left - reach),
                min(rows.top, ground - foot - 2),
                max(rows.right, asked.target.right + reach),
                max(rows.bottom, ground + 2),
            )
        return Source(rows, factor)

    def made(self, alpha: Shape, source: Source, asked: Asked) -> Veil:
        """Return what falls, and where it stands."""
        factor = source.factor
        target = asked.target.snapped(factor)
        columns, rows = target.width // factor, target.height // factor
        down = target.top + (np.arange(rows, dtype=np.float64) + 0.5) * factor
        veil = _Falling(self, alpha, source, asked).rows(target, down, columns)
        if self._touches_foot(asked):
            self._stand(veil, alpha, source, asked, target)
        return Veil(as_values(veil), target.left, target.top, factor)

    def _stand(
        self,
        veil: Shape,
        alpha: Shape,
        source: Source,
        asked: Asked,
        target: Rect[float],
    ) -> None:
        """Lay the contact over what falls: the shape's foot, spread and darkest there.

        It is reckoned pixel by pixel: where it counts, squares are of one.
        """
        foot = max(self._foot(asked.shape), 0.5)
        ground = self._ground(asked.shape)
        first = max(int(ground - foot - source.extent.top), 0)
        last = max(math.ceil(ground - source.extent.top), first + 1)
        line = alpha[first:last].max(axis=0, initial=0)[None]
        spread = blurred(np.repeat(line, 2, axis=0), foot)[0]
        left = int(target.left - source.extent.left)
        seen = spread[left : left + veil.shape[1]] * np.float32(self.contact)
        reach = TAIL * FOOT * foot
        top, bottom = (
            int(min(max(ground + side - target.top, 0), len(veil)))
            for side in (-reach, reach + 1)
        )
        down = target.top + np.arange(top, bottom) + 0.5
        share = np.exp(-0.5 * ((down - ground) / (FOOT * foot)) ** 2)
        near = veil[top:bottom]
        near += (1 - near) * share[:, None].astype(np.float32) * seen

    def _touches_foot(self, asked: Asked) -> bool:
        if not (self.contact and self.foot):
            return False
        ground, reach = self._ground(asked.shape), TAIL * self._foot(asked.shape)
        high = FOOT * reach
        _, top, _, bottom = asked.target
        return top < ground + high and bottom > ground - high

    def _heights(self, asked: Asked) -> tuple[float, float, float]:
        """Return how high above the ground lies what falls into the target.

        The least and greatest height, and the widest Gaussian that counts there.
        """
        ground, tall = self._ground(asked.shape), self._tall(asked.shape)
        _, fall = self._falling()
        low, high = sorted(
            (row - ground) / fall for row in (asked.target.top, asked.target.bottom)
        )
        # It is mixed with one that is twice as wide at most.
        sigma = self.softness * min(2 * max(high, 0.0), tall)
        far = TAIL * sigma / abs(fall) + 2
        least, most = (min(max(one, 0.0), tall) for one in (low - far, high + far))
        return least, most, sigma

    def _falling(self) -> tuple[float, float]:
        """Return how far across and down something one high falls."""
        angle = math.radians(self.direction)
        lean, fall = math.sin(angle) * self.length, math.cos(angle) * self.length
        steep = max(abs(fall), FLATTEST)
        return lean, math.copysign(steep, fall)

    def _ground(self, shape: Rect[float]) -> float:
        return shape.bottom - self.lift * shape.height

    def _tall(self, shape: Rect[float]) -> float:
        return max(self._ground(shape) - shape.top, 1.0)

    def _foot(self, shape: Rect[float]) -> float:
        return self.foot * shape.width


class _Falling:
    """Rows of a shadow, each as soft as it is far from the ground."""

    def __init__(
        self, shadow: CastShadow, alpha: Shape, source: Source, asked: Asked
    ) -> None:
        self._sizes = {1: alpha}
        self._source = source
        self._ground = shadow._ground(asked.shape)
        self._tall = shadow._tall(asked.shape)
        self._lean, self._fall = shadow._falling()
        self._soft = shadow.softness
        self._fading = shadow.fading

    def rows(
        self, target: Rect[float], down: NDArray[np.float64], columns: int
    ) -> Shape:
        """Return the target's rows, whose middles lie at `down`."""
        factor = self._source.factor
        height = (down - self._ground) / self._fall
        sigmas = self._soft * np.clip(height, 0, self._tall) / factor
        widest = max(self._soft * self._tall / factor, 1e-6)
        steps = widest * np.array([0.0, *(0.5**k for k in reversed(range(LEVELS)))])
        out = np.zeros((len(down), columns), np.float32)
        level = np.clip(np.searchsorted(steps, sigmas, "right") - 1, 0, LEVELS - 1)
        faint = 1 - self._fading * np.clip(height / self._tall, 0, 1)
        for at in range(LEVELS + 1):
            share = np.where(level == at, 1 - _between(sigmas, steps, level), 0.0)
            share += np.where(level == at - 1, _between(sigmas, steps, level), 0.0)
            share *= faint
            wanted = np.flatnonzero(share > 0)
            if not len(wanted):
                continue
            first, last = int(wanted[0]), int(wanted[-1]) + 1
            fallen = self._level(target, first, last, columns, float(steps[at]))
            out[first:last] += fallen * share[first:last, None].astype(np.float32)
        return out

    def _level(
        self, target: Rect[float], first: int, last: int, columns: int, sigma: float
    ) -> Shape:
        """Return some rows, all blurred alike, by so many squares."""
        factor = self._source.factor
        fine = factor_for(sigma, 2.0)
        margin = math.ceil(TAIL * sigma / fine) * fine + fine
        # Sides on multiples of the smaller copy's squares.
        top = (first - margin) // fine * fine
        rows = -(-(last + margin - top) // fine)
        width = -(-(columns + 2 * margin) // fine)
        alpha = self._shrunk(fine)
        corner = (target.left - margin * factor, target.top + top * factor)
        # What falls flat is squeezed: as many lines of it as there are, averaged.
        lines = min(max(math.ceil(1 / abs(self._fall)), 1), MOST_LINES)
        matrix = self._back(corner, factor * fine, lines)
        fallen = np.asarray(
            cv2.warpAffine(
                alpha,
                matrix,
                (width, rows * lines),
                flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
                borderMode=cv2.BORDER_CONSTANT,
                borderValue=0,
            ),
            np.float32,
        )
        fallen = fallen.reshape(rows, lines, width).mean(axis=1)
        left = sigma_left(sigma, fine) / fine
        if left > LEAST_SIGMA:
            fallen = np.asarray(cv2.GaussianBlur(fallen, (0, 0), left), np.float32)
        if fine > 1:
            size = (width * fine, rows * fine)
            fallen = np.asarray(
                cv2.resize(fallen, size, interpolation=cv2.INTER_LINEAR), np.float32
            )
        return fallen[first - top : last - top, margin : margin + columns]

    def _shrunk(self, fine: int) -> Shape:
        """Return the shape averaged over squares, each size from the one before."""
        if fine not in self._sizes:
            self._sizes[fine] = shrunk(self._shrunk(fine // 2), 2)
        return self._sizes[fine]

    def _back(self, corner: tuple[float, float], step: int, lines: int) -> MatrixF64:
        """Map a shadow's squares, so many lines each, to those that fall on them."""
        lean, fall, ground = self._lean / self._fall, 1 / self._fall, self._ground
        linear = np.array([[1, -lean], [0, -fall]])
        offset = np.array([lean * ground, (1 + fall) * ground])
        start = np.array(self._source.extent[:2])
        # From the middles of lines to those of squares.
        first = np.array(corner) + np.array([step / 2, step / 2 / lines])
        middle = linear @ first + offset
        return np.column_stack([linear / (1, lines), (middle - start) / step - 0.5])


def _between(
    sigmas: NDArray[np.float64], steps: NDArray[np.float64], level: NDArray[np.intp]
) -> NDArray[np.float64]:
    """Return how near to the wider of two Gaussians each lies, by their variances."""
    low, high = steps[level], steps[np.minimum(level + 1, LEVELS)]
    return np.asarray(
        np.clip((sigmas**2 - low**2) / np.maximum(high**2 - low**2, 1e-12), 0, 1)
    )
