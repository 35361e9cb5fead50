"""The archive itself: what is written is read back, and nothing else is trusted."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pytest

from glyphaneme.codecs import PictureRefusedError, Shape, read_picture
from glyphaneme.codecs.openraster import (
    LayeredPicture,
    LayerEntry,
    OpenRasterReader,
    OpenRasterWriter,
    StackEntry,
    seal_of,
)
from tests.pictures import noise_pixels

PIXELS = noise_pixels(9, 7, seed=5)


def entry(source: str, **changes: object) -> LayerEntry:
    fields = {
        "name": "Moths",
        "source": source,
        "x": 3,
        "y": -2,
        "opacity": 0.625,
        "visible": False,
        "composite_op": "svg:screen",
    }
    return LayerEntry(**{**fields, **changes})


def written(document: dict | None = None) -> io.BytesIO:
    """Return a file of one layer, alone and in a stack."""
    file = io.BytesIO()
    with OpenRasterWriter(file) as writer:
        source = writer.add_layer((PIXELS,), Shape(9, 7, opaque=False))
        stack = StackEntry(
            name="Both & more",
            opacity=1.0,
            visible=True,
            composite_op="svg:src-over",
            isolated=True,
            entries=(entry(source), entry(source, name="Über <alles>")),
        )
        writer.add_stack(LayeredPicture(60, 40, 300.0, (entry(source), stack)))
        if document is not None:
            writer.add_document(document)
    return file


def changed(file: io.BytesIO, name: str, data: bytes) -> io.BytesIO:
    """Return the file as it is when a program has put other data in."""
    other = io.BytesIO()
    with zipfile.ZipFile(file) as before, zipfile.ZipFile(other, "w") as after:
        for one in before.infolist():
            content = data if one.filename == name else before.read(one)
            after.writestr(one.filename, content)
    return other


def test_everything_that_the_format_says_is_read_back() -> None:
    reader = OpenRasterReader(written())

    bottom, stack = reader.picture.entries
    assert (reader.picture.width, reader.picture.height) == (60, 40)
    assert reader.picture.ppi == 300
    assert bottom == entry("data/layer000.png")
    assert isinstance(stack, StackEntry)
    assert stack.name == "Both & more"
    assert [one.name for one in stack.entries] == ["Moths", "Über <alles>"]


def test_pixels_of_a_layer_are_kept_exactly() -> None:
    reader = OpenRasterReader(written())

    bottom = reader.picture.entries[0]
    assert isinstance(bottom, LayerEntry)
    np.testing.assert_array_equal(read_picture(reader.open_layer(bottom)), PIXELS)


def test_document_travels_along_while_nothing_is_changed() -> None:
    file = written({"scene": 7})

    document = OpenRasterReader(file).own_document()

    assert document is not None
    assert document["scene"] == 7
    assert OpenRasterReader(written()).own_document() is None


@pytest.mark.parametrize("part", ["stack.xml", "data/layer000.png"])
def test_document_does_not_count_once_another_program_wrote_the_file(part: str) -> None:
    file = written({"scene": 7})
    with zipfile.ZipFile(file) as packed:
        data = packed.read(part)
    harmless = data.replace(b"Moths", b"Moth") if part == "stack.xml" else data + b"\0"

    assert OpenRasterReader(changed(file, part, harmless)).own_document() is None


def test_broken_document_is_passed_over() -> None:
    file = changed(written({"scene": 7}), "glyphaneme/document.json", b"{")

    assert OpenRasterReader(file).own_document() is None


def test_archive_must_say_what_it_is() -> None:
    with pytest.raises(PictureRefusedError, match="does not say that it is"):
        OpenRasterReader(changed(written(), "mimetype", b"application/zip"))


def test_opacity_and_positions_of_others_are_read_with_care() -> None:
    stack = b"""<image w="9" h="9"><stack x="10">
        <layer src="a.png" x="2.6" opacity="7"/>
        <text>left out</text>
      </stack></image>"""

    (layer,) = OpenRasterReader(changed(written(), "stack.xml", stack)).picture.entries

    assert isinstance(layer, LayerEntry)
    assert (layer.x, layer.y, layer.opacity) == (3, 0, 1.0)
    assert (layer.name, layer.composite_op) == ("", "svg:src-over")


def test_too_many_layers_are_refused() -> None:
    layers = "<layer src='a.png'/>" * 201
    stack = f'<image w="9" h="9"><stack>{layers}</stack></image>'.encode()

    with pytest.raises(PictureRefusedError, match="more layers than 200"):
        OpenRasterReader(changed(written(), "stack.xml", stack))


def test_seal_depends_on_every_part() -> None:
    parts = [("stack.xml", 1), ("data/a.png", 2)]

    seals = {
        seal_of(parts),
        seal_of(parts[:1]),
        seal_of([("stack.xml", 1), ("data/a.png", 3)]),
        seal_of([("stack.xml", 1), ("data/b.png", 2)]),
    }

    assert len(seals) == 4
