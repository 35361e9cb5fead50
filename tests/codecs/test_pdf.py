"""Pages, as readers that know nothing of ours find them."""

from __future__ import annotations

import subprocess
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image

from glyphaneme.codecs import FileFormat, FileSpec, Shape, spooled
from glyphaneme.codecs.color import Conversion
from glyphaneme.codecs.pdf import (
    Box,
    PdfDocument,
    PdfPage,
    PdfTarget,
    PlacedPicture,
    PlacedWords,
    framed,
)
from glyphaneme.core.finish import About
from glyphaneme.core.finish.settings import Coloring
from glyphaneme.core.words.typesetting import typeset
from tests import fonts
from tests.pdfs import boxes_of, pdf_facts, said_by, text_of, told
from tests.pictures import noise_pixels, psnr, soft_pixels

if TYPE_CHECKING:
    from pathlib import Path

TRIM = (100.0, 75.0)
MM = 1 / 25.4 * 72


def words(text: str, *names: str, at: float = 20, **fields: Any) -> PlacedWords:
    """Set words, 10 mm large, on a page."""
    said = fonts.words(text, *names, size=10)
    faces = {
        ref.id: fonts.face(name)
        for ref, name in zip(said.setting.fonts, names, strict=True)
    }
    found = typeset(said, faces)
    placed = PlacedWords(
        found.letters.fonts,
        found.letters.font,
        found.letters.code,
        found.letters.maps,
        found.said,
        (0.0, 0.0, 0.0),
        1.0,
    )
    return placed.moved(20, at)._replace(**fields)


def page_of(path: Path, *said: PlacedWords, **fields: Any) -> Path:
    """Write a page with a picture, and words on it."""
    coloring = fields.get("coloring", Coloring())
    marks = fields.get("marks", True)
    conversion = Conversion.into(coloring)
    pixels = fields.get("pixels", soft_pixels(240, 180, seed=1))
    opaque = bool(pixels[..., 3].min() == 255)
    shape = Shape(pixels.shape[1], pixels.shape[0], opaque, conversion.file_ink)
    printer = "FOGRA39" if coloring.space == "ink" else None
    spec = FileSpec(
        FileFormat.PDF,
        95,
        72,
        exact=fields.get("exact", False),
        about=fields.get("about", About()),
    )
    media, trim, whole = framed(TRIM, fields.get("bleed", 3.0), with_margin=marks)
    document = PdfDocument(PdfTarget(spec, conversion, printer))
    with spooled((conversion.of(pixels),), shape) as spool:
        picture = document.picture(spool)
    inked = [one._replace(color=one.color[:1] * channels(conversion)) for one in said]
    placed = (PlacedPicture(picture, whole),)
    clip = fields.get("clip")
    document.add(
        PdfPage(media, trim, whole, placed, tuple(inked), marks, marks, clip=clip)
    )
    with path.open("wb") as file:
        document.save(file)
    told("qpdf", "--check", str(path))
    return path


def channels(conversion: Conversion) -> int:
    return {"rgb": 3, "gray": 1, "cmyk": 4}[conversion.file_ink]


def seen(file: Path, folder: Path, ppi: int = 72) -> np.ndarray:
    """Render a page as poppler sees it."""
    told("pdftoppm", "-r", str(ppi), "-png", str(file), str(folder / "seen"))
    (found,) = folder.glob("seen*.png")
    with Image.open(found) as image:
        return np.asarray(image.convert("RGB"))


def test_page_is_true_to_a_hundredth_of_a_millimetre(tmp_path: Path) -> None:
    boxes = boxes_of(page_of(tmp_path / "a.pdf"))

    media, trim, bleed = (boxes[f"{name}Box"] for name in ("Media", "Trim", "Bleed"))
    assert media == pytest.approx([0, 0, 126, 101], abs=0.01)
    assert bleed == pytest.approx([10, 10, 116, 91], abs=0.01)
    assert trim == pytest.approx([13, 13, 113, 88], abs=0.01)


def test_picture_fills_the_bleed_and_marks_stand_outside(tmp_path: Path) -> None:
    file = page_of(
        tmp_path / "a.pdf",
        pixels=np.full((90, 120, 4), 255, np.uint8)
        - np.array([0, 0, 200, 0], np.uint8),
    )

    page = seen(file, tmp_path, 254)

    # Ten pixels are a millimetre.
    inside = page[105:905, 105:1155].reshape(-1, 3).astype(int)
    assert np.abs(inside - [255, 255, 55]).max() < 12
    assert (page[20:80, 128:132] < 160).any()
    assert (page[20:80, 60:120] == 255).all()
    assert (page[128:132, 20:80] < 160).any()


