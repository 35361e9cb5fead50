"""A PDF that is written page by page, through pikepdf (qpdf)."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import TYPE_CHECKING, BinaryIO, Final, NamedTuple

import pikepdf
from pikepdf import Array, Dictionary, Name

from glyphaneme.codecs.color.converting import CHANNELS, Conversion
from glyphaneme.codecs.pdf import marks
from glyphaneme.codecs.pdf.lettering import Letterer
from glyphaneme.codecs.pdf.pages import POINTS_PER_MM, Picture
from glyphaneme.codecs.pdf.pictures import picture_object

if TYPE_CHECKING:
    from glyphaneme.codecs.pdf.pages import Box, PdfPage, PlacedPicture
    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

PRODUCER: Final = "Glyphaneme"
DEVICE: Final = {
    "cmyk": Name.DeviceCMYK,
    "rgb": Name.DeviceRGB,
    "gray": Name.DeviceGray,
}
X_VERSION: Final = "{http://www.npes.org/pdfx/ns/id/}GTS_PDFXVersion"
NO_REGISTRY: Final = "http://www.color.org"


class PdfTarget(NamedTuple):
    """What a PDF is printed with."""

    spec: FileSpec
    """How its pictures are packed, and what it says of itself."""
    conversion: Conversion
    """To its colours; a printer's make it a PDF/X-4 (ISO 15930-7)."""
    printer: str | None = None
    """What the printer's profile is called, where it has one."""


class PdfDocument:
    """Pages are added one after the other; then all is saved."""

    def __init__(self, target: PdfTarget) -> None:
        self._target = target
        self._pdf = pikepdf.new()
        self._colors = self._colors_of(target)
        self._pictures: list[pikepdf.Object] = []

    def picture(self, spool: Spool) -> Picture:
        """Take pixels in, packed; pages may show them as often as they like."""
        self._pictures.append(
            picture_object(self._pdf, spool, self._target.spec, self._colors)
        )
        return Picture(len(self._pictures) - 1)

    def add(self, page: PdfPage) -> None:
        """Add a page."""
        pdf, ink = self._pdf, self._target.conversion.file_ink
        resources = Dictionary(XObject=Dictionary())
        lines = ["q"]
        if page.clip is not None:
            lines.append(f"{marks.rectangle(page, page.clip)} W n")
        for place, placed in enumerate(page.pictures):
            name = f"/P{place}"
            resources.XObject[name] = self._pictures[placed.picture.number]
            lines.append(_drawn(page, placed, name))
        if page.words:
            letterer = Letterer(pdf, ink)
            lines += letterer.written(page.words, page.media[1], resources)
        lines.append("Q")
        if page.has_marks:
            lines += marks.crop_marks(page, ink)
        if page.has_bar:
            lines += marks.color_bar(page, ink)
        pdf.pages.append(
            pikepdf.Page(
                Dictionary(
                    Type=Name.Page,
                    MediaBox=_box(page, None),
                    BleedBox=_box(page, page.bleed),
                    TrimBox=_box(page, page.trim),
                    Resources=resources,
                    Contents=pdf.make_stream("\n".join(lines).encode()),
                )
            )
        )

    def save(self, file: BinaryIO) -> None:
        """Write all pages, with what the document says of itself."""
        self._say()
        printed = self._target.printer is not None
        self._pdf.save(
            file,
            force_version="1.6" if printed else "1.7",
            object_stream_mode=pikepdf.ObjectStreamMode.disable
            if printed
            else pikepdf.ObjectStreamMode.generate,
            compress_streams=True,
        )
        self._pdf.close()

    def _colors_of(self, target: PdfTarget) -> pikepdf.Object:
        """Return the colour space of pictures, and say what they are printed with."""
        ink = target.conversion.file_ink
        stream = pikepdf.Stream(self._pdf, target.conversion.file_profile)
        stream.N = CHANNELS[ink]
        stream.Alternate = DEVICE[ink]
        profile = self._pdf.make_indirect(stream)
        if target.printer is None:
            return self._pdf.make_indirect(Array([Name.ICCBased, profile]))
        intent = Dictionary(
            Type=Name.OutputIntent,
            S=Name.GTS_PDFX,
            OutputConditionIdentifier=target.printer,
            Info=target.printer,
            RegistryName=NO_REGISTRY,
            DestOutputProfile=profile,
        )
        self._pdf.Root.OutputIntents = Array([self._pdf.make_indirect(intent)])
        return DEVICE[ink]

    def _say(self) -> None:
        about, printed = self._target.spec.about, self._target.printer is not None
        now = datetime.now(UTC).replace(microsecond=0)
        information = self._pdf.docinfo
        information.Producer = PRODUCER
        information.CreationDate = information.ModDate = now.strftime("D:%Y%m%d%H%M%SZ")
        title = about.title or "Untitled"
        if about.title or printed:
            information.Title = title
        if about.author:
            information.Author = about.author
        with self._pdf.open_metadata(
            set_pikepdf_as_editor=False, update_docinfo=False
        ) as said:
            for when in ("CreateDate", "ModifyDate", "MetadataDate"):
                said[f"xmp:{when}"] = now.isoformat()
            said["pdf:Producer"] = PRODUCER
            if about.title or printed:
                said["dc:title"] = title
            if about.author:
                said["dc:creator"] = [about.author]
            if about.description:
                said["dc:description"] = about.description
            if about.licence:
                said["dc:rights"] = about.licence
            if printed:
                information.Trapped = Name("/False")
                said["pdf:Trapped"] = "False"
                said[X_VERSION] = "PDF/X-4"
                said["xmpMM:DocumentID"] = f"uuid:{uuid.uuid4()}"
                said["xmpMM:VersionID"] = "1"
                said["xmpMM:RenditionClass"] = "default"


def _drawn(page: PdfPage, placed: PlacedPicture, name: str) -> str:
    box = placed.box
    numbers = (
        box.width,
        0,
        0,
        box.height,
        box.left,
        page.media[1] - box.top - box.height,
    )
    matrix = " ".join(f"{one * POINTS_PER_MM:.4f}" for one in numbers)
    return f"q {matrix} cm {name} Do Q"


def _box(page: PdfPage, box: Box | None) -> Array:
    width, height = page.media
    if box is None:
        sides = (0.0, 0.0, width, height)
    else:
        bottom = height - box.top - box.height
        sides = (box.left, bottom, box.left + box.width, height - box.top)
    return Array([round(side * POINTS_PER_MM, 4) for side in sides])
