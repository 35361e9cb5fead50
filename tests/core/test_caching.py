from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.edits import (
    BlendLayer,
    GroupLayers,
    MoveLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    ShowLayer,
    ToneLayer,
    apply,
)
from glyphaneme.core.errors import ViewSizeError
from glyphaneme.core.place import Placement, halved
from glyphaneme.core.render import FrameCache, View, render, render_exact
from glyphaneme.core.tone import BlurTone, ColoringTone, MonochromeTone
from glyphaneme.core.values import with_fields
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    premultiplied,
    psnr,
    pyramids,
    soft_pixels,
)
from tests.trying import times

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.core.tone import Tone

WIDTH, HEIGHT = 180, 130
VIEW = View(x=-5, y=3, width=170, height=120, scale=0.9)
NAMES = ("a", "b", "c", "d")
PICTURES = {name: soft_pixels(220, 160, seed=seed) for seed, name in enumerate(NAMES)}
PICTURES["c"][..., 3] = np.linspace(0, 255, 220).astype(np.uint8)
PYRAMIDS = pyramids(**PICTURES)


def pile() -> Composite:
    modes = (
        BlendMode.NORMAL,
        BlendMode.SCREEN,
        BlendMode.MULTIPLY,
        BlendMode.SOFT_LIGHT,
    )
    layers = [
        photo_layer(
            name,
            PICTURES[name],
            blend=mode,
            opacity=0.8,
            placement=Placement(x=90, y=60, scale_x=0.8, scale_y=0.8, turn=7 * turn),
        )
        for turn, (name, mode) in enumerate(zip(NAMES, modes, strict=True))
    ]
    return composite_of(*layers, width=WIDTH, height=HEIGHT, background="#ffffff")


def placed(state: Composite, layer_id: str, **changes: float) -> Composite:
    placement = state.layer(layer_id).placement.model_copy(update=changes)
    return apply(state, PlaceLayer(layer_id=layer_id, placement=placement))


def shown(frames: FrameCache, state: Composite) -> np.ndarray:
    return frames.render("poster", state, PYRAMIDS, VIEW)


@pytest.mark.parametrize("dragged", NAMES)
def test_frames_of_a_drag_equal_frames_rendered_afresh(dragged: str) -> None:
    frames = FrameCache(10_000_000)

    for step in range(5):
        state = placed(pile(), dragged, x=60 + 9 * step, turn=3 * step)
        frame = shown(frames, state)

        afresh = render(state, PYRAMIDS, VIEW)
        assert np.abs(premultiplied(frame) - premultiplied(afresh)).max() <= 2
        assert psnr(frame, afresh) > 50


def toned(state: Composite, *tones: Tone) -> Composite:
    return apply(state, ToneLayer(layer_id="b", tones=tones))


def test_frames_while_a_tone_moves_equal_frames_rendered_afresh() -> None:
    frames = FrameCache(10_000_000)
    blurred, grey = BlurTone(radius=3), MonochromeTone()
    strong = [ColoringTone(saturation=0.1 * step) for step in range(1, 5)]
    stacks = [
        *((blurred, one) for one in strong),
        (blurred, strong[-1], grey),
        (blurred, grey),
        (blurred,),
        (grey,),
        (),
        (grey,),
    ]

    for tones in stacks:
        for opacity in (0.8, 0.7):
            state = toned(pile(), *tones)
            mode = BlendLayer(layer_id="b", mode=BlendMode.SCREEN, opacity=opacity)
            state = apply(state, mode)
            frame, afresh = shown(frames, state), render(state, PYRAMIDS, VIEW)

            # What was kept is rounded before its tones, which stretch that.
            assert np.abs(premultiplied(frame) - premultiplied(afresh)).max() <= 6
            assert psnr(frame, afresh) > 53


steps = st.one_of(
    st.builds(
        PlaceLayer,
        layer_id=st.sampled_from(NAMES),
        placement=st.builds(
            Placement,
            x=st.floats(0, 180),
            y=st.floats(0, 130),
            scale_x=st.just(0.7),
            scale_y=st.just(0.7),
            turn=st.floats(-90, 90),
        ),
    ),
    st.builds(
        BlendLayer,
        layer_id=st.sampled_from([*NAMES, "g"]),
        mode=st.sampled_from([BlendMode.NORMAL, BlendMode.HUE, BlendMode.LIGHTEN]),
        opacity=st.floats(0, 1),
    ),
    st.builds(MoveLayer, layer_id=st.sampled_from(NAMES), index=st.integers(0, 3)),
    st.builds(
        ShowLayer, layer_id=st.sampled_from([*NAMES, "g"]), visible=st.booleans()
    ),
    st.builds(RemoveLayer, layer_id=st.sampled_from(NAMES)),
    st.builds(
        GroupLayers,
        group_id=st.just("g"),
        name=st.just("Both"),
        layer_ids=st.lists(st.sampled_from(NAMES), min_size=1, max_size=2).map(tuple),
    ),
)


