"""Fonts: those that ship, those that people bring, and which lend letters to others."""

from __future__ import annotations

import hashlib
from contextlib import suppress
from functools import partial
from io import BytesIO
from typing import TYPE_CHECKING, BinaryIO

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import PictureRefusedError, RefusalCode
from glyphaneme.codecs.fonts import MAX_FONT_BYTES, read_fonts
from glyphaneme.core.edits import AddWords, Edit, SetWords
from glyphaneme.core.errors import FontUnreadableError
from glyphaneme.core.render import all_needed
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.typesetting import measured
from glyphaneme.core.words.values import Feature, FontRef
from glyphaneme.services.errors import NotThereError
from glyphaneme.store import fonts as fonts_store
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.notices import notify
from glyphaneme.store.rows import FontRow

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glyphaneme.core.document import Composite
    from glyphaneme.core.words.values import Measure, Words
    from glyphaneme.services.studio import Visit

A_FONT = "font"
PLAIN = "plain"


class OfferedFont(BaseModel):
    """A font that words can be set in."""

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    family: str
    style: str
    group: str
    """"own" for those that people brought."""
    is_here: bool = True
    """Whether its file could be fetched."""


class FontAxis(BaseModel):
    """One way in which a font can be varied."""

    model_config = ConfigDict(frozen=True)

    tag: str
    name: str
    least: float
    usual: float
    most: float


class FontFacts(BaseModel):
    """What a font can do."""

    model_config = ConfigDict(frozen=True)

    id: str
    features: list[Feature]
    has_ligatures: bool
    axes: list[FontAxis]


def list_fonts(visit: Visit) -> list[OfferedFont]:
    """Return all fonts on offer: those that ship, then those that people brought."""
    folder = visit.studio.fonts
    shipped = [
        OfferedFont(
            id=ref.id,
            name=ref.name,
            family=family.name,
            style=ref.name.removeprefix(family.name).strip() or "regular",
            group=family.group,
            is_here=folder.is_here(ref.id),
        )
        for family, ref in folder.refs.values()
    ]
    return [*shipped, *map(_own_offer, fonts_store.list_fonts(visit.session))]


def bring_in_font(visit: Visit, file: BinaryIO) -> list[OfferedFont]:
    """Keep all fonts of a file; what is no font is refused (`PictureRefusedError`)."""
    file.seek(0)
    kept = []
    # One byte more tells that it is too large; no more of it is held.
    for one in read_fonts(file.read(MAX_FONT_BYTES + 1)):
        row = FontRow(
            sha256=keep_blob(visit.session, BytesIO(one.data)),
            family=one.family,
            style=one.style,
            may_travel=one.may_travel,
        )
        fonts_store.put_font(visit.session, row)
        kept.append(_own_offer(row))
    notify(visit.session, {"kind": "fonts"})
    return kept


def keep_font(visit: Visit, sha256: str, data: bytes) -> None:
    """Keep a font that came with a document, as it is; not among those on offer.

    Raises
    ------
    PictureRefusedError
        It is no font, or not what it is called.
    """
    if visit.studio.fonts.is_here(sha256) or fonts_store.find_font(
        visit.session, sha256
    ):
        return
    (font, *_) = read_fonts(data)
    if hashlib.sha256(data).hexdigest() != sha256:
        raise PictureRefusedError(
            RefusalCode.DAMAGED,
            "A font in the file is not the one that its words name. Nothing of the "
            "file was kept; save it anew and bring that in.",
        )
    row = FontRow(
        sha256=keep_blob(visit.session, BytesIO(data)),
        family=font.family,
        style=font.style,
        may_travel=font.may_travel,
        on_offer=False,
    )
    fonts_store.put_font(visit.session, row)


def fonts_to_travel(visit: Visit, composite: Composite) -> dict[str, bytes]:
    """Return the files of a composite's fonts whose licences let them travel along."""
    found = {}
    for name in sorted(all_needed(composite).fonts):
        with suppress(NotThereError):
            if may_travel(visit, name):
                found[name] = font_file(visit, name)
    return found


def put_away_font(visit: Visit, sha256: str) -> None:
    """Take a font off those on offer; words that are set in it keep it.

    Raises
    ------
    NotThereError
        Nobody brought such a font.
    """
    row = fonts_store.find_font(visit.session, sha256)
    if row is None:
        raise NotThereError(A_FONT)
    row.on_offer = False
    notify(visit.session, {"kind": "fonts"})


