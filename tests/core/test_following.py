"""What is kept of frames follows everything that they follow from."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.model import ColorLayer
from glyphaneme.core.document.reading import MAX_LAYER_PARTS, others_read
from glyphaneme.core.edits import (
    AddColor,
    AddMending,
    AddPart,
    AddToning,
    BlendLayer,
    ChangePart,
    DissolveGroup,
    GroupLayers,
    LinkMask,
    MendPhoto,
    MoveLayer,
    PaintStroke,
    PlaceLayer,
    RemoveLayer,
    RemoveMend,
    RemovePart,
    SettleMask,
    ShadeLayer,
    ShowLayer,
    ToneLayer,
    apply,
)
from glyphaneme.core.effect import CastShadow, Outline, SoftShadow
from glyphaneme.core.errors import LayerPartLimitError
from glyphaneme.core.mask import (
    EllipsePart,
    LayerPart,
    LayerQuality,
    Mask,
    PaintedPart,
)
from glyphaneme.core.mask.paintings import NO_PAINTING, painted_all
from glyphaneme.core.mask.parts import Join
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.mend import Mend
from glyphaneme.core.place import Corners, Placement
from glyphaneme.core.render import (
    FrameCache,
    Laid,
    View,
    all_needed,
    laid_patches,
    mended_copy,
)
from glyphaneme.core.render.mended_places import mended_places_in
from glyphaneme.core.render.visibility import Ground
from glyphaneme.core.tone import BlurTone, ClarityTone, ColoringTone, MonochromeTone
from tests.pictures import (
    composite_of,
    photo_layer,
    premultiplied,
    pyramids,
    soft_pixels,
)
from tests.trying import times

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.core.edits import Edit

WIDTH, HEIGHT = 96, 72
VIEW = View(x=-4, y=-3, width=78, height=60, scale=0.75)
PHOTOS = ("a", "b", "c")
LAYERS = (*PHOTOS, "tones", "mends", "wash", "g")
PICTURES = {name: soft_pixels(70, 50, seed=at) for at, name in enumerate(PHOTOS)}
PICTURES["c"][:, :30, 3] = 0
SEEN_BY_NOBODY = 12
"""Levels: rounding once more, and what tones make of that, stays below."""


class Cupboard:
    """What renders read, the very same as long as its name is."""

    def __init__(self) -> None:
        self.found: dict[str, object] = dict(pyramids(**PICTURES))

    def of(self, state: Composite) -> dict[str, object]:
        needed = all_needed(state)
        for one in needed.mended:
            if one.name not in self.found:
                made = mended_copy(one, self.found[one.picture])
                self.found[one.name] = made
        missing = [one for one in needed.mended_places if one.name not in self.found]
        self.found.update(laid_patches(missing, self.found))
        return self.found

    def painted(self, state: Composite, edit: Edit) -> Edit:
        if not isinstance(edit, PaintStroke):
            return edit
        previous, named, stroke = edit.painted_now(state)
        under = self.found.get(previous, NO_PAINTING)
        self.found.setdefault(named, painted_all(under, [stroke]))
        return edit.naming(previous, named, stroke)


def pile() -> Composite:
    placed = [
        Placement(x=30 + 18 * at, y=30 + 6 * at, scale_x=0.9, scale_y=0.9, turn=9 * at)
        for at in range(3)
    ]
    layers = [
        photo_layer(name, PICTURES[name], placement=placement)
        for name, placement in zip(PHOTOS, placed, strict=True)
    ]
    state = composite_of(*layers, width=WIDTH, height=HEIGHT, background="#e0d0c0")
    for edit in (
        AddToning(layer_id="tones", name="Tones"),
        ToneLayer(layer_id="tones", tones=(BlurTone(radius=4),)),
        AddMending(layer_id="mends", name="Mends"),
        AddColor(layer_id="wash", name="Wash", color="#306090"),
        BlendLayer(layer_id="wash", mode=BlendMode.MULTIPLY, opacity=0.6),
    ):
        state = apply(state, edit)
    return state


anyone = st.sampled_from(LAYERS)
photos = st.sampled_from((*PHOTOS, "g"))
places = st.builds(
    Placement,
    x=st.integers(10, 80),
    y=st.integers(5, 65),
    scale_x=st.sampled_from([0.5, 0.9]),
    scale_y=st.sampled_from([0.5, 0.9]),
    turn=st.sampled_from([0, 25, -60]),
    corners=st.sampled_from(
        [None, Corners(bottom_right=(0.2, -0.1), top_left=(0.1, 0.1))]
    ),
)
joins = st.sampled_from(list(Join))
parts = st.one_of(
    st.builds(
        LayerPart,
        id=st.just("other"),
        layer_id=anyone,
        quality=st.sampled_from(list(LayerQuality)),
        join=joins,
        inverted=st.booleans(),
    ),
    st.builds(
        EllipsePart,
        id=st.just("moon"),
        x=st.integers(0, 60),
        y=st.integers(0, 50),
        width=st.just(40),
        height=st.just(30),
        softness=st.sampled_from([0, 12]),
        join=joins,
    ),
)
tones = st.lists(
    st.sampled_from(
        [
            BlurTone(radius=3),
            ClarityTone(amount=0.5),
            ColoringTone(saturation=0.4),
            MonochromeTone(),
        ]
    ),
    max_size=2,
).map(tuple)
effects = st.lists(
    st.sampled_from(
        [SoftShadow(distance=6, softness=3), Outline(width=3), CastShadow(direction=40)]
    ),
    max_size=1,
).map(tuple)
mends = st.builds(
    Mend,
    id=st.sampled_from(["m1", "m2"]),
    points=st.tuples(st.tuples(st.integers(8, 60), st.integers(8, 40))),
    size=st.sampled_from([6, 11]),
)
dabs = st.builds(
    Stroke,
    points=st.tuples(st.tuples(st.integers(0, 70), st.integers(0, 50), st.just(1))),
    size=st.just(24),
    shows=st.booleans(),
)
edits = st.one_of(
    st.builds(PlaceLayer, layer_id=photos, placement=places),
    st.builds(PlaceLayer, layer_id=photos, placement=places),
    st.builds(AddPart, layer_id=anyone, part=parts),
    st.builds(AddPart, layer_id=anyone, part=parts),
    st.builds(ChangePart, layer_id=anyone, part=parts),
    st.builds(AddPart, layer_id=anyone, part=st.just(PaintedPart(id="hand"))),
    st.builds(PaintStroke, layer_id=anyone, part_id=st.just("hand"), stroke=dabs),
    st.builds(RemovePart, layer_id=anyone, part_id=st.sampled_from(["other", "hand"])),
    st.builds(
        SettleMask,
        layer_id=anyone,
        inverted=st.booleans(),
        strength=st.sampled_from([0.6, 1]),
        softened=st.sampled_from([0, 3]),
        grown=st.sampled_from([0, -3]),
    ),
    st.builds(LinkMask, layer_id=photos, linked=st.booleans()),
    st.builds(
        BlendLayer,
        layer_id=anyone,
        mode=st.sampled_from([BlendMode.NORMAL, BlendMode.SCREEN]),
        opacity=st.sampled_from([0, 0.7, 1]),
    ),
    st.builds(ToneLayer, layer_id=st.sampled_from(("tones", "a", "g")), tones=tones),
    st.builds(ShadeLayer, layer_id=photos, effects=effects),
    st.builds(MendPhoto, layer_id=st.sampled_from(("mends", "a")), mend=mends),
    st.builds(
        RemoveMend,
        layer_id=st.sampled_from(("mends", "a")),
        mend_id=st.sampled_from(["m1", "m2"]),
    ),
    st.builds(MoveLayer, layer_id=anyone, index=st.integers(0, 5)),
    st.builds(MoveLayer, layer_id=anyone, index=st.integers(0, 2), into=st.just("g")),
    st.builds(ShowLayer, layer_id=anyone, visible=st.booleans()),
    st.builds(RemoveLayer, layer_id=anyone),
    st.builds(
        GroupLayers,
        group_id=st.just("g"),
        name=st.just("Both"),
        layer_ids=st.sampled_from([("a", "b"), ("c", "mends"), ("b", "tones")]),
    ),
    st.builds(DissolveGroup, layer_id=st.just("g")),
)


def held(layer_id: str, by: str, **fields: object) -> AddPart:
    return AddPart(layer_id=layer_id, part=LayerPart(id="other", layer_id=by, **fields))


def require_alike(frame: np.ndarray, afresh: np.ndarray) -> None:
    apart = np.abs(premultiplied(frame) - premultiplied(afresh)).max(axis=-1)
    assert (apart > SEEN_BY_NOBODY).mean() < 0.01


@times(12)
@given(st.lists(edits, min_size=6, max_size=14), st.sampled_from(["quick", "fine"]))
def test_frames_after_any_edits_are_those_made_afresh(edits, fineness) -> None:
    frames, cupboard = FrameCache(20_000_000), Cupboard()
    state = apply(pile(), held("b", "c"))

    for edit in edits:
        try:
            state = apply(state, cupboard.painted(state, edit))
        except (ValueError, KeyError):
            continue
        assets = cupboard.of(state)
        for _ in range(2):  # what is kept comes from two frames that agree
            frame = frames.render("pile", state, assets, VIEW, fineness=fineness)

        afresh = FrameCache(1).render("pile", state, assets, VIEW, fineness=fineness)
        require_alike(frame, afresh)


@pytest.mark.parametrize("group", [False, True])
def test_what_is_blurred_follows_the_layer_that_a_mask_in_it_reads(group: bool) -> None:
    frames, cupboard, state = FrameCache(20_000_000), Cupboard(), pile()
    state = apply(state, held("a", "c"))
    if group:
        both = GroupLayers(group_id="g", name="Both", layer_ids=("a", "b"))
        state = apply(state, both)
        state = apply(state, ToneLayer(layer_id="g", tones=(BlurTone(radius=4),)))
        state = apply(state, RemoveLayer(layer_id="tones"))
    state = apply(state, ShowLayer(layer_id="c", visible=False))

    for x in (30, 45, 60):
        moved = Placement(x=x, y=30, scale_x=0.9, scale_y=0.9)
        state = apply(state, PlaceLayer(layer_id="c", placement=moved))
        frame = frames.render("pile", state, cupboard.of(state), VIEW)

        afresh = FrameCache(1).render("pile", state, cupboard.of(state), VIEW)
        require_alike(frame, afresh)


def at(x: int) -> Placement:
    return Placement(x=x, y=30, scale_x=1, scale_y=1)


def spot(mend_id: str, x: int) -> Mend:
    return Mend(id=mend_id, points=((x, 30),), size=9)


def patch_names(state: Composite) -> list[str]:
    found = mended_places_in(state.layers, state.layers, Ground(canvas=state.canvas))
    return [one.name for one in found]


@pytest.mark.parametrize("between", ["tones", "mends"])
def test_patches_follow_what_is_blurred_or_mended_into_their_surroundings(
    between: str,
) -> None:
    """A photo beyond what a place is filled from counts where something carries it."""
    wide = composite_of(
        photo_layer(
            "a", PICTURES["a"], placement=Placement(x=250, y=30, scale_x=1, scale_y=1)
        ),
        width=600,
        height=60,
        background="#e0d0c0",
    )
    steps = {
        "tones": [
            AddToning(layer_id="between", name="Tones"),
            ToneLayer(layer_id="between", tones=(BlurTone(radius=60),)),
        ],
        "mends": [
            AddMending(layer_id="between", name="Mends"),
            MendPhoto(
                layer_id="between", mend=Mend(id="n", points=((130, 30),), size=9)
            ),
        ],
    }[between]
    for edit in (
        *steps,
        AddMending(layer_id="mends", name="Mends"),
        MendPhoto(layer_id="mends", mend=spot("m", 20)),
    ):
        wide = apply(wide, edit)

    other = apply(wide, PlaceLayer(layer_id="a", placement=at(255)))

    assert patch_names(wide)[-1] != patch_names(other)[-1]


def read_by_all(count: int, parts: int) -> list[ColorLayer]:
    """Return layers of which each reads all that lie beneath it, so many times."""
    return [
        ColorLayer(
            id=f"l{at}",
            name=f"L{at}",
            color="#ffffff",
            mask=Mask(
                parts=tuple(
                    LayerPart(id=f"p{n}", layer_id=f"l{at - 1 - n % at}")
                    for n in range(parts if at else 0)
                )
            ),
        )
        for at in range(count)
    ]


def test_masks_that_read_one_another_over_and_over_are_walked_once() -> None:
    """Eight layers of 64 parts each: 64 to the power of seven ways lead there."""
    state = composite_of(*read_by_all(8, 64), width=9, height=9)

    state = apply(state, ShowLayer(layer_id="l0", visible=False))
    found = others_read(state.layer("l7"), state.layers)

    assert sorted(one.id for one in found) == [f"l{at}" for at in range(7)]
    assert len(found) == 7
    frame = FrameCache(10**6).render("pile", state, {}, VIEW)
    assert frame.shape == (60, 78, 4)


def test_layers_may_be_so_many_parts_of_masks_and_no_more() -> None:
    state = composite_of(*read_by_all(9, 64), width=9, height=9)
    assert MAX_LAYER_PARTS == 8 * 64
    apply(state, ShowLayer(layer_id="l0", visible=False))
    one_more = AddColor(layer_id="wash", name="Wash", color="#ffffff")

    with pytest.raises(LayerPartLimitError, match="at most 512 parts"):
        apply(apply(state, one_more), held("wash", "l0"))


def followed_through(*states: Composite, view: View = VIEW) -> None:
    """Show one state after the other, and each as it is made afresh."""
    frames, cupboard = FrameCache(20_000_000), Cupboard()
    for state in states:
        assets = cupboard.of(state)
        frame = frames.render("pile", state, assets, view)
        require_alike(frame, FrameCache(1).render("pile", state, assets, view))


def edited(state: Composite, *edits: Edit) -> Composite:
    for edit in edits:
        state = apply(state, edit)
    return state


def better(name: str) -> dict[str, object]:
    """Return the pictures with one that has other pixels under its old name."""
    return dict(pyramids(**{**PICTURES, name: PICTURES[name][::-1].copy()}))


@pytest.mark.parametrize("what", ["blurred", "shaded", "cornered"])
def test_what_is_kept_follows_pixels_that_come_anew_under_their_old_name(
    what: str,
) -> None:
    """A rough picture is followed by a true one, of the same name."""
    state = pile()
    if what == "shaded":
        shade = ShadeLayer(layer_id="c", effects=(Outline(width=4),))
        state = edited(state, RemoveLayer(layer_id="tones"), shade)
    if what == "cornered":
        bent = state.layer("c").placement.model_copy(
            update={"corners": Corners(bottom_right=(0.2, -0.1))}
        )
        state = edited(
            state,
            RemoveLayer(layer_id="tones"),
            PlaceLayer(layer_id="c", placement=bent),
            AddPart(
                layer_id="c",
                part=EllipsePart(id="moon", x=30, y=25, width=60, height=44),
            ),
        )
    frames = FrameCache(20_000_000)
    frames.render("pile", state, dict(pyramids(**PICTURES)), VIEW)
    frames.forget("pile")

    frame = frames.render("pile", state, better("c"), VIEW)

    require_alike(frame, FrameCache(1).render("pile", state, better("c"), VIEW))


def test_what_is_blurred_follows_patches_that_come_anew_under_their_old_name() -> None:
    state = edited(
        pile(),
        RemoveLayer(layer_id="tones"),
        MendPhoto(layer_id="mends", mend=Mend(id="m", points=((60, 40),), size=30)),
        GroupLayers(group_id="g", name="Both", layer_ids=("c", "mends")),
        ToneLayer(layer_id="g", tones=(BlurTone(radius=2),)),
    )
    cupboard = Cupboard()
    whole = dict(cupboard.of(state))
    (patch,) = (one for one in whole if one.startswith("patch-"))
    frames = FrameCache(20_000_000)
    frames.render("pile", state, {**whole, patch: Laid((), is_rough=True)}, VIEW)
    frames.forget("pile")

    frame = frames.render("pile", state, whole, VIEW)

    afresh = FrameCache(1).render("pile", state, whole, VIEW)
    assert np.abs(premultiplied(frame) - premultiplied(afresh)).max() <= 2


def test_views_from_one_corner_and_of_two_sizes_are_kept_apart() -> None:
    frames, state = FrameCache(20_000_000), pile()
    assets = dict(pyramids(**PICTURES))

    for width, height in ((40, 30), (78, 60), (60, 20)):
        view = VIEW._replace(width=width, height=height)
        frame = frames.render("pile", state, assets, view)

        require_alike(frame, FrameCache(1).render("pile", state, assets, view))


def test_effects_that_change_are_worked_out_anew() -> None:
    effects = (SoftShadow(distance=9), Outline(width=4), CastShadow(direction=40))
    bare = edited(pile(), RemoveLayer(layer_id="tones"))
    shaded = [ShadeLayer(layer_id="c", effects=(one,)) for one in effects]

    followed_through(bare, *(apply(bare, one) for one in shaded))


def test_two_effects_of_one_layer_are_two() -> None:
    bare = edited(pile(), RemoveLayer(layer_id="tones"), RemoveLayer(layer_id="wash"))
    red, blue = Outline(width=6, color="#ff0000"), Outline(width=3, color="#0000ff")
    both = apply(bare, ShadeLayer(layer_id="c", effects=(red, blue)))

    shown = FrameCache(10**7).render("pile", both, dict(pyramids(**PICTURES)), VIEW)
    lone = apply(bare, ShadeLayer(layer_id="c", effects=(blue,)))
    other = FrameCache(10**7).render("pile", lone, dict(pyramids(**PICTURES)), VIEW)

    def is_red(frame: np.ndarray) -> np.ndarray:
        return (frame[..., 0] > 240) & (frame[..., 1] < 20) & (frame[..., 2] < 20)

    assert is_red(shown).sum() > is_red(other).sum() + 20


def test_what_a_cornered_photo_is_masked_by_is_seen_from_where_it_lies() -> None:
    corners = Corners(bottom_right=(0.2, -0.1), top_left=(0.1, 0.1))
    state = edited(
        pile(),
        RemoveLayer(layer_id="tones"),
        held("b", "c"),
        ShowLayer(layer_id="c", visible=False),
    )
    places = [
        Placement(x=x, y=36, scale_x=0.9, scale_y=0.9, corners=corners)
        for x in (30, 45, 60)
    ]

    followed_through(
        *(apply(state, PlaceLayer(layer_id="b", placement=one)) for one in places)
    )


def test_what_lies_beneath_follows_the_layer_that_its_mask_reads() -> None:
    state = edited(
        pile(),
        RemoveLayer(layer_id="tones"),
        held("a", "c"),
        ShowLayer(layer_id="c", visible=False),
    )
    moved = [PlaceLayer(layer_id="b", placement=at(x)) for x in (40, 50, 60, 70)]
    other = PlaceLayer(layer_id="c", placement=at(25))

    followed_through(
        *(apply(state, one) for one in moved), edited(state, moved[-1], other)
    )


def test_layers_that_are_read_by_those_that_are_read_count_too() -> None:
    chain = read_by_all(4, 1)
    state = composite_of(*chain, width=9, height=9)

    found = others_read(state.layer("l3"), state.layers)

    assert [one.id for one in found] == ["l2", "l1", "l0"]
