"""Layered OpenRaster files: what is in the archive, read and written.

The format: a zip archive whose first entry is its media type, with `stack.xml`, a PNG
per layer, a merged picture and a thumbnail (OpenRaster baseline, version 0.0.6).
"""

from __future__ import annotations

import hashlib
import io
import json
import math
import zipfile
from dataclasses import dataclass
from pathlib import PurePosixPath
from typing import TYPE_CHECKING, Any, BinaryIO, Self
from xml.etree.ElementTree import Element, ParseError, SubElement, tostring

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode
from glyphaneme.codecs.writing import FileFormat, FileSpec, Shape, write_bands

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator, Mapping

    from glyphaneme.core.arrays import PixelsU8

MEDIA_TYPE = "image/openraster"
VERSION = "0.0.6"
OWN_DOCUMENT = "glyphaneme/document.json"
OWN_PICTURES = "glyphaneme/pictures/"
MAX_ENTRIES = 2_000
MAX_STACK_BYTES = 4 * 1024 * 1024
MAX_BYTES = 4 * 1024 * 1024 * 1024
MAX_DEPTH = 8
MAX_LAYERS = 200
LAYER_PPI = 72


class DamagedArchiveError(PictureRefusedError):
    """A file is no OpenRaster archive, or one that cannot be trusted."""

    def __init__(self, what: str, part: object = "") -> None:
        said = f"{what} {part}".strip()
        super().__init__(
            RefusalCode.DAMAGED,
            f"{said}. Nothing of it was kept; save it anew and bring that in.",
        )


@dataclass(frozen=True)
class LayerEntry:
    """One layer; `source` names its PNG within the archive."""

    name: str
    source: str
    x: int
    y: int
    opacity: float
    visible: bool
    composite_op: str


@dataclass(frozen=True)
class StackEntry:
    """Layers that are composed by themselves (isolated) or simply lie together."""

    name: str
    opacity: float
    visible: bool
    composite_op: str
    isolated: bool
    entries: tuple[LayerEntry | StackEntry, ...]
    """From back to front; the file itself lists them front to back."""


@dataclass(frozen=True)
class LayeredPicture:
    """What `stack.xml` says."""

    width: int
    height: int
    ppi: float
    entries: tuple[LayerEntry | StackEntry, ...]


