"""Prints the figures as a table, and as JSON on demand."""

from __future__ import annotations

import argparse
import itertools
import json
import platform
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from bench import figures, masking, placing, toning
from bench.memory import memory

if TYPE_CHECKING:
    from collections.abc import Iterator

    from bench.figures import Figure

ROW = "{:<52} {:>12} {:>12} {:>12}  {}\n"


def main() -> int:
    """Measure everything; return 1 where a figure that must be reached is not."""
    parser = argparse.ArgumentParser(prog="glyphaneme bench", description=__doc__)
    parser.add_argument("--quick", action="store_true", help="small and fewer rounds")
    parser.add_argument("--browser", action="store_true", help="frames in the browser")
    parser.add_argument("--slow", action="store_true", help="with one processor")
    parser.add_argument("--suite", action="store_true", help="where tests spend time")
    parser.add_argument("--cutting", action="store_true", help="mattes alone")
    parser.add_argument("--toning", action="store_true", help="tones alone")
    parser.add_argument("--matching", action="store_true", help="matched tones alone")
    parser.add_argument("--shading", action="store_true", help="shadows alone")
    parser.add_argument("--mending", action="store_true", help="repairs alone")
    parser.add_argument("--placing", action="store_true", help="warps and lining up")
    parser.add_argument(
        "--pictures", type=Path, help="with --cutting: NAME.jpg and NAME_alpha.png"
    )
    parser.add_argument("--json", type=Path, metavar="FILE")
    options = parser.parse_args()
    sys.stdout.write(ROW.format("figure", "measured", "must reach", "aim", ""))
    found = []
    for figure in _figures(options):
        found.append(figure)
        words = "reached" if figure.reached else "NOT REACHED"
        cells = (_say(value, figure.unit) for value in _values(figure))
        sys.stdout.write(ROW.format(figure.name, *cells, words))
        sys.stdout.flush()
    if options.json:
        report = {
            "machine": platform.processor() or platform.machine(),
            "figures": [figure.as_dict() for figure in found],
        }
        options.json.write_text(json.dumps(report, indent=2) + "\n")
    return 0 if all(figure.reached for figure in found) else 1


def _figures(options: argparse.Namespace) -> Iterator[Figure]:
    quick = options.quick
    if options.browser:
        from bench.browser import live

        yield from live(slow=options.slow)
        return
    if options.suite:
        from bench import suite

        yield from suite.figures()
        return
    if options.cutting:
        from bench import cutting

        yield from cutting.quality(options.pictures, quick=quick)
        if options.pictures is None:
            yield from cutting.edges(quick=quick)
            yield from cutting.times()
        return
    if options.matching:
        from bench import matching

        yield from matching.figures()
        return
    if options.shading:
        from bench import shading

        yield from shading.figures(rounds=3 if quick else 7)
        return
    if options.mending:
        from bench import mending

        yield from mending.figures(quick=quick)
        return
    if options.placing:
        engine = figures.Engine(2000, 1500)
        yield from placing.warped_frames(engine, rounds=9 if quick else 21)
        yield from placing.warped_exactness()
        yield from placing.lining_up(quick=quick)
        return
    size = (2000, 1500) if quick else (4000, 3000)
    rounds = 3 if quick else 7
    engine = figures.Engine(*size)
    if options.toning:
        yield from toning.figures(engine, rounds=rounds)
        return
    yield from itertools.chain(
        figures.exactness(),
        figures.whole_canvas(engine, rounds=rounds),
        figures.frames(engine, rounds=3 * rounds),
        masking.masks(engine, rounds=rounds),
        masking.brush(engine, rounds=3 * rounds),
        figures.likeness(engine),
        figures.many_layers(rounds=rounds),
        figures.start_up(rounds=rounds),
        memory(large=not quick),
    )


def _values(figure: Figure) -> tuple[float, float, float]:
    return figure.measured, figure.must, figure.aim


def _say(value: float, unit: str) -> str:
    """Say a ratio below one half as a fraction, which reads more easily."""
    if unit == "×" and 0 < value < 0.45:
        return f"1/{1 / value:.1f}"
    digits = 0 if unit == " MB" else 2
    return f"{value:.{digits}f}{unit}"


if __name__ == "__main__":
    sys.exit(main())
