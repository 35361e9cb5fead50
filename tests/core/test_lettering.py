"""Words as layers: laid on, set anew, rendered, said in sentences."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.document.arranging import bounds_of
from glyphaneme.core.edits import (
    AddWords,
    Edit,
    FadeLayer,
    GroupLayers,
    NameLayer,
    PlaceLayer,
    SetWords,
    ShadeLayer,
    ToneLayer,
    apply,
    decided,
    describe_edit,
)
from glyphaneme.core.errors import CoreError, NotMeasuredError
from glyphaneme.core.place import Placement
from glyphaneme.core.render import View, all_needed, render, render_exact
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import describe
from glyphaneme.core.words.typesetting import measured
from glyphaneme.core.words.values import (
    Align,
    Arc,
    BlendedInk,
    Contour,
    Panel,
    PlainInk,
    Words,
)
from tests.fonts import faces, words

SHEET = Composite(canvas=Canvas(width=400, height=200, background="#ffffff"))
WHOLE = View(0, 0, 400, 200, 1)
BLACK = PlainInk(color="#000000")


def laid(
    text: str = "Moths", at: tuple[float, float] | None = None, **how: object
) -> Composite:
    said = words(text, size=80, **{"ink": BLACK, **how})
    edit = AddWords(layer_id="w", words=said, measure=measured(said, faces()), at=at)
    return made(SHEET, edit)


def made(state: Composite, edit: Edit) -> Composite:
    return apply(state, decided(state, edit))


def reset(state: Composite, said: Words) -> Composite:
    edit = SetWords(layer_id="w", words=said, measure=measured(said, faces()))
    return made(state, edit)


def shown(state: Composite, view: View = WHOLE) -> np.ndarray:
    return render(state, faces(), view)


def dark(pixels: np.ndarray) -> np.ndarray:
    return pixels[..., 0] < 128


def test_words_are_laid_in_the_middle_or_with_their_line_at_a_point() -> None:
    rows, columns = np.nonzero(dark(shown(laid())))
    assert (columns.min() + columns.max()) / 2 == pytest.approx(200, abs=6)
    assert (rows.min() + rows.max()) / 2 == pytest.approx(100, abs=14)

    rows, columns = np.nonzero(dark(shown(laid("HH", at=(50, 150)))))
    assert rows.max() == pytest.approx(150, abs=2)
    assert columns.min() == pytest.approx(50, abs=8)


def test_words_that_nobody_measured_are_refused() -> None:
    edit = AddWords(layer_id="w", words=words("Moths"))
    with pytest.raises(NotMeasuredError):
        made(SHEET, edit)


@pytest.mark.parametrize("align", [Align.LEFT, Align.MIDDLE, Align.RIGHT])
def test_what_is_typed_grows_away_from_the_side_that_it_is_aligned_at(align) -> None:
    before = laid("mm", align=align)
    after = reset(before, words("mmmm", size=80, ink=BLACK, align=align))

    ends = []
    for state in (before, after):
        _, columns = np.nonzero(dark(shown(state)))
        edges = columns.min(), columns.mean(), columns.max()
        ends.append(edges[[Align.LEFT, Align.MIDDLE, Align.RIGHT].index(align)])
    assert ends[1] == pytest.approx(ends[0], abs=2)


def test_a_turned_line_keeps_its_place_while_it_is_typed() -> None:
    before = laid("mm")
    turned = with_fields(before.layer("w").placement, turn=90, scale_x=0.5, scale_y=0.5)
    before = made(before, PlaceLayer(layer_id="w", placement=turned))
    after = reset(before, words("mmmm", size=80, ink=BLACK))

    rows_before, _ = np.nonzero(dark(shown(before)))
    rows_after, _ = np.nonzero(dark(shown(after)))
    # Aligned at its left, which points up now.
    assert rows_after.min() == pytest.approx(rows_before.min(), abs=2)
    assert rows_after.max() > rows_before.max() + 20


def test_a_layer_is_called_after_its_words_until_somebody_names_it() -> None:
    state = laid("Opening\nnight")
    assert state.layer("w").name == "Opening night"
    state = reset(state, words("Tonight"))
    assert state.layer("w").name == "Tonight"
    named = apply(state, NameLayer(layer_id="w", name="Title"))
    assert reset(named, words("Soon")).layer("w").name == "Title"


def test_of_two_who_change_words_the_later_text_counts_and_the_rest_is_joined() -> None:
    begun = laid("Moths")
    red = PlainInk(color="#ff0000")
    first = reset(begun, words("Moth", size=80, ink=red))
    mine = words("Moths!", size=80, align=Align.RIGHT, ink=BLACK)
    brought = SetWords(layer_id="w", words=mine).rebased(begun, first)

    assert brought.words.setting.text == "Moths!"
    assert brought.words.setting.align is Align.RIGHT
    # What only the first one changed stays changed.
    assert brought.words.ink == red


def test_the_history_says_what_was_done() -> None:
    state = laid("Moths")
    asked = [
        (words("Moth", size=80, ink=BLACK), "‘Moth’ typed"),
        (words("Moths", size=99, ink=BLACK), "‘Moths’ in another size"),
        (words("Moths", size=80, ink=BLACK, form=Arc()), "‘Moths’ in another form"),
        (words("Moths", size=80, ink=None), "‘Moths’ inked anew"),
        (words("Moths", size=80, ink=BLACK, contour=Contour()), "‘Moths’ outlined"),
        (words("Moths", size=80, ink=BLACK, panel=Panel()), "‘Moths’ on a panel"),
    ]
    for said, label in asked:
        assert describe_edit(state, SetWords(layer_id="w", words=said)) == label


def test_the_sentence_says_how_words_are_set() -> None:
    said = {"contour": Contour(color="#ffffff"), "panel": Panel(color="#ff0000")}
    state = laid("Moths", form=Arc(), **said)
    (sentence,) = describe(state)
    assert sentence.text.startswith("‘Moths’, in Lobster, ")
    assert " mm high, along an arc, inked black, outlined white, on a red panel" in (
        sentence.text
    )
    lacking = laid("世")
    assert "without 世, which no font has" in describe(lacking)[0].text


def test_ink_contour_and_panel_lie_over_one_another() -> None:
    said = laid(
        "O",
        ink=PlainInk(color="#00ff00"),
        contour=Contour(color="#0000ff", width=0.1),
        panel=Panel(color="#ff0000", opacity=1, roundness=0),
    )
    colors = {tuple(one) for one in shown(said).reshape(-1, 4)[:, :3].tolist()}
    assert {(0, 255, 0), (0, 0, 255), (255, 0, 0), (255, 255, 255)} <= colors


def test_a_gradient_runs_over_the_words_or_over_each_letter() -> None:
    over = BlendedInk(start="#ff0000", end="#0000ff", angle=0)
    whole = shown(laid("IIII", ink=over))
    each = shown(laid("IIII", ink=with_fields(over, each=True)))

    # Red against blue, where letters are.
    inked = whole[..., 1] < 60
    columns = np.nonzero(inked.any(axis=0))[0]
    left = whole[:, columns.min() : columns.min() + 12]
    assert left[..., 0].astype(int).sum() > left[..., 2].astype(int).sum()
    last = each[:, columns.max() - 8 : columns.max() + 1]
    inside = last[..., 1] < 60
    assert last[inside][:, 0].max() > 100
    assert whole[:, columns.max() - 8 : columns.max()][inside[:, :8]][:, 0].max() < 100


def test_words_are_toned_faded_and_shaded_as_photos_are() -> None:
    state = laid("MMM")
    toned = made(state, ToneLayer(layer_id="w", tones=({"kind": "invert"},)))
    assert not dark(shown(toned)).any()
    blurred = made(
        state, ToneLayer(layer_id="w", tones=({"kind": "blur", "radius": 8},))
    )
    assert shown(blurred)[..., 0].astype(float).std() < 0.7 * shown(state)[..., 0].std()
    layer = state.layer("w")
    fade = {"x": layer.width / 2, "y": layer.height / 2, "length": 20, "angle": 0}
    faded = made(state, FadeLayer(layer_id="w", fades=(fade,)))
    assert dark(shown(faded)).sum() < 0.7 * dark(shown(state)).sum()
    shade = {"kind": "soft", "distance": 20, "softness": 0, "color": "#ff0000"}
    shaded = made(state, ShadeLayer(layer_id="w", effects=(shade,)))
    assert (shown(shaded)[..., 0].astype(int) - shown(shaded)[..., 1] > 80).any()


def test_words_in_a_group_show_as_they_did() -> None:
    state = laid()
    grouped = made(
        state, GroupLayers(group_id="g", name="G", layer_ids=("w",), mode="normal")
    )
    assert np.abs(shown(grouped).astype(int) - shown(state)).max() <= 2


def test_words_set_into_four_corners_are_sharp() -> None:
    state = laid("HHH")
    layer = state.layer("w")
    large = with_fields(
        layer.placement,
        scale_x=20,
        scale_y=20,
        corners={"top_right": (0, 0.1), "bottom_right": (0, -0.1)},
    )
    warped = made(state, PlaceLayer(layer_id="w", placement=large))
    found = shown(warped)
    # At twenty times its size an edge is a pixel or two, not twenty.
    between = (found[..., 0] > 30) & (found[..., 0] < 225)
    assert between.mean() < 0.03
    assert dark(found).any()


def test_words_are_not_cropped() -> None:
    layer = laid().layer("w")
    crop = {"x": 5, "y": 5, "width": 4, "height": 4}
    with pytest.raises((CoreError, ValidationError)):
        apply(
            laid(),
            PlaceLayer(
                layer_id="w",
                placement=Placement.model_validate(
                    {**layer.placement.model_dump(), "crop": crop}
                ),
            ),
        )


def test_a_frame_is_the_export_in_small() -> None:
    state = laid()
    quarter = View(0, 0, 100, 50, 0.25)
    exact = render_exact(state, faces(), quarter)[..., 0].astype(float)
    small = shown(state)[..., 0].reshape(50, 4, 100, 4).mean(axis=(1, 3))
    assert np.abs(exact - small).mean() < 1.5


def test_words_need_their_fonts_and_say_so() -> None:
    state = laid()
    assert all_needed(state).fonts == set(faces())
    # Without them they keep their place, and show nothing.
    assert not dark(render(state, {}, WHOLE)).any()


def test_words_are_aligned_by_their_capitals_and_baseline() -> None:
    state = laid("HHH")
    box = bounds_of(state, "w")

    rows, _ = np.nonzero(dark(shown(state)))
    assert box.top == pytest.approx(rows.min(), abs=1.5)
    assert box.bottom == pytest.approx(rows.max() + 1, abs=1.5)
    on_panel = laid("HHH", panel=Panel())
    assert bounds_of(on_panel, "w").height == on_panel.layer("w").height
