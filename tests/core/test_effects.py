"""Shadows and outlines: where they fall, how soft they are, what they leave alone."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from pydantic import ValidationError
from scipy import ndimage

from glyphaneme.core.document import ColorLayer, GroupLayer, PhotoLayer, ToningLayer
from glyphaneme.core.edits import (
    DissolveGroup,
    SetCanvas,
    ShadeLayer,
    apply,
    decided,
    describe_edit,
)
from glyphaneme.core.effect import MAX_EFFECTS, CastShadow, Effect, Outline, SoftShadow
from glyphaneme.core.errors import LayerLockedError, NoSuchWorkError
from glyphaneme.core.mask import EllipsePart, Mask
from glyphaneme.core.place import Placement
from glyphaneme.core.render import (
    FrameCache,
    View,
    layers_under,
    render,
    render_bands,
    render_exact,
)
from glyphaneme.core.wording import describe
from tests.pictures import composite_of, photo_layer, psnr, pyramids

WIDTH, HEIGHT = 400, 320
WHOLE = View(0, 0, WIDTH, HEIGHT, 1.0)
SIZE = (100, 140)
MIDDLE = (200.0, 160.0)
PAPER = "#e0e0e0"
BLACK = {"color": "#000000", "strength": 1.0}


def stand() -> np.ndarray:
    """Return a lamp: a round head on a thin post, ending at the picture's edge."""
    width, height = SIZE
    row, column = np.mgrid[0:height, 0:width] + 0.5
    head = np.hypot(column - 50, row - 45) < 40
    post = (np.abs(column - 50) < 8) & (row > 45)
    pixels = np.zeros((height, width, 4), np.uint8)
    pixels[head | post] = (200, 60, 40, 255)
    return pixels


LAMP = stand()
PICTURES = pyramids(lamp=LAMP)


def lamp(*effects: Effect, **changes: object) -> PhotoLayer:
    x, y = MIDDLE
    place = Placement(x=x, y=y, scale_x=1, scale_y=1)
    return photo_layer(
        "lamp", LAMP, **{"placement": place, **changes, "effects": effects}
    )


def shown(*layers: object, view: View = WHOLE) -> np.ndarray:
    whole = composite_of(*layers, width=WIDTH, height=HEIGHT, background=PAPER)
    return render(whole, PICTURES, view)


def darkness(*effects: Effect, view: View = WHOLE, **changes: object) -> np.ndarray:
    """Return how black a black effect made the grey paper, 0..1, beside the lamp."""
    red = shown(lamp(*effects, **changes), view=view)[..., 0].astype(float)
    return 1 - red / 0xE0


def lamp_alpha() -> np.ndarray:
    """Return the lamp's shape where it lies on the canvas, 0..1."""
    alpha = np.zeros((HEIGHT, WIDTH))
    left, top = int(MIDDLE[0] - SIZE[0] / 2), int(MIDDLE[1] - SIZE[1] / 2)
    alpha[top : top + SIZE[1], left : left + SIZE[0]] = LAMP[..., 3] / 255
    return alpha


def test_a_soft_shadow_is_the_shape_moved_and_blurred_by_a_gaussian() -> None:
    found = darkness(SoftShadow(distance=30, angle=90, softness=12, **BLACK))
    moved = np.roll(lamp_alpha(), 30, axis=0)
    wanted = ndimage.gaussian_filter(moved, 12, mode="constant", truncate=5)
    beside = lamp_alpha() == 0
    assert np.abs(found - wanted)[beside].max() < 0.02


def test_a_soft_shadow_falls_along_its_angle_by_fractions_of_a_pixel() -> None:
    found = darkness(SoftShadow(distance=60.5, angle=180, softness=0, **BLACK))
    ground = ndimage.shift(lamp_alpha(), (0, -60.5), order=1)
    beside = lamp_alpha() == 0
    assert np.abs(found - ground)[beside].max() < 0.03


def test_an_outline_reaches_as_far_as_it_is_wide_on_every_side() -> None:
    found = darkness(Outline(width=9, **BLACK))
    far = ndimage.distance_transform_edt(lamp_alpha() < 0.5)
    assert found[(far > 0) & (far < 8.5)].min() > 0.95
    assert found[far > 10.5].max() < 0.02
    outside = found[far > 0].sum()
    assert outside == pytest.approx(((far > 0) & (far <= 9.5)).sum(), rel=0.05)


def test_an_outline_is_as_smooth_as_an_edge_that_covers_pixels_in_part() -> None:
    flat = np.zeros((60, 80, 4), np.uint8)
    flat[20:, :, 3] = 255
    flat[19, :, 3] = 102  # two fifths of a pixel more
    whole = composite_of(
        photo_layer("edge", flat, effects=(Outline(width=5, **BLACK),)),
        width=80,
        height=60,
        background="#ffffff",
    )
    column = render(whole, pyramids(edge=flat), View(0, 0, 80, 60, 1))[:, 40, 0] / 255
    # The edge lies at row 19.6, so the outline ends at row 14.6.
    assert column[:14].min() == 1
    assert column[14] == pytest.approx(0.6, abs=0.02)
    assert column[15:19].max() == 0


