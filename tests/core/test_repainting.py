"""Frames while strokes are painted: only what they change is composed anew."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np
import pytest

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import ColorLayer, Composite
from glyphaneme.core.document.model import GroupLayer, ToningLayer
from glyphaneme.core.effect import SoftShadow
from glyphaneme.core.mask import EllipsePart, Join, LayerPart, Mask, PaintedPart
from glyphaneme.core.mask.paintings import (
    NO_PAINTING,
    Painting,
    painted_all,
    painted_on,
)
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.place import Placement, Rect
from glyphaneme.core.place.corners import Corners
from glyphaneme.core.render import FrameCache, Passes, View, render, render_exact
from glyphaneme.core.render.reading import Reading
from glyphaneme.core.render.repainted import repainted, strokes_between
from glyphaneme.core.render.tables import build_table
from glyphaneme.core.tone import BlurTone, ColoringTone
from glyphaneme.core.values import with_fields
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    premultiplied,
    psnr,
    pyramids,
)

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from numpy.typing import NDArray

    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.render import Assets

WIDTH, HEIGHT = 420, 300
SLACK = 0.16
"""Of a disk's width: so far beyond it reach the corners of a turned square round it."""
PICTURES = {
    name: noise_pixels(WIDTH, HEIGHT, seed=seed, opaque=True)
    for seed, name in enumerate("abc")
}
PYRAMIDS = pyramids(**PICTURES)
TURNED = Placement(x=230, y=140, scale_x=0.9, scale_y=0.8, turn=20)
VIEWS = [
    View(0, 0, WIDTH, HEIGHT, 1),
    View(90.5, 20.25, 300, 200, 1.7),
    View(-30, 11, 150, 110, 0.3),
]


class Painted(NamedTuple):
    """What a frame shows, and all that it reads."""

    state: Composite
    assets: Assets


def name_of(painting: Painting) -> str:
    """Return a name that no other painting has while this one is there."""
    return f"{id(painting):064x}"


def part(painting: Painting, **fields: object) -> PaintedPart:
    last = name_of(painting) if painting.strokes else None
    return PaintedPart(id="p", last=last, strokes=painting.strokes, **fields)


def masked(painting: Painting, **fields: object) -> Layer:
    mask = Mask(parts=(part(painting),), **fields)
    return photo_layer("b", PICTURES["b"], placement=TURNED, mask=mask)


def on_a_photo(painting: Painting) -> tuple[Layer, ...]:
    above = photo_layer("c", PICTURES["c"], blend=BlendMode.SCREEN, opacity=0.5)
    return (masked(painting), above)


def beside_it(painting: Painting) -> tuple[Layer, ...]:
    """Return a mask that stays where the photo moves, turned inside out twice."""
    to_mask = (0.5, 0.1, 20, -0.1, 0.5, 30)
    inner = (
        EllipsePart(id="e", x=200, y=150, width=300, height=200),
        part(painting, inverted=True),
    )
    mask = Mask(parts=inner, inverted=True, linked=False, to_mask=to_mask)
    return (photo_layer("b", PICTURES["b"], placement=TURNED, mask=mask),)


def flattened(painting: Painting) -> tuple[Layer, ...]:
    return (masked(painting, to_mask=(0, 0, 5, 0, 0, 5)),)


def on_a_color(painting: Painting) -> tuple[Layer, ...]:
    mask = Mask(parts=(part(painting, join=Join.ADD),))
    return (ColorLayer(id="w", name="Wash", color="#ff8000", mask=mask),)


def in_a_group(painting: Painting) -> tuple[Layer, ...]:
    inner = tuple(on_a_photo(painting))
    placement = Placement(x=200, y=160, scale_x=0.7, scale_y=0.7, turn=-15)
    group = GroupLayer(
        id="g",
        name="Both",
        width=WIDTH,
        height=HEIGHT,
        placement=placement,
        opacity=0.8,
        layers=inner,
    )
    return (group,)


def in_a_blurred_group(painting: Painting) -> tuple[Layer, ...]:
    [group] = in_a_group(painting)
    return (with_fields(group, tones=(BlurTone(radius=9),)),)


def beneath_tones(painting: Painting) -> tuple[Layer, ...]:
    toning = ToningLayer(id="t", name="Tones", tones=(ColoringTone(saturation=-0.5),))
    return (masked(painting), toning)


def beneath_a_blur(painting: Painting) -> tuple[Layer, ...]:
    toning = ToningLayer(id="t", name="Tones", tones=(BlurTone(radius=9),))
    return (masked(painting), toning)


def with_a_shadow(painting: Painting) -> tuple[Layer, ...]:
    shadow = SoftShadow(softness=20)
    return (masked(painting).model_copy(update={"effects": (shadow,)}),)


def softened(painting: Painting) -> tuple[Layer, ...]:
    return (masked(painting, softened=12),)


def bent(painting: Painting) -> tuple[Layer, ...]:
    placement = with_fields(TURNED, corners=Corners(top_right=(-0.1, 0.2)))
    return (masked(painting).model_copy(update={"placement": placement}),)


