"""Masks and fades against their definitions, written anew in float64."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glyphaneme.core._kernels import masking
from glyphaneme.core.document import Canvas, ColorLayer, Composite, GroupLayer
from glyphaneme.core.errors import PlaneShapeError
from glyphaneme.core.mask import (
    EllipsePart,
    Fade,
    FadeCurve,
    FadeShape,
    Join,
    Mask,
    RectanglePart,
)
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place import Placement, canvas_to_source
from glyphaneme.core.render import View, render
from glyphaneme.core.render.masks import Masking
from tests.pictures import composite_of, photo_layer, pyramids
from tests.trying import times

if TYPE_CHECKING:
    from numpy.typing import NDArray

    F64 = NDArray[np.float64]

WIDTH, HEIGHT = 700, 300
WHOLE = View(0, 0, WIDTH, HEIGHT, 1)
PIXELS = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
PYRAMIDS = pyramids(a=PIXELS)
PLAIN = Placement(x=WIDTH / 2, y=HEIGHT / 2, scale_x=1, scale_y=1)
HALF_A_LEVEL = 0.501 / 255
MOON = EllipsePart(id="p", x=350, y=150, width=300, height=300, softness=40)


def alpha_of(view: View = WHOLE, placement: Placement = PLAIN, **fields: object) -> F64:
    layer = photo_layer("a", PIXELS, placement=placement, **fields)
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)
    return render(composite, PYRAMIDS, view)[..., 3] / 255


def positions(view: View = WHOLE) -> tuple[F64, F64]:
    row, column = np.mgrid[0 : view.height, 0 : view.width] + 0.5
    return view.x + column / view.scale, view.y + row / view.scale


def smooth(share: F64) -> F64:
    t = np.clip(share, 0, 1)
    return t * t * (3 - 2 * t)


def turned(part: EllipsePart | RectanglePart, x: F64, y: F64) -> tuple[F64, F64]:
    angle = np.radians(part.turn)
    across, down = x - part.x, y - part.y
    return (
        np.cos(angle) * across + np.sin(angle) * down,
        -np.sin(angle) * across + np.cos(angle) * down,
    )


def shown_by(part: EllipsePart | RectanglePart, x: F64, y: F64) -> F64:
    """Return a part's value by the formulas of its docstring."""
    u, v = turned(part, x, y)
    if isinstance(part, EllipsePart):
        a, b = part.width / 2, part.height / 2
        k = np.hypot(u / a, v / b)
        gradient = np.maximum(np.hypot(u / a**2, v / b**2), 1e-12)
        away = np.where(k > 1e-9, (k - 1) * k / gradient, -min(a, b))
    else:
        corner = min(part.corner, part.width / 2, part.height / 2)
        across = np.abs(u) - part.width / 2 + corner
        down = np.abs(v) - part.height / 2 + corner
        outside = np.hypot(np.maximum(across, 0), np.maximum(down, 0))
        away = outside + np.minimum(np.maximum(across, down), 0) - corner
    share = 0.5 - away / max(part.softness, 1)
    value = smooth(share) if part.softness > 1 else np.clip(share, 0, 1)
    return 1 - value if part.inverted else value


def shown_of(mask: Mask, x: F64, y: F64) -> F64:
    shown = np.full_like(x, mask.start)
    for part in mask.parts:
        if not part.works:
            continue
        value = shown_by(part, x, y)
        if part.join is Join.ADD:
            shown = 1 - (1 - shown) * (1 - value)
        elif part.join is Join.TAKE:
            shown = shown * (1 - value)
        else:
            shown = shown * value
    if mask.inverted:
        shown = 1 - shown
    return 1 - mask.strength * (1 - shown)


