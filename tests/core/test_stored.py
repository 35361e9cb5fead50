"""What earlier versions stored opens, and shows what it showed."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from hypothesis import given
from pydantic import ValidationError

from glyphaneme.core.document import Canvas, Composite, open_composite, store_composite
from glyphaneme.core.document.model import SCHEMA_VERSION
from glyphaneme.core.edits import (
    AddLayer,
    DuplicateLayer,
    NameLayer,
    adding,
    apply,
    copying,
    decided,
    open_edit,
    says_the_same,
    store_edit,
)
from glyphaneme.core.errors import NewerVersionError, NoCompositeError
from tests.core.test_edits import edits, poster

GOLDEN = Path(__file__).parents[1] / "golden"
VERSIONS = sorted(GOLDEN.glob("version-*.jsonl"))


def numbers_rounded(stored: object) -> object:
    """Return stored JSON whose numbers do not depend on a machine's last bit."""
    return json.loads(
        json.dumps(stored), parse_float=lambda text: round(float(text), 6)
    )


@pytest.mark.parametrize("path", VERSIONS, ids=lambda path: path.stem)
def test_history_of_every_version_is_replayed_as_it_was(path: Path) -> None:
    begun, *steps = map(json.loads, path.read_text().splitlines())
    state = open_composite(begun)

    for step in steps:
        state = apply(state, open_edit(step["edit"], state))

        wanted = store_composite(open_composite(step["after"]))
        assert numbers_rounded(store_composite(state)) == numbers_rounded(wanted)


def test_there_is_a_history_of_this_version() -> None:
    begun = json.loads(VERSIONS[-1].read_text().splitlines()[0])

    assert (
        begun["schema_version"]
        == Composite(canvas=Canvas(width=1, height=1)).schema_version
    )


def test_replaying_does_not_depend_on_the_rules_of_today(monkeypatch) -> None:
    replayed = state = poster("a")
    asked = [
        AddLayer(layer_id="b", picture="p", name="B", width=4000, height=30),
        DuplicateLayer(layer_id="a", copy_id="c"),
    ]
    stored = []
    for edit in asked:
        said = decided(state, edit)
        stored.append(store_edit(said))
        state = apply(state, said)

    monkeypatch.setattr(copying, "COPY_OFFSET", 0.5)
    monkeypatch.setattr(copying, "_copy_name", lambda *_: "Another")
    no_rule = lambda *_, **__: pytest.fail("no rule")  # noqa: E731
    monkeypatch.setattr(adding, "fit_placement", no_rule)
    for edit in stored:
        replayed = apply(replayed, open_edit(edit, replayed))

    assert replayed == state


def test_version_1_lets_values_out_of_range_and_they_are_brought_back() -> None:
    layer = store_composite(poster("a"))["layers"][0]
    far = {**layer["placement"], "x": 2e5 + 18, "y": -1e9}
    stored = {
        "schema_version": 1,
        "canvas": {"width": 10, "height": 10},
        "layers": [{**layer, "name": "N" * 130, "placement": far}],
    }

    opened = open_composite(stored).layers[0]

    assert (opened.placement.x, opened.placement.y) == (200_000, -200_000)
    assert opened.name == "N" * 120


@pytest.mark.parametrize("version", [SCHEMA_VERSION + 1, 0, -1, "2", None, [1]])
def test_unknown_version_is_refused_by_its_name(version: object) -> None:
    stored = {**store_composite(poster("a")), "schema_version": version}

    with pytest.raises(NewerVersionError, match="newer Glyphaneme"):
        open_composite(stored)
    with pytest.raises(NewerVersionError):
        open_edit({"kind": "remove_layer", "version": version}, poster("a"))


@pytest.mark.parametrize(
    "stored",
    [None, [], {"schema_version": 1, "layers": 7}, {"layers": [{"name": 1}]}],
)
def test_what_is_no_composite_is_refused(stored) -> None:
    with pytest.raises((NoCompositeError, ValidationError)):
        open_composite(stored)


@given(edits)
def test_edit_sent_again_is_known_by_what_it_says(edit) -> None:
    state = poster("a", "b", "c")
    try:
        stored = store_edit(decided(state, edit))
    except ValueError:
        return

    assert says_the_same(stored, edit)
    assert not says_the_same(stored, NameLayer(layer_id="a", name="Not that"))


def test_names_that_no_file_can_hold_are_replaced_where_they_are_stored() -> None:
    stored = store_composite(poster("a"))
    stored["layers"][0]["name"] = "Moths\x08"

    assert open_composite(stored).layers[0].name == "Moths\ufffd"