@times(25)
@given(st.lists(steps, max_size=10))
def test_frames_after_any_edits_equal_frames_rendered_afresh(edits) -> None:
    frames = FrameCache(10_000_000)
    state = pile()

    for edit in edits:
        try:
            state = apply(state, edit)
        except ValueError:
            continue
        # Twice: what is kept comes from two frames that agree.
        shown(frames, state)
        frame = shown(frames, state)

        assert psnr(frame, render(state, PYRAMIDS, VIEW)) > 45


def test_pictures_of_one_name_and_two_sizes_do_not_mix() -> None:
    frames = FrameCache(10_000_000)
    small = VIEW._replace(width=85, height=60, scale=0.45)

    for step in range(4):
        state = placed(pile(), "d", x=60 + step)
        shown(frames, state)
        frame = frames.render("poster", state, PYRAMIDS, small)

    assert psnr(frame, render(state, PYRAMIDS, small)) > 50


def test_cache_keeps_no_more_than_its_budget() -> None:
    frames = FrameCache(200_000)

    for picture in range(6):
        for step in range(3):
            frames.render(picture, placed(pile(), "d", x=step), PYRAMIDS, VIEW)
            assert frames.size <= 200_000

    assert frames.size > 0


def test_what_is_kept_is_counted_once_and_gone_when_forgotten() -> None:
    frames, sizes = FrameCache(10_000_000), []
    for step in range(9):
        for picture in ("one", "other"):
            frames.render(picture, placed(pile(), "d", x=step), PYRAMIDS, VIEW)
        sizes.append(frames.size)

    assert sizes[4] == sizes[-1] > 0
    frames.forget("one")
    assert frames.size == sizes[-1] / 2
    frames.forget("other")
    assert frames.size == 0


def test_cache_refuses_views_it_cannot_fill() -> None:
    with pytest.raises(ViewSizeError, match="got 0 by 3"):
        FrameCache(1).render("poster", pile(), PYRAMIDS, View(0, 0, 0, 3, 1))


@pytest.mark.parametrize("scale", [0.2, 0.6, 1.5])
def test_exact_frames_equal_exact_renders_however_often_they_come(scale: float) -> None:
    grainy = pyramids(
        **{name: noise_pixels(220, 160, seed=at) for at, name in enumerate(NAMES)}
    )
    frames = FrameCache(10_000_000)
    view = VIEW._replace(width=100, height=70, scale=scale)

    shown = [
        frames.render("pile", pile(), grainy, view, fineness="exact") for _ in range(3)
    ]

    wanted = render_exact(pile(), grainy, view)
    assert [psnr(frame, wanted) > 50 for frame in shown] == [True] * 3


def test_exact_frame_too_large_to_be_kept_is_the_export_averaged() -> None:
    width, height = 5200, 3200
    grainy = np.tile(noise_pixels(520, 320, seed=3, opaque=True), (10, 10, 1))
    layers = (
        photo_layer("grain", grainy),
        photo_layer("again", grainy[:, ::-1].copy(), blend=BlendMode.COLOR_BURN),
    )
    state = composite_of(*layers, width=width, height=height)
    pixels = pyramids(grain=grainy, again=grainy[:, ::-1].copy())
    frames = FrameCache(10_000_000)

    half = View(x=0, y=0, width=width // 2, height=height // 2, scale=0.5)
    frame = frames.render("pile", state, pixels, half, fineness="exact")

    export = render(state, pixels, View(x=0, y=0, width=width, height=height, scale=1))
    assert np.array_equal(frame, halved(export))


@pytest.mark.parametrize("background", ["#102030", "#ffffff", None])
def test_frame_on_another_sheet_lies_on_that_sheet(background: str | None) -> None:
    frames = FrameCache(10_000_000)
    state = placed(pile(), "d", x=70)
    shown(frames, state)
    shown(frames, placed(state, "d", x=75))

    canvas = with_fields(state.canvas, background=background)
    other = apply(placed(state, "d", x=80), SetCanvas(canvas=canvas))

    afresh = render(other, PYRAMIDS, VIEW)
    difference = premultiplied(shown(frames, other)) - premultiplied(afresh)
    assert np.abs(difference).max() <= 2