def read_by_another(painting: Painting) -> tuple[Layer, ...]:
    held = Mask(parts=(LayerPart(id="l", layer_id="b", inverted=True),))
    return (masked(painting), photo_layer("c", PICTURES["c"], mask=held))


LAYERS_APART = [on_a_photo, beside_it, on_a_color, in_a_group, beneath_tones]
LAYERS = [
    *LAYERS_APART,
    flattened,
    in_a_blurred_group,
    beneath_a_blur,
    with_a_shadow,
    softened,
    bent,
    read_by_another,
]


def paintings() -> Iterator[Painting]:
    """Yield what is there before any stroke, after some, and while one goes on."""
    yield NO_PAINTING
    painting = NO_PAINTING
    dabs = [
        (60, 70, False),
        (250, 160, False),
        (245, 150, True),
        (62, 80, True),
        (250, 145, False),
        (380, 40, False),
    ]
    for x, y, shows in dabs:
        stroke = Stroke(points=((x, y, 1), (x + 9, y, 1)), size=40, shows=shows)
        painting = painted_all(painting, [stroke])
        yield painting
    points = [(90 + 30 * step, 250 - 6 * step, 1) for step in range(8)]
    underway = None
    for count in (1, 2, 3, 5, 8):
        growing = Stroke(points=tuple(points[:count]), size=26)
        underway = painted_on(painting, growing, underway)
        yield underway.painting


def painted(layers: Callable[[Painting], tuple[Layer, ...]]) -> list[Painted]:
    return [seen(layers, painting) for painting in paintings()]


def seen(
    layers: Callable[[Painting], tuple[Layer, ...]], painting: Painting
) -> Painted:
    ground = photo_layer("a", PICTURES["a"])
    pile = composite_of(ground, *layers(painting), width=WIDTH, height=HEIGHT)
    return Painted(pile, {**PYRAMIDS, name_of(painting): painting})


def stale_between(
    one: Painted, other: Painted, view: View, *, gone: bool = False
) -> Rect[int] | None:
    strokes = strokes_between(one.state.layers, other.state.layers)
    if strokes is None:
        return None
    passes = Passes(one.state.layers, one.assets, view, canvas=one.state.canvas)
    table = build_table(one.state.layers, Reading(one.assets, view, passes))
    kept = other.assets if gone else {**one.assets, **other.assets}
    again = repainted(table, strokes, kept.get, view)
    return None if again is None else again.stale


def assert_as_afresh(frame: NDArray[np.uint8], shown: Painted, view: View) -> None:
    afresh = FrameCache(0).render("poster", *shown, view)
    assert np.abs(premultiplied(frame) - premultiplied(afresh)).max() <= 2
    assert psnr(frame, afresh) > 50


@pytest.mark.parametrize("times", [1, 2])
@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("layers", LAYERS)
def test_frames_while_strokes_are_painted_equal_frames_rendered_afresh(
    layers: Callable[[Painting], tuple[Layer, ...]], view: View, times: int
) -> None:
    frames = FrameCache(10_000_000)

    for one in painted(layers):
        shown = [frames.render("poster", *one, view) for _ in range(times)]

        assert_as_afresh(shown[-1], one, view)


def test_stroke_on_a_mask_leaves_its_copy_on_another_layer_as_it_was() -> None:
    frames, view = FrameCache(10_000_000), VIEWS[0]
    *_, before, after = paintings()
    copied = photo_layer("c", PICTURES["c"], mask=Mask(parts=(part(before),)))

    for painting in (before, after):
        alone = seen(lambda p: (masked(p), copied), painting)
        both = {**alone.assets, name_of(before): before}
        one = Painted(alone.state, both)
        assert_as_afresh(frames.render("poster", *one, view), one, view)


@pytest.mark.parametrize("worked_on", ["a", "c"])
def test_stroke_on_a_layer_shows_after_work_on_another(worked_on: str) -> None:
    frames, view = FrameCache(10_000_000), VIEWS[0]
    *_, before, after = paintings()
    moves = [(before, 0.9), (before, 0.8), (before, 0.7), (after, 0.7), (before, 0.6)]

    for painting, opacity in moves:
        one = seen(on_a_photo, painting)
        layers = tuple(
            with_fields(layer, opacity=opacity) if layer.id == worked_on else layer
            for layer in one.state.layers
        )
        one = Painted(with_fields(one.state, layers=layers), one.assets)
        assert_as_afresh(frames.render("poster", *one, view), one, view)


def test_frame_that_comes_again_after_its_tones_have_moved_is_as_afresh() -> None:
    frames, view = FrameCache(10_000_000), VIEWS[0]
    *_, painting = paintings()

    for saturation in (0.2, 0.5, 0.9, 0.9, 0.9):
        layers = on_a_photo(painting)
        tones = (ColoringTone(saturation=saturation),)
        moved = (layers[0].model_copy(update={"tones": tones}), layers[1])
        one = seen(lambda _, moved=moved: moved, painting)
        frame = frames.render("poster", *one, view)

    assert_as_afresh(frame, one, view)


