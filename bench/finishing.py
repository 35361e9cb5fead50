"""Figures of finished files: looked at before, measured, made as small as asked."""

from __future__ import annotations

import io
import itertools
import tempfile
from typing import TYPE_CHECKING, Any

import numpy as np

from bench.figures import Engine, Figure
from bench.measuring import measure
from bench.memory import LARGE, measured_export
from glyphaneme.codecs import FileFormat, FileSpec, Shape, write_bands
from glyphaneme.codecs.color import Conversion
from glyphaneme.core.finish import FileSettings
from glyphaneme.core.finish.settings import Coloring
from glyphaneme.core.render import View, render
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making

if TYPE_CHECKING:
    from collections.abc import Iterator

SEEN = (860, 740)
"""What a window of 1280 by 800 shows of a file."""
MEGABYTE = 1_000_000


class _Silent:
    def report(self, share: float, /) -> None:
        pass


def figures(engine: Engine, *, rounds: int, large: bool) -> Iterator[Figure]:
    """Measure all of them."""
    for chosen in (FileFormat.JPEG, FileFormat.WEBP):
        yield _looked_at(engine, chosen, rounds)
    yield _avif(engine, rounds)
    yield from _fitted(engine)
    yield _there_and_back(engine)
    if large:
        with tempfile.TemporaryDirectory() as folder:
            most = measured_export(*LARGE, "tiff", folder)
            yield Figure(
                "101 MP × 20 layers as TIFF, resident",
                most["resident"],
                1200,
                700,
                unit=" MB",
            )


def _looked_at(engine: Engine, chosen: FileFormat, rounds: int) -> Figure:
    """Render what is visible of a file, and encode it as the file will be."""
    quality = itertools.cycle(range(60, 95))

    def look() -> None:
        view = View(1000, 800, *SEEN, 1.0)
        pixels = render(engine.composite, engine.pyramids, view)
        spec = FileSpec(chosen, next(quality), 240)
        write_bands((pixels,), Shape(*SEEN, opaque=True), io.BytesIO(), spec)

    took = measure({"look": look}, rounds=3 * rounds)["look"].wall
    return Figure(f"encoded look at 12 MP, {chosen.name}", took, 0.4, 0.1, unit=" s")


def _avif(engine: Engine, rounds: int) -> Figure:
    whole = render(engine.composite, engine.pyramids, engine.whole)
    shape = Shape(whole.shape[1], whole.shape[0], opaque=True)
    spec = FileSpec(FileFormat.AVIF, 70, 240)

    def write() -> None:
        write_bands((whole,), shape, io.BytesIO(), spec)

    took = measure({"avif": write}, rounds=min(rounds, 3))["avif"].wall
    return Figure("AVIF of 12 MP", took, 6, 3, unit=" s")


def _fitted(engine: Engine) -> Iterator[Figure]:
    """Make files of at most so many bytes, and tell how much of that is left."""
    for most in (MEGABYTE // 2, MEGABYTE):
        settings = FileSettings(
            format=FileFormat.JPEG, quality=95, most_bytes=most, fine_color=True
        )
        making = Making(
            engine.composite, engine.composite.layers, engine.pyramids, settings
        )
        with tempfile.TemporaryFile() as file:
            write_file(making, file, _Silent())  # type: ignore[arg-type]  # binary
            left = 100 * (1 - file.tell() / most)
        yield Figure(f"left of {most // 1000} kB that are met", left, 10, 5, unit=" %")


def _there_and_back(engine: Engine) -> Figure:
    """Bring colours that ink can show to a printer's inks and back."""
    view = View(0, 0, 600, 400, 0.15)
    pixels = render(engine.composite, engine.pyramids, view)
    # A third of the way from grey: no ink is out of reach there.
    muted = np.asarray(pixels[..., :3] // 3 + 85, np.uint8)
    conversion = Conversion.into(Coloring(space="ink", black_point=False))
    back: Any = conversion.back(conversion.of_colors(muted))
    apart = float(np.abs(back.astype(int) - muted).mean())
    return Figure("sRGB to inks and back", apart, 1, 0.6, unit=" levels")
