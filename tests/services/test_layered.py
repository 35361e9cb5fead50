"""OpenRaster out and in: our own files, those of other programs, hostile ones."""

from __future__ import annotations

import io
import zipfile
from typing import TYPE_CHECKING

import numpy as np
import pytest
from defusedxml import ElementTree
from PIL import Image

from glyphaneme.codecs import PictureRefusedError
from glyphaneme.core.blend import BlendMode
from glyphaneme.core.edits import NameLayer, PaintStroke, PlaceLayer, ShowLayer, apply
from glyphaneme.core.mask.paintings import Painting, painted_all
from glyphaneme.core.mask.strokes import NamedStroke, Stroke, stroke_id
from glyphaneme.core.place import Placement
from glyphaneme.core.render import View, render
from glyphaneme.services.layered_reading import (
    assets_of_layered,
    read_layered,
)
from tests.pictures import (
    premultiplied,
)
from tests.posters import (
    HEIGHT,
    PICTURES,
    WIDTH,
    poster,
    repaired_poster,
    retouched_poster,
    saved,
    shown,
    toned_poster,
)
from tests.published_blending import laid_over

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

    from glyphaneme.core.document import Composite


POSTERS = [
    pytest.param(poster(), id="plain"),
    pytest.param(toned_poster(), id="toned"),
    pytest.param(retouched_poster(), id="retouched"),
    pytest.param(repaired_poster(), id="repaired"),
]


def png(pixels: np.ndarray) -> bytes:
    file = io.BytesIO()
    Image.fromarray(pixels).save(file, "PNG")
    return file.getvalue()


def archive(stack: str, **parts: bytes) -> io.BytesIO:
    """Return an OpenRaster file as another program might write it."""
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("mimetype", "image/openraster", zipfile.ZIP_STORED)
        packed.writestr("stack.xml", stack)
        for name, data in parts.items():
            packed.writestr(f"data/{name}.png", data)
    return file


@pytest.mark.parametrize("state", POSTERS)
def test_file_of_ours_comes_back_complete(state: Composite) -> None:

    unpacked = read_layered(saved(state))

    assert unpacked.composite == state
    found = assets_of_layered(unpacked)
    for picture, pixels in PICTURES.items():
        np.testing.assert_array_equal(found[picture].levels[0], pixels)
    view = View(0, 0, WIDTH, HEIGHT, 1)
    again = render(unpacked.composite, found, view)
    np.testing.assert_array_equal(again, shown(state, PICTURES))


def painted_poster() -> tuple[Composite, tuple[NamedStroke, ...], Painting]:
    """Return a poster whose back photo has two strokes, and what those leave."""
    strokes = [
        Stroke(points=((10, 10, 1), (60, 40, 1)), size=24, shows=False),
        Stroke(points=((30, 20, 1),), size=10, softness=0, shows=True),
    ]
    state, named, previous = poster(), [], None
    for stroke in strokes:
        name = state.layers[0].id
        paint = PaintStroke(layer_id=name, part_id="p", stroke=stroke)
        state = apply(state, paint)
        last = stroke_id(previous, stroke)
        named.append(NamedStroke(id=last, previous=previous, stroke=stroke))
        previous = last
    return state, tuple(named), painted_all(Painting(), strokes)


def test_strokes_travel_along_and_are_painted_again() -> None:
    state, strokes, painting = painted_poster()
    last = strokes[-1].id

    unpacked = read_layered(saved(state, strokes, **{last: painting}))

    assert unpacked.composite == state
    assert unpacked.strokes == strokes
    again = assets_of_layered(unpacked)[last]
    pixels = again.level_at(0).texels
    for place, texels in painting.level_at(0).texels.items():
        np.testing.assert_array_equal(pixels[place], texels)


@pytest.mark.parametrize("changed", ["dropped", "renamed"])
def test_file_whose_strokes_are_not_what_they_say_opens_layer_by_layer(
    changed: str,
) -> None:
    state, strokes, painting = painted_poster()
    kept = strokes[:1] if changed == "dropped" else strokes[::-1]

    unpacked = read_layered(saved(state, kept, **{strokes[-1].id: painting}))

    assert all(layer.mask is None for layer in unpacked.composite.layers)
    assert unpacked.strokes == ()


