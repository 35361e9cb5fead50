"""Two windows change one list, and none takes back what the other did."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from glyphaneme.core.edits.merging import merged
from glyphaneme.core.errors import ChangedElsewhereError
from tests.trying import times


@pytest.mark.parametrize(
    ("before", "wanted", "now", "found"),
    [
        pytest.param("abc", "aBc", "Abc", "ABc", id="each another line"),
        pytest.param("abc", "aXc", "aYc", "aXc", id="both one line"),
        pytest.param("abc", "abcX", "abcY", "abcYX", id="both add one"),
        pytest.param("abc", "Xabc", "abcY", "XabcY", id="before and after"),
        pytest.param("abc", "abXc", "aBc", "aBXc", id="beside a changed one"),
        pytest.param("abc", "ac", "abC", "aC", id="one goes, one changes"),
        pytest.param("abc", "ac", "bc", "c", id="each takes one away"),
        pytest.param("", "X", "Y", "YX", id="both begin"),
        pytest.param("abc", "", "abcY", "Y", id="all go but the new one"),
        pytest.param("abc", "acb", "abcY", "acbY", id="two change places"),
        pytest.param("aab", "aaB", "aXab", "aXaB", id="two that are alike"),
    ],
)
def test_what_one_changed_is_joined_to_what_others_did(
    before: str, wanted: str, now: str, found: str
) -> None:
    assert "".join(merged(tuple(before), tuple(wanted), tuple(now))) == found


@pytest.mark.parametrize(
    ("before", "wanted", "now"), [("abc", "aBc", "ac"), ("abc", "BCa", "")]
)
def test_a_line_that_is_gone_is_not_changed(before: str, wanted: str, now: str) -> None:
    with pytest.raises(ChangedElsewhereError):
        merged(tuple(before), tuple(wanted), tuple(now))


lists = st.lists(st.integers(0, 4), max_size=6).map(tuple)


@times(60)
@given(lists, lists)
def test_where_nobody_else_did_anything_it_is_as_it_was_wanted(before, other) -> None:
    assert merged(before, other, before) == other
    assert merged(before, before, other) == other
