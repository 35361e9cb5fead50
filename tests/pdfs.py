"""What independent readers find in PDFs and in what pictures say of themselves."""

from __future__ import annotations

import json
import re
import subprocess
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from pathlib import Path

MM_PER_POINT = 25.4 / 72


def told(*words: str) -> str:
    """Run a reader that Debian ships; return what it writes."""
    return subprocess.run(
        words, capture_output=True, text=True, check=True, errors="replace"
    ).stdout


def pdf_facts(file: Path) -> dict[str, str]:
    """Return what poppler says of a PDF."""
    lines = told("pdfinfo", "-box", str(file)).splitlines()
    return {
        name: value.strip() for name, _, value in (one.partition(":") for one in lines)
    }


def boxes_of(file: Path) -> dict[str, list[float]]:
    """Return a first page's boxes in millimetres: left, bottom, right, top."""
    # Exact numbers, which poppler rounds.
    text = told("qpdf", "--qdf", "--object-streams=disable", str(file), "-")
    found = {}
    for name in ("MediaBox", "TrimBox", "BleedBox"):
        numbers = re.search(rf"/{name} \[([^\]]+)\]", text)
        assert numbers
        found[name] = [float(one) * MM_PER_POINT for one in numbers[1].split()]
    return found


def text_of(file: Path) -> str:
    """Return the words of a PDF as poppler reads them."""
    return told("pdftotext", str(file), "-")


def said_by(file: Path) -> dict[str, Any]:
    """Return all that a file says of itself, as exiftool reads it."""
    found: list[dict[str, Any]] = json.loads(told("exiftool", "-j", "-G1", str(file)))
    return found[0]
