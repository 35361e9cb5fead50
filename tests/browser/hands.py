"""What a person does with hand and eye, for tests of the page."""

from __future__ import annotations

import base64
import io
import uuid
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np
from PIL import Image
from playwright.sync_api import expect

if TYPE_CHECKING:
    from collections.abc import Iterable
    from pathlib import Path

    from numpy.typing import NDArray
    from playwright.sync_api import Download, Locator, Page

    from tests.product import Product

MARGIN = 28
"""CSS pixels that the stage keeps free about the whole canvas."""

WHITE = "#ffffff"

SETTLED_WITHIN_MS = 30_000
"""For work that is allowed to take seconds, on a machine that is busy."""


class Point(NamedTuple):
    """A position on the page, in CSS pixels."""

    x: float
    y: float


class Hands:
    """One person at one window."""

    def __init__(self, page: Page, product: Product) -> None:
        self.page = page
        self.product = product

    # --- going places

    def open_wall(self) -> None:
        self.page.goto(self.product.address)
        expect(self.page.get_by_role("region", name="Start")).to_be_visible()

    def finish(
        self, path: Path, *, purpose: str = "my own…", part: str = ""
    ) -> Download:
        """Save the picture for a purpose, from the desk, and come back."""
        page = self.page
        page.get_by_role("button", name="Finish…").click()
        page.get_by_role("radio", name=purpose).click()
        if part:
            page.get_by_role("button", name="the whole picture").click()
            page.get_by_role("radio", name=part).click()
        with page.expect_download() as download:
            page.get_by_role("button", name="Save the ").click()
        download.value.save_as(path)
        page.get_by_role("link", name="Desk").click()
        self.settle()
        return download.value

    def open_desk(self, project: Any) -> None:
        self.page.goto(f"{self.product.address}/desk/{project['id']}")
        self.settle()

    def settle(self) -> None:
        """Wait until everything is saved and the stage shows its final frame."""
        saved = self.page.get_by_role("status").get_by_text("All saved")
        at_rest = self.surface.and_(self.page.locator('[aria-busy="false"]'))
        # These look at each frame of the screen; an expectation waits ever longer.
        saved.wait_for(timeout=SETTLED_WITHIN_MS)
        at_rest.wait_for(timeout=SETTLED_WITHIN_MS)

    # --- what is made beforehand

    def begin(self, *photos: Path, width: int = 900, height: int = 600) -> Any:
        """Begin a picture with photos laid over one another, by the HTTP interface."""
        canvas = {"width": width, "height": height, "ppi": 240, "background": WHITE}
        body = {"name": f"Test {uuid.uuid4().hex[:6]}", "canvas": canvas}
        state = self.product.post("/api/projects", body)
        for photo in photos:
            picture = self.product.bring_in(photo)
            state = self.edit(
                state,
                kind="add_layer",
                layer_id=str(uuid.uuid4()),
                picture=picture["id"],
                name=picture["name"],
                width=picture["width"],
                height=picture["height"],
            )
        return state

    def edit(self, state: Any, **edit: Any) -> Any:
        body = {"key": str(uuid.uuid4()), "parent": state["head"], "edit": edit}
        return self.product.post(f"/api/projects/{state['id']}/edits", body)["state"]

    def saved(self, project: Any) -> Any:
        """Return what the service has of a project now."""
        return self.product.get(f"/api/projects/{project['id']}")

    # --- the stage

    @property
    def surface(self) -> Locator:
        return self.page.get_by_test_id("surface")

    def on_stage(self, state: Any, x: float, y: float) -> Point:
        """Return where a canvas position shows while the whole canvas is shown."""
        box = self.surface.bounding_box()
        assert box is not None
        canvas = state["composite"]["canvas"]
        scale = min(
            (box["width"] - 2 * MARGIN) / canvas["width"],
            (box["height"] - 2 * MARGIN) / canvas["height"],
            1,
        )
        return Point(
            box["x"] + box["width"] / 2 + (x - canvas["width"] / 2) * scale,
            box["y"] + box["height"] / 2 + (y - canvas["height"] / 2) * scale,
        )

    def drag(self, start: Point, end: Point) -> None:
        mouse = self.page.mouse
        mouse.move(*start)
        mouse.down()
        mouse.move((start.x + end.x) / 2, (start.y + end.y) / 2, steps=4)
        mouse.move(*end, steps=4)
        mouse.up()

    def grip(self, name: int | str) -> Point:
        """Return the middle of a corner grip, or of the turning knob."""
        box = self.page.locator(f'[data-grip="{name}"]').bounding_box()
        assert box is not None
        return Point(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)

    def shown(self) -> NDArray[np.uint8]:
        """Return what the stage shows, without grips, once it rests."""
        self.settle()
        return self.shown_now()

    def shown_now(self) -> NDArray[np.uint8]:
        """Return what the stage shows, whether or not more is to come."""
        address = self.surface.evaluate("(surface) => surface.toDataURL()")
        encoded = base64.b64decode(address.partition(",")[2])
        with Image.open(io.BytesIO(encoded)) as picture:
            return np.asarray(picture.convert("RGB"))

    def beside_divider(self) -> NDArray[np.float64]:
        """Return how light the stage is right left and right of its divider, by row."""
        stage = self.page.get_by_role("application")
        with Image.open(io.BytesIO(stage.screenshot())) as picture:
            light = np.asarray(picture.convert("L"), np.float64)
        middle = light.shape[1] // 2
        rows = slice(MARGIN * 4, -MARGIN * 2)
        sides = (
            light[rows, middle - 8 : middle - 4],
            light[rows, middle + 4 : middle + 8],
        )
        return np.stack([side.mean(axis=1) for side in sides])

    def color_at(self, point: Point) -> tuple[int, ...]:
        box = self.surface.bounding_box()
        assert box is not None
        shown = self.shown()
        row, column = round(point.y - box["y"]), round(point.x - box["x"])
        return tuple(int(value) for value in shown[row, column])

    def drop_files(self, at: Point, paths: Iterable[Path]) -> None:
        """Drop files as the system does: scripts alone cannot make such a drop."""
        session = self.page.context.new_cdp_session(self.page)
        data = {
            "items": [],
            "files": [str(path) for path in paths],
            "dragOperationsMask": 1,
        }
        for kind in ("dragEnter", "dragOver", "drop"):
            session.send(
                "Input.dispatchDragEvent",
                {"type": kind, "x": at.x, "y": at.y, "data": data},
            )
            # A drop counts only once the page has taken the drag before it.
            self.page.evaluate("() => new Promise(requestAnimationFrame)")
        session.detach()

    # --- the pile

    @property
    def pile(self) -> Locator:
        return self.page.get_by_role("region", name="The pile")

    def sentences(self) -> list[str]:
        """Return what the pile says of each layer, front to back.

        The open layer's sentence is a list: its name, then a clause of each facet.
        """
        items = self.page.get_by_role("list", name="Layers, front to back").locator(
            "> li"
        )
        said = [
            item.locator("> div:first-child > p, > div > h2 [data-clause]")
            for item in items.all()
        ]
        return [
            ", ".join(words.all_inner_texts()).replace("\xa0", " ") for words in said
        ]

    def open_layer(self, name: str, facet: str = "Place") -> None:
        word = self.pile.get_by_role("button", name=name, exact=True)
        if word.get_attribute("aria-expanded") != "true":
            word.click()
        self.facet(facet).click()
        expect(self.facet(facet)).to_have_attribute("aria-expanded", "true")

    def do(self, layer: str, deed: str) -> None:
        """Do what stands in the menu beside the open layer's actions."""
        self.page.get_by_role("button", name=f"More to do with {layer}").click()
        self.page.get_by_role("menuitem", name=deed).click()

    def facet(self, name: str) -> Locator:
        return self.pile.locator("button[aria-expanded]").filter(has_text=name).first

    def type_number(self, label: str, value: float | str) -> None:
        box = self.page.get_by_role("textbox", name=label, exact=True)
        box.fill(str(value))
        box.press("Enter")
        self.settle()