class OpenRasterReader:
    """An OpenRaster file, opened for reading; every size and path in it is checked.

    Parameters
    ----------
    file : binary file
        Seekable; stays open.

    Raises
    ------
    PictureRefusedError
        It is no OpenRaster file, damaged, hostile or too large.
    """

    def __init__(self, file: BinaryIO) -> None:
        file.seek(0)
        try:
            self._archive = zipfile.ZipFile(file)
        # The reader of archives reports damage by whatever it stumbles over.
        except Exception as cause:
            raise DamagedArchiveError("It is no OpenRaster archive") from cause
        entries = self._archive.infolist()
        if len(entries) > MAX_ENTRIES or sum(e.file_size for e in entries) > MAX_BYTES:
            raise PictureRefusedError(
                RefusalCode.TOO_HEAVY,
                f"The layered file holds more than {MAX_BYTES >> 30} GB or "
                f"{MAX_ENTRIES} parts. Nothing of it was kept.",
            )
        self._names = {entry.filename for entry in entries}
        if self._read("mimetype", limit=100).strip() != MEDIA_TYPE.encode():
            raise DamagedArchiveError("It does not say that it is an OpenRaster file")
        self.picture = self._read_stack()

    def open_layer(self, entry: LayerEntry) -> io.BytesIO:
        """Return a layer's PNG.

        Parameters
        ----------
        entry : LayerEntry
            One of `picture`'s.

        Returns
        -------
        binary file
            In memory, at its start.
        """
        return io.BytesIO(self._read(entry.source))

    def own_document(self) -> dict[str, Any] | None:
        """Return the document that we wrote along, if the rest is still as it was.

        Returns
        -------
        dict or None
            None where there is none, or another program has changed the layers.
        """
        if OWN_DOCUMENT not in self._names:
            return None
        try:
            document: dict[str, Any] = json.loads(self._read(OWN_DOCUMENT))
            fresh = document["seal"] == self._seal()
        except (ValueError, KeyError, TypeError, RecursionError):
            return None
        return document if fresh else None

    def own_picture(self, name: str) -> io.BytesIO:
        """Return an original picture that we wrote along.

        Parameters
        ----------
        name : str
            As the document calls it.

        Returns
        -------
        binary file
            In memory, at its start.
        """
        return io.BytesIO(self._read(OWN_PICTURES + name))

    def _seal(self) -> str:
        """Sum up what other programs may change: the stack and its layers."""
        return seal_of(
            (name, self._archive.getinfo(name).CRC)
            for name in self._names
            if name == "stack.xml" or name.startswith("data/")
        )

    def _read(self, name: str, *, limit: int = MAX_BYTES) -> bytes:
        path = PurePosixPath(name)
        if path.is_absolute() or ".." in path.parts or "\\" in name:
            raise DamagedArchiveError("It points to something outside of itself:", name)
        if name not in self._names:
            raise DamagedArchiveError("A part of it is missing:", name)
        try:
            with self._archive.open(name) as entry:
                # Headers may lie about sizes: not more than they say, nor than we take.
                most = min(self._archive.getinfo(name).file_size, limit)
                data = entry.read(most + 1)
        except NotImplementedError as cause:
            raise DamagedArchiveError(
                "A part of it is packed in a way that is not known here:", name
            ) from cause
        except Exception as cause:
            raise DamagedArchiveError("A part of it is damaged:", name) from cause
        if len(data) > most:
            raise DamagedArchiveError("A part of it is larger than it says:", name)
        return data

    def _read_stack(self) -> LayeredPicture:
        try:
            image = fromstring(self._read("stack.xml", limit=MAX_STACK_BYTES))
            stack = image.find("stack")
            if image.tag != "image" or stack is None:
                raise DamagedArchiveError("Its stack.xml holds no picture")
            entries = tuple(_entries(stack, 0, 0, 0))
            picture = LayeredPicture(
                width=int(image.attrib["w"]),
                height=int(image.attrib["h"]),
                ppi=_number(image.attrib, "xres", 72),
                entries=entries,
            )
        except DefusedXmlException as cause:
            raise DamagedArchiveError("Its stack.xml refers to other files") from cause
        except (ParseError, KeyError, ValueError) as cause:
            if isinstance(cause, PictureRefusedError):
                raise
            raise DamagedArchiveError("Its stack.xml cannot be read") from cause
        if sum(1 for _ in _layers_of(entries)) > MAX_LAYERS:
            raise DamagedArchiveError("It holds more layers than", MAX_LAYERS)
        return picture


class OpenRasterWriter:
    """Writes an OpenRaster file part by part; use as a context manager.

    Parameters
    ----------
    file : binary file
        Where to write; seekable.
    """

    def __init__(self, file: BinaryIO) -> None:
        self._archive = zipfile.ZipFile(file, "w", zipfile.ZIP_STORED)
        self._count = 0
        self._archive.writestr("mimetype", MEDIA_TYPE)

    def __enter__(self) -> Self:
        """Return the writer itself."""
        return self

    def __exit__(self, *_: object) -> None:
        """Finish the archive; the file stays open."""
        self._archive.close()

    def add_layer(self, bands: Iterable[PixelsU8], shape: Shape) -> str:
        """Write a layer's pixels.

        Parameters
        ----------
        bands, shape : as for `write_bands`
            The pixels.

        Returns
        -------
        str
            The name to give as a `LayerEntry`'s source.
        """
        name = f"data/layer{self._count:03}.png"
        self._count += 1
        self.add_picture(name, bands, shape, ppi=LAYER_PPI)
        return name

    def add_picture(
        self, name: str, bands: Iterable[PixelsU8], shape: Shape, *, ppi: float
    ) -> None:
        """Write any picture as a PNG.

        Parameters
        ----------
        name : str
            Its path in the archive.
        bands, shape : as for `write_bands`
            The pixels.
        ppi : float
            Pixels per inch.
        """
        with self._archive.open(name, "w", force_zip64=True) as part:
            spec = FileSpec(FileFormat.PNG, 100, ppi)
            write_bands(bands, shape, part, spec)  # type: ignore[arg-type]  # IO[bytes]

    def add_file(self, name: str, pieces: Iterable[bytes]) -> None:
        """Write a file as it is.

        Parameters
        ----------
        name : str
            Its path in the archive.
        pieces : iterable of bytes
            Its content.
        """
        with self._archive.open(name, "w", force_zip64=True) as part:
            for piece in pieces:
                part.write(piece)

    def add_stack(self, picture: LayeredPicture) -> None:
        """Write what the layers are; after the layers themselves.

        Parameters
        ----------
        picture : LayeredPicture
            Sources as `add_layer` named them.
        """
        image = Element(
            "image",
            version=VERSION,
            w=str(picture.width),
            h=str(picture.height),
            xres=f"{picture.ppi:.6g}",
            yres=f"{picture.ppi:.6g}",
        )
        _write_entries(SubElement(image, "stack"), picture.entries)
        self._archive.writestr(
            "stack.xml", tostring(image, encoding="utf-8", xml_declaration=True)
        )

    def add_document(self, document: Mapping[str, Any]) -> None:
        """Write our own document along, sealed; after stack and layers.

        Parameters
        ----------
        document : mapping
            What `own_document` shall return.
        """
        entries = self._archive.infolist()
        seal = seal_of(
            (entry.filename, entry.CRC)
            for entry in entries
            if entry.filename == "stack.xml" or entry.filename.startswith("data/")
        )
        self._archive.writestr(OWN_DOCUMENT, json.dumps({**document, "seal": seal}))


