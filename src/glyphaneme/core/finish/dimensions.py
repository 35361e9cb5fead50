"""What is rendered for a file, and how it lies on its page: reckoned, not drawn."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.finish.sizes import MM_PER_INCH, paper_width_for, width_for
from glyphaneme.core.place import Rect
from glyphaneme.core.render.views import View

if TYPE_CHECKING:
    from glyphaneme.core.document import Canvas
    from glyphaneme.core.finish.settings import FileSettings, Ground

LEAST = 1e-9


class Laid(NamedTuple):
    """A picture in the middle of a ground, in pixels of the file."""

    width: int
    height: int
    left: int
    top: int
    color: str


class Dimensions(NamedTuple):
    """What of a canvas is rendered, how large, and how large that is on paper."""

    area: Rect[float]
    """Of the canvas, in its pixels; with the bleed."""
    width: int
    height: int
    """Rendered pixels."""
    scale: float
    """Of them, per canvas pixel."""
    ppi: float
    """Of them, per inch of paper."""
    page_mm: tuple[float, float]
    """Width and height on paper before it is cut: with the bleed."""
    bleed_mm: float
    """How much of each edge is cut away."""
    laid: Laid | None

    @property
    def view(self) -> View:
        """What is rendered, as a view.

        Returns
        -------
        View
            Of the area, at the scale.
        """
        return View(self.area.left, self.area.top, self.width, self.height, self.scale)

    @property
    def file_width(self) -> int:
        """How many pixels wide the file is.

        Returns
        -------
        int
            With its ground.
        """
        return self.laid.width if self.laid else self.width

    @property
    def file_height(self) -> int:
        """How many pixels high the file is.

        Returns
        -------
        int
            With its ground.
        """
        return self.laid.height if self.laid else self.height

    @property
    def trim_mm(self) -> tuple[float, float]:
        """How large it is on paper once it is cut.

        Returns
        -------
        (width, height), mm
            Without the bleed.
        """
        width, height = self.page_mm
        return width - 2 * self.bleed_mm, height - 2 * self.bleed_mm


def dimensions_of(
    canvas: Canvas, settings: FileSettings, part: Rect[float] | None = None
) -> Dimensions:
    """Work out the dimensions of a file of a canvas.

    Parameters
    ----------
    canvas : Canvas
        The sheet.
    settings : FileSettings
        What the file shall be like.
    part : Rect, optional
        Which part of the canvas alone, in its pixels.

    Returns
    -------
    Dimensions
        Pixels are whole, at least one on a side, and never stretched.

    Examples
    --------
    >>> from glyphaneme.core.document import Canvas
    >>> from glyphaneme.core.finish.settings import FileSettings
    >>> made = dimensions_of(Canvas(width=400, height=300, ppi=100), FileSettings())
    >>> made.width, made.height, round(made.page_mm[1], 1)
    (400, 300, 76.2)
    """
    whole = Rect(0.0, 0.0, float(canvas.width), float(canvas.height))
    shown = whole if part is None else part
    width = max(1.0, width_for(settings.size, shown.width, shown.height, canvas.ppi))
    paper_mm = paper_width_for(settings.size, shown.width, canvas.ppi)
    bleed = settings.paper.bleed_mm
    area = _with_bleed(shown, paper_mm, bleed, settings.paper.bleed_from)
    # Pixels on paper are as many an inch with the bleed as without it.
    ppi = width / paper_mm * MM_PER_INCH
    if bleed:
        width = (paper_mm + 2 * bleed) / MM_PER_INCH * ppi
    pixels = max(1, round(width))
    scale = pixels / area.width
    height = fitting_height(area.width, area.height, pixels)
    laid = None if settings.ground is None else _laid(settings.ground, pixels, height)
    across_mm = paper_mm + 2 * bleed
    exact_ppi = pixels / across_mm * MM_PER_INCH
    if laid is None:
        # Exact, though pixels are whole: paper is cut to millimetres.
        page = across_mm, paper_mm * (shown.height / shown.width) + 2 * bleed
    else:
        page = (
            laid.width / exact_ppi * MM_PER_INCH,
            laid.height / exact_ppi * MM_PER_INCH,
        )
    return Dimensions(area, pixels, height, scale, exact_ppi, page, bleed, laid)


def fitting_height(width: float, height: float, pixels: int) -> int:
    """Return how high a picture is at a width, in pixels.

    Parameters
    ----------
    width, height : float
        In any unit.
    pixels : int
        How wide it is made.

    Returns
    -------
    int
        At least one.

    Examples
    --------
    >>> fitting_height(400, 300, 100)
    75
    """
    return max(1, round(height * pixels / width))


def _with_bleed(
    shown: Rect[float], paper_mm: float, bleed: float, bleed_from: str
) -> Rect[float]:
    """Return what of the canvas fills the page and its bleed."""
    if not bleed:
        return shown
    per_mm = shown.width / paper_mm
    if bleed_from == "beyond":
        return shown.widened(bleed * per_mm, bleed * per_mm)
    page_width = paper_mm + 2 * bleed
    page_height = shown.height / per_mm + 2 * bleed
    # As much of the picture as has the page's shape, from its middle.
    finer = max(LEAST, min(shown.width / page_width, shown.height / page_height))
    across = (shown.width - page_width * finer) / 2
    down = (shown.height - page_height * finer) / 2
    return shown.widened(-across, -down)


def _laid(ground: Ground, width: int, height: int) -> Laid:
    """Lay a picture in the middle of the smallest ground of its shape."""
    across = max(width, round(height * ground.across / ground.down))
    down = max(height, round(across * ground.down / ground.across))
    return Laid(across, down, (across - width) // 2, (down - height) // 2, ground.color)