def test_a_cast_shadow_falls_as_far_as_its_length_along_its_direction() -> None:
    plain = CastShadow(
        direction=0, length=0.5, softness=0, fading=0, contact=0, **BLACK
    )
    found = darkness(plain)
    foot = MIDDLE[1] + SIZE[1] / 2
    # The lamp turned over at its foot, and half as high.
    rows = np.arange(HEIGHT) + 0.5
    heights = (rows - foot) / 0.5
    wanted = np.zeros((HEIGHT, WIDTH))
    for row, height in enumerate(heights):
        at = foot - height
        if height > 0 and 0 <= at < HEIGHT:
            wanted[row] = lamp_alpha()[int(at)]
    beside = lamp_alpha() == 0
    assert np.abs(found - wanted)[beside].mean() < 0.004


@pytest.mark.parametrize(
    ("direction", "across", "down"), [(90, 1, 0), (-45, -1, 1), (180, 0, -1)]
)
def test_a_cast_shadow_lies_where_its_direction_says(
    direction: float, across: int, down: int
) -> None:
    shadow = CastShadow(direction=direction, length=1.5, contact=0, softness=0, **BLACK)
    dark = darkness(shadow) * (lamp_alpha() == 0)
    row, column = ndimage.center_of_mass(dark)
    foot = MIDDLE[1] + SIZE[1] / 2
    assert np.sign(round((column - MIDDLE[0]) / 20)) == across
    assert np.sign(round((row - foot) / 40)) == down


def test_a_cast_shadow_is_softer_and_fainter_the_farther_it_falls() -> None:
    shadow = CastShadow(
        direction=0, length=1, softness=0.1, fading=0.5, contact=0, **BLACK
    )
    high = View(0, 150, WIDTH, 300, 1.0)
    dark = darkness(shadow, view=high)
    foot = MIDDLE[1] + SIZE[1] / 2 - 150
    near, far = dark[int(foot + 12)], dark[int(foot + 105)]
    assert near.max() > 0.85
    assert 0.4 < far.max() < 0.66
    # From dark to light takes as long as the Gaussian is wide.
    assert np.abs(np.diff(near)).max() > 4 * np.abs(np.diff(far)).max()


def test_what_stands_touches_the_ground_darkly() -> None:
    flat = {"direction": 0, "length": 0.2, "softness": 0.1, "strength": 1.0}
    foot = int(MIDDLE[1] + SIZE[1] / 2)
    beside = np.s_[foot - 1 : foot + 2, 209:212]
    touching, floating = (
        darkness(CastShadow(contact=contact, foot=0.06, color="#000000", **flat))[
            beside
        ]
        for contact in (1.0, 0.0)
    )
    assert touching.mean() > floating.mean() + 0.2


def test_a_shadow_follows_the_cut_out() -> None:
    shadow = CastShadow(direction=0, length=1, contact=0, softness=0, **BLACK)
    head = EllipsePart(id="h", x=50, y=45, width=80, height=80)
    cut = darkness(shadow, mask=Mask(parts=(head,)))
    # The head alone ends at its own lowest point, and stands there.
    lowest = MIDDLE[1] - SIZE[1] / 2 + 85
    column = cut[:, int(MIDDLE[0])]
    assert column[int(lowest) + 3] > 0.9
    assert column[int(lowest) + 85 :].max() < 0.02


def test_a_tilted_ground_meets_feet_that_stand_deeper() -> None:
    two = np.zeros((100, 100, 4), np.uint8)
    two[:80, 10:20] = two[:100, 80:90] = (200, 60, 40, 255)
    slope = float(np.degrees(np.arctan2(20, 70)))
    layer = photo_layer(
        "two",
        two,
        placement=Placement(x=100, y=80, scale_x=1, scale_y=1),
        effects=(
            CastShadow(
                direction=0, length=0.3, contact=0, softness=0, tilt=slope, **BLACK
            ),
        ),
    )
    whole = composite_of(layer, width=200, height=160, background="#ffffff")
    found = render(whole, pyramids(two=two), View(0, 0, 200, 160, 1))[..., 0] / 255
    for column, foot in ((65, 110), (135, 130)):
        assert found[foot + 3, column] < 0.1
        assert found[foot + 3 - 8, column - 8] > 0.9


KINDS = [
    CastShadow(),
    CastShadow(direction=-80, length=1.5, softness=0.12),
    CastShadow(direction=150, length=0.8, tilt=10),
    SoftShadow(distance=20, softness=14),
    Outline(width=6),
]


