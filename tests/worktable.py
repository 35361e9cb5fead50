"""A picture that is worked on through the API, edit by edit."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING, Any

from PIL import Image

if TYPE_CHECKING:
    import numpy as np
    from flask.testing import FlaskClient
    from werkzeug.test import TestResponse


class Worktable:
    """Photos on a white sheet, and the state that the last edit left."""

    def __init__(self, client: FlaskClient, name: str, side: int) -> None:
        self.client = client
        canvas = {"width": side, "height": side, "ppi": 96, "background": "#ffffff"}
        body = {"name": name, "canvas": canvas}
        self.state = client.post("/api/projects", json=body).get_json()

    def post(self, what: str, **body: object) -> TestResponse:
        return self.client.post(f"/api/projects/{self.state['id']}/{what}", json=body)

    def edit(self, **edit: object) -> None:
        answer = self.try_edit(**edit)
        assert answer.status_code == 201, answer.get_json()
        self.state = answer.get_json()["state"]

    def try_edit(self, **edit: object) -> TestResponse:
        key = str(uuid.uuid4())
        return self.post("edits", key=key, parent=self.state["head"], edit=edit)

    def lay_on(self, layer_id: str, name: str, pixels: np.ndarray) -> None:
        """Bring a photo in and lay it on, in the middle and at its own size."""
        file = io.BytesIO()
        Image.fromarray(pixels).save(file, "PNG")
        file.seek(0)
        data = {"file": (file, f"{layer_id}.png")}
        picture = self.client.post("/api/pictures", data=data).get_json()
        height, width = pixels.shape[:2]
        canvas = self.state["composite"]["canvas"]
        x, y = canvas["width"] / 2, canvas["height"] / 2
        self.edit(
            kind="add_layer",
            layer_id=layer_id,
            picture=picture["id"],
            name=name,
            width=width,
            height=height,
            placement={"x": x, "y": y, "scale_x": 1, "scale_y": 1},
        )

    def sentence(self, layer: str) -> dict[str, Any]:
        return next(one for one in self.state["sentences"] if one["layer_id"] == layer)