def left_by(fade: Fade, x: F64, y: F64) -> F64:
    angle = np.radians(fade.angle)
    across, down = x - fade.x, y - fade.y
    along = (np.cos(angle) * across + np.sin(angle) * down) / fade.length
    beside = (-np.sin(angle) * across + np.cos(angle) * down) / fade.length
    if fade.shape is FadeShape.LINE:
        t = 0.5 - along
    elif fade.shape is FadeShape.BOTH:
        t = (1 - np.abs(along)) / (1 - fade.full)
    elif fade.shape is FadeShape.ROUND:
        t = (1 - np.hypot(along, beside / fade.aspect)) / (1 - fade.full)
    else:
        least = min(1, fade.aspect)
        corner = fade.roundness * least
        u, v = np.abs(along) - 1 + corner, np.abs(beside) - fade.aspect + corner
        outside = np.hypot(np.maximum(u, 0), np.maximum(v, 0))
        away = outside + np.minimum(np.maximum(u, v), 0) - corner
        t = -away / ((1 - fade.full) * least)
    t = np.clip(t, 0, 1)
    bent = {
        FadeCurve.EVEN: t,
        FadeCurve.GENTLE: t * t * (3 - 2 * t),
        FadeCurve.EARLY: t * t,
        FadeCurve.LATE: t * (2 - t),
    }[fade.curve]
    return 1 - bent if fade.inward else bent


sizes = st.floats(1, 900)
places = st.floats(-200, 900)
shape_fields = {
    "join": st.sampled_from(Join),
    "inverted": st.booleans(),
    "works": st.booleans(),
    "x": places,
    "y": places,
    "width": sizes,
    "height": sizes,
    "turn": st.floats(-360, 360),
    "softness": st.sampled_from([0, 0.3, 2, 40, 400]),
}
parts = st.one_of(
    st.builds(EllipsePart, id=st.just("p"), **shape_fields),
    st.builds(RectanglePart, id=st.just("p"), corner=st.floats(0, 300), **shape_fields),
)
recipes = st.builds(
    Mask,
    parts=st.lists(parts, max_size=4).map(tuple),
    inverted=st.booleans(),
    strength=st.floats(0, 1),
)
fades = st.builds(
    Fade,
    shape=st.sampled_from(FadeShape),
    x=places,
    y=places,
    length=st.floats(1, 2000),
    angle=st.floats(-360, 360),
    aspect=st.floats(0.05, 20),
    full=st.floats(0, 0.95),
    roundness=st.floats(0, 1),
    curve=st.sampled_from(FadeCurve),
    inward=st.booleans(),
)


@times(40)
@given(recipes)
def test_mask_shows_what_its_formulas_say(mask: Mask) -> None:
    x, y = positions()

    off = np.abs(alpha_of(mask=mask) - shown_of(mask, x, y))

    # A hard edge is one pixel wide: a float32's last bits move it by that share.
    assert off.max() < 2 * HALF_A_LEVEL


@times(40)
@given(st.lists(fades, min_size=1, max_size=3).map(tuple))
def test_fades_leave_what_their_formulas_say_and_multiply(found) -> None:
    x, y = positions()
    left = np.prod([left_by(fade, x, y) for fade in found], axis=0)

    # A fade of a pixel or two is as steep as a hard edge.
    assert np.abs(alpha_of(fades=found) - left).max() < 2 * HALF_A_LEVEL


@pytest.mark.parametrize(
    "fields",
    [
        {
            "mask": Mask(
                parts=(
                    EllipsePart(
                        id="p", x=350, y=150, width=300, height=300, softness=40
                    ),
                )
            )
        },
        {"fades": (Fade(x=350, y=150, length=500, angle=30),)},
    ],
    ids=["mask", "fade"],
)
def test_smooth_values_are_within_half_a_level(fields) -> None:
    x, y = positions()
    if "mask" in fields:
        wanted = shown_of(fields["mask"], x, y)
    else:
        wanted = left_by(fields["fades"][0], x, y)

    shown = alpha_of(**fields)

    assert np.abs(shown - wanted).max() < HALF_A_LEVEL
    assert (shown.min(), shown.max()) == (0, 1)