@pytest.mark.parametrize("effect", KINDS, ids=lambda one: one.words)
def test_bands_meet_without_a_seam(effect: Effect) -> None:
    big = View(0, 0, 4 * WIDTH, 4 * HEIGHT, 4.0)
    composite = composite_of(lamp(effect), width=WIDTH, height=HEIGHT, background=PAPER)
    whole = render(composite, PICTURES, big).astype(int)
    bands = np.concatenate(list(render_bands(composite, PICTURES, big, rows=256)))
    assert np.abs(whole - bands).max() <= 1


@pytest.mark.parametrize("effect", KINDS, ids=lambda one: one.words)
def test_frames_show_what_exports_do(effect: Effect) -> None:
    # A photo of so many pixels that the export shows each of them.
    pixels = cv2.resize(LAMP, (400, 560), interpolation=cv2.INTER_LINEAR)
    place = Placement(x=200, y=160, scale_x=0.25, scale_y=0.25)
    layer = photo_layer("big", pixels, placement=place, effects=(effect,))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=PAPER)
    pictures = pyramids(big=pixels)
    export = render(composite, pictures, View(0, 0, 4 * WIDTH, 4 * HEIGHT, 4.0))
    small = cv2.resize(export, (WIDTH, HEIGHT), interpolation=cv2.INTER_AREA)
    frame = render_exact(composite, pictures, WHOLE)
    assert psnr(frame[..., :3], small[..., :3]) > 46


def test_frames_of_a_cache_show_what_a_render_does() -> None:
    frames = FrameCache(50_000_000)
    effects = (SoftShadow(distance=20, softness=8), Outline(width=5))
    for opacity in (1.0, 0.8, 0.8, 0.5):
        composite = composite_of(
            lamp(*effects, opacity=opacity),
            width=WIDTH,
            height=HEIGHT,
            background=PAPER,
        )
        shown_now = frames.render("p", composite, PICTURES, WHOLE)
        wanted = render(composite, PICTURES, WHOLE)
        assert np.abs(shown_now.astype(int) - wanted).max() <= 2


def test_the_layer_itself_is_not_changed() -> None:
    plain, with_effects = shown(lamp()), shown(lamp(*KINDS[:1], *KINDS[3:]))
    solid = lamp_alpha() == 1
    assert (plain[solid] == with_effects[solid]).all()


@pytest.mark.parametrize("change", [{"works": False}, {"strength": 0.0}])
def test_what_does_nothing_changes_no_bit(change: dict) -> None:
    effects = tuple(one.model_copy(update=change) for one in KINDS)
    assert (shown(lamp(*effects)) == shown(lamp())).all()


def test_a_layer_that_is_see_through_is_so_as_one_with_its_shadow() -> None:
    shadow = SoftShadow(distance=10, softness=4, **BLACK)
    half = shown(lamp(shadow, opacity=0.5)).astype(float)
    solid = (shown(lamp(shadow)).astype(float) + shown()) / 2
    assert np.abs(half - solid).max() <= 1.5


def test_a_shadow_counts_neither_as_the_layer_nor_as_its_shape() -> None:
    layer = lamp(SoftShadow(distance=90, angle=0, softness=2, **BLACK))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=PAPER)
    assert shown(layer)[120, 300, 0] < 60
    assert not layers_under(composite, PICTURES, (300, 120), side=40, most=4)
    assert layers_under(composite, PICTURES, (200, 130), side=40, most=4)


def test_a_group_throws_one_shadow_and_hands_it_on_when_it_is_taken_apart() -> None:
    shadow = SoftShadow(distance=40, angle=90, softness=0, **BLACK)
    group = GroupLayer(
        id="g",
        name="Lamps",
        width=WIDTH,
        height=HEIGHT,
        placement=Placement(x=WIDTH / 2, y=HEIGHT / 2, scale_x=1, scale_y=1),
        layers=(lamp(),),
        effects=(shadow,),
    )
    alone = shown(lamp(shadow))
    assert np.abs(shown(group).astype(int) - alone).max() <= 1
    composite = composite_of(group, width=WIDTH, height=HEIGHT, background=PAPER)
    apart = apply(composite, DissolveGroup(layer_id="g"))
    assert apart.layer("lamp").effects == (shadow,)


def test_a_turned_groups_member_throws_its_shadow_in_the_turned_ground() -> None:
    shadow = CastShadow(direction=0, length=0.6, contact=0, softness=0, **BLACK)
    group = GroupLayer(
        id="g",
        name="Lamps",
        width=WIDTH,
        height=HEIGHT,
        placement=Placement(x=WIDTH / 2, y=HEIGHT / 2, scale_x=1, scale_y=1, turn=90),
        layers=(lamp(shadow, placement=Placement(x=200, y=110, scale_x=1, scale_y=1)),),
    )
    dark = 1 - shown(group)[..., 0].astype(float) / 0xE0
    dark *= shown(group)[..., 1] < 20
    row, column = ndimage.center_of_mass(dark > 0.5)
    # Turned clockwise, down has become left.
    assert row == pytest.approx(HEIGHT / 2, abs=4)
    assert column < WIDTH / 2


