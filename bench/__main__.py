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
    from collections.abc import Callable, Iterator

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
    parser.add_argument("--wording", action="store_true", help="words alone")
    parser.add_argument("--finishing", action="store_true", help="files alone")
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
    """Yield what was asked for by itself, or else all that is usual."""
    for name, alone in ALONE.items():
        if getattr(options, name):
            yield from alone(options)
            return
    rounds = _rounds(options)
    engine = _engine(options)
    yield from itertools.chain(
        figures.exactness(),
        figures.whole_canvas(engine, rounds=rounds),
        figures.frames(engine, rounds=3 * rounds),
        masking.masks(engine, rounds=rounds),
        masking.brush(engine, rounds=3 * rounds),
        figures.likeness(engine),
        figures.many_layers(rounds=rounds),
        figures.start_up(rounds=rounds),
        memory(large=not options.quick),
    )


def _rounds(options: argparse.Namespace) -> int:
    return 3 if options.quick else 7


def _engine(options: argparse.Namespace) -> figures.Engine:
    return figures.Engine(*((2000, 1500) if options.quick else (4000, 3000)))


# Imported where they are asked for: most need packages that others do not.


def _browser(options: argparse.Namespace) -> Iterator[Figure]:
    from bench.browser import live

    yield from live(slow=options.slow)


def _suite(_options: argparse.Namespace) -> Iterator[Figure]:
    from bench import suite

    yield from suite.figures()


def _cutting(options: argparse.Namespace) -> Iterator[Figure]:
    from bench import cutting

    yield from cutting.quality(options.pictures, quick=options.quick)
    if options.pictures is None:
        yield from cutting.edges(quick=options.quick)
        yield from cutting.times()


def _matching(_options: argparse.Namespace) -> Iterator[Figure]:
    from bench import matching

    yield from matching.figures()


def _shading(options: argparse.Namespace) -> Iterator[Figure]:
    from bench import shading

    yield from shading.figures(rounds=_rounds(options))


def _mending(options: argparse.Namespace) -> Iterator[Figure]:
    from bench import mending

    yield from mending.figures(quick=options.quick)


def _placing(options: argparse.Namespace) -> Iterator[Figure]:
    engine = figures.Engine(2000, 1500)
    yield from placing.warped_frames(engine, rounds=9 if options.quick else 21)
    yield from placing.warped_exactness()
    yield from placing.lining_up(quick=options.quick)


def _wording(options: argparse.Namespace) -> Iterator[Figure]:
    from bench import wording

    yield from wording.figures(_engine(options), rounds=_rounds(options))


def _finishing(options: argparse.Namespace) -> Iterator[Figure]:
    from bench import finishing

    yield from finishing.figures(
        _engine(options), rounds=_rounds(options), large=not options.quick
    )


def _toning(options: argparse.Namespace) -> Iterator[Figure]:
    yield from toning.figures(_engine(options), rounds=_rounds(options))


ALONE: dict[str, Callable[[argparse.Namespace], Iterator[Figure]]] = {
    "browser": _browser,
    "suite": _suite,
    "cutting": _cutting,
    "matching": _matching,
    "shading": _shading,
    "mending": _mending,
    "placing": _placing,
    "wording": _wording,
    "finishing": _finishing,
    "toning": _toning,
}
"""What is measured by itself, by the option that asks for it."""


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
