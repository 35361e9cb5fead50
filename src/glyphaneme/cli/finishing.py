"""The command `render`: a layered file to a picture, without the interface."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import argparse


def add_render_command(
    commands: argparse._SubParsersAction[argparse.ArgumentParser],
) -> None:
    """Add the command to the command line."""
    command = commands.add_parser("render", help="render a layered OpenRaster file")
    command.add_argument("file", type=Path, help="the layered file, .ora")
    command.add_argument("-o", "--output", type=Path, required=True)
    size = command.add_mutually_exclusive_group()
    size.add_argument("--scale", type=float, default=1.0)
    size.add_argument("--width", type=int, help="of the picture, in pixels")
    command.add_argument("--layer", metavar="NAME", help="only the layer of that name")


def run_render(options: argparse.Namespace) -> int:
    """Render the file; return the exit status."""
    # Imported late: serving must not wait for the compositor.
    from glyphaneme.codecs.errors import PictureRefusedError
    from glyphaneme.core.errors import CoreError
    from glyphaneme.services.errors import ServiceError
    from glyphaneme.services.rendering import FORMAT_ENDINGS, render_layered

    chosen = FORMAT_ENDINGS.get(options.output.suffix.lower())
    if chosen is None:
        return _fail(f"the output must end in one of {', '.join(FORMAT_ENDINGS)}")
    if options.scale <= 0 or (options.width is not None and options.width < 1):
        return _fail("scale and width must be above 0")
    # Beside the output: whoever looks there finds a whole picture or none.
    draft = options.output.with_name(f".{options.output.name}.draft")
    try:
        with options.file.open("rb") as source, draft.open("wb") as target:
            width, height = render_layered(
                source,
                target,
                chosen,
                width=options.width,
                scale=options.scale,
                layer_name=options.layer,
            )
        draft.rename(options.output)
    except (CoreError, ServiceError, PictureRefusedError, OSError) as error:
        return _fail(str(error))
    finally:
        draft.unlink(missing_ok=True)
    sys.stdout.write(f"{options.output}: {width} × {height} pixels\n")
    return 0


def _fail(message: str) -> int:
    sys.stderr.write(f"glyphaneme: {message}\n")
    return 1