def seal_of(parts: Iterable[tuple[str, int]]) -> str:
    """Sum up names and checksums of parts.

    Parameters
    ----------
    parts : iterable of (str, int)
        Names, and the CRC-32 of each part's content.

    Returns
    -------
    str
        The same for the same parts in any order.

    Examples
    --------
    >>> seal_of([("a", 1), ("b", 2)]) == seal_of([("b", 2), ("a", 1)])
    True
    """
    return hashlib.sha256(json.dumps(sorted(parts)).encode()).hexdigest()


def _entries(
    stack: Element, left: int, top: int, depth: int
) -> Iterator[LayerEntry | StackEntry]:
    """Read a stack's entries from back to front; positions add up through stacks.

    Raises
    ------
    DamagedArchiveError
        Stacks lie in one another too deep.
    """
    if depth > MAX_DEPTH:
        raise DamagedArchiveError(
            "Its stacks lie in one another deeper than", MAX_DEPTH
        )
    for element in reversed(stack):
        if element.tag not in {"layer", "stack"}:
            continue
        fields = element.attrib
        x, y = left + _whole(fields, "x"), top + _whole(fields, "y")
        shared: dict[str, Any] = {
            "name": fields.get("name", ""),
            "opacity": min(max(_number(fields, "opacity", 1), 0.0), 1.0),
            "visible": fields.get("visibility", "visible") == "visible",
            "composite_op": fields.get("composite-op", "svg:src-over"),
        }
        if element.tag == "layer":
            yield LayerEntry(**shared, source=fields["src"], x=x, y=y)
        else:
            yield StackEntry(
                **shared,
                isolated=fields.get("isolation", "isolate") == "isolate",
                entries=tuple(_entries(element, x, y, depth + 1)),
            )


def _whole(fields: Mapping[str, str], name: str) -> int:
    return round(_number(fields, name, 0))


def _number(fields: Mapping[str, str], name: str, otherwise: float) -> float:
    """Read a number that is one.

    Raises
    ------
    DamagedArchiveError
        It is infinite, or none at all.
    """
    number = float(fields.get(name, otherwise))
    if not math.isfinite(number):
        raise DamagedArchiveError("A layer in its stack.xml has no finite", name)
    return number


def _layers_of(entries: Iterable[LayerEntry | StackEntry]) -> Iterator[LayerEntry]:
    for entry in entries:
        if isinstance(entry, LayerEntry):
            yield entry
        else:
            yield from _layers_of(entry.entries)


def _write_entries(
    stack: Element, entries: tuple[LayerEntry | StackEntry, ...]
) -> None:
    for entry in reversed(entries):
        fields = {
            "name": entry.name,
            "opacity": f"{entry.opacity:.9g}",
            "visibility": "visible" if entry.visible else "hidden",
            "composite-op": entry.composite_op,
        }
        if isinstance(entry, LayerEntry):
            place = {"src": entry.source, "x": str(entry.x), "y": str(entry.y)}
            SubElement(stack, "layer", {**fields, **place})
        else:
            isolation = "isolate" if entry.isolated else "auto"
            inner = SubElement(stack, "stack", {**fields, "isolation": isolation})
            _write_entries(inner, entry.entries)
