"""Reads the command line and runs the command."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

from glyphaneme.cli.cutting import add_cutout_command, run_cutout
from glyphaneme.cli.finishing import add_render_command, run_render
from glyphaneme.cli.planning import add_plan_commands, run_make, run_plans
from glyphaneme.cli.postgres import PostgresError
from glyphaneme.cli.serving import (
    CHECKOUT,
    ServeOptions,
    ServingError,
    prepare,
    serve,
)
from glyphaneme.cli.warming import WarmingError

DEFAULT_PORT = 8427


def main(arguments: list[str]) -> int:
    """Run one command; return the exit status."""
    parser = argparse.ArgumentParser(
        prog="glyphaneme", description="Combine several photos into one picture."
    )
    commands = parser.add_subparsers(dest="command", required=True)
    for name, text in (
        ("demo", "serve with demo projects"),
        ("start", "serve your own work"),
        ("prepare", "make the database, and serve nothing"),
    ):
        command = commands.add_parser(name, help=text)
        command.add_argument("--host", default="127.0.0.1")
        command.add_argument("--port", type=int, default=DEFAULT_PORT)
        command.add_argument("--home", type=Path, default=_default_home())
    add_render_command(commands)
    add_cutout_command(commands)
    add_plan_commands(commands)
    options = parser.parse_args(arguments)
    if options.command == "render":
        return run_render(options)
    models = (_default_home() / "models", _fetched_models())
    if options.command == "cutout":
        return run_cutout(options, models)
    if options.command == "plans":
        return run_plans(options)
    if options.command == "make":
        return run_make(options, models, _fetched_fonts())
    home = options.home.resolve()
    try:
        if options.command == "prepare":
            prepare(home)
            return 0
        serve(
            ServeOptions(
                host=options.host,
                port=options.port,
                home=home,
                with_demo=options.command == "demo",
            )
        )
    except (PostgresError, ServingError, WarmingError) as error:
        sys.stderr.write(f"glyphaneme: {error}\n")
        return 1
    return 0


def _fetched_models() -> Path:
    return Path(os.environ.get("GLYPHANEME_MODELS", str(CHECKOUT / "var" / "models")))


def _fetched_fonts() -> Path:
    return Path(os.environ.get("GLYPHANEME_FONTS", str(CHECKOUT / "var" / "fonts")))


def _default_home() -> Path:
    return Path(os.environ.get("GLYPHANEME_HOME", str(CHECKOUT / "var")))
