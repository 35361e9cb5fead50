"""Serves the built front end: one page, files that never change, a description."""

from __future__ import annotations

from typing import TYPE_CHECKING

from flask import Response, g, send_from_directory

from glyphaneme.web.problems import problem

if TYPE_CHECKING:
    from pathlib import Path

    from flask import Flask

NONCE_MARK = "%NONCE%"


def serve_description(app: Flask, file: Path) -> None:
    """Serve what describes the HTTP interface."""

    def get_description() -> Response:
        return Response(file.read_bytes(), content_type="application/json")

    app.add_url_rule("/api/openapi.json", view_func=get_description)


def serve_pages(app: Flask, folder: Path) -> None:
    """Serve the page at / and at every address that the page itself knows."""

    def get_asset(name: str) -> Response:
        response = send_from_directory(folder / "assets", name)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    def get_page(project_id: str = "") -> Response:  # noqa: ARG001  # the page reads it
        index = folder / "index.html"
        if not index.exists():
            return problem(
                503, "not-built", "The page is not built yet; run ./glyphaneme start."
            )
        return Response(
            index.read_text().replace(NONCE_MARK, g.nonce), content_type="text/html"
        )

    def get_plan_page(plan_name: str) -> Response:  # noqa: ARG001  # likewise
        return get_page()

    def get_icon() -> Response:
        return send_from_directory(folder, "icon.svg")

    # Not `app.get`: pages are no part of the described interface.
    app.add_url_rule("/assets/<path:name>", view_func=get_asset)
    app.add_url_rule("/", view_func=get_page)
    app.add_url_rule("/desk/<project_id>", view_func=get_page)
    app.add_url_rule("/versions/<project_id>", view_func=get_page)
    app.add_url_rule("/finish/<project_id>", view_func=get_page)
    app.add_url_rule("/plan/<plan_name>", view_func=get_plan_page)
    app.add_url_rule("/plan/<plan_name>/many", view_func=get_plan_page)
    app.add_url_rule("/icon.svg", view_func=get_icon)
