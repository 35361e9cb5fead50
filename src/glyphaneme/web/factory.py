"""Builds the web application."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from flask_openapi3 import Info, OpenAPI

from glyphaneme.web import (
    aligning,
    batches,
    cutouts,
    exports,
    fonts,
    frames,
    library,
    matching,
    pages,
    pictures,
    plans,
    projects,
    purposes,
    toning,
    versions,
)
from glyphaneme.web.describing import is_described_anew
from glyphaneme.web.guards import MAX_UPLOAD_BYTES, guard
from glyphaneme.web.problems import answer_invalid_request, map_problems
from glyphaneme.web.shared import STUDIO_KEY

if TYPE_CHECKING:
    from pathlib import Path

    from glyphaneme.services.studio import Studio


TAKEN = {"largestFileMb": MAX_UPLOAD_BYTES // 2**20}
"""What is taken at most, where no schema can say so."""


@dataclass(frozen=True)
class WebSettings:
    """What the web application needs to know of its surroundings."""

    allowed_hosts: frozenset[str]
    page_folder: Path
    description: Path
    """What the HTTP interface is described by."""


def create_app(studio: Studio, settings: WebSettings) -> OpenAPI:
    """Return a new application; nothing is shared with any other."""
    app = OpenAPI(
        "glyphaneme",
        info=Info.model_validate(
            {"title": "Glyphaneme", "version": "1", "x-taken": TAKEN}
        ),
        doc_prefix="/api",
        doc_url="/openapi.json",
        doc_ui=is_described_anew(),
        static_folder=None,
        validation_error_callback=answer_invalid_request,
    )
    app.config["MAX_CONTENT_LENGTH"] = MAX_UPLOAD_BYTES
    app.extensions[STUDIO_KEY] = studio
    guard(app, settings.allowed_hosts)
    map_problems(app)
    for api in (
        projects.api,
        plans.api,
        batches.api,
        versions.api,
        frames.api,
        pictures.api,
        library.api,
        fonts.api,
        exports.api,
        purposes.api,
        aligning.api,
        cutouts.api,
        toning.api,
        matching.api,
    ):
        app.register_api(api)
    if not is_described_anew():
        pages.serve_description(app, settings.description)
    pages.serve_pages(app, settings.page_folder)
    return app