def test_mask_and_fade_multiply_and_leave_colours_alone() -> None:
    mask = Mask(parts=(RectanglePart(id="p", x=350, y=150, width=400, height=200),))
    fade = Fade(x=350, y=150, length=300)

    both = alpha_of(mask=mask, fades=(fade,))

    alone = alpha_of(mask=mask) * alpha_of(fades=(fade,))
    assert np.abs(both - alone).max() < 2 * HALF_A_LEVEL


def test_parts_join_in_their_order() -> None:
    wide = EllipsePart(id="w", x=350, y=150, width=280, height=280)
    small = EllipsePart(id="s", x=350, y=150, width=80, height=80)
    hole = small.model_copy(update={"join": Join.TAKE})
    x, y = positions()
    inside = np.hypot(x - 350, y - 150) < 38

    ring = alpha_of(mask=Mask(parts=(wide, hole)))
    filled = alpha_of(mask=Mask(parts=(hole, wide)))

    assert ring[inside].max() == 0
    assert filled[inside].min() == 1


def test_inside_out_twice_is_the_same_and_once_is_the_rest() -> None:
    part = EllipsePart(id="p", x=350, y=150, width=280, height=200, softness=60)
    twice = Mask(parts=(part.model_copy(update={"inverted": True}),), inverted=True)

    plain, once = (
        alpha_of(mask=Mask(parts=(part,))),
        alpha_of(mask=Mask(parts=(part,), inverted=True)),
    )

    assert np.array_equal(alpha_of(mask=twice), plain)
    assert np.abs(once + plain - 1).max() <= 1 / 255


@pytest.mark.parametrize("linked", [True, False])
def test_linked_mask_moves_with_its_photo_and_another_stays(linked: bool) -> None:
    part = EllipsePart(id="p", x=300, y=150, width=200, height=200, softness=20)
    mask = Mask(parts=(part,), linked=linked)
    moved = Placement(x=330, y=170, scale_x=1.2, scale_y=1.2, turn=25, flipped=True)
    x, y = positions()
    if linked:
        source = canvas_to_source(moved, width=WIDTH, height=HEIGHT)
        x, y = np.tensordot(source, np.stack([x, y, np.ones_like(x)]), axes=1)
    # The edge is as wide as the mask's own pixels say.
    wanted = shown_of(mask, x, y)
    inside = alpha_of(placement=moved) == 1

    off = np.abs(alpha_of(placement=moved, mask=mask) - wanted)[inside]

    assert off.max() < 2 * HALF_A_LEVEL


def test_soft_edge_is_the_same_at_any_zoom_and_hard_ones_stay_sharp() -> None:
    part = EllipsePart(id="p", x=300, y=150, width=200, height=200, softness=40)
    view = View(150, 0, 320, 320, 8)
    x, y = positions(view)

    near = alpha_of(view, mask=Mask(parts=(part,)))
    hard = alpha_of(view, mask=Mask(parts=(part.model_copy(update={"softness": 0}),)))

    assert np.abs(near - shown_of(Mask(parts=(part,)), x, y)).max() < HALF_A_LEVEL
    assert ((hard > 0) & (hard < 1)).mean() < 0.02


def test_group_and_wash_are_masked_and_faded_too() -> None:
    part = EllipsePart(id="p", x=350, y=150, width=280, height=200, softness=60)
    fade = Fade(x=350, y=150, length=300)
    wash = ColorLayer(
        id="w", name="W", color="#ff0000", mask=Mask(parts=(part,)), fades=(fade,)
    )
    photo = photo_layer("a", PIXELS, placement=PLAIN)
    group = GroupLayer(
        id="g",
        name="G",
        width=WIDTH,
        height=HEIGHT,
        placement=PLAIN,
        layers=(photo,),
        mask=wash.mask,
        fades=wash.fades,
    )
    x, y = positions()
    wanted = shown_by(part, x, y) * left_by(fade, x, y)

    for layer in (wash, group):
        composite = Composite(
            canvas=Canvas(width=WIDTH, height=HEIGHT, background=None), layers=(layer,)
        )
        shown = render(composite, PYRAMIDS, WHOLE)[..., 3] / 255
        assert np.abs(shown - wanted).max() < HALF_A_LEVEL