def test_printer_s_page_names_what_it_is_printed_with(tmp_path: Path) -> None:
    ink = Coloring(space="ink")
    file = page_of(tmp_path / "a.pdf", coloring=ink, about=About(title="Season"))

    said = said_by(file)
    assert said["PDF:PDFVersion"] == 1.6
    assert said["XMP-pdfxid:GTS_PDFXVersion"] == "PDF/X-4"
    assert said["PDF:Trapped"] in {"False", False}
    text = told("qpdf", "--qdf", "--object-streams=disable", str(file), "-")
    for needed in ("/OutputIntents", "/GTS_PDFX", "/DestOutputProfile", "/ID ["):
        assert needed in text
    images = told("pdfimages", "-list", str(file)).splitlines()[2].split()
    assert images[2:8] == ["image", "240", "180", "cmyk", "4", "8"]


def test_printer_s_picture_looks_as_it_does_in_its_proof(tmp_path: Path) -> None:
    ink = Coloring(space="ink")
    pixels = soft_pixels(240, 180, seed=1)
    file = page_of(tmp_path / "a.pdf", coloring=ink, bleed=0, marks=False)

    told("pdfimages", "-all", str(file), str(tmp_path / "image"))
    (found,) = tmp_path.glob("image*.jpg")
    with Image.open(found) as image:
        inks = np.asarray(image)
    wanted = Conversion.into(ink).of(pixels)[..., :4]
    # Extracted without its page, a JPEG of inks has them the other way round.
    apart = min(np.abs(one.astype(int) - wanted).mean() for one in (inks, 255 - inks))
    assert apart < 3
    shown = seen(file, tmp_path)
    assert shown.mean() == pytest.approx(pixels[..., :3].mean(), abs=40)


def test_page_without_a_printer_keeps_its_pixels_exact_where_asked(
    tmp_path: Path,
) -> None:
    pixels = noise_pixels(60, 45, seed=3)
    file = page_of(tmp_path / "a.pdf", pixels=pixels, exact=True, marks=False, bleed=0)

    assert pdf_facts(file)["PDF version"] == "1.7"
    told("pdfimages", "-png", str(file), str(tmp_path / "image"))
    first, second = sorted(tmp_path.glob("image*.png"))
    with Image.open(first) as image, Image.open(second) as mask:
        np.testing.assert_array_equal(np.asarray(image), pixels[..., :3])
        np.testing.assert_array_equal(np.asarray(mask.convert("L")), pixels[..., 3])


def test_words_are_selected_searched_and_their_fonts_go_along(tmp_path: Path) -> None:
    file = page_of(
        tmp_path / "a.pdf",
        words("Opening night", "Lobster"),
        words("office fficulty", "Work Sans", at=40),
    )

    text = text_of(file)
    assert "Opening night" in text
    assert "office fficulty" in text
    fonts_told = told("pdffonts", str(file)).splitlines()[2:]
    assert len(fonts_told) == 2
    assert all(line.split()[-5:-2] == ["yes", "yes", "yes"] for line in fonts_told)


def test_words_lie_where_their_outlines_do(tmp_path: Path) -> None:
    white = np.full((18, 24, 4), 255, np.uint8)
    pages = []
    for as_lines in (False, True):
        folder = tmp_path / str(as_lines)
        folder.mkdir()
        said = words("Opening night", "Lobster", as_lines=as_lines)
        file = page_of(folder / "a.pdf", said, pixels=white, marks=False)
        pages.append(seen(file, folder, 200))
        assert ("Opening" in text_of(file)) is not as_lines

    assert (pages[0] < 100).sum() > 2000
    # Readers smooth letters a little otherwise than shapes.
    assert psnr(pages[0], pages[1]) > 27


def test_words_are_as_see_through_as_they_are(tmp_path: Path) -> None:
    white = np.full((18, 24, 4), 255, np.uint8)

    page = seen(
        page_of(
            tmp_path / "a.pdf",
            words("M", "Work Sans", opacity=0.5),
            pixels=white,
            marks=False,
        ),
        tmp_path,
        200,
    )

    assert abs(int(page.min()) - 128) <= 3


def test_nothing_shows_beyond_what_a_page_is_clipped_to(tmp_path: Path) -> None:
    dark = np.zeros((18, 24, 4), np.uint8)
    dark[..., 3] = 255

    page = seen(
        page_of(
            tmp_path / "a.pdf",
            words("Opening", "Lobster"),
            pixels=dark,
            marks=False,
            clip=Box(10, 10, 30, 20),
        ),
        tmp_path,
        254,
    )

    assert page[105:295, 105:395].max() < 10
    assert page[:95].min() > 250
    assert page[:, 405:].min() > 250


def test_damaged_page_is_told_by_the_check_that_all_pages_pass(tmp_path: Path) -> None:
    file = page_of(tmp_path / "a.pdf")
    file.write_bytes(file.read_bytes()[:-400])

    with pytest.raises(subprocess.CalledProcessError):
        told("qpdf", "--check", str(file))
