"""Paths found by trying, against every path of a small room."""

from itertools import combinations, pairwise

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.arrangement.lattice import Sites
from lumvak.core.arrangement.walk import walked_path

SIDE = 4


def places(cells: list[tuple[int, int]]) -> Sites:
    column, row = (np.array(item, dtype=np.intp) for item in zip(*cells, strict=True))
    pairs = [
        (one, other)
        for one, other in combinations(range(len(cells)), 2)
        if abs(column[one] - column[other]) + abs(row[one] - row[other]) == 1
    ]
    nothing = np.zeros(len(cells), dtype=np.intp)
    return Sites(column * 20.0, row * 20.0, nothing, column, row, nothing, nothing,
                 np.array(pairs, dtype=np.intp).reshape(-1, 2))  # fmt: skip


def exists(sites: Sites, series: int, parallel: int) -> bool:
    """Whether any groups do, by going through all connected sets of places one after the other."""
    count = len(sites)
    near = [0] * count
    for one, other in sites.pairs.tolist():
        near[one] |= 1 << other
        near[other] |= 1 << one

    def beside(group: int) -> int:
        return int(np.bitwise_or.reduce([near[k] for k in range(count) if group >> k & 1] or [0]))

    def whole(group: int) -> bool:
        part = group & -group
        while (more := (part | beside(part)) & group) != part:
            part = more
        return part == group

    groups = [sum(1 << k for k in chosen) for chosen in combinations(range(count), parallel)]
    groups = [group for group in groups if whole(group)]
    ends = {(group, group) for group in groups}
    for _ in range(series - 1):
        ends = {
            (used | group, group)
            for used, last in ends
            for group in groups
            if not used & group and beside(last) & group
        }
    return bool(ends)


@settings(max_examples=60, deadline=None)
@given(
    st.sets(st.tuples(st.integers(0, SIDE - 1), st.integers(0, SIDE - 1)), min_size=4, max_size=11),
    st.integers(1, 3), st.data(),
)  # fmt: skip
def test_where_any_path_is_one_is_found(
    cells: set[tuple[int, int]], parallel: int, data: st.DataObject
) -> None:
    series = data.draw(st.integers(2, max(2, len(cells) // parallel)))
    if series * parallel > len(cells):
        return
    sites = places(sorted(cells))
    found = walked_path(sites, series, parallel)
    assert (found is not None) == exists(sites, series, parallel)
    if found is None:
        return
    assert len(set(found.tolist())) == series * parallel
    beside = {frozenset(pair) for pair in sites.pairs.tolist()}
    groups = found.reshape(series, parallel).tolist()
    for before, after in pairwise(groups):
        assert any(frozenset((a, b)) in beside for a in before for b in after)