def test_layer_that_is_all_hidden_needs_no_look_and_shows_nothing() -> None:
    far = EllipsePart(id="p", x=-5000, y=0, width=10, height=10)

    assert alpha_of(mask=Mask(parts=(far,))).max() == 0
    assert alpha_of(mask=Mask(parts=(far,), inverted=True)).min() == 1


@pytest.mark.parametrize(
    "to_plane",
    [
        np.array([[1.0, 0, 0], [0, 1, 0]]),
        np.array([[1.0, 0, -90], [0, 1, 40]]),
        np.array([[0.7, 0.2, -30], [-0.2, 0.7, 50]]),
        np.array([[3.1, 0, 5.5], [0, 0.4, 0.25]]),
    ],
    ids=["copied", "shifted", "turned", "stretched"],
)
@pytest.mark.parametrize("join", [masking.MULTIPLY, masking.TAKE])
@pytest.mark.parametrize("inverted", [False, True])
def test_planes_are_interpolated_and_go_on_beyond_their_edges(
    to_plane: F64, join: int, inverted: bool, monkeypatch
) -> None:
    random = np.random.default_rng(5)
    values = random.integers(0, 256, (200, 333), np.uint8)
    values[:128, 64:256] = 255
    values[130:, :100] = 0
    step = Step(
        masking.PLANE, to_plane, join=join, inverted=inverted, plane=plane_of(values)
    )
    monkeypatch.setattr(
        "glyphaneme.core.render.tables.masking_of", lambda *_: Masking(1.0, (step,))
    )
    if (join == masking.TAKE) != inverted:
        values = 255 - values
    x, y = positions()
    u, v = np.tensordot(to_plane, np.stack([x, y, np.ones_like(x)]), axes=1) - 0.5
    u, v = np.clip(u, 0, 332), np.clip(v, 0, 199)
    left, top = np.floor(u).astype(int), np.floor(v).astype(int)
    right, below = np.minimum(left + 1, 332), np.minimum(top + 1, 199)
    du, dv = u - left, v - top
    wanted = (1 - dv) * ((1 - du) * values[top, left] + du * values[top, right])
    wanted += dv * ((1 - du) * values[below, left] + du * values[below, right])

    off = np.abs(alpha_of() * 255 - wanted)

    assert off.max() < 0.51


def test_even_tiles_of_a_plane_take_no_memory() -> None:
    values = np.zeros((3000, 4000), np.uint8)
    values[1000:1100, 2000:2100] = 200

    plane = plane_of(values)

    assert plane.nbytes < 0.01 * values.size
    assert plane.extremes.max() == 200 * 257


@pytest.mark.parametrize(
    "values",
    [np.zeros((0, 5), np.uint8), np.zeros((5, 5), np.float32), np.zeros(5, np.uint8)],
)
def test_what_is_no_plane_is_refused(values) -> None:
    with pytest.raises(PlaneShapeError, match="uint8"):
        plane_of(values)


def test_bounds_never_leave_out_what_shows() -> None:
    """Blocks told from bounds give the very pixels that a look at each would give."""
    layer = {
        "mask": Mask(
            parts=(
                EllipsePart(id="a", x=200, y=140, width=390, height=31, turn=31),
                RectanglePart(
                    id="b", x=420, y=160, width=90, height=200, turn=-20, corner=40
                ),
                EllipsePart(id="c", x=430, y=150, width=60, height=90, join=Join.TAKE),
            )
        )
    }
    x, y = positions()

    shown = alpha_of(**layer)

    wanted = shown_of(layer["mask"], x, y)
    assert np.abs(shown - wanted).max() < 2 * HALF_A_LEVEL
