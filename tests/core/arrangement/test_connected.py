"""Which nodes hang together, against SciPy's graph routines."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components, minimum_spanning_tree

from lumvak.core.arrangement.connected import components, spanning

LINKS = st.integers(2, 30).flatmap(
    lambda count: st.tuples(
        st.just(count),
        st.lists(
            st.tuples(st.integers(0, count - 1), st.integers(0, count - 1)), min_size=1, max_size=60
        ),
    )
)


@given(LINKS)
def test_nodes_hang_together_as_in_another_program(
    drawn: tuple[int, list[tuple[int, int]]],
) -> None:
    count, links = drawn
    one, two = np.array(links, dtype=np.intp).T
    own = components(count, one, two)
    graph = coo_array((np.ones(len(links)), (one, two)), shape=(count, count))
    number, other = connected_components(graph, directed=False)
    assert len(set(own.tolist())) == number
    for node in range(count):
        assert own[node] == np.flatnonzero(other == other[node]).min()


@given(LINKS, st.randoms(use_true_random=False))
def test_the_lightest_forest_weighs_what_another_programs_does(drawn, random) -> None:  # type: ignore[no-untyped-def]
    count, links = drawn
    links = sorted({(min(pair), max(pair)) for pair in links if pair[0] != pair[1]})
    if not links:
        return
    one, two = np.array(links, dtype=np.intp).T
    weight = np.array([random.uniform(1.0, 9.0) for _ in links])
    kept = spanning(count, one, two, weight)
    graph = coo_array((weight, (one, two)), shape=(count, count))
    other = float(minimum_spanning_tree(graph).sum())
    assert weight[kept].sum() == pytest.approx(other)
