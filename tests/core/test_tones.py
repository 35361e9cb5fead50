"""Tones give what their published formulas say, and neutral ones change no bit."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from pydantic import ValidationError

from glyphaneme.core._kernels import toning
from glyphaneme.core.document import (
    Canvas,
    Composite,
    GroupLayer,
    Layer,
    PhotoLayer,
    ToningLayer,
)
from glyphaneme.core.document.masks import hidden_part
from glyphaneme.core.edits import DissolveGroup, ToneLayer, apply, describe_edit
from glyphaneme.core.errors import LayerLockedError
from glyphaneme.core.mask import EllipsePart, Mask
from glyphaneme.core.place import Placement, build_pyramid
from glyphaneme.core.render import FrameCache, View, render
from glyphaneme.core.tone import (
    MAX_TONES,
    BlurTone,
    ColoringTone,
    CurvesTone,
    Ends,
    InvertTone,
    LevelsTone,
    LightTone,
    MonochromeTone,
    OneHueTone,
    Tone,
    WarmthTone,
    monotone,
    ops_of,
    planned,
    tabled,
)
from tests import published_tones as published
from tests.pictures import composite_of, photo_layer, pyramids
from tests.trying import times

SIDE = 256
WHOLE = View(0, 0, SIDE, SIDE, 1.0)


def colors() -> np.ndarray:
    """Return opaque colours: dark ones, light ones, greys and any others."""
    rng = np.random.default_rng(20261128)
    rgba = rng.integers(0, 256, (SIDE, SIDE, 4), dtype=np.uint8)
    rgba[:40] //= 16
    rgba[40:80] = 255 - rgba[40:80] // 16
    rgba[80:120, :, 1:3] = rgba[80:120, :, :1]
    rgba[..., 3] = 255
    return rgba


COLORS = colors()
SHARES = COLORS[..., :3] / 255
PICTURES = {"colors": build_pyramid(COLORS)}
IN_PLACE = Placement(x=SIDE / 2, y=SIDE / 2, scale_x=1, scale_y=1)


def photo(*tones: Tone, **fields: object) -> PhotoLayer:
    return PhotoLayer(
        **{
            "id": "colors",
            "name": "Colours",
            "picture": "colors",
            "width": SIDE,
            "height": SIDE,
            "placement": IN_PLACE,
            "tones": tones,
            **fields,
        }
    )


def shown(*layers: Layer, background: str | None = "#ffffff") -> np.ndarray:
    canvas = Canvas(width=SIDE, height=SIDE, background=background)
    return render(Composite(canvas=canvas, layers=layers), PICTURES, WHOLE)


def error(tones, wanted: np.ndarray) -> float:
    """Return the largest difference to colours 0..1, in levels."""
    return float(np.abs(shown(photo(*tones))[..., :3] - 255 * wanted).max())


def test_exposure_multiplies_linear_light() -> None:
    for stops in (-3, 0.4, 2):
        wanted = published.encoded(published.decoded(SHARES) * 2**stops)

        assert error([LightTone(exposure=stops)], wanted) < 0.52


@pytest.mark.parametrize("middle", [0.1, 0.45, 1, 2.2, 10])
def test_levels_are_a_power_between_two_ends(middle: float) -> None:
    ends = Ends(darkest=0.1, middle=middle, lightest=0.85, low=0.9, high=0.05)
    held = np.clip((SHARES - 0.1) / 0.75, 0, 1)

    assert error([LevelsTone(all=ends)], 0.9 - 0.85 * held ** (1 / middle)) < 0.52


def test_levels_of_one_channel_leave_the_others() -> None:
    wanted = SHARES.copy()
    wanted[..., 1] = np.clip((wanted[..., 1] - 0.2) / 0.8, 0, 1) ** 0.5

    assert error([LevelsTone(green=Ends(darkest=0.2, middle=2))], wanted) < 0.52


CURVE = ((0, 0.1), (0.2, 0.15), (0.25, 0.6), (0.6, 0.65), (1, 0.3))


@pytest.mark.parametrize("count", [2, 3, 5, 9, 16])
def test_curves_are_the_published_monotone_cubics(count: int) -> None:
    x = np.linspace(0, 1, count)
    points = tuple(zip(x.tolist(), (0.1 + 0.8 * x**2).tolist(), strict=True))

    wanted = published.monotone(points)(SHARES)
    assert error([CurvesTone(all=points)], wanted) < 0.52
    assert error([CurvesTone(all=CURVE)], published.monotone(CURVE)(SHARES)) < 0.52


def test_curve_of_one_channel_comes_before_that_of_all() -> None:
    wanted = SHARES.copy()
    wanted[..., 2] = published.monotone(CURVE)(wanted[..., 2])
    wanted = published.monotone(((0, 1), (1, 0)))(wanted)

    tone = CurvesTone(blue=CURVE, all=((0, 1), (1, 0)))
    assert error([tone], wanted) < 0.52


@given(st.lists(st.floats(0, 1), min_size=2, max_size=16))
@example([0.0, 2.2e-311, 1.0])
def test_a_curve_never_swings_beyond_its_points(heights: list[float]) -> None:
    x = np.linspace(0, 1, len(heights))
    curve = monotone(list(zip(x.tolist(), heights, strict=True)))

    for left, right, low, high in zip(x, x[1:], heights, heights[1:], strict=False):
        between = [curve.at(at) for at in np.linspace(left, right, 9)]
        steps = np.diff(between) * (1 if high >= low else -1)
        assert steps.min() >= -1e-9
        assert abs(between[-1] - high) < 1e-9


LIGHT = {
    name: st.floats(-1, 1)
    for name in (
        "brightness",
        "contrast",
        "whites",
        "blacks",
        "shadows",
        "highlights",
    )
}


@given(st.builds(LightTone, **LIGHT))
def test_light_never_turns_dark_and_light_round(tone: LightTone) -> None:
    heights = [tone.spline.at(at) for at in np.linspace(0, 1, 65)]

    assert np.diff(heights).min() >= -1e-9
    assert min(heights) >= -1e-9
    assert max(heights) <= 1 + 1e-9


@pytest.mark.parametrize("name", [*LIGHT])
def test_each_control_of_light_lightens_and_darkens_its_part(name: str) -> None:
    part = {"whites": 0.9, "blacks": 0.08, "shadows": 0.25, "highlights": 0.75}
    at = part.get(name, 0.7)

    darker, lighter = (LightTone(**{name: one}).spline.at(at) for one in (-0.8, 0.8))
    assert darker < at - 0.02
    assert lighter > at + 0.02


def test_light_is_its_curve() -> None:
    tone = LightTone(brightness=0.3, contrast=0.5, shadows=0.6, blacks=-0.4)
    heights = np.array([tone.spline.at(one / 255) for one in range(256)])

    assert error([tone], heights[COLORS[..., :3]]) < 0.52


def test_warmth_adapts_white_as_bradford_does() -> None:
    # CIE 15: D50 is 46.2 mired beyond D65, and its XYZ are published.
    matrix = np.reshape(WarmthTone(warmth=46.2).ops()[0].numbers, (3, 3))
    to_xyz = np.array(
        [
            [0.4124564, 0.3575761, 0.1804375],
            [0.2126729, 0.7151522, 0.0721750],
            [0.0193339, 0.1191920, 0.9503041],
        ]
    )
    white = to_xyz @ matrix @ np.ones(3)

    assert np.allclose(white, (0.9642, 1.0, 0.8251), atol=0.004)
    adapted = published.encoded(published.decoded(SHARES) @ matrix.T)
    assert error([WarmthTone(warmth=46.2)], adapted) < 0.52


def test_warmer_is_redder_and_more_tint_more_magenta() -> None:
    grey = np.full(3, 0.2)

    for tone, order in (
        (WarmthTone(warmth=30), (0, 1, 2)),
        (WarmthTone(warmth=-30), (2, 1, 0)),
    ):
        out = np.reshape(tone.ops()[0].numbers, (3, 3)) @ grey
        assert out[order[0]] > out[order[1]] > out[order[2]]
    magenta = np.reshape(WarmthTone(tint=20).ops()[0].numbers, (3, 3)) @ grey
    assert magenta[1] < min(magenta[0], magenta[2])


def lab_changed(saturation=0.0, vibrance=0.0, turn=0.0) -> np.ndarray:
    lab = published.oklab(published.decoded(SHARES))
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    lab[..., 1:] *= (1 + vibrance * np.maximum(1 - chroma / 0.32, 0))[..., None]
    ab = (lab[..., 1] + 1j * lab[..., 2]) * (1 + saturation)
    ab *= np.exp(1j * np.radians(turn))
    return np.stack([lab[..., 0], ab.real, ab.imag], -1)


@pytest.mark.parametrize(
    "fields",
    [
        {"saturation": 0.3},
        {"saturation": -0.6},
        {"saturation": 1},
        {"vibrance": 0.8},
        {"vibrance": -1},
        {"saturation": 0.2, "vibrance": 0.3, "turn": 50},
    ],
    ids=str,
)
def test_colour_is_stretched_and_turned_in_oklab(fields: dict[str, float]) -> None:
    wanted = published.encoded(published.kept_in_gamut(lab_changed(**fields)))
    got = shown(photo(ColoringTone(**fields)))[..., :3]
    off = np.abs(got - 255 * wanted).max(-1)

    # Along the edge of the gamut a few blues lie on a fold, where the last bit decides.
    assert np.quantile(off, 0.9999) < 0.6


def test_what_leaves_the_gamut_keeps_its_hue_and_lightness() -> None:
    lab = lab_changed(saturation=0.8)
    got = shown(photo(ColoringTone(saturation=0.8)))[..., :3] / 255
    after = published.oklab(published.decoded(got))
    strong = np.hypot(after[..., 1], after[..., 2]) > 0.1

    hues = [one[strong][:, 1] + 1j * one[strong][:, 2] for one in (after, lab)]
    assert np.abs(np.degrees(np.angle(hues[0] * hues[1].conj()))).max() < 3
    # Near black a level is more than that.
    light = lab[..., 0] > 0.3
    assert np.abs(after[..., 0] - lab[..., 0])[light].max() < 0.02


def test_one_hue_leaves_greys_and_other_hues() -> None:
    got = shown(photo(OneHueTone(hue=29, width=60, saturation=-1)))[..., :3]
    lab = published.oklab(published.decoded(SHARES))
    hue = np.degrees(np.angle(lab[..., 1] + 1j * lab[..., 2]))
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    far = np.abs((hue - 29 + 180) % 360 - 180)
    after = published.oklab(published.decoded(got / 255))

    same = far > 46
    assert np.abs(got.astype(int) - COLORS[..., :3])[same].max() <= 1
    core = (far < 29) & (chroma > 0.05)
    assert np.hypot(after[..., 1], after[..., 2])[core].max() < 0.01


def test_black_and_white_begins_with_the_luma_of_bt601() -> None:
    wanted = (SHARES @ (0.299, 0.587, 0.114))[..., None].repeat(3, -1)

    assert error([MonochromeTone()], wanted) < 0.52


def test_black_and_white_has_one_component_and_weights_of_hue() -> None:
    tone = MonochromeTone(
        reds=1, yellows=0.2, greens=-0.5, cyans=2, blues=0, magentas=1
    )
    got = shown(photo(tone))

    assert (got[..., 0] == got[..., 1]).all()
    assert (got[..., 1] == got[..., 2]).all()
    pure = np.array(
        [[[255, 0, 0], [255, 255, 0], [0, 255, 0], [0, 255, 255]]], np.uint8
    )
    pixels = np.dstack([pure, np.full((1, 4), 255, np.uint8)])
    canvas = Canvas(width=4, height=1)
    layer = photo(
        tone,
        width=4,
        height=1,
        placement=Placement(x=2, y=0.5, scale_x=1, scale_y=1),
    )
    greys = render(
        Composite(canvas=canvas, layers=(layer,)),
        {"colors": build_pyramid(np.ascontiguousarray(pixels))},
        View(0, 0, 4, 1, 1.0),
    )
    assert greys[0, :, 0].tolist() == [255, 51, 0, 255]


def test_a_tint_colours_greys_and_leaves_black_and_white() -> None:
    ramp = np.linspace(0, 255, SIDE).astype(np.uint8)
    pixels = np.dstack([np.tile(ramp, (SIDE, 1))] * 3 + [np.full((SIDE, SIDE), 255)])
    pictures = {"colors": build_pyramid(np.ascontiguousarray(pixels, np.uint8))}
    canvas = Canvas(width=SIDE, height=SIDE)
    layer = photo(MonochromeTone(tint="#a0703c", tinted=1))
    row = render(Composite(canvas=canvas, layers=(layer,)), pictures, WHOLE)[0]

    assert row[0, :3].tolist() == [0, 0, 0]
    assert row[-1, :3].tolist() == [255, 255, 255]
    assert row[128, 0] > row[128, 1] > row[128, 2]


def test_invert_twice_is_nothing() -> None:
    assert np.array_equal(shown(photo(InvertTone(), InvertTone())), shown(photo()))
    assert error([InvertTone()], 1 - SHARES) < 0.52


NEUTRAL = (
    LightTone(),
    LevelsTone(),
    CurvesTone(),
    WarmthTone(),
    ColoringTone(),
    OneHueTone(hue=200),
)


def test_neutral_tones_change_not_one_bit() -> None:
    off = (InvertTone(works=False), LightTone(exposure=2, works=False))

    assert np.array_equal(shown(photo(*NEUTRAL, *off)), COLORS)
    toning = ToningLayer(id="t", name="T", tones=NEUTRAL)
    assert np.array_equal(shown(photo(), toning), COLORS)


STACK = (
    LevelsTone(all=Ends(darkest=0.02, lightest=0.98, middle=1.1)),
    CurvesTone(all=((0, 0), (0.25, 0.2), (0.5, 0.52), (0.75, 0.8), (1, 1))),
    WarmthTone(warmth=30),
    ColoringTone(saturation=0.2),
)


def stacked(v: np.ndarray) -> np.ndarray:
    v = np.clip((v - 0.02) / 0.96, 0, 1) ** (1 / 1.1)
    v = published.monotone(STACK[1].all)(v)
    matrix = np.reshape(STACK[2].ops()[0].numbers, (3, 3))
    lab = published.oklab(published.decoded(v) @ matrix.T)
    lab[..., 1:] *= 1.2
    return published.encoded(published.kept_in_gamut(lab))


def test_a_whole_stack_errs_by_little_more_than_rounding() -> None:
    assert error(STACK, stacked(SHARES)) < 0.7


def test_a_photo_upside_down_is_toned_by_the_same_formulas() -> None:
    # Only of one that lies pixel for pixel, levels are looked up.
    placement = Placement(**{**IN_PLACE.model_dump(), "turn": 180})
    found = shown(photo(*STACK, placement=placement))[::-1, ::-1, :3]

    assert np.abs(found - 255 * stacked(SHARES)).max() < 0.7


CHANNELS = LevelsTone(red=Ends(middle=2), green=Ends(middle=0.5), blue=Ends(middle=3))


def test_each_channel_is_looked_up_by_itself_and_alpha_by_none() -> None:
    pixels = COLORS.copy()
    pixels[..., 3] = np.linspace(10, 255, SIDE).round()
    layer = photo_layer("clear", pixels, tones=(CHANNELS,), opacity=0.7)
    whole = composite_of(layer, width=SIDE, height=SIDE, background=None)
    found = render(whole, pyramids(clear=pixels), WHOLE)

    wanted = SHARES ** (1 / np.array([2, 0.5, 3]))
    assert np.abs(found[..., 3] - 0.7 * pixels[..., 3]).max() < 0.51
    assert np.abs(found[..., :3] - 255 * wanted).max() < 0.52


def test_a_toning_layer_tones_what_it_blurred_before() -> None:
    blur, levels = BlurTone(radius=3), LevelsTone(all=Ends(darkest=0.1, middle=2))
    both = ToningLayer(id="b", name="B", tones=(blur, levels))
    blurs = ToningLayer(id="f", name="F", tones=(blur,))
    then = ToningLayer(id="t", name="T", tones=(levels,))

    found = shown(photo(), both).astype(int)
    assert np.abs(found - shown(photo(), blurs, then)).max() <= 1
    assert np.abs(found - shown(photo(), blurs)).max() > 20


def test_levels_are_looked_up_only_where_that_is_the_same_and_takes_less() -> None:
    def codes(*tones: Tone) -> list[int]:
        return [op.code for op in tabled(planned(ops_of(tones)))]

    assert codes(*STACK)[0] == toning.TABLE
    assert codes(STACK[1]) == [toning.TABLE]
    assert not {toning.POWER, toning.CURVE, toning.DECODE} & {*codes(*STACK)}
    for first in (InvertTone(), MonochromeTone(), WarmthTone(warmth=30)):
        plain = planned(ops_of((first, *STACK[2:])))
        assert tabled(plain) == plain
    # Grey looks at all three: what comes after it has more than 256 levels.
    assert toning.CURVE in codes(MonochromeTone(), STACK[1])


def test_tones_work_in_their_order() -> None:
    first = shown(photo(MonochromeTone(), WarmthTone(warmth=60)))
    then = shown(photo(WarmthTone(warmth=60), MonochromeTone()))

    assert not np.array_equal(first, then)
    assert (then[..., 0] == then[..., 1]).all()
    assert (first[..., 0] > first[..., 2]).any()


def test_a_toning_layer_tones_what_lies_beneath_it_alone() -> None:
    over = photo(id="over", placement=Placement(x=0, y=0, scale_x=0.5, scale_y=0.5))
    toning = ToningLayer(id="t", name="T", tones=(InvertTone(),))

    plain, toned = shown(photo(), over), shown(photo(), toning, over)
    assert np.array_equal(toned[:60, :60], plain[:60, :60])
    assert np.array_equal(toned[80:, 80:, :3], 255 - plain[80:, 80:, :3])


def test_a_toning_layer_has_a_mask_and_a_strength() -> None:
    left = EllipsePart(id="e", x=0, y=SIDE / 2, width=SIDE, height=4 * SIDE)
    toning = ToningLayer(
        id="t", name="T", tones=(InvertTone(),), opacity=0.5, mask=Mask(parts=(left,))
    )
    got = shown(photo(), toning)

    assert np.array_equal(got[:, -60:], COLORS[:, -60:])
    half = (COLORS[..., :3].astype(float) + (255 - COLORS[..., :3])) / 2
    assert np.abs(got[SIDE // 2, :100, :3] - half[SIDE // 2, :100]).max() <= 1


def test_what_a_mask_hides_of_a_toning_layer_is_seen_as_grey() -> None:
    left = EllipsePart(id="e", x=0, y=SIDE / 2, width=SIDE, height=4 * SIDE)
    toning = ToningLayer(
        id="t", name="T", tones=(InvertTone(),), mask=Mask(parts=(left,))
    )
    canvas = Canvas(width=SIDE, height=SIDE)
    hidden = hidden_part(Composite(canvas=canvas, layers=(photo(), toning)), "t")
    got = render(hidden, PICTURES, WHOLE)

    assert got[SIDE // 2, -10].tolist() == [128, 128, 128, 255]
    assert got[SIDE // 2, 10, 3] == 0


def test_a_toning_layer_blends_by_its_mode() -> None:
    toning = ToningLayer(id="t", name="T", tones=(), blend="multiply")

    wanted = 255 * SHARES**2
    assert np.abs(shown(photo(), toning)[..., :3] - wanted).max() < 0.52


def test_what_is_toned_stays_as_see_through_as_it_is() -> None:
    toning = ToningLayer(id="t", name="T", tones=(InvertTone(),))
    faint = photo(opacity=0.4)

    before, after = (
        shown(faint, *layers, background=None) for layers in ((), (toning,))
    )
    assert np.array_equal(before[..., 3], after[..., 3])
    assert np.abs(after[..., :3].astype(int) - (255 - before[..., :3])).max() <= 1


def group(*members: Layer, **fields: object) -> GroupLayer:
    return GroupLayer(
        **{
            "id": "group",
            "name": "Group",
            "width": SIDE,
            "height": SIDE,
            "placement": IN_PLACE,
            "layers": members,
            **fields,
        }
    )


def test_in_a_group_only_its_members_are_toned() -> None:
    toning = ToningLayer(id="t", name="T", tones=(InvertTone(),))
    small = photo(id="s", placement=Placement(x=64, y=64, scale_x=0.5, scale_y=0.5))
    got = shown(photo(), group(small, toning))

    assert np.array_equal(got[140:, 140:], COLORS[140:, 140:])
    plain = shown(photo(), group(small))
    assert np.array_equal(got[:120, :120, :3], 255 - plain[:120, :120, :3])


def test_a_group_is_toned_as_one() -> None:
    got = shown(group(photo(), tones=(InvertTone(),)))

    assert np.array_equal(got[..., :3], 255 - COLORS[..., :3])


def test_a_photo_that_is_turned_or_cornered_is_toned_too() -> None:
    for changes in ({"turn": 20}, {"corners": {"top_left": (0.1, 0.1)}}):
        placement = Placement(**{**IN_PLACE.model_dump(), **changes})
        plain = shown(photo(placement=placement), background=None)
        toned = shown(photo(InvertTone(), placement=placement), background=None)
        full = plain[..., 3] == 255

        assert np.array_equal(plain[..., 3], toned[..., 3])
        off = np.abs(toned[..., :3].astype(int) - (255 - plain[..., :3]))
        assert off[full].max() <= 1


def test_frames_while_a_tone_is_moved_are_those_of_a_fresh_render() -> None:
    frames = FrameCache(64_000_000)
    canvas = Canvas(width=SIDE, height=SIDE)
    over = photo(id="over", placement=Placement(x=90, y=90, scale_x=0.5, scale_y=0.5))
    veil = photo(id="f", opacity=0.2)
    for stops in (0.1, 0.2, 0.3, 0.4):
        toning = ToningLayer(
            id="t", name="T", tones=(*STACK, LightTone(exposure=stops))
        )
        composite = Composite(canvas=canvas, layers=(photo(*STACK), toning, over, veil))
        got = frames.render("poster", composite, PICTURES, WHOLE)
        wanted = render(composite, PICTURES, WHOLE)

        assert np.abs(got.astype(int) - wanted).max() <= 1


@pytest.mark.parametrize(
    ("kind", "fields"),
    [
        (LightTone, {"exposure": float("nan")}),
        (LightTone, {"contrast": 1.01}),
        (LevelsTone, {"all": {"darkest": 0.5, "lightest": 0.5}}),
        (LevelsTone, {"all": {"darkest": 0.5, "lightest": 0.503}}),
        (LevelsTone, {"red": {"middle": 0}}),
        (CurvesTone, {"all": [(0, 0)]}),
        (CurvesTone, {"all": [(0, 0), (0.5, 0.2), (0.5, 0.3), (1, 1)]}),
        (CurvesTone, {"all": [(0.5, 0), (0.4, 1)]}),
        (CurvesTone, {"all": [(at / 16, 0.5) for at in range(17)]}),
        (CurvesTone, {"all": [(0, float("inf")), (1, 1)]}),
        (WarmthTone, {"warmth": -91}),
        (MonochromeTone, {"tint": "sepia"}),
        (OneHueTone, {"hue": 360}),
    ],
    ids=str,
)
def test_impossible_tones_are_refused(kind: type, fields: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        kind(**fields)


def test_tones_at_the_limit_and_one_beyond() -> None:
    most = tuple(LightTone(exposure=0.01) for _ in range(MAX_TONES))

    assert shown(photo(*most)).shape == (SIDE, SIDE, 4)
    with pytest.raises(ValidationError):
        photo(*most, InvertTone())
    last = CurvesTone(all=((0, 0), (1 / 255, 1), (1, 1)))
    assert shown(photo(last, LevelsTone(all=Ends(darkest=254 / 255))))[..., 3].all()


@given(
    st.lists(
        st.one_of(
            st.builds(LightTone, exposure=st.floats(-5, 5), **LIGHT),
            st.builds(
                ColoringTone,
                saturation=st.floats(-1, 1),
                vibrance=st.floats(-1, 1),
                turn=st.floats(-180, 180),
            ),
            st.builds(WarmthTone, warmth=st.floats(-90, 90), tint=st.floats(-30, 30)),
            st.builds(OneHueTone, hue=st.floats(0, 359), lightness=st.floats(-1, 1)),
            st.builds(InvertTone),
        ),
        max_size=5,
    )
)
@times(25)
def test_greys_stay_opaque_and_order_holds_whatever_the_tones(tones: list) -> None:
    got = shown(photo(*tones))

    assert (got[..., 3] == 255).all()
    twice = shown(photo(), ToningLayer(id="t", name="T", tones=tuple(tones)))
    assert np.abs(got.astype(int) - twice).max() <= 1


def test_a_group_taken_apart_leaves_its_tones_to_its_members() -> None:
    own, of_all = LightTone(exposure=0.5), InvertTone()
    state = Composite(
        canvas=Canvas(width=SIDE, height=SIDE),
        layers=(group(photo(own), tones=(of_all,)),),
    )
    apart = apply(state, DissolveGroup(layer_id="group"))

    (member,) = apart.layers
    assert member.tones == (own, of_all)
    before, after = (render(one, PICTURES, WHOLE) for one in (state, apart))
    assert np.abs(before.astype(int) - after).max() <= 1


def test_a_locked_layer_keeps_its_tones() -> None:
    canvas = Canvas(width=SIDE, height=SIDE)
    state = Composite(canvas=canvas, layers=(photo(locked=True),))

    with pytest.raises(LayerLockedError):
        apply(state, ToneLayer(layer_id="colors", tones=(InvertTone(),)))


def test_history_says_what_a_tone_does() -> None:
    canvas = Canvas(width=SIDE, height=SIDE)
    state = Composite(canvas=canvas, layers=(photo(InvertTone()),))
    said = [
        describe_edit(state, ToneLayer(layer_id="colors", tones=tones))
        for tones in ((InvertTone(), LightTone(brightness=-0.4)), (LightTone(),), ())
    ]

    assert said == [
        "Colours darker",
        "Colours with light as it is",
        "Colours without tones",
    ]


def test_vivid_colours_keep_as_much_chroma_as_the_gamut_holds() -> None:
    random = np.random.default_rng(8)
    pixels = np.full((300, 400, 4), 255, np.uint8)
    pixels[..., :3] = 255 * random.random((300, 400, 3)) ** 2
    layer = photo_layer("vivid", pixels, tones=(ColoringTone(saturation=0.8),))
    view = View(0, 0, 400, 300, 1)
    whole = composite_of(layer, width=400, height=300)
    found = render(whole, pyramids(vivid=pixels), view)[..., :3]
    lab = published.oklab(published.decoded(pixels[..., :3] / 255)) * (1, 1.8, 1.8)
    wanted = 255 * published.encoded(published.kept_in_gamut(lab))
    apart = np.abs(found - wanted).max(axis=-1)
    # Of a few blues the edge is met more than once, and either end of a gap will do.
    assert (apart > 0.6).mean() < 5e-5


@pytest.mark.parametrize("width", [17, 33, 90])
def test_vivid_colours_are_the_same_in_a_narrow_view(width: int) -> None:
    layer = photo(ColoringTone(saturation=0.9))
    canvas = Canvas(width=SIDE, height=SIDE)
    composite = Composite(canvas=canvas, layers=(layer,))
    # Its last column is beyond the photo: lines that are not filled go one by one.
    narrow = View(SIDE - width, 0, width + 1, SIDE, 1.0)

    found = render(composite, PICTURES, narrow)[:, :width]

    # What lies just between two levels may fall either way at the end of a line.
    wanted = shown(layer)[:, SIDE - width :]
    assert np.abs(found.astype(int) - wanted).max() <= 1


def test_matrices_beside_one_another_are_one() -> None:
    tones = (WarmthTone(warmth=30), ColoringTone(saturation=0.2))

    codes = [op.code for op in planned(ops_of(tones))]

    # To light, warmer on the way to the roots, stretched on the way back.
    assert codes.count(toning.MATRIX) == 2