def composed(element: Element, packed: zipfile.ZipFile) -> np.ndarray:
    """Compose a stack by the published formulas, as any other program should."""
    below = np.zeros((HEIGHT, WIDTH, 4))
    for child in reversed(element):
        if child.get("visibility") == "hidden":
            continue
        if child.tag == "stack":
            assert child.get("isolation") == "isolate"
            above = composed(child, packed)
        else:
            layer = Image.open(io.BytesIO(packed.read(child.get("src"))))
            whole = Image.new("RGBA", (WIDTH, HEIGHT))
            whole.paste(
                layer.convert("RGBA"), (int(child.get("x")), int(child.get("y")))
            )
            above = np.asarray(whole) / 255
        op = child.get("composite-op").removeprefix("svg:")
        mode = BlendMode.NORMAL if op == "src-over" else BlendMode(op)
        below = laid_over(mode, below, above, float(child.get("opacity")))
    return below


@pytest.mark.parametrize("state", POSTERS)
def test_layers_of_the_file_compose_to_its_merged_picture(state: Composite) -> None:
    with zipfile.ZipFile(saved(state)) as packed:
        first = packed.infolist()[0]
        image = ElementTree.fromstring(packed.read("stack.xml"))
        merged = np.asarray(
            Image.open(io.BytesIO(packed.read("mergedimage.png"))).convert("RGBA")
        )
        again = composed(image.find("stack"), packed) * 255
        thumbnail = Image.open(io.BytesIO(packed.read("Thumbnails/thumbnail.png")))

    assert (first.filename, first.compress_type) == ("mimetype", zipfile.ZIP_STORED)
    assert (image.get("w"), image.get("h")) == (str(WIDTH), str(HEIGHT))
    np.testing.assert_array_equal(merged, shown(state, PICTURES))
    # Layers are rounded to 8 bits on their way.
    error = np.abs(premultiplied(again) - premultiplied(merged))
    assert error.max() <= 3
    assert error.mean() < 0.4
    assert max(thumbnail.size) <= 256


def test_a_layer_that_mends_is_saved_with_nothing_but_what_it_lays() -> None:
    with zipfile.ZipFile(saved(repaired_poster())) as packed:
        stack = ElementTree.fromstring(packed.read("stack.xml")).find("stack")
        found = {
            layer.get("name"): np.asarray(
                Image.open(io.BytesIO(packed.read(layer.get("src")))).convert("RGBA")
            )
            for layer in stack.iter("layer")
        }
    assert found["Repairs"][30, 20, 3] == 255
    assert 0 < (found["Repairs"][..., 3] > 0).mean() < 0.05
    assert (found["Repairs 2"][..., 3] == found["Repairs"][..., 3]).all()


def test_file_changed_by_another_program_is_read_as_that_program_left_it() -> None:
    file = saved(poster())
    changed = io.BytesIO()
    with zipfile.ZipFile(file) as before, zipfile.ZipFile(changed, "w") as after:
        for entry in before.infolist():
            data = before.read(entry)
            if entry.filename == "stack.xml":
                data = data.replace(b'name="Both"', b'name="Renamed"')
            after.writestr(entry, data)

    unpacked = read_layered(changed)

    names = [layer.name for layer in unpacked.composite.layers]
    assert names == ["The sheet", "A", "Renamed", "Glow", "Wash"]
    pictures = {
        name: pyramid.levels[0] for name, pyramid in assets_of_layered(unpacked).items()
    }
    error = premultiplied(shown(unpacked.composite, pictures)) - premultiplied(
        shown(poster(), PICTURES)
    )
    assert np.abs(error).max() <= 3


def test_foreign_file_keeps_offsets_names_strength_and_nesting() -> None:
    red = np.full((10, 20, 4), (255, 0, 0, 255), np.uint8)
    blue = np.full((10, 20, 4), (0, 0, 255, 128), np.uint8)
    stack = """<image version="0.0.6" w="60" h="40" xres="300" yres="300"><stack>
        <layer name="Top" src="data/blue.png" x="5" y="-3" opacity="0.5"
            composite-op="svg:multiply"/>
        <stack name="Kept" x="10" y="4" opacity="0.8" isolation="isolate">
          <layer src="data/red.png" x="1" y="2" visibility="hidden"/>
        </stack>
        <stack name="Loose" isolation="auto">
          <layer name="Bottom" src="data/red.png" composite-op="other:odd"/>
        </stack>
      </stack></image>"""

    unpacked = read_layered(archive(stack, red=png(red), blue=png(blue)))

    bottom, kept, top = unpacked.composite.layers
    assert unpacked.composite.canvas.ppi == 300
    assert unpacked.composite.canvas.background is None
    assert (top.name, top.blend, top.opacity) == ("Top", BlendMode.MULTIPLY, 0.5)
    assert (top.placement.x, top.placement.y) == (15, 2)
    assert (kept.kind, kept.name, kept.opacity) == ("group", "Kept", 0.8)
    assert (kept.layers[0].name, kept.layers[0].visible) == ("Layer", False)
    assert (kept.placement.x, kept.placement.y) == (21, 11)
    assert (bottom.name, bottom.blend) == ("Bottom", BlendMode.NORMAL)
    assert bottom.picture == kept.layers[0].picture
    assert len(unpacked.pictures) == 2


