"""Blending against an independent renderer: the browser's own canvas."""

from __future__ import annotations

import base64
import io
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.render import View, render
from tests.pictures import composite_of, noise_pixels, photo_layer, pyramids

if TYPE_CHECKING:
    from playwright.sync_api import Page

SIDE = 64
DRAW = """async ([below, above, operation, opacity]) => {
    const canvas = new OffscreenCanvas(64, 64);
    const context = canvas.getContext("2d");
    const load = async (address) =>
        createImageBitmap(await (await fetch(address)).blob());
    context.drawImage(await load(below), 0, 0);
    context.globalCompositeOperation = operation;
    context.globalAlpha = opacity;
    context.drawImage(await load(above), 0, 0);
    return Array.from(context.getImageData(0, 0, 64, 64).data);
}"""


def as_address(pixels: np.ndarray) -> str:
    file = io.BytesIO()
    Image.fromarray(pixels).save(file, "PNG")
    return "data:image/png;base64," + base64.b64encode(file.getvalue()).decode()


@pytest.mark.parametrize("mode", list(BlendMode))
def test_every_mode_agrees_with_the_canvas_of_the_browser(
    page: Page, mode: BlendMode
) -> None:
    pictures = {
        "below": noise_pixels(SIDE, SIDE, seed=1, opaque=True),
        "above": noise_pixels(SIDE, SIDE, seed=2, opaque=True),
    }
    composite = composite_of(
        photo_layer("below", pictures["below"]),
        photo_layer("above", pictures["above"], blend=mode, opacity=0.6),
        width=SIDE,
        height=SIDE,
    )
    operation = "source-over" if mode is BlendMode.NORMAL else mode.value

    ours = render(composite, pyramids(**pictures), View(0, 0, SIDE, SIDE, 1))
    theirs = page.evaluate(
        DRAW, [*(as_address(one) for one in pictures.values()), operation, 0.6]
    )

    difference = np.abs(ours.astype(int) - np.reshape(theirs, ours.shape))
    # The canvas keeps 8 bits between its steps, and rounds each of them.
    assert difference.max() <= 3
    assert difference.mean() < 0.7
