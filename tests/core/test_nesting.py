"""How deep JSON is nested, whole and in parts."""

from __future__ import annotations

import json
from itertools import pairwise
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from steady_tide.formats.nesting import DEEPEST, Nesting, is_too_deep
from tests.examples import examples

TEXTS = st.text(alphabet='ab"\\[]{}\u00e9', max_size=12)
VALUES = st.recursive(
    st.none() | st.integers() | TEXTS,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(TEXTS, inner, max_size=3),
    max_leaves=12,
)


def levels(value: Any) -> int:
    inner = value.values() if isinstance(value, dict) else value if isinstance(value, list) else None
    return 0 if inner is None else 1 + max(map(levels, inner), default=0)


@examples(200)
@given(value=VALUES, cuts=st.lists(st.integers(0, 200), max_size=6))
def test_depth_is_that_of_the_value_however_it_is_cut(value: Any, cuts: list[int]) -> None:
    text = json.dumps(value).encode()
    nesting, places = Nesting(), sorted({0, len(text), *(cut for cut in cuts if cut < len(text))})
    parts = [text[start:end] for start, end in pairwise(places)]
    assert max(map(nesting.deepest_of, parts)) == levels(value)


def test_what_is_nested_deeper_than_ours_is_too_deep() -> None:
    assert not is_too_deep(b"[" * DEEPEST + b"]" * DEEPEST)
    assert is_too_deep(b"[" * (DEEPEST + 1))
    assert not is_too_deep(b"[]" * 5000)
    assert not is_too_deep(json.dumps(["[" * 900]).encode())