def test_frame_is_as_afresh_where_pictures_were_let_go_of_meanwhile() -> None:
    frames, view = FrameCache(10_000_000), VIEWS[0]

    for one in painted(on_a_photo):
        again = pyramids(**{name: pixels.copy() for name, pixels in PICTURES.items()})
        one = Painted(one.state, {**one.assets, **again})
        frame = frames.render("poster", *one, view)

        assert_as_afresh(frame, one, view)
        for pyramid in again.values():
            for level in pyramid.levels:
                level[:] = 7
        del again, one


def test_what_a_stroke_does_not_reach_is_not_composed_anew() -> None:
    frames, view = FrameCache(10_000_000), VIEWS[0]
    one, other = painted(on_a_photo)[-2:]
    kept = PYRAMIDS["c"].levels[0].copy()

    before = frames.render("poster", *one, view)
    # No picture changes so; here it shows which of its pixels are read again.
    PYRAMIDS["c"].levels[0][..., :3] //= 2
    try:
        after = frames.render("poster", *other, view)
    finally:
        PYRAMIDS["c"].levels[0][:] = kept

    stale = stale_between(one, other, view)
    assert stale is not None
    inside = slice(stale.top, stale.bottom), slice(stale.left, stale.right)
    differ = (before != after).any(axis=2)
    assert differ[inside].mean() > 0.9
    differ[inside] = False
    assert not differ.any()


@pytest.mark.parametrize(
    "view",
    [
        View(0, 0, 210, 150, 0.5),
        View(10.5, 4, 150, 120, 0.5),
        View(-3.3, 8.8, 240, 160, 0.73),
        View(0, 0, 120, 90, 0.3),
        View(1.7, 2.6, 80, 58, 0.19),
    ],
    ids=str,
)
def test_fine_frames_while_strokes_are_painted_equal_fine_renders(view: View) -> None:
    frames = FrameCache(100_000_000)

    for state, assets in painted(on_a_photo):
        shown = [
            frames.render("poster", state, assets, view, fineness="exact")
            for _ in range(2)
        ]

        wanted = premultiplied(render_exact(state, assets, view))
        assert np.abs(premultiplied(shown[-1]) - wanted).max() <= 2


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("layers", LAYERS_APART)
def test_little_more_is_stale_than_what_a_stroke_changes(
    layers: Callable[[Painting], tuple[Layer, ...]], view: View
) -> None:
    wide = Stroke(points=((200, 150, 1),), size=500)
    hard = Stroke(points=((120, 70, 1),), size=40, softness=0, shows=True)
    shown = Stroke(points=((300, 250, 1),), size=20, shows=True)
    hidden = painted_all(NO_PAINTING, [wide, shown])
    one, other = seen(layers, hidden), seen(layers, painted_all(hidden, [hard]))

    stale = stale_between(one, other, view)

    before, after = (render(*each, view) for each in (one, other))
    rows, columns = np.nonzero((before != after).any(axis=2))
    assert stale is not None
    for changed, first, end in (
        (columns, stale.left, stale.right),
        (rows, stale.top, stale.bottom),
    ):
        slack = 5 + SLACK * np.ptp(changed)
        assert first <= changed.min() <= first + slack
        assert end - slack <= changed.max() + 1 <= end


@pytest.mark.parametrize(
    "change",
    [
        {"opacity": 0.5},
        {"placement": with_fields(TURNED, x=231)},
        {"mask": None},
        {"mask": Mask(strength=0.5)},
        {"name": "Other"},
    ],
)
def test_all_is_stale_where_more_than_strokes_differs(
    change: dict[str, object],
) -> None:
    *_, one, other = painted(on_a_photo)
    layers = list(other.state.layers)
    layers[1] = layers[1].model_copy(update=change)
    changed = Painted(with_fields(other.state, layers=tuple(layers)), other.assets)

    assert stale_between(one, other, VIEWS[0]) is not None
    assert stale_between(one, changed, VIEWS[0]) is None


def test_all_is_stale_where_a_mask_gives_the_photo_colors_of_its_own() -> None:
    *_, one, other = painted(lambda painting: (masked(painting, cleaned=0.5),))

    assert strokes_between(one.state.layers, other.state.layers) is None


def test_all_is_stale_where_a_painting_is_no_longer_at_hand() -> None:
    *_, one, other = painted(on_a_photo)

    assert stale_between(one, other, VIEWS[0]) is not None
    assert stale_between(one, other, VIEWS[0], gone=True) is None


def test_all_is_stale_where_a_mask_flattens_its_strokes() -> None:
    *_, one, other = painted(flattened)

    assert stale_between(one, other, VIEWS[0]) is None


def test_nothing_is_stale_where_nothing_differs() -> None:
    one, other = painted(on_a_photo)[-1], painted(on_a_photo)[-1]
    frames = FrameCache(10_000_000)

    stale = stale_between(one, one, VIEWS[0])
    first = frames.render("poster", *one, VIEWS[0])
    again = frames.render("poster", *one, VIEWS[0])

    assert stale == (0, 0, 0, 0)
    assert np.array_equal(first, again)
    assert stale_between(one, other, VIEWS[0]) == (0, 0, 0, 0)
