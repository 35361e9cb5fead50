"""Fits the numbers of `core/match/learned.py`: how far a subject seems to be off.

`PYTHONPATH=src python -m tools.fit_matching src/glyphaneme/core/match/learned.py`

Subjects are segments of pictures that ship with the product, each under one light;
their tones are changed in known ways. A ridge regression learns to tell the change from
the differences between subject and surroundings. It is printed how much of the changes'
colour difference is left where the picture itself was left out of what was learned.
"""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np
from skimage.color import deltaE_ciede2000, rgb2lab
from skimage.segmentation import felzenszwalb

from glyphaneme.core.color.spaces import decoded, encoded, from_oklab, oklab
from glyphaneme.core.match.pairs import matched
from glyphaneme.core.match.statistics import Sides, differences, sides_of

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from numpy.typing import NDArray

    Floats = NDArray[np.float64]

ROOT = Path(__file__).parents[1]
LEFT_OUT = ("old-photo", "paper")
EDGE = 320
SEGMENTS = 5
LEAST_SHARE, MOST_SHARE = 0.03, 0.45
KINDS = "scgkaaan"
"""Changes of stops, cast, colour and contrast alone, three of all, and none."""
STRENGTH = 1000.0
"""How strongly weights are held small."""
WORSE = 0.5
"""Of a colour difference: what grows by more than that is worse."""


class Case(NamedTuple):
    """A segment that was changed."""

    picture: str
    kind: str
    change: Floats
    true: Floats
    """Its colours before."""
    changed: Floats
    sides: Sides


def pictures() -> list[Path]:
    """Return the demo's photos, and the library's that are whole pictures."""
    demo = [*(ROOT / "demo").glob("*.jpg"), *(ROOT / "demo").glob("*.tif")]
    found = sorted([*demo, *(ROOT / "library").glob("*.jpg")])
    return [one for one in found if not one.name.startswith(LEFT_OUT)]


def cases(paths: Sequence[Path], seed: int = 7) -> Iterator[Case]:
    """Yield changed segments of pictures, the same for the same seed."""
    random = np.random.default_rng(seed)
    for path in paths:
        image = _small(path)
        for alpha in _segments(image):
            subject = np.dstack([image, np.full(alpha.shape, 255, np.uint8)])
            for kind in KINDS:
                change = _drawn(kind, random)
                colors = image.reshape(-1, 3) / 255
                changed = np.round(_changed(colors, change) * 255).astype(np.uint8)
                seen = np.dstack([changed.reshape(image.shape), alpha])
                sides = sides_of(np.ascontiguousarray(seen), subject)
                true = _true_colors(image, alpha, len(sides.subject.colors))
                yield Case(path.name, kind, change, true, sides.subject.colors, sides)