def font_file(visit: Visit, sha256: str) -> bytes:
    """Return a font's file.

    Raises
    ------
    NotThereError
        There is no such font.
    """
    data = visit.studio.fonts.data(sha256)
    if data is None and fonts_store.find_font(visit.session, sha256) is not None:
        data = b"".join(blob_pieces(visit.session, sha256))
    if not data:
        raise NotThereError(A_FONT)
    return data


def may_travel(visit: Visit, sha256: str) -> bool:
    """Tell whether a font's licence lets documents carry it along."""
    if sha256 in visit.studio.fonts.refs:
        return True
    row = fonts_store.find_font(visit.session, sha256)
    return row is not None and row.may_travel


def facts_of(visit: Visit, sha256: str) -> FontFacts:
    """Return what a font can do.

    Raises
    ------
    NotThereError
        There is no such font.
    """
    face = face_of(visit, sha256)
    if face is None:
        raise NotThereError(A_FONT)
    return FontFacts(
        id=sha256,
        features=sorted(face.features),
        has_ligatures=face.has_ligatures,
        axes=[FontAxis(**one._asdict()) for one in face.axes],
    )


def lacking(visit: Visit, text: str) -> dict[str, str]:
    """Return which letters of a text each font lacks, by its id.

    Those that lack none are left out.
    """
    found = {}
    letters = "".join(dict.fromkeys(text))
    for font in list_fonts(visit):
        face = face_of(visit, font.id) if font.is_here else None
        if face is not None:
            missing = "".join(one for one in letters if not face.has(one))
            if missing:
                found[font.id] = missing
    return found


def face_of(visit: Visit, sha256: str) -> Face | None:
    """Return a font, read; None where it is not at hand."""
    kept = visit.studio.fonts.faces
    found = kept.get(sha256)
    if found is not None:
        return found
    try:
        return kept.put(sha256, Face(font_file(visit, sha256)))
    except (NotThereError, FontUnreadableError):
        return None


def faces_of(visit: Visit, wanted: Iterable[str]) -> dict[str, Face]:
    """Return those of some fonts that are at hand, by their ids."""
    found = ((one, face_of(visit, one)) for one in wanted)
    return {one: face for one, face in found if face is not None}


def refs_for(visit: Visit, text: str) -> tuple[FontRef, ...]:
    """Return a plain font that ships, and those that lend it the letters it lacks."""
    found = list(visit.studio.fonts.refs.values())
    if not found:
        return ()
    chosen = next((ref for family, ref in found if family.group == PLAIN), found[0][1])
    return (chosen, *_lenders(visit, chosen, text))


def measured_edit(visit: Visit, edit: Edit) -> Edit:
    """Return an edit of words with what they measure, and with fonts that lend letters.

    All other edits stay as they are.
    """
    if not isinstance(edit, AddWords | SetWords):
        return edit
    words, measure = measured_words(visit, edit.words)
    return with_fields(edit, words=words, measure=measure)


def measured_words(visit: Visit, words: Words) -> tuple[Words, Measure]:
    """Return words with the fonts that lend them letters, and what they measure."""
    setting = words.setting
    chosen = _called(visit, setting.fonts[0])
    fonts = (chosen, *_lenders(visit, chosen, setting.text))
    words = with_fields(words, setting=with_fields(setting, fonts=fonts))
    return words, measured(words, faces_of(visit, (one.id for one in fonts)))


def _called(visit: Visit, font: FontRef) -> FontRef:
    """Return a font as it is called here, whatever a document calls it."""
    known = visit.studio.fonts.refs.get(font.id)
    if known is not None:
        return known[1]
    row = fonts_store.find_font(visit.session, font.id)
    return font if row is None else FontRef(id=font.id, name=_own_name(row))


def _lenders(visit: Visit, chosen: FontRef, text: str) -> tuple[FontRef, ...]:
    """Return fonts that have what the chosen one lacks, the nearest first."""
    own = [
        FontRef(id=row.sha256, name=_own_name(row))
        for row in fonts_store.list_fonts(visit.session)
    ]
    return visit.studio.fonts.lenders_for(chosen, text, partial(face_of, visit), own)


def _own_offer(row: FontRow) -> OfferedFont:
    return OfferedFont(
        id=row.sha256,
        name=_own_name(row),
        family=row.family,
        style=row.style,
        group="own",
    )


def _own_name(row: FontRow) -> str:
    usual = row.style.lower() in {"regular", "normal", "book"}
    return row.family if usual else f"{row.family} {row.style}"[:120]
