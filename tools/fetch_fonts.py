"""Takes fonts out of the packages that ship them, as data.

python fetch_fonts.py FONTS PACKAGES FOLDER: each file that the catalogue in FONTS
names is taken out of its package, checked by its SHA-256 and laid into FOLDER under
that, with its licence, beside a copy of the catalogue. Nothing of a package is run.
"""

from __future__ import annotations

import hashlib
import json
import shutil
import sys
from pathlib import Path

CATALOGUE = "catalogue.json"
LICENCE = "LICENSE_FONT"


def main(fonts: Path, packages: Path, folder: Path) -> int:
    """Take what is missing; return how many files could not be had."""
    licences = folder / "licences"
    licences.mkdir(parents=True, exist_ok=True)
    missing = 0
    catalogue = json.loads((fonts / CATALOGUE).read_text())
    for family in catalogue["families"]:
        package = packages / family["package"]
        if (package / LICENCE).exists():
            shutil.copy(package / LICENCE, licences / f"{family['name']}.txt")
        for face in family["faces"].values():
            target = folder / face["sha256"]
            if not target.exists():
                missing += not _take(package / face["file"], target, face["sha256"])
    shutil.copy(fonts / CATALOGUE, folder / CATALOGUE)
    return missing


def _take(source: Path, target: Path, sha256: str) -> bool:
    """Copy one file; False where it is not to be had."""
    if not source.exists():
        return False
    data = source.read_bytes()
    if hashlib.sha256(data).hexdigest() != sha256:
        sys.stderr.write(f"{source.name}: not the file that is expected\n")
        return False
    # Whole or not at all, also where two set-ups run side by side.
    draft = target.with_suffix(".draft")
    draft.write_bytes(data)
    draft.replace(target)
    return True


if __name__ == "__main__":
    sys.exit(main(*map(Path, sys.argv[1:4])))
