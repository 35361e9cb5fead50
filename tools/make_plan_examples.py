"""Makes the small example of each plan, of the demo photos, and of these photos too.

    python -m tools.make_plan_examples [NAMES…]

Run it when a plan has changed; what it writes is kept with the plans.
"""

from __future__ import annotations

import io
import json
import sys
from pathlib import Path

from PIL import Image

from glyphaneme.core.finish import FileFormat, FileSettings
from glyphaneme.services.font_folder import FontFolder
from glyphaneme.services.networks import Networks
from glyphaneme.services.plan_folder import EXAMPLES, PlanFolder
from glyphaneme.services.plans.files import MadeOfFiles, PutIn, Tools
from glyphaneme.services.plans.packing import PlanFile

ROOT = Path(__file__).parents[1]
PLANS = ROOT / "plans"
TALL = 400
SMALL = 120
QUALITY = 82


def main(wanted: list[str]) -> None:
    """Make the examples of all plans, or of some."""
    folder = PlanFolder(PLANS)
    tools = Tools(Networks((ROOT / "var/models",)), FontFolder(ROOT / "var/fonts"))
    made_of = json.loads((PLANS / EXAMPLES / "made-of.json").read_text())
    for name in wanted or folder.plans:
        put = made_of[name]
        photos = {
            slot: [ROOT / "demo" / file for file in files]
            for slot, files in put["photos"].items()
        }
        asked = PutIn(photos, put.get("words", {}), put.get("choices", {}))
        made = MadeOfFiles(PlanFile(folder.require(name), {}, ()), asked, tools)
        height = made.composite.canvas.height
        file = io.BytesIO()
        share = {"by": "share", "share": min(2 * TALL / height, 1.0)}
        made.write(file, FileSettings(format=FileFormat.PNG, size=share))
        _keep(file, name, TALL)
        for slot, files in photos.items():
            _keep(io.BytesIO(files[0].read_bytes()), f"{name}--{slot}", SMALL)
        sys.stdout.write(f"{name} {made.sayings or ''}\n")
        sys.stdout.flush()


def _keep(file: io.BytesIO, name: str, side: int) -> None:
    """Keep a small copy; what is see-through stays so."""
    with Image.open(file) as picture:
        small = picture.convert("RGBA")
    small.thumbnail((2 * side, side), Image.Resampling.LANCZOS)
    small.save(PLANS / EXAMPLES / f"{name}.webp", quality=QUALITY, method=6)


if __name__ == "__main__":
    main(sys.argv[1:])