ONE_LAYER = '<image w="9" h="9"><stack><layer src="{}"/></stack></image>'
DOT = png(np.zeros((2, 2, 4), np.uint8))


def lying() -> io.BytesIO:
    """Return an archive whose stack.xml is far larger than the archive says."""
    file = archive("<image/>" + " " * 500_000)
    data = file.getvalue()
    size = len("<image/>") + 500_000
    return io.BytesIO(
        data.replace(size.to_bytes(4, "little"), (100).to_bytes(4, "little"))
    )


@pytest.mark.parametrize(
    ("file", "words"),
    [
        (io.BytesIO(b"Dear puppets"), "no OpenRaster archive"),
        (
            archive(ONE_LAYER.format("data/gone.png")),
            "A part of it is missing: data/gone.png",
        ),
        (
            archive(ONE_LAYER.format("../etc/passwd")),
            "points to something outside of itself",
        ),
        (
            archive(ONE_LAYER.format("/etc/passwd")),
            "points to something outside of itself",
        ),
        (archive("<image w='9'><stack/></image>"), "cannot be read"),
        (archive("<picture/>"), "holds no picture"),
        (archive("<image"), "cannot be read"),
        (
            archive(
                '<!DOCTYPE image [<!ENTITY e SYSTEM "file:///etc/passwd">]>'
                '<image w="9" h="9"><stack name="&e;"/></image>'
            ),
            "refers to other files",
        ),
        (
            archive(
                '<image w="9" h="9">' + "<stack>" * 12 + "</stack>" * 12 + "</image>"
            ),
            "deeper than 8",
        ),
        (archive('<image w="90000" h="9"><stack/></image>'), "90000 × 9"),
        (archive(ONE_LAYER.format("data/dot.png"), dot=b"\x89PNG"), "damaged|not a"),
        (lying(), "damaged|larger than it says|cannot be read|Damaged"),
    ],
)
def test_hostile_and_broken_files_are_refused(file: io.BytesIO, words: str) -> None:
    with pytest.raises(PictureRefusedError, match=words):
        assets_of_layered(read_layered(file))


def test_zip_bomb_is_refused_before_it_is_unpacked() -> None:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("mimetype", "image/openraster")
        for number in range(2_001):
            packed.writestr(f"data/{number}", b"")

    with pytest.raises(PictureRefusedError, match="2000 parts"):
        read_layered(file)
    with pytest.raises(
        PictureRefusedError, match=r"A part of it is missing: stack\.xml"
    ):
        read_layered(_with_media_type_only())


def _with_media_type_only() -> io.BytesIO:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as packed:
        packed.writestr("mimetype", "image/openraster")
    return file


def test_layer_outside_the_canvas_travels_along() -> None:
    state = apply(
        poster(),
        PlaceLayer(
            layer_id="a", placement=Placement(x=-900, y=0, scale_x=1, scale_y=1)
        ),
    )

    assert read_layered(saved(state)).composite == state


@pytest.mark.parametrize("layer_id", ["wash", "g", "a"])
def test_hidden_layer_is_saved_with_all_its_pixels(layer_id: str) -> None:
    state = apply(poster(), ShowLayer(layer_id=layer_id, visible=False))
    visible = apply(poster(), ShowLayer(layer_id=layer_id, visible=True))

    with (
        zipfile.ZipFile(saved(state)) as hidden,
        zipfile.ZipFile(saved(visible)) as whole,
    ):
        parts = [name for name in whole.namelist() if name.startswith("data/")]
        stack = hidden.read("stack.xml").decode()
        for part in parts:
            assert hidden.read(part) == whole.read(part)
            image = Image.open(io.BytesIO(hidden.read(part))).convert("RGBA")
            assert image.getchannel("A").getextrema()[1] > 0
    assert 'visibility="hidden"' in stack


@pytest.mark.parametrize(
    "name", ["Night\x08moths", "\x00", "a\ufffeb", "\ud800", "Ночь 灯 🦋"]
)
def test_whatever_a_layer_is_called_its_file_can_be_opened(name: str) -> None:
    state = apply(poster(), NameLayer(layer_id="a", name=name))

    found = read_layered(saved(state)).composite

    assert found == state
    assert len(found.layer("a").name) == len(name)
    assert found.layer("a").name.startswith(name[0]) == (name[0] not in "\x00\ud800")