def test_a_wash_that_is_cut_to_a_card_throws_a_soft_shadow() -> None:
    card = EllipsePart(id="c", x=200, y=160, width=120, height=120)
    wash = ColorLayer(
        id="card",
        name="Card",
        color="#ffffff",
        mask=Mask(parts=(card,)),
        effects=(SoftShadow(distance=50, angle=90, softness=3, **BLACK),),
    )
    column = shown(wash)[:, 200, 0]
    assert column[160] == 255
    assert column[250] < 20
    assert column[60] == 0xE0


def test_lengths_go_along_with_what_is_scaled() -> None:
    effects = (SoftShadow(distance=20, softness=8), Outline(width=6, softness=1))
    composite = composite_of(lamp(*effects), width=WIDTH, height=HEIGHT)
    canvas = composite.canvas.model_copy(update={"width": 800, "height": 640})
    edit = decided(composite, SetCanvas(canvas=canvas, scale=2))
    soft, rim = apply(composite, edit).layer("lamp").effects
    assert (soft.distance, soft.softness) == pytest.approx((40, 16))
    assert (rim.width, rim.softness) == pytest.approx((12, 2))


def test_it_is_said_what_a_layer_has() -> None:
    composite = composite_of(
        lamp(CastShadow(direction=-60), Outline()), width=WIDTH, height=HEIGHT
    )
    (said,) = describe(composite)
    assert "with a shadow to the lower left and a white outline" in said.text
    assert said.effects == ("a shadow to the lower left", "a white outline")
    edit = ShadeLayer(layer_id="lamp", effects=())
    assert describe_edit(composite, edit) == "Lamp without a shadow"


def test_what_cannot_throw_a_shadow_is_refused() -> None:
    toning = ToningLayer(id="t", name="Tones")
    wash = ColorLayer(id="w", name="Wash", color="#ffffff")
    held = lamp(locked=True)
    composite = composite_of(toning, wash, held, width=WIDTH, height=HEIGHT)
    cast = (CastShadow(),)
    with pytest.raises(NoSuchWorkError, match="no shape"):
        apply(composite, ShadeLayer(layer_id="t", effects=(Outline(),)))
    with pytest.raises(NoSuchWorkError, match="stand at"):
        apply(composite, ShadeLayer(layer_id="w", effects=cast))
    with pytest.raises(LayerLockedError):
        apply(composite, ShadeLayer(layer_id="lamp", effects=cast))


@pytest.mark.parametrize(
    "value",
    [
        {"kind": "soft", "distance": float("nan")},
        {"kind": "soft", "softness": -1},
        {"kind": "soft", "softness": 2000.5},
        {"kind": "cast", "length": 3.01},
        {"kind": "cast", "tilt": 90},
        {"kind": "outline", "color": "red"},
        {"kind": "glow"},
    ],
)
def test_what_is_no_effect_is_refused(value: dict) -> None:
    with pytest.raises(ValidationError):
        ShadeLayer.model_validate(
            {"kind": "shade_layer", "layer_id": "lamp", "effects": [value]}
        )


def test_a_layer_has_so_many_effects_and_no_more() -> None:
    assert ShadeLayer(layer_id="lamp", effects=(Outline(),) * MAX_EFFECTS)
    with pytest.raises(ValidationError):
        ShadeLayer(layer_id="lamp", effects=(Outline(),) * (MAX_EFFECTS + 1))


ENORMOUS = [
    Outline(width=2000, **BLACK),
    SoftShadow(distance=0, softness=2000, **BLACK),
    CastShadow(direction=88, length=3, softness=0.5, **BLACK),
]


@pytest.mark.parametrize("effect", ENORMOUS, ids=lambda one: one.kind)
def test_what_reaches_far_is_worked_out_coarsely_when_it_is_seen_near(
    effect: Effect,
) -> None:
    near = View(199, 240, 320, 240, 64.0)
    small = View(199, 240, 5, 4, 1.0)
    found = shown(lamp(effect), view=near)[..., 0].astype(float)
    wanted = shown(lamp(effect), view=small)[..., 0].astype(float)
    assert found.mean() == pytest.approx(wanted.mean(), abs=6)


def test_a_layer_of_which_nothing_shows_throws_nothing() -> None:
    hidden = Mask(parts=(EllipsePart(id="e", x=-900, y=0, width=4, height=4),))
    assert (shown(lamp(*KINDS, mask=hidden)) == shown()).all()
