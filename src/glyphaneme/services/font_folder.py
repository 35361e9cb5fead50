"""The folder of the fonts that ship, with their catalogue."""

from __future__ import annotations

import json
from functools import cached_property
from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict, TypeAdapter

from glyphaneme.core.weighed import WeighedCache
from glyphaneme.core.words import typesetting
from glyphaneme.core.words.values import FontRef

if TYPE_CHECKING:
    from pathlib import Path

    from glyphaneme.core.words.faces import Face

CATALOGUE = "catalogue.json"
FACE_BYTES_KEPT = 64 * 2**20
ANSWERS_KEPT = 4096

Style = Literal["regular", "bold", "italic"]
LenderKey = tuple[str, str, tuple[str, ...]]


class FamilyFace(BaseModel):
    """One style of a family."""

    model_config = ConfigDict(frozen=True)

    file: str
    sha256: str


class Family(BaseModel):
    """A family that ships, as the catalogue has it."""

    model_config = ConfigDict(frozen=True)

    name: str
    group: str
    licence: str
    faces: dict[Style, FamilyFace]

    def ref(self, style: Style) -> FontRef:
        """Return how documents name one of its styles."""
        name = self.name if style == "regular" else f"{self.name} {style}"
        return FontRef(id=self.faces[style].sha256, name=name)


class FontFolder:
    """The fonts that ship, in the folder where set-up put them; it may be empty."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self.faces: WeighedCache[str, Face] = WeighedCache(
            FACE_BYTES_KEPT, lambda face: face.nbytes
        )
        """Fonts that were read, by SHA-256."""
        self.lenders: WeighedCache[LenderKey, tuple[FontRef, ...]] = WeighedCache(
            ANSWERS_KEPT
        )
        """Which fonts lend letters: by font, letters, and the own fonts on offer."""

    @cached_property
    def families(self) -> tuple[Family, ...]:
        """All families, group by group."""
        catalogue = self._folder / CATALOGUE
        if not catalogue.exists():
            return ()
        found = json.loads(catalogue.read_text())["families"]
        return tuple(TypeAdapter(list[Family]).validate_python(found))

    @cached_property
    def refs(self) -> dict[str, tuple[Family, FontRef]]:
        """All styles of all families, by their files."""
        return {
            face.sha256: (family, family.ref(style))
            for family in self.families
            for style, face in family.faces.items()
        }

    def is_here(self, sha256: str) -> bool:
        """Tell whether a font's file is there."""
        return sha256 in self.refs and (self._folder / sha256).exists()

    def data(self, sha256: str) -> bytes | None:
        """Return the file of a font that ships; None where it is not there."""
        return (self._folder / sha256).read_bytes() if self.is_here(sha256) else None

    def let_go(self) -> None:
        """Keep nothing in memory."""
        self.faces.clear()
        self.lenders.clear()
        typesetting.let_go()
