"""Peak memory of exports, each in a process of its own.

Run as `python -m bench.memory WIDTH HEIGHT LAYERS FORMAT FOLDER`; prints resident and
anonymous memory at their peaks, and what was there before, in MB.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import threading
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from bench.figures import Figure
from bench.workload import photo
from glyphaneme.codecs import (
    FileFormat,
    FileSpec,
    Shape,
    let_go,
    load_pyramid,
    save_pyramid,
    write_bands,
)
from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Canvas, Composite, PhotoLayer
from glyphaneme.core.place import Placement, Pyramid, build_pyramid
from glyphaneme.core.render import View, render_bands

if TYPE_CHECKING:
    from collections.abc import Iterator

LOOK_EVERY_S = 0.01
LARGE = (11_600, 8_700, 20)
USUAL = (4_000, 3_000, 6)


def memory(*, large: bool) -> Iterator[Figure]:
    """Measure exports of the usual size, and of 101 megapixels with 20 layers."""
    with tempfile.TemporaryDirectory() as folder:
        usual = measured_export(*USUAL, "png", folder)
        output = USUAL[0] * USUAL[1] * 4 / 2**20
        above = usual["anonymous"] - usual["before"]
        name = "export of W, memory above inputs"
        yield Figure(name, above, output + 32, 64, unit=" MB")
        if not large:
            return
        most = measured_export(*LARGE, "jpeg", folder)
        name = "101 MP × 20 layers"
        yield Figure(f"{name}, resident", most["resident"], 1200, 600, unit=" MB")
        yield Figure(f"{name}, anonymous", most["anonymous"], 200, 70, unit=" MB")


def measured_export(
    width: int, height: int, layers: int, chosen: str, folder: str
) -> dict[str, float]:
    """Make an export in a process of its own; return its peaks of memory, in MB."""
    arguments = [str(width), str(height), str(layers), chosen, folder]
    command = [sys.executable, "-m", "bench.memory", *arguments]
    _make_pictures(width, height, layers, Path(folder))
    done = subprocess.run(command, check=True, capture_output=True, text=True)  # noqa: S603
    return dict(json.loads(done.stdout))


def _make_pictures(width: int, height: int, layers: int, folder: Path) -> None:
    """Keep pyramids as the product does, each in files of its own."""
    for number in range(layers):
        place = folder / f"{width}-{number}"
        if place.exists():
            continue
        small = photo(width // 4 + 1, height // 4 + 1, seed=number)
        large = np.repeat(np.repeat(small, 4, axis=0), 4, axis=1)
        save_pyramid(place, build_pyramid(large[:height, :width].copy()))


def _main(width: int, height: int, layers: int, chosen: str, folder: Path) -> None:
    pyramids = {
        f"p{number}": load_pyramid(folder / f"{width}-{number}")
        for number in range(layers)
    }
    pixels: dict[str, Pyramid] = {k: v for k, v in pyramids.items() if v}
    modes = list(BlendMode)[:12]
    composite = Composite(
        canvas=Canvas(width=width, height=height),
        layers=tuple(
            PhotoLayer(
                id=f"l{number}",
                name=f"Layer {number}",
                picture=f"p{number}",
                width=width,
                height=height,
                placement=Placement(
                    x=width / 2,
                    y=height / 2,
                    scale_x=1,
                    scale_y=1,
                    turn=3 if number % 6 == 1 else 0,
                ),
                blend=modes[number % len(modes)],
                opacity=0.5,
            )
            for number in range(layers)
        ),
    )
    before = status_mb("RssAnon")
    peaks = {"before": before, "resident": 0.0, "anonymous": 0.0}
    ended = threading.Event()

    def look() -> None:
        while not ended.wait(LOOK_EVERY_S):
            peaks["resident"] = max(peaks["resident"], status_mb("VmRSS"))
            peaks["anonymous"] = max(peaks["anonymous"], status_mb("RssAnon"))

    looking = threading.Thread(target=look)
    looking.start()
    with tempfile.TemporaryFile() as file:
        view = View(0, 0, width, height, 1)
        spec = FileSpec(FileFormat(chosen), 90, 240)
        write_bands(
            _let_go_after_each(render_bands(composite, pixels, view), pixels),
            Shape(width, height, opaque=True),
            file,
            spec,
        )
    ended.set()
    looking.join()
    sys.stdout.write(json.dumps(peaks))


def _let_go_after_each(
    bands: Iterator[np.ndarray], pixels: dict[str, Pyramid]
) -> Iterator[np.ndarray]:
    for band in bands:
        yield band
        for pyramid in pixels.values():
            let_go(pyramid)


def status_mb(name: str) -> float:
    """Return a line of this process's status, in MB."""
    for line in Path("/proc/self/status").read_text().splitlines():
        if line.startswith(name):
            return int(line.split()[1]) / 1024
    return 0.0


if __name__ == "__main__":
    _main(*map(int, sys.argv[1:4]), sys.argv[4], Path(sys.argv[5]))
