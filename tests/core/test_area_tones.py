"""Tones that look at neighbours: what they make, in frames as in exports."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
import pytest
from pydantic import ValidationError
from scipy import ndimage

from glyphaneme.core.document import (
    Canvas,
    Composite,
    GroupLayer,
    PhotoLayer,
    ToningLayer,
)
from glyphaneme.core.edits import (
    CopyTones,
    DissolveGroup,
    ExchangePhoto,
    SetCanvas,
    apply,
    decided,
)
from glyphaneme.core.place import Placement, Pyramid, build_pyramid, halved
from glyphaneme.core.render import FrameCache, View, render, render_bands
from glyphaneme.core.tone import (
    BlurTone,
    ClarityTone,
    GrainTone,
    InvertTone,
    LensTone,
    LightTone,
    MonochromeTone,
    PainterlyTone,
    Seen,
    SharpenTone,
    Tone,
)
from tests.pictures import area_mean

LIBRARY = Path(__file__).parents[2] / "library"
AREA = [
    BlurTone(radius=2),
    BlurTone(radius=20),
    LensTone(radius=6),
    LensTone(radius=30),
    SharpenTone(radius=2, amount=1),
    ClarityTone(amount=0.6, radius=30),
    PainterlyTone(brush=16),
]


def opened(name: str, side: int = 1024) -> np.ndarray:
    bgr = cv2.imread(str(LIBRARY / name))
    whole = np.ascontiguousarray(cv2.cvtColor(bgr, cv2.COLOR_BGR2RGBA)[:side, :side])
    assert whole.shape == (side, side, 4)
    return whole


def composed(pixels: np.ndarray, tones: tuple[Tone, ...], where: str) -> Composite:
    rows, columns = pixels.shape[:2]
    place = Placement(x=columns / 2, y=rows / 2, scale_x=1, scale_y=1)
    size = {"width": columns, "height": rows, "placement": place}
    own = tones if where == "photo" else ()
    photo = PhotoLayer(id="p", name="Photo", picture="p", tones=own, **size)
    layers: dict[str, tuple] = {
        "photo": (photo,),
        "toning": (photo, ToningLayer(id="t", name="Tones", tones=tones)),
        "group": (
            GroupLayer(id="g", name="Group", layers=(photo,), tones=tones, **size),
        ),
    }
    return Composite(canvas=Canvas(width=columns, height=rows), layers=layers[where])


def whole(pixels: np.ndarray) -> View:
    return View(0, 0, pixels.shape[1], pixels.shape[0], 1.0)


def shown(pixels: np.ndarray, *tones: Tone, where: str = "photo") -> np.ndarray:
    composite = composed(pixels, tones, where)
    return render(composite, {"p": build_pyramid(pixels)}, whole(pixels))


def likeness(one: np.ndarray, other: np.ndarray) -> float:
    """Return the peak signal to noise ratio, in dB."""
    off = np.mean((one[..., :3].astype(float) - other[..., :3]) ** 2)
    return float(10 * np.log10(255**2 / max(off, 1e-9)))


@pytest.fixture(scope="module")
def bark() -> np.ndarray:
    return opened("bark.jpg")


@pytest.mark.parametrize("radius", [0.7, 2, 5, 20, 50])
@pytest.mark.parametrize("where", ["photo", "toning"])
def test_blur_is_a_gaussian(bark: np.ndarray, radius: float, where: str) -> None:
    got = shown(bark, BlurTone(radius=radius), where=where)
    wanted = ndimage.gaussian_filter(
        bark[..., :3].astype(float), (radius, radius, 0), mode="nearest"
    )
    inside = slice(int(3 * radius), -int(3 * radius) or None)

    off = np.abs(got[inside, inside, :3] - wanted[inside, inside])
    assert np.quantile(off, 0.999) <= 1.5
    assert np.sqrt(np.mean(off**2)) < 0.5


@pytest.mark.parametrize("tone", AREA, ids=repr)
@pytest.mark.parametrize("where", ["photo", "toning", "group"])
def test_frames_show_what_exports_have(
    bark: np.ndarray, tone: Tone, where: str
) -> None:
    pictures = {"p": build_pyramid(bark)}
    composite = composed(bark, (tone, LightTone(contrast=0.2)), where)
    export = np.concatenate(list(render_bands(composite, pictures, whole(bark))))
    small = halved(export)
    view = View(0, 0, small.shape[1], small.shape[0], 0.5)
    frame = render(composite, pictures, view)

    inside = slice(8, -8)  # a group has soft edges, a few pixels of the frame wide
    assert likeness(frame[inside, inside], small[inside, inside]) >= 46
    cache = FrameCache(64_000_000)
    fine = cache.render("p", composite, pictures, view, fineness="exact")
    assert likeness(fine, small) >= 50


@pytest.mark.parametrize("tone", AREA, ids=repr)
def test_edges_of_the_sheet_are_the_exports_at_any_size(
    bark: np.ndarray, tone: Tone
) -> None:
    pictures = {"p": build_pyramid(bark)}
    composite = composed(bark, (tone,), "toning")
    view = View(0, 0, 819, 819, 0.8)  # the sheet has 819.2 pixels
    frame = render(composite, pictures, view)
    export = render(composite, pictures, whole(bark))

    wanted = area_mean(export, view)
    assert likeness(frame[:, -12:], wanted[:, -12:]) >= 42
    assert likeness(frame[-12:], wanted[-12:]) >= 42


@pytest.mark.parametrize("tone", [*AREA, GrainTone()], ids=repr)
def test_bands_are_the_whole(bark: np.ndarray, tone: Tone) -> None:
    pictures = {"p": build_pyramid(bark)}
    composite = composed(bark, (tone,), "toning")
    bands = np.concatenate(
        list(render_bands(composite, pictures, whole(bark), rows=160))
    )

    assert likeness(bands, render(composite, pictures, whole(bark))) >= 50


def test_sharpening_adds_the_difference_to_a_blur(bark: np.ndarray) -> None:
    got = shown(bark, SharpenTone(amount=0.5, radius=3, threshold=0))
    light = bark[..., :3] @ np.array([0.299, 0.587, 0.114])
    change = 0.5 * (light - ndimage.gaussian_filter(light, 3, mode="nearest"))
    wanted = np.clip(bark[..., :3] + change[..., None], 0, 255)

    inside = slice(12, -12)
    assert np.abs(got[inside, inside, :3] - wanted[inside, inside]).max() <= 1.5


def test_sharpening_spares_what_lies_below_its_threshold() -> None:
    rng = np.random.default_rng(7)
    grey = np.full((128, 128, 4), 255, np.uint8)
    grey[..., :3] = (128 + rng.integers(-3, 4, (128, 128)))[..., None]

    assert np.array_equal(shown(grey, SharpenTone(amount=3, threshold=10)), grey)
    rough = shown(grey, SharpenTone(amount=3, threshold=0))
    assert rough[..., 0].std() > 1.5 * grey[..., 0].std()


def test_clarity_stretches_local_contrast_and_clips_no_end(bark: np.ndarray) -> None:
    clear = shown(bark, ClarityTone(amount=0.8, radius=20))
    hazy = shown(bark, ClarityTone(amount=-0.8, radius=20))

    def local(pixels: np.ndarray) -> float:
        light = pixels[..., :3].mean(-1)
        return float((light - ndimage.gaussian_filter(light, 20)).std())

    assert local(hazy) < 0.8 * local(bark) < 0.8 * 0.8 * local(clear)
    ends = np.zeros((64, 64, 4), np.uint8)
    ends[:, 32:], ends[..., 3] = 255, 255
    assert np.array_equal(shown(ends, ClarityTone(amount=1)), ends)


def test_out_of_focus_a_light_is_a_disk() -> None:
    dark = np.zeros((200, 200, 4), np.uint8)
    dark[..., 3], dark[98:103, 98:103, :3] = 255, 255
    got = shown(dark, LensTone(radius=20, shine=1))[..., 0].astype(float)
    far = np.hypot(*(np.indices(got.shape) - 100))

    inside = got[far < 16]
    assert inside.min() > 0.8 * inside.max() > 0
    assert got[far > 26].max() == 0
    soft = shown(dark, BlurTone(radius=10))[..., 0]
    assert got[100, 84] > 2 * soft[100, 84]


def test_paint_has_no_grain_and_keeps_edges() -> None:
    rng = np.random.default_rng(3)
    halves = np.full((240, 240, 4), 255, np.uint8)
    light = np.where(np.arange(240) < 120, 70, 190)[None, :]
    halves[..., :3] = (light + rng.normal(0, 12, (240, 240)))[..., None].clip(0, 255)
    got = shown(halves, PainterlyTone(brush=16, detail=0.5))[..., 0].astype(float)

    assert got[60:180, 30:90].std() < 0.25 * halves[60:180, 30:90, 0].std()
    assert got[60:180, 129:].mean() - got[60:180, :111].mean() > 110
    blurred = shown(halves, BlurTone(radius=8))[..., 0].astype(float)
    steep = lambda one: np.abs(np.diff(one[60:180].mean(0)))[100:140].max()  # noqa: E731
    assert steep(got) > 1.5 * steep(blurred)


def painted_once(image: np.ndarray, brush: float) -> tuple[np.ndarray, np.ndarray]:
    """Paint with one brush as its docstring says, in float64; and how light spreads."""

    def even(one: np.ndarray, sigma: float) -> np.ndarray:
        return ndimage.gaussian_filter(one, sigma, mode="nearest", axes=(0, 1))

    light = image.mean(-1)
    means = even(image, 0.45 * brush)
    spread = np.maximum(even(light**2, 0.45 * brush) - means.mean(-1) ** 2, 0) ** 0.5
    smooth = even(light, max(0.15 * brush, 0.8))
    slopes = np.stack(
        [ndimage.sobel(smooth, axis, mode="mirror") / 4 for axis in (1, 0)]
    )
    tensor = even(np.einsum("ayx,byx->yxab", slopes, slopes), 0.6 * brush)
    values, vectors = np.linalg.eigh(tensor)
    marked = (values[..., 1] - values[..., 0]) / (values.sum(-1) + 1e-3)
    y, x = np.indices(light.shape)
    total, weighed = np.zeros_like(light), np.zeros_like(image)
    for angle in np.arange(8) * np.pi / 4:
        long = 0.75 * brush * (1 + marked) * np.cos(angle)
        short = 0.75 * brush / (1 + marked) * np.sin(angle)
        u, v = vectors[..., 0, 0], vectors[..., 1, 0]
        there = np.stack([y + long * v + short * u, x + long * u - short * v])
        rows, columns = np.floor(there + 0.5).astype(int)
        at = np.clip(rows, 0, len(y) - 1), np.clip(columns, 0, len(x[0]) - 1)
        weight = 1 / ((spread[at] / 8) ** 8 + 1e-4)
        total += weight
        weighed += weight[..., None] * means[at]
    return weighed / total[..., None], spread


@pytest.mark.parametrize("brush", [6.0, 10.0])
def test_paint_is_what_its_definition_says(bark: np.ndarray, brush: float) -> None:
    pixels = np.ascontiguousarray(bark[600:664, :96])
    pixels[..., :3] = np.clip(3.5 * pixels[..., :3].astype(float) - 250, 0, 255)
    image = pixels[..., :3].astype(float)
    wanted, spread = painted_once(image, brush)
    if brush == 10:  # Painted at half the size, and a finer one over it.
        small = cv2.resize(image, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        wanted, spread = (
            cv2.resize(one, image.shape[1::-1], interpolation=cv2.INTER_LINEAR)
            for one in painted_once(small, brush / 2)
        )
        busy = ((spread * 0.5 / 18) ** 2)[..., None]
        finer, _ = painted_once(image, brush / 2)
        wanted += busy / (1 + busy) * (finer - wanted)

    got = PainterlyTone(brush=brush, detail=0.5).made(pixels, Seen(scale=1))

    # Here and there a neighbour lies half-way between two pixels.
    off = np.abs(got[..., :3] - wanted)
    assert np.quantile(off, 0.98) < 0.51
    for edge in (off[0], off[-1], off[:, 0], off[:, -1]):
        assert np.quantile(edge, 0.95) < 0.51
    assert got[..., 3].min() == 255


def test_grain_is_as_strong_as_it_says_and_stays_in_its_place() -> None:
    grey = np.full((512, 512, 4), 255, np.uint8)
    grey[..., :3] = 128
    got = shown(grey, GrainTone(amount=0.25, size=1.5))

    assert got[..., 0].std() == pytest.approx(0.25 * 48, rel=0.1)
    assert np.array_equal(got[..., 0], got[..., 2])
    composite = composed(grey, (GrainTone(),), "toning")
    part = render(composite, {"p": build_pyramid(grey)}, View(100, 60, 200, 100, 1.0))
    wholly = render(composite, {"p": build_pyramid(grey)}, whole(grey))
    assert np.array_equal(part, wholly[60:160, 100:300])


def test_neutral_area_tones_change_not_one_bit(bark: np.ndarray) -> None:
    tones = (
        BlurTone(radius=0),
        LensTone(radius=0),
        SharpenTone(amount=0),
        ClarityTone(amount=0),
        GrainTone(amount=0),
        PainterlyTone(works=False),
    )

    assert np.array_equal(shown(bark, *tones), bark)
    assert np.array_equal(shown(bark, *tones, where="toning"), bark)


def test_order_counts_between_tones_of_both_kinds(bark: np.ndarray) -> None:
    hard = LightTone(contrast=1)
    first = shown(bark, BlurTone(radius=6), hard)
    then = shown(bark, hard, BlurTone(radius=6))

    blurred = shown(bark, BlurTone(radius=6))
    assert likeness(first, shown(blurred, hard)) > 50
    assert likeness(then, shown(shown(bark, hard), BlurTone(radius=6))) > 50
    assert likeness(first, then) < 38


def test_what_lies_beyond_the_sheet_does_not_show_in_it(bark: np.ndarray) -> None:
    dark = bark // 4
    dark[..., 3] = 255
    got = shown(dark, BlurTone(radius=30), where="toning")

    assert got[:, 0, :3].max() <= dark[..., :3].max()


def test_only_what_a_mask_shows_is_blurred(bark: np.ndarray) -> None:
    toning = ToningLayer(id="t", name="T", tones=(BlurTone(radius=9),), opacity=0.5)
    photo = composed(bark, (), "photo").layers[0]
    composite = Composite(
        canvas=Canvas(width=1024, height=1024), layers=(photo, toning)
    )
    got = render(composite, {"p": build_pyramid(bark)}, whole(bark))
    blurred = shown(bark, BlurTone(radius=9), where="toning")

    half = (bark[..., :3].astype(float) + blurred[..., :3]) / 2
    assert np.abs(got[..., :3] - half).max() <= 1


def test_a_group_in_a_group_is_blurred_at_its_own_scale(bark: np.ndarray) -> None:
    inner = composed(bark, (BlurTone(radius=20),), "group").layers[0]
    outer = GroupLayer(
        id="o",
        name="O",
        width=1024,
        height=1024,
        placement=Placement(x=256, y=256, scale_x=0.5, scale_y=0.5),
        layers=(inner,),
    )
    composite = Composite(canvas=Canvas(width=512, height=512), layers=(outer,))
    got = render(composite, {"p": build_pyramid(bark)}, View(0, 0, 512, 512, 1.0))
    wanted = halved(shown(bark, BlurTone(radius=20)))

    inside = slice(40, -40)
    assert likeness(got[inside, inside], wanted[inside, inside]) > 46


def test_a_see_through_photo_is_blurred_with_its_alpha() -> None:
    dot = np.zeros((128, 128, 4), np.uint8)
    dot[40:88, 40:88] = (200, 40, 40, 255)
    canvas = Canvas(width=128, height=128, background=None)
    photo = composed(dot, (BlurTone(radius=6),), "photo").layers[0]
    got = render(
        Composite(canvas=canvas, layers=(photo,)),
        {"p": build_pyramid(dot)},
        whole(dot),
    )

    assert 0 < got[64, 36, 3] < 255
    assert np.abs(got[got[..., 3] > 8][:, :3].astype(int) - (200, 40, 40)).max() <= 20


def test_a_turned_and_cornered_photo_has_its_area_tones(bark: np.ndarray) -> None:
    for changes in ({"turn": 30}, {"corners": {"top_left": (0.05, 0.05)}}):
        composite = composed(bark, (PainterlyTone(), MonochromeTone()), "photo")
        (layer,) = composite.layers
        placement = Placement(**{**layer.placement.model_dump(), **changes})
        layers = (layer.model_copy(update={"placement": placement}),)
        moved = composite.model_copy(update={"layers": layers})
        got = render(moved, {"p": build_pyramid(bark)}, View(300, 300, 400, 400, 1.0))

        assert (got[..., 0] == got[..., 1]).all()
        rough = ndimage.laplace(got[..., 0].astype(float)).std()
        plain = ndimage.laplace(bark[..., 0].astype(float)).std()
        assert rough < 0.5 * plain


def test_what_is_toned_is_kept_between_frames(bark: np.ndarray) -> None:
    frames = FrameCache(64_000_000)
    pyramid = build_pyramid(bark)
    view = View(0, 0, 256, 256, 0.25)
    composite = composed(bark, (PainterlyTone(),), "photo")
    first = frames.render("p", composite, {"p": pyramid}, view)
    # Read again, it would be another picture now.
    pyramid.levels[2][:] = 0
    again = frames.render("p", composite, {"p": pyramid}, view)
    other = frames.render("q", composite, {"p": Pyramid(pyramid.levels, True)}, view)  # noqa: FBT003

    assert np.array_equal(first, again)
    assert np.array_equal(first, other)


def test_frames_while_a_blur_of_everything_is_moved(bark: np.ndarray) -> None:
    frames, pictures = FrameCache(64_000_000), {"p": build_pyramid(bark)}
    view = View(0, 0, 512, 512, 0.5)
    for radius in (4, 6, 8, 10):
        composite = composed(bark, (BlurTone(radius=radius),), "toning")
        got = frames.render("p", composite, pictures, view)
        wanted = render(composite, pictures, view)

        assert np.abs(got.astype(int) - wanted).max() <= 1


def test_what_is_scaled_along_is_blurred_by_as_much_of_it(bark: np.ndarray) -> None:
    state = composed(bark, (BlurTone(radius=8), GrainTone(size=12)), "toning")
    half = Canvas(width=512, height=512)
    smaller = apply(state, SetCanvas(canvas=half, scale=0.5))

    blur, grain = smaller.layers[1].tones
    assert (blur.radius, grain.size) == (4, 6)
    turned = apply(state, SetCanvas(canvas=state.canvas, turn=30))
    assert turned.layers[1].tones == state.layers[1].tones
    larger = apply(state, SetCanvas(canvas=state.canvas, scale=100))
    assert [one.model_dump() for one in larger.layers[1].tones] == [
        {"kind": "blur", "works": True, "radius": 300},
        {"kind": "grain", "works": True, "amount": 0.25, "size": 12},
    ]


def test_tones_taken_from_a_layer_of_another_size_look_as_there() -> None:
    canvas = Canvas(width=900, height=600)
    size = {"picture": "p", "width": 2000, "height": 1000}
    at = {"x": 400, "y": 300}
    small = PhotoLayer(
        id="small",
        name="Small",
        placement=Placement(**at, scale_x=0.25, scale_y=0.25),
        tones=(BlurTone(radius=40), LightTone(exposure=1)),
        **size,
    )
    large = PhotoLayer(
        id="large", name="L", placement=Placement(**at, scale_x=2, scale_y=2), **size
    )
    over = ToningLayer(id="over", name="Over")
    state = Composite(canvas=canvas, layers=(small, large, over))

    for layer_id, radius in (("large", 5), ("over", 10)):
        edit = CopyTones(layer_id=layer_id, from_id="small")
        after = apply(state, decided(state, edit)).layer(layer_id)
        assert after.tones == (BlurTone(radius=radius), LightTone(exposure=1))
    other = ExchangePhoto(
        layer_id="small", picture="q", name="Q", width=1000, height=500
    )
    assert apply(state, other).layer("small").tones[0] == BlurTone(radius=20)


def test_a_blurred_group_taken_apart_looks_much_as_it_did(bark: np.ndarray) -> None:
    pictures = {"p": build_pyramid(bark)}
    (whole_group,) = composed(bark, (BlurTone(radius=8),), "group").layers
    half = Placement(x=512, y=512, scale_x=0.5, scale_y=0.5)
    (photo,) = whole_group.layers
    layers = (photo.model_copy(update={"placement": half}),)
    group = whole_group.model_copy(update={"layers": layers})
    state = Composite(canvas=Canvas(width=1024, height=1024), layers=(group,))
    apart = apply(state, DissolveGroup(layer_id="g"))

    assert apart.layers[0].tones == (BlurTone(radius=16),)
    before, after = (render(one, pictures, whole(bark)) for one in (state, apart))
    inside = slice(300, 720)
    assert likeness(before[inside, inside], after[inside, inside]) > 40


@pytest.mark.parametrize(
    ("kind", "fields"),
    [
        (BlurTone, {"radius": 301}),
        (BlurTone, {"radius": float("nan")}),
        (LensTone, {"radius": -1}),
        (SharpenTone, {"radius": 0}),
        (ClarityTone, {"amount": float("inf")}),
        (PainterlyTone, {"brush": 1}),
        (GrainTone, {"size": 13}),
    ],
    ids=str,
)
def test_impossible_area_tones_are_refused(
    kind: type, fields: dict[str, object]
) -> None:
    with pytest.raises(ValidationError):
        kind(**fields)


def test_the_largest_lengths_on_the_smallest_picture() -> None:
    tiny = np.full((3, 2, 4), 255, np.uint8)
    most = (
        BlurTone(radius=300),
        LensTone(radius=200),
        ClarityTone(amount=1, radius=300),
        PainterlyTone(brush=80),
        SharpenTone(radius=20, amount=3),
        GrainTone(amount=1, size=12),
        InvertTone(),
    )

    for where in ("photo", "toning"):
        assert shown(tiny, *most, where=where).shape == (3, 2, 4)
    # All at once, a group would be toned thousands of pixels all round.
    for one in most:
        assert shown(tiny, one, where="group").shape == (3, 2, 4)


@pytest.mark.parametrize("sigma", [6, 20, 45])
def test_a_blur_goes_on_by_the_last_pixel_at_the_edges(
    bark: np.ndarray, sigma: float
) -> None:
    pixels = np.ascontiguousarray(bark[:251, :333])
    found = BlurTone(radius=sigma).made(pixels, Seen(1.0, 0, 0))[..., :3]
    wanted = ndimage.gaussian_filter(
        pixels[..., :3].astype(float), (sigma, sigma, 0), mode="nearest", truncate=5
    )
    assert np.abs(found - wanted).max() < 1.2
