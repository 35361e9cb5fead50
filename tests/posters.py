"""A poster of every kind of layer, and its OpenRaster file."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from glyphaneme.codecs import FileFormat, FileSpec, write_picture
from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Composite, Gradient, Stop
from glyphaneme.core.edits import (
    AddColor,
    AddGradient,
    AddMending,
    AddPart,
    AddToning,
    BlendLayer,
    DuplicateLayer,
    GroupLayers,
    MendPhoto,
    MoveLayer,
    PlaceLayer,
    ShadeLayer,
    ShowLayer,
    ToneLayer,
    apply,
)
from glyphaneme.core.effect import CastShadow, Outline, SoftShadow
from glyphaneme.core.mask import EllipsePart
from glyphaneme.core.mend import Mend
from glyphaneme.core.place import Placement
from glyphaneme.core.render import View, all_needed, laid_patches, mended_copy, render
from glyphaneme.core.tone import (
    BlurTone,
    ColoringTone,
    LightTone,
    MonochromeTone,
    SharpenTone,
)
from glyphaneme.services.layered_writing import Sources, write_layered
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    pyramids,
    soft_pixels,
)

if TYPE_CHECKING:
    from collections.abc import Iterator

    import numpy as np

    from glyphaneme.core.mask.paintings import Painting
    from glyphaneme.core.mask.strokes import NamedStroke
    from glyphaneme.core.render import Assets

WIDTH, HEIGHT = 120, 90
PICTURES = {
    "a": soft_pixels(140, 110, seed=1),
    "b": noise_pixels(70, 60, seed=2),
    "c": soft_pixels(80, 50, seed=3),
}


def poster() -> Composite:
    turned = Placement(x=60, y=40, scale_x=0.7, scale_y=0.7, turn=20, flipped=True)
    state = composite_of(
        photo_layer("a", PICTURES["a"]),
        photo_layer("b", PICTURES["b"], blend=BlendMode.MULTIPLY, opacity=0.8),
        photo_layer("c", PICTURES["c"], blend=BlendMode.SCREEN, placement=turned),
        width=WIDTH,
        height=HEIGHT,
        background="#f0e0d0",
    )
    glow = Gradient(
        x=60,
        y=45,
        length=90,
        start=Stop(color="#ff8000"),
        end=Stop(color="#002040", opacity=0),
    )
    for edit in (
        GroupLayers(group_id="g", name="Both", layer_ids=("b", "c")),
        BlendLayer(layer_id="g", mode=BlendMode.LUMINOSITY, opacity=0.6),
        AddGradient(layer_id="glow", name="Glow", gradient=glow),
        BlendLayer(layer_id="glow", mode=BlendMode.SOFT_LIGHT, opacity=0.9),
        AddColor(layer_id="wash", name="Wash", color="#123456"),
        ShowLayer(layer_id="wash", visible=False),
    ):
        state = apply(state, edit)
    return state


def retouched_poster() -> Composite:
    """Return a poster with shadows, one of a group, and a photo that is mended."""
    state = poster()
    soft = SoftShadow(distance=12, angle=30, softness=3, strength=0.9)
    speck = Mend(id="m", points=((60, 50), (70, 55)), size=9)
    small = Placement(x=70, y=40, scale_x=0.4, scale_y=0.4)
    for edit in (
        PlaceLayer(layer_id="a", placement=small),
        MendPhoto(layer_id="a", mend=speck),
        ShadeLayer(layer_id="a", effects=(CastShadow(direction=-60), Outline(width=2))),
        ShadeLayer(layer_id="g", effects=(soft,)),
        BlendLayer(layer_id="g", mode=BlendMode.NORMAL, opacity=0.6),
    ):
        state = apply(state, edit)
    return state


def repaired_poster() -> Composite:
    """Return a poster with layers that mend: all beneath, hidden, and in a group."""
    state = poster()
    left = EllipsePart(id="left", x=0, y=45, width=90, height=200, softness=20)
    for edit in (
        AddMending(layer_id="inner", name="Inner", index=0),
        MendPhoto(layer_id="inner", mend=Mend(id="i", points=((50, 40),), size=14)),
        MoveLayer(layer_id="inner", index=2, into="g"),
        AddMending(layer_id="all", name="Repairs"),
        MendPhoto(layer_id="all", mend=Mend(id="m", points=((20, 30),), size=16)),
        MendPhoto(layer_id="all", mend=Mend(id="n", points=((90, 70),), size=10)),
        BlendLayer(layer_id="all", mode=BlendMode.NORMAL, opacity=0.7),
        AddPart(layer_id="all", part=left),
        DuplicateLayer(layer_id="all", copy_id="off"),
        ShowLayer(layer_id="off", visible=False),
    ):
        state = apply(state, edit)
    return state


def original(picture: str) -> Iterator[bytes]:
    file = io.BytesIO()
    write_picture(PICTURES[picture], file, FileSpec(FileFormat.PNG, 90, 72))
    yield file.getvalue()


def assets(state: Composite, pictures: dict[str, np.ndarray]) -> Assets:
    found = pyramids(**pictures)
    needed = all_needed(state)
    mended = {one.name: mended_copy(one, found[one.picture]) for one in needed.mended}
    both = {**found, **mended}
    return {**both, **laid_patches(needed.mended_places, both)}


def saved(
    state: Composite, strokes: tuple[NamedStroke, ...] = (), **paintings: Painting
) -> io.BytesIO:
    file = io.BytesIO()
    write_layered(
        state,
        {**assets(state, PICTURES), **paintings},
        file,
        sources=Sources(original, strokes),
        report=lambda share: None,
    )
    return file


def shown(state: Composite, pictures: dict[str, np.ndarray]) -> np.ndarray:
    view = View(0, 0, state.canvas.width, state.canvas.height, 1)
    return render(state, assets(state, pictures), view)


def toned_poster() -> Composite:
    """Return a poster with tones of a photo, of a group and of everything beneath."""
    state = poster()
    left = EllipsePart(id="left", x=0, y=45, width=90, height=200, softness=20)
    for edit in (
        ToneLayer(layer_id="a", tones=(ColoringTone(saturation=0.4),)),
        ToneLayer(layer_id="g", tones=(LightTone(brightness=0.4), BlurTone(radius=1))),
        AddToning(
            layer_id="all",
            name="Tones",
            tones=(MonochromeTone(tint="#a0703c"), SharpenTone(amount=1)),
            index=2,
        ),
        BlendLayer(layer_id="all", mode=BlendMode.NORMAL, opacity=0.7),
        AddPart(layer_id="all", part=left),
    ):
        state = apply(state, edit)
    return state
