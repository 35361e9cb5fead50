"""Runs one of the product's processes: `python -m glyphaneme COMMAND`."""

from __future__ import annotations

import sys


def run() -> int:
    """Run the command that the first argument names."""
    # Imported late: the worker needs no web server, the launcher no queue.
    command = sys.argv[1] if len(sys.argv) > 1 else ""
    if command == "behind":
        from glyphaneme.cli.behind import stand_behind

        return stand_behind()
    if command in {"web", "worker", "openapi"}:
        from glyphaneme import wiring

        if command == "web":
            return wiring.run_web(sys.argv[2:])
        if command == "worker":
            return wiring.run_worker(*sys.argv[2:3])
        return wiring.print_openapi()
    from glyphaneme.cli.main import main

    return main(sys.argv[1:])


if __name__ == "__main__":
    sys.exit(run())
