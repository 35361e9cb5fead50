"""The folder of the fonts that ship, with their catalogue."""

from __future__ import annotations

import json
from functools import cached_property
from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict, TypeAdapter

from glyphaneme.core.errors import FontUnreadableError
from glyphaneme.core.weighed import WeighedCache
from glyphaneme.core.words import typesetting
from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.values import MAX_FONTS, FontRef

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence
    from pathlib import Path


CATALOGUE = "catalogue.json"
FACE_BYTES_KEPT = 64 * 2**20
ANSWERS_KEPT = 4096
SCRIPTS = "scripts"
"""The group of families for other scripts: they lend first after a font's own group."""

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

    def face(self, sha256: str) -> Face | None:
        """Return a font that ships, read; None where it cannot be."""
        found = self.faces.get(sha256)
        data = None if found is not None else self.data(sha256)
        if data is None:
            return found
        try:
            return self.faces.put(sha256, Face(data))
        except FontUnreadableError:
            return None

    def lenders_for(
        self,
        chosen: FontRef,
        text: str,
        face_of: Callable[[str], Face | None],
        own: Sequence[FontRef] = (),
    ) -> tuple[FontRef, ...]:
        """Return fonts that have what the chosen one lacks, the nearest first.

        `own` are those that somebody brought in; `face_of` reads any of them.
        """
        face = face_of(chosen.id)
        missing = {one for one in text if one != "\n" and not (face and face.has(one))}
        if not missing:
            return ()
        key = (chosen.id, "".join(sorted(missing)), tuple(one.id for one in own))
        known = self.lenders.get(key)
        if known is not None:
            return known
        found: list[FontRef] = []
        for ref in self._nearest(chosen, own):
            if not missing or len(found) == MAX_FONTS - 1:
                break
            other = face_of(ref.id)
            has = {one for one in missing if other is not None and other.has(one)}
            if has:
                found.append(ref)
                missing -= has
        return self.lenders.put(key, tuple(found))

    def _nearest(self, chosen: FontRef, own: Sequence[FontRef]) -> Iterator[FontRef]:
        """Yield other fonts: of its group, for other scripts, all others, own ones."""
        known = self.refs.get(chosen.id)
        group = known[0].group if known else ""
        families = sorted(
            self.families,
            key=lambda one: (one.group != group, one.group != SCRIPTS),
        )
        for family in families:
            ref = family.ref("regular")
            if ref.id != chosen.id:
                yield ref
        yield from (ref for ref in own if ref.id != chosen.id)

    def let_go(self) -> None:
        """Keep nothing in memory."""
        self.faces.clear()
        self.lenders.clear()
        typesetting.let_go()
