"""Paths found by trying, against every path of a small room."""

from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.arrangement.walk import walked_path
from tests.length import so_many
from tests.packs import path_exists, small_room

SIDE = 4


@settings(max_examples=so_many(15, 60), deadline=None)
@given(
    st.sets(st.tuples(st.integers(0, SIDE - 1), st.integers(0, SIDE - 1)), min_size=4, max_size=11),
    st.integers(1, 3),
    st.data(),
)
def test_where_any_path_is_one_is_found(
    cells: set[tuple[int, int]], parallel: int, data: st.DataObject
) -> None:
    series = data.draw(st.integers(2, max(2, len(cells) // parallel)))
    if series * parallel > len(cells):
        return
    sites = small_room(sorted(cells))
    found = walked_path(sites, series, parallel)
    assert (found is not None) == path_exists(sites, series, parallel)
    if found is None:
        return
    assert len(set(found.tolist())) == series * parallel
    beside = {frozenset(pair) for pair in sites.pairs.tolist()}
    groups = found.reshape(series, parallel).tolist()
    for before, after in pairwise(groups):
        assert any(frozenset((a, b)) in beside for a in before for b in after)
