"""The fonts that ship, as tests set words in them."""

from __future__ import annotations

import json
import os
from functools import lru_cache
from pathlib import Path

from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.values import FontRef, Setting, Words

FOLDER = Path(
    os.environ.get("GLYPHANEME_FONTS", str(Path(__file__).parents[1] / "var/fonts"))
)


@lru_cache
def files() -> dict[str, Path]:
    """Their files, by name."""
    families = json.loads((FOLDER / "catalogue.json").read_text())["families"]
    return {
        f"{family['name']} {style}": FOLDER / face["sha256"]
        for family in families
        for style, face in family["faces"].items()
    }


@lru_cache
def face(name: str) -> Face:
    return Face(files()[f"{name} regular"].read_bytes())


def ref(name: str) -> FontRef:
    return FontRef(id=files()[f"{name} regular"].name, name=name)


def words(text: str, *names: str, size: float = 100, **others: object) -> Words:
    """Return words in some fonts; ink, contour and panel beside their setting."""
    beside = {
        name: others.pop(name) for name in ("ink", "contour", "panel") if name in others
    }
    fonts = tuple(ref(name) for name in names or ("Lobster",))
    setting = Setting(text=text, fonts=fonts, size=size, **others)
    return Words(setting=setting, **beside)


def faces(*names: str) -> dict[str, Face]:
    return {ref(name).id: face(name) for name in names or ("Lobster",)}
