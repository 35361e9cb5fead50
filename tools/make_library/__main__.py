"""Makes the library's pictures: `PYTHONPATH=src:. python -m tools.make_library`.

Names of pictures after it make those alone; the catalogue is always written whole.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from PIL import Image

from tools.make_library import (  # noqa: F401  # they fill the catalogue
    backgrounds,
    gradients,
    light,
    ornaments,
    scenes,
    silhouettes,
    skies,
    textures,
)
from tools.make_library.catalogue import ALL
from tools.make_library.painting import grain

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from tools.make_library.catalogue import Made

FOLDER = Path(__file__).parents[2] / "library"
MOST_BYTES = 700_000
QUALITIES = (90, 86, 82, 78, 74, 70, 66, 62)
THUMBNAIL = (208, 152)
KINDS = (
    "Backgrounds",
    "Skies",
    "Textures",
    "Light",
    "Scenes",
    "Silhouettes",
    "Ornaments",
    "Gradients",
)


def main() -> None:
    """Make all pictures, or those that are named."""
    wanted = sys.argv[1:]
    FOLDER.mkdir(exist_ok=True)
    entries = []
    for made in sorted(ALL, key=lambda one: KINDS.index(one.kind)):
        file = FOLDER / f"{made.name}.{'png' if _is_cut_out(made) else 'jpg'}"
        if not file.exists() or made.name in wanted:
            _write(made, file)
            sys.stdout.write(f"{file.name}: {file.stat().st_size / 1000:.0f} kB\n")
        entries.append(_entry(made, file))
    text = json.dumps({"pictures": entries}, indent=1, ensure_ascii=False)
    (FOLDER / "catalogue.json").write_text(text + "\n")


def _is_cut_out(made: Made) -> bool:
    return made.kind in {"Silhouettes", "Ornaments"}


def _write(made: Made, file: Path) -> None:
    painted = made.paint()
    image = Image.fromarray(_in_levels(painted))
    if _is_cut_out(made):
        image.save(file, optimize=True)
    else:
        for quality in QUALITIES:
            image.save(file, quality=quality, optimize=True, progressive=True)
            if file.stat().st_size <= MOST_BYTES:
                break
    thumbnail = image.copy()
    thumbnail.thumbnail(THUMBNAIL, Image.Resampling.LANCZOS)
    thumbnail.save(FOLDER / "thumbnails" / f"{made.name}.webp", quality=82, method=6)


def _in_levels(painted: NDArray[np.float32]) -> NDArray[np.uint8]:
    """Round to 8 bits, with a little noise so that soft ramps have no steps."""
    levels = painted * 255
    if painted.shape[-1] == 3:
        levels = levels + 0.6 * grain(painted.shape[:2], 7)[..., None]
    else:
        # Where nothing shows, even colour packs best.
        levels[painted[..., 3] == 0] = 0
    return np.clip(np.round(levels), 0, 255).astype(np.uint8)


def _entry(made: Made, file: Path) -> dict[str, Any]:
    with Image.open(file) as image:
        width, height = image.size
    return {
        "name": made.name,
        "title": made.title,
        "kind": made.kind,
        "words": made.words,
        "file": file.name,
        "width": width,
        "height": height,
    }


if __name__ == "__main__":
    main()
