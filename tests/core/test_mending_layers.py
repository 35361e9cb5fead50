"""Layers that mend what is made of everything beneath them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pytest

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import (
    ColorLayer,
    Composite,
    GroupLayer,
    MendingLayer,
    ToningLayer,
    require_sound,
)
from glyphaneme.core.document.apart import alone
from glyphaneme.core.document.masks import hidden_part
from glyphaneme.core.edits import (
    AddMending,
    DissolveGroup,
    DuplicateLayer,
    GroupLayers,
    MendPhoto,
    PlaceLayer,
    RemoveMend,
    SwitchMend,
    apply,
    describe_edit,
)
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.mask import EllipsePart, LayerPart, Mask, RectanglePart
from glyphaneme.core.mend import Mend, lay_patch, patch_for
from glyphaneme.core.place import Placement
from glyphaneme.core.render import (
    FrameCache,
    View,
    assets_needed,
    laid_patches,
    render,
    render_exact,
)
from glyphaneme.core.tone import BlurTone
from glyphaneme.core.wording import describe
from tests.pictures import composite_of, noise_pixels, photo_layer, psnr, pyramids

if TYPE_CHECKING:
    from glyphaneme.core.document import Layer

WIDTH, HEIGHT = 320, 260
MOVE = PlaceLayer(
    layer_id="dust",
    placement=Placement(x=WIDTH / 2 + 9, y=HEIGHT / 2, scale_x=1, scale_y=1),
)
WHOLE = View(0, 0, WIDTH, HEIGHT, 1)


def ground(seed: int = 1) -> np.ndarray:
    """Return a grained picture that grows lighter to the right."""
    noise = noise_pixels(WIDTH, HEIGHT, seed=seed)[..., :3].astype(float)
    rise = np.linspace(70, 150, WIDTH)[None, :, None]
    pixels = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
    pixels[..., :3] = np.clip(rise + (noise - 128) / 16, 0, 255)
    return pixels


def spoilt() -> np.ndarray:
    pixels = ground()
    pixels[100:112, 100:112, :3] = 255
    return pixels


def dust() -> np.ndarray:
    """Return a clear sheet with a speck on it, beside that of the ground."""
    pixels = np.zeros((HEIGHT, WIDTH, 4), np.uint8)
    pixels[102:110, 114:122] = (0, 0, 0, 255)
    return pixels


PICTURES = {"photo": spoilt(), "dust": dust(), "still": ground()}
PYRAMIDS = pyramids(**PICTURES)
PHOTO = photo_layer("photo", PICTURES["photo"])
DUST = photo_layer("dust", PICTURES["dust"])
BOTH = Mend(id="both", points=((105, 106), (118, 106)), size=22)
AWAY = Mend(id="away", points=((250, 60),), size=10)


HOLE = EllipsePart(id="e", x=60, y=60, width=40, height=40)


def mending(*mends: Mend, **changes: Any) -> MendingLayer:
    return MendingLayer(**{"id": "m", "name": "Repairs", "mends": mends, **changes})


def whole(*layers: Layer, background: str | None = "#ffffff") -> Composite:
    return composite_of(*layers, width=WIDTH, height=HEIGHT, background=background)


def assets_for(composite: Composite, view: View = WHOLE) -> dict[str, Any]:
    needed = assets_needed(composite, view).mended_places
    return {**PYRAMIDS, **laid_patches(needed, PYRAMIDS)}


def shown(composite: Composite, view: View = WHOLE) -> np.ndarray:
    return render(composite, assets_for(composite), view)


def names(composite: Composite) -> list[str]:
    return [one.name for one in assets_needed(composite).mended_places]


def require_alike(found: np.ndarray, wanted: np.ndarray) -> None:
    """Require two fills to be as good: copies that fit alike may be others."""
    apart = found.astype(int) - wanted
    filled = np.abs(apart).max(axis=2) > 1
    assert filled.mean() < 0.03
    assert np.abs(apart).max() < 40
    assert not filled.any() or np.abs(apart[filled].mean()) < 4


def test_what_several_layers_show_is_mended_as_if_it_were_one_photo() -> None:
    flat = shown(whole(PHOTO, DUST))
    mended = (flat.copy(),)
    lay_patch(mended, patch_for(flat, BOTH))
    found = shown(whole(PHOTO, DUST, mending(BOTH)))

    assert np.abs(found.astype(int) - mended[0]).max() <= 1
    assert found[95:120, 95:130, :3].max() < 135
    assert found[95:120, 95:130, :3].min() > 70


def test_a_place_follows_what_lies_beneath_and_nothing_else() -> None:
    before = whole(PHOTO, DUST, mending(BOTH, AWAY))
    (both, away) = names(before)
    moved = apply(before, MOVE)
    assert names(moved)[0] != both
    veil = ColorLayer(id="v", name="Veil", color="#203040", opacity=0.5)
    assert names(whole(PHOTO, DUST, mending(BOTH, AWAY), veil)) == [both, away]
    hidden = veil.model_copy(update={"visible": False})
    assert names(whole(PHOTO, DUST, hidden, mending(BOTH, AWAY))) == [both, away]
    assert names(whole(PHOTO, veil, DUST, mending(BOTH, AWAY)))[1] != away
    assert names(whole(PHOTO, DUST, mending(BOTH, AWAY), background="#000000")) != [
        both,
        away,
    ]


def test_what_lies_elsewhere_does_not_count() -> None:
    small = photo_layer(
        "still",
        PICTURES["still"][:20, :20],
        placement=Placement(x=10, y=10, scale_x=1, scale_y=1),
    )
    speck = Mend(id="s", points=((300, 240),), size=6)
    there = names(whole(PHOTO, small, mending(speck)))
    assert there == names(whole(PHOTO, mending(speck)))


def test_places_see_those_that_were_mended_before_however_far_they_reach() -> None:
    chain = [
        Mend(id=f"c{at}", points=((60 + 100 * at, 200),), size=12) for at in range(3)
    ]
    all_of_them = names(whole(PHOTO, mending(*chain)))
    # The first and the last do not see one another, but both see the one between.
    assert names(whole(PHOTO, mending(*chain[1:])))[1] != all_of_them[2]
    flat = shown(whole(PHOTO))
    levels = (flat.copy(),)
    for mend in chain:
        lay_patch(levels, patch_for(levels[0], mend))
    require_alike(shown(whole(PHOTO, mending(*chain))), levels[0])


def test_nothing_is_laid_where_nothing_lies_beneath() -> None:
    assert names(whole(mending(BOTH), background=None)) == []
    half = photo_layer(
        "photo",
        PICTURES["photo"],
        mask=Mask(parts=(EllipsePart(id="e", x=60, y=106, width=100, height=100),)),
    )
    bare, found = (
        shown(whole(half, *rest, background=None)) for rest in ((), (mending(BOTH),))
    )
    sure = (bare[..., 3] == 0) | (bare[..., 3] == 255)
    assert (found[..., 3] == bare[..., 3])[sure].all()
    # The wash of the sheet itself can be mended.
    assert len(names(whole(mending(BOTH)))) == 1


def test_it_joins_by_opacity_mask_and_blend_mode_as_one() -> None:
    # Two places that lie over one another must not count twice.
    over = Mend(id="over", points=((108, 106),), size=20)
    bare, full = shown(whole(PHOTO)), shown(whole(PHOTO, mending(BOTH, over)))
    half = shown(whole(PHOTO, mending(BOTH, over, opacity=0.5)))
    wanted = (bare.astype(float) + full) / 2
    assert np.abs(half - wanted).max() <= 1.01
    mask = Mask(parts=(HOLE,))
    assert (shown(whole(PHOTO, mending(BOTH, mask=mask))) == bare).all()
    darker = shown(whole(PHOTO, mending(BOTH, blend=BlendMode.MULTIPLY)))
    assert darker[100:112, 101:111, :3].mean() < 160
    assert np.abs(darker[200:].astype(int) - bare[200:]).max() <= 1


def in_group(*members: Layer, turn: float = 0, scale: float = 1.0) -> GroupLayer:
    placement = Placement(
        x=WIDTH / 2, y=HEIGHT / 2, scale_x=scale, scale_y=scale, turn=turn
    )
    return GroupLayer(
        id="g",
        name="Group",
        width=WIDTH,
        height=HEIGHT,
        placement=placement,
        layers=members,
    )


def test_in_a_group_it_mends_the_group_alone_wherever_that_lies() -> None:
    still = photo_layer("still", PICTURES["still"])
    at_rest = whole(still, in_group(PHOTO, DUST, mending(BOTH)))
    turned = whole(in_group(PHOTO, DUST, mending(BOTH), turn=30, scale=0.8))
    assert names(at_rest) == names(turned)
    flat = shown(whole(in_group(PHOTO, DUST), background=None))
    levels = (flat.copy(),)
    lay_patch(levels, patch_for(flat, BOTH))
    require_alike(shown(at_rest), levels[0])
    assert shown(turned)[..., :3].max(axis=(0, 1)).tolist() == [255, 255, 255]


def test_masks_by_layers_beyond_its_group_count_there_too() -> None:
    disk = photo_layer(
        "still",
        PICTURES["still"],
        visible=False,
        mask=Mask(parts=(EllipsePart(id="e", x=60, y=106, width=120, height=120),)),
    )
    cut = PHOTO.model_copy(
        update={"mask": Mask(parts=(LayerPart(id="l", layer_id="still"),))}
    )
    group = in_group(cut, mending(BOTH), turn=40, scale=0.7)
    bare = in_group(cut, turn=40, scale=0.7)
    with_it, without = (
        shown(whole(disk, one, background=None)) for one in (group, bare)
    )
    # It is laid only where the masked photo shows.
    assert np.abs(with_it[..., 3].astype(int) - without[..., 3]).max() <= 2
    wider = disk.model_copy(
        update={
            "mask": Mask(
                parts=(EllipsePart(id="e", x=60, y=106, width=200, height=60),)
            )
        }
    )
    assert names(whole(disk, group)) != names(whole(wider, group))


def test_frame_and_export_agree_and_frames_follow() -> None:
    composite = whole(PHOTO, DUST, mending(BOTH, AWAY))
    assets = assets_for(composite)
    half = View(0, 0, WIDTH // 2, HEIGHT // 2, 0.5)
    export = render(composite, assets, WHOLE).reshape(HEIGHT // 2, 2, WIDTH // 2, 2, 4)
    assert psnr(render_exact(composite, assets, half), export.mean(axis=(1, 3))) > 46

    frames = FrameCache(10**8)
    veil = ColorLayer(id="v", name="Veil", color="#203040", opacity=0.5)
    for strength in (0.5, 0.4, 0.3, 0.2):
        led = whole(
            PHOTO,
            DUST,
            mending(BOTH, AWAY),
            veil.model_copy(update={"opacity": strength}),
        )
        frame = frames.render("p", led, assets, WHOLE, fineness="exact")
        assert np.abs(frame.astype(int) - shown(led)).max() <= 1
    moved = apply(composite, MOVE)
    frame = frames.render("p", moved, assets_for(moved), WHOLE, fineness="exact")
    assert np.abs(frame.astype(int) - shown(moved)).max() <= 1


def test_tones_above_it_find_it_mended() -> None:
    blurred = ToningLayer(id="t", name="Soft", tones=(BlurTone(radius=6),))
    mended = shown(whole(PHOTO, mending(BOTH), blurred))
    assert mended[106, 106, :3].max() < 120
    assert shown(whole(PHOTO, blurred))[106, 106, :3].min() > 120


def test_only_places_in_view_are_asked_for() -> None:
    composite = whole(PHOTO, mending(BOTH, AWAY))
    corner = assets_needed(composite, View(200, 20, 100, 100, 1)).mended_places
    assert [one.mend.id for one in corner] == ["away"]
    off = composite.layers[1].model_copy(update={"visible": False})
    assert names(whole(PHOTO, off)) == []


def test_a_patch_that_is_not_at_hand_is_not_laid() -> None:
    composite = whole(PHOTO, mending(BOTH))
    assert (render(composite, PYRAMIDS, WHOLE) == shown(whole(PHOTO))).all()


def test_a_place_is_filled_from_what_was_mended_beside_it() -> None:
    # Its upper rim lies on the speck, which the first of them takes away.
    beside = Mend(id="beside", points=((106, 118),), size=16)
    found = shown(whole(PHOTO, mending(BOTH, beside)))
    assert found[111:125, 101:111, :3].max() < 140


def test_a_long_stroke_is_laid_without_seams() -> None:
    sheet = ColorLayer(id="c", name="Grey", color="#808080")
    strip = RectanglePart(id="s", x=1200, y=700, width=2280, height=2)
    line = ColorLayer(id="w", name="Wire", color="#ffffff", mask=Mask(parts=(strip,)))
    wire = Mend(id="w", points=((52, 700), (2348, 700)), size=5)
    large = composite_of(sheet, line, mending(wire), width=2400, height=1400)
    (needed,) = assets_needed(large).mended_places
    patches = laid_patches([needed], {})
    assert len(patches[needed.name].tiles) > 1
    for scale in (1, 0.8):
        view = View(0, 0, int(2400 * scale), int(1400 * scale), scale)
        assert np.abs(render(large, patches, view)[..., :3].astype(int) - 128).max() < 4


def test_it_is_laid_on_mended_switched_and_taken_back() -> None:
    composite = apply(whole(PHOTO), AddMending(layer_id="m", name="Repairs"))
    assert describe(composite)[1].text == "Repairs, everything beneath, as it is."
    edit = MendPhoto(layer_id="m", mend=BOTH)
    assert describe_edit(composite, edit) == "Repairs mended: a speck, 22 px"
    composite = apply(composite, edit)
    assert (
        describe(composite)[1].text
        == "Repairs, everything beneath, mended in one place."
    )
    off = apply(composite, SwitchMend(layer_id="m", mend_id="both", works=False))
    assert names(off) == []
    assert apply(off, RemoveMend(layer_id="m", mend_id="both")).layers[1].mends == ()
    with pytest.raises(NoSuchWorkError):
        apply(
            whole(ColorLayer(id="c", name="C", color="#000000")),
            MendPhoto(layer_id="c", mend=BOTH),
        )


def test_it_has_no_pixels_of_its_own() -> None:
    composite = whole(PHOTO, mending(BOTH, mask=Mask(parts=(HOLE,))))
    with pytest.raises(NoSuchWorkError):
        alone(composite, "m")
    (grey,) = hidden_part(composite, "m").layers
    assert isinstance(grey, ColorLayer)


def test_grouped_and_taken_out_again_it_mends_the_same() -> None:
    before = whole(PHOTO, DUST, mending(BOTH, AWAY))
    joined = apply(
        before, GroupLayers(layer_ids=("photo", "dust", "m"), group_id="g", name="G")
    )
    require_sound(joined.layers)
    require_alike(shown(joined), shown(before))
    again = apply(joined, DissolveGroup(layer_id="g"))
    assert names(again) == names(before)
    assert np.array(again.layers[2].mends[0].points) == pytest.approx(
        np.array(BOTH.points)
    )


def test_a_place_that_grows_with_its_group_stays_within_its_limits() -> None:
    ten = np.array([[10.0, 0, 0], [0, 10.0, 0]])
    wide = Mend(id="w", points=((0, 0), (20, 0)), size=90)
    grown = Mend.model_validate(wide.carried(ten).model_dump())
    assert grown.points == ((0, 0), (200, 0))
    assert 40 < grown.size < 90
    bent = Mend(id="l", points=((0, 0), (200, 0), (200, 2600)), size=4)
    grown = Mend.model_validate(bent.carried(ten).model_dump())
    assert grown.points[:2] == ((0, 0), (2000, 0))
    assert grown.points[2] == pytest.approx((2000, 996), abs=1)
    assert grown.size == 4
    assert wide.carried(ten / 1000).size == 1


def test_a_copy_of_it_lies_where_it_does() -> None:
    copied = apply(
        whole(PHOTO, mending(BOTH)), DuplicateLayer(layer_id="m", copy_id="again")
    )
    assert copied.layers[2].mends == (BOTH,)


def test_places_beside_the_sheet_are_left_out() -> None:
    beside = Mend(id="beside", points=((-900, 50),), size=10)
    assert len(names(whole(PHOTO, mending(beside)))) == 0
    assert names(whole(PHOTO, mending(beside, BOTH, AWAY))) == names(
        whole(PHOTO, mending(BOTH, AWAY))
    )
