"""Frames that stay: the export, averaged over the area of each of their pixels."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Composite, ToningLayer
from glyphaneme.core.place import Placement, Rect, halved
from glyphaneme.core.render import (
    Fineness,
    FrameCache,
    View,
    assets_needed,
    render,
    render_exact,
)
from glyphaneme.core.render.finer import finer, samples_for
from glyphaneme.core.tone import LightTone
from tests.pictures import (
    area_mean,
    composite_of,
    noise_pixels,
    photo_layer,
    premultiplied,
    psnr,
    pyramids,
)

WIDTH, HEIGHT = 700, 500
GRAINY = {
    "sand": noise_pixels(WIDTH, HEIGHT, seed=1, opaque=True),
    "snow": noise_pixels(500, 460, seed=2),
}
ASSETS = pyramids(**GRAINY)
FINENESS: tuple[Fineness, ...] = ("quick", "fine", "exact")


def steep(background: str | None = None) -> Composite:
    """Return grain upon grain whose mean says nothing about what tones make of it."""
    return composite_of(
        photo_layer("sand", GRAINY["sand"], opacity=0.9),
        photo_layer("snow", GRAINY["snow"], blend=BlendMode.COLOR_BURN),
        ToningLayer(id="t", name="Tones", tones=(LightTone(contrast=0.9),)),
        width=WIDTH,
        height=HEIGHT,
        background=background,
    )


def exported(state: Composite) -> np.ndarray:
    return render(state, ASSETS, View(0, 0, WIDTH, HEIGHT, 1))


def worst(shown: np.ndarray, wanted: np.ndarray) -> float:
    return float(np.abs(premultiplied(shown) - premultiplied(wanted)).max())


@pytest.mark.parametrize("background", ["#204060", None])
@pytest.mark.parametrize(
    "view",
    [
        View(0, 0, 350, 250, 0.5),
        View(100.5, 33.25, 210, 140, 0.5),
        View(13.7, 5.4, 230, 301, 0.62),
        View(0.3, 0.9, 640, 400, 0.97),
        View(3, 0, 140, 99, 0.3),
        View(0, 0, 175, 125, 0.25),
    ],
    ids=str,
)
def test_exact_frame_is_the_export_averaged(view: View, background: str | None) -> None:
    state = steep(background)
    cache = FrameCache(50_000_000)

    wanted = area_mean(exported(state), view)
    # Half a level for the export's rounding, half for the frame's.
    assert worst(render_exact(state, ASSETS, view), wanted) < 1.01
    frames = [
        cache.render("p", state, ASSETS, view, fineness="exact") for _ in range(3)
    ]
    assert max(worst(frame, wanted) for frame in frames) < 2.01


def test_what_lies_beyond_the_canvas_is_shown_there() -> None:
    state = steep()
    view = View(-20.4, -10.2, 300, 200, 0.7)

    around = render(state, ASSETS, View(-21, -11, 440, 300, 1))
    wanted = area_mean(around, view._replace(x=0.6, y=0.8))
    assert worst(render_exact(state, ASSETS, view), wanted) < 1.01


def test_smaller_frames_are_still_near_the_export() -> None:
    state = steep("#808080")
    view = View(0, 0, 105, 75, 0.15)

    wanted = area_mean(exported(state), view)
    quick = psnr(render(state, ASSETS, view), wanted)
    assert psnr(render_exact(state, ASSETS, view), wanted) > quick + 4


@pytest.mark.parametrize("scale", [0.29, 0.6, 0.7])
def test_frames_come_nearer_to_the_export_the_finer_they_are(scale: float) -> None:
    state = steep("#808080")
    view = View(0, 0, int(WIDTH * scale), int(HEIGHT * scale), scale)
    cache = FrameCache(50_000_000)

    wanted = area_mean(exported(state), view)
    quick, fine, exact = (
        psnr(cache.render("p", state, ASSETS, view, fineness=fineness), wanted)
        for fineness in FINENESS
    )
    assert quick < fine < exact - 4


def test_what_is_not_made_smaller_is_as_fine_as_it_is_exact() -> None:
    state, view = steep(), View(10, 20, 200, 100, 1.25)
    cache = FrameCache(50_000_000)

    for _ in range(3):
        exact = cache.render("p", state, ASSETS, view, fineness="exact")
    kept = cache.size
    fine = cache.render("p", state, ASSETS, view, fineness="fine")

    assert np.array_equal(fine, exact)
    assert cache.size == kept  # of one and the same view


@pytest.mark.parametrize(
    ("width", "height", "scale"),
    [(1, 1, 0.001), (320, 240, 0.1), (700, 500, 0.4), (4096, 4096, 0.49)],
)
def test_exact_frames_blend_no_more_than_five_million_pixels_or_four_each(
    width: int, height: int, scale: float
) -> None:
    view = View(0.5, 0.5, width, height, scale)
    blended = finer(view, samples_for(view)).view

    edges = blended.width + blended.height
    affordable = max(5_000_000, 4 * width * height) + edges
    assert blended.width * blended.height <= affordable
    assert blended.scale <= 1
    assert blended.scale >= min(1, 2 * scale)


@given(
    scale=st.sampled_from([0.19, 0.25, 1 / 3, 0.5, 0.62, 0.97]),
    x=st.floats(-50, 50),
    corner=st.tuples(st.integers(0, 60), st.integers(0, 60)),
    size=st.tuples(st.integers(1, 30), st.integers(1, 30)),
)
def test_part_of_a_frame_is_the_mean_of_its_part_alone(
    scale: float, x: float, corner: tuple[int, int], size: tuple[int, int]
) -> None:
    view = View(x, 3, 40, 50, scale)
    more = finer(view, samples_for(view))
    blended = noise_pixels(more.view.width, more.view.height, seed=5)
    left, top = (
        min(corner[0], more.view.width - 1),
        min(corner[1], more.view.height - 1),
    )
    right = min(left + size[0], more.view.width)
    bottom = min(top + size[1], more.view.height)
    changed = blended.copy()
    changed[top:bottom, left:right] ^= 255

    shown = more.shown_in(Rect(left, top, right, bottom))
    assume(not shown.is_empty)
    part, place = more.of_part(shown)

    before, after = more.averaged(blended), more.averaged(changed)
    inside = shown.window
    cut = changed[place.window]
    assert worst(part.averaged(cut.copy()), after[inside]) <= 1
    before[inside] = after[inside]
    assert np.array_equal(before, after)


def test_pictures_right_beside_a_frame_are_asked_for() -> None:
    ends = Placement(x=-250.5, y=230, scale_x=1, scale_y=1)
    state = composite_of(
        photo_layer("sand", GRAINY["sand"]),
        photo_layer("snow", GRAINY["snow"], placement=ends),
        width=WIDTH,
        height=HEIGHT,
    )
    # Pixels from 0 on are blended, and may show something of what ends at -0.5.
    view = View(0.9, 0, 75, 60, 0.97)

    needed = assets_needed(state, view).pictures
    shown = render_exact(state, {name: ASSETS[name] for name in needed}, view)

    assert worst(shown, area_mean(exported(state), view)) < 1.01


@pytest.mark.parametrize("size", [(1, 1), (2, 1), (1, 5), (64, 33), (701, 900)])
@pytest.mark.parametrize("alphas", [(255, 256), (0, 256), (0, 3), (0, 1)])
def test_halves_are_rounded_means(
    size: tuple[int, int], alphas: tuple[int, int]
) -> None:
    rows, columns = size
    pixels = noise_pixels(columns, rows, seed=rows)
    pixels[..., 3] = np.random.default_rng(7).integers(*alphas, (rows, columns))

    whole = np.pad(pixels, ((0, rows % 2), (0, columns % 2), (0, 0)), "edge")
    squares = whole.reshape((rows + 1) // 2, 2, (columns + 1) // 2, 2, 4).astype(int)
    alpha = squares[..., 3:]
    weight = alpha.sum(axis=(1, 3))
    colors = (squares[..., :3] * alpha).sum(axis=(1, 3))
    least = np.maximum(weight, 1)
    wanted = np.dstack([(colors + least // 2) // least, (weight + 2) // 4])
    assert np.array_equal(halved(pixels), wanted)
