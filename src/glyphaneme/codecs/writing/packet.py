"""What a picture says of itself, as XMP (ISO 16684-1) with IPTC's properties."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final
from xml.etree import ElementTree as Xml

from PIL import Image

if TYPE_CHECKING:
    from glyphaneme.core.finish.about import About

RDF: Final = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
DC: Final = "http://purl.org/dc/elements/1.1/"
RIGHTS: Final = "http://ns.adobe.com/xap/1.0/rights/"
IPTC: Final = "http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/"
META: Final = "adobe:ns:meta/"
LANGUAGE: Final = "{http://www.w3.org/XML/1998/namespace}lang"
PREFIXES: Final = {"rdf": RDF, "dc": DC, "xmpRights": RIGHTS, "Iptc4xmpCore": IPTC}
BEGINS: Final = '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>'
ENDS: Final = '<?xpacket end="r"?>'
EXIF_X_RESOLUTION, EXIF_Y_RESOLUTION, EXIF_RESOLUTION_UNIT = 282, 283, 296
EXIF_INCH = 2

for _prefix, _name in PREFIXES.items():
    Xml.register_namespace(_prefix, _name)


def packet_of(about: About) -> bytes:
    """Return a packet of what a picture says; nothing where it says nothing.

    Parameters
    ----------
    about : About
        Title, author, description, licence, and words for those who do not see it.
    """
    if about.is_empty:
        return b""
    root = Xml.Element(f"{{{META}}}xmpmeta")
    found = Xml.SubElement(
        Xml.SubElement(root, _of(RDF, "RDF")), _of(RDF, "Description")
    )
    found.set(_of(RDF, "about"), "")
    for name, text in (
        (_of(DC, "title"), about.title),
        (_of(DC, "description"), about.description),
        (_of(DC, "rights"), about.licence),
        (_of(RIGHTS, "UsageTerms"), about.licence),
        (_of(IPTC, "AltTextAccessibility"), about.alt),
    ):
        if text:
            _line(Xml.SubElement(found, name), "Alt", text).set(LANGUAGE, "x-default")
    if about.author:
        _line(Xml.SubElement(found, _of(DC, "creator")), "Seq", about.author)
    body = Xml.tostring(root, encoding="unicode")
    return f"{BEGINS}{body}{ENDS}".encode()


def resolution_exif(ppi: float) -> bytes:
    """Return an EXIF block that says how many pixels an inch has, and nothing else."""
    exif = Image.Exif()
    exif[EXIF_X_RESOLUTION] = exif[EXIF_Y_RESOLUTION] = ppi
    exif[EXIF_RESOLUTION_UNIT] = EXIF_INCH
    return exif.tobytes()


def _of(space: str, name: str) -> str:
    return f"{{{space}}}{name}"


def _line(parent: Xml.Element, holder: str, text: str) -> Xml.Element:
    line = Xml.SubElement(Xml.SubElement(parent, _of(RDF, holder)), _of(RDF, "li"))
    line.text = text
    return line