def _small(path: Path) -> NDArray[np.uint8]:
    read = cv2.imread(str(path))
    if read is None:
        raise FileNotFoundError(path)
    scale = EDGE / max(read.shape[:2])
    small = cv2.resize(read, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    return np.ascontiguousarray(small[..., ::-1])


def _segments(image: NDArray[np.uint8]) -> Iterator[NDArray[np.uint8]]:
    """Yield alphas of segments whose borders follow the picture's own edges."""
    labels = felzenszwalb(image, scale=350, sigma=1.0, min_size=600)
    found, areas = np.unique(labels, return_counts=True)
    shares = areas / labels.size
    fitting = (shares > LEAST_SHARE) & (shares < MOST_SHARE)
    for label in found[fitting][np.argsort(-areas[fitting])][:SEGMENTS]:
        marks = np.asarray(labels == label, np.float32)
        soft = cv2.GaussianBlur(marks, (0, 0), 0.8)
        yield np.round(soft * 255).astype(np.uint8)


def _drawn(kind: str, random: np.random.Generator) -> Floats:
    change = np.zeros(5)
    part = 0.6 if kind == "a" else 1.0
    if kind in "sa":
        change[0] = random.uniform(-1.5, 1)
    if kind in "ca":
        change[1:3] = random.uniform(-0.5, 0.5), random.uniform(-0.25, 0.25)
    if kind in "ka":
        change[3] = random.uniform(-1, 1) * part
    if kind in "ga":
        change[4] = random.uniform(-1, 0.8) * part
    return change


def _changed(colors: Floats, change: Floats) -> Floats:
    """Change light and cast, then contrast, then colour: the opposite of a match."""
    light, warm, tint, contrast, color = change.tolist()
    casts = np.array([warm - tint / 3, 2 * tint / 3, -warm - tint / 3])
    lit = encoded(np.clip(decoded(colors) * 2.0 ** (light + casts), 0, 1))
    spread = np.clip(0.5 + (lit - 0.5) * 2**contrast, 0, 1)
    lab = oklab(decoded(spread)) * (1, 2**color, 2**color)
    return encoded(np.clip(from_oklab(lab), 0, 1))


def _true_colors(
    image: NDArray[np.uint8], alpha: NDArray[np.uint8], count: int
) -> Floats:
    whole = np.dstack([image, alpha])
    clear = np.dstack([image, np.full(alpha.shape, 255, np.uint8)])
    true = sides_of(np.ascontiguousarray(whole), clear).subject.colors
    if len(true) != count:
        raise ValueError(count)
    return true


def difference(one: Floats, other: Floats) -> float:
    """Return the mean CIEDE2000 of encoded sRGB colours."""
    return float(deltaE_ciede2000(rgb2lab(one), rgb2lab(other)).mean())


class Fit(NamedTuple):
    """What was learned: the change is ((x - means) / spreads) @ weights + start."""

    means: Floats
    spreads: Floats
    weights: Floats
    start: Floats

    def guess(self, found: Floats) -> Floats:
        """Return by how much a subject seems to be off."""
        scaled = (found - self.means) / self.spreads
        return np.asarray(scaled @ self.weights + self.start)


def fitted(found: Floats, changes: Floats) -> Fit:
    """Fit a ridge regression of changes, (N, 5), on differences, (N, M)."""
    means, spreads = found.mean(axis=0), found.std(axis=0) + 1e-6
    scaled = (found - means) / spreads
    start = changes.mean(axis=0)
    square = scaled.T @ scaled + STRENGTH * np.eye(scaled.shape[1])
    weights = np.linalg.solve(square, scaled.T @ (changes - start))
    return Fit(means, spreads, weights, start)


def left_out(found: Sequence[Case]) -> Floats:
    """Return what is guessed of each case by what was learned from other pictures."""
    apart = np.array([differences(case.sides) for case in found])
    changes = np.array([case.change for case in found])
    names = np.array([case.picture for case in found])
    guesses = np.zeros_like(changes)
    for name in np.unique(names):
        others = names != name
        fit = fitted(apart[others], changes[others])
        guesses[~others] = [fit.guess(one) for one in apart[~others]]
    return guesses


def main(target: Path) -> None:
    """Fit, say how well it does, and write the numbers."""
    found = list(cases(pictures()))
    guesses = left_out(found)
    before = np.array([difference(case.changed, case.true) for case in found])
    some = np.array([case.kind != "n" for case in found])
    for strength in (0.5, 1.0):
        after = np.array(
            [
                difference(matched(case.changed, -guess * strength), case.true)
                for case, guess in zip(found, guesses, strict=True)
            ]
        )
        left = after[some].mean() / before[some].mean()
        worse = np.mean(after[some] > before[some] + WORSE)
        harm = after[~some].mean()
        said = f"left {left:.3f}, worse {worse:.2f}, harm {harm:.2f}"
        sys.stdout.write(f"{len(found)} cases at {strength}: {said}\n")
    fit = fitted(
        np.array([differences(case.sides) for case in found]),
        np.array([case.change for case in found]),
    )
    target.write_text(_written(fit))


def _written(fit: Fit) -> str:
    lines = [
        '"""How far subjects seem to be off; written by tools/fit_matching."""',
        "",
        "from __future__ import annotations",
        "",
        "import numpy as np",
        "",
    ]
    for name, values in fit._asdict().items():
        rows = np.array_split(np.ravel(values), max(values.size // 5, 1))
        said = [", ".join(f"{one:.4f}" for one in row) for row in rows]
        reshaped = ".reshape(-1, 5)" if values.ndim > 1 else ""
        lines += [f"{name.upper()} = np.array("]
        lines += [
            "    [",
            *(f"        {row}," for row in said),
            "    ]",
            f"){reshaped}",
        ]
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    main(Path(sys.argv[1]))
