import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.arrangement.connected import components, spanning
from lumvak.core.joints import network as subject
from lumvak.core.joints.network import (
    Network,
    branches_of,
    conductance,
    drops_v,
    over_fair,
    solve,
    without,
)
from lumvak.core.joints.take_off import Lead

TINY = 1e-6


def group_of(
    cells: int, cell_ohm: float, strip_ohm: float, minus: float = 0.0, plus: float = 0.0
) -> Network:
    """One group: cells side by side, a strip on both ends, leads at places counted in cells."""
    first = np.arange(cells - 1)
    a = np.concatenate([2 * first, 2 * first + 1])
    leads = []
    for pole, bit, place in (("-", 1, minus), ("+", 0, plus)):
        cell, over = int(place), place - int(place)
        toward = 2 * (cell + 1) + bit if over else None
        leads.append(Lead(pole, 2 * cell + bit, toward, over))
    return Network(
        a=a,
        b=a + 2,
        ohm=np.full(len(a), strip_ohm),
        emf_v=np.full(cells, 3.7),
        rest_v=np.tile([3.7, 0.0], cells),
        cell_ohm=np.full(cells, cell_ohm),
        contact_ohm=np.zeros(2 * cells),
        link_ohm=np.zeros(cells),
        live=np.ones(cells, dtype=bool),
        leads=tuple(leads),
        lead_ohm=np.full(2, TINY),
    )


def test_two_cells_with_both_leads_at_the_first_share_as_r_plus_two_strips_to_r() -> None:
    r, strip = 0.016, 0.0008
    solved = solve(group_of(2, r, strip))
    assert solved is not None
    near, far = solved.at(10.0).cell_a
    assert near / far == pytest.approx((r + 2 * strip) / r)
    assert near + far == pytest.approx(10.0)


def test_leads_on_opposite_ends_share_equally() -> None:
    solved = solve(group_of(2, 0.016, 0.0008, minus=0.0, plus=1.0))
    assert solved is not None
    assert solved.at(10.0).cell_a == pytest.approx([5.0, 5.0])


@given(st.integers(2, 60), st.floats(0.001, 0.1), st.floats(1e-5, 0.01))
def test_a_ladder_has_the_resistance_of_its_continued_fraction(
    cells: int, r: float, strip: float
) -> None:
    solved = solve(group_of(cells, r, strip))
    assert solved is not None
    expected = r
    for _ in range(cells - 1):
        beyond = 2.0 * strip + expected
        expected = r * beyond / (r + beyond)
    assert solved.effective_ohm == pytest.approx(expected, rel=1e-6)
    assert solved.at(0.0).node_v[-2] == pytest.approx(3.7)


def test_a_lead_between_two_cells_shares_by_its_place() -> None:
    middle = solve(group_of(2, 0.016, 0.0008, minus=0.5, plus=0.5))
    near = solve(group_of(2, 0.016, 0.0008, minus=1e-5, plus=1e-5))
    at = solve(group_of(2, 0.016, 0.0008))
    assert middle is not None and near is not None and at is not None
    assert middle.at(8.0).cell_a == pytest.approx([4.0, 4.0])
    assert near.at(8.0).cell_a == pytest.approx(at.at(8.0).cell_a, rel=1e-4)
    assert np.abs(middle.at(8.0).piece_a).max() == pytest.approx(4.0)


def test_two_leads_of_a_pole_share_the_current() -> None:
    net = group_of(5, 0.016, 0.0008)
    leads = (
        Lead("-", 1, None, 0.0),
        Lead("-", 9, None, 0.0),
        Lead("+", 0, None, 0.0),
        Lead("+", 8, None, 0.0),
    )
    both = solve(subject.replace(net, leads=leads, lead_ohm=np.full(4, 0.003)))
    one = solve(net)
    assert both is not None and one is not None
    flow = both.at(20.0)
    assert flow.lead_a == pytest.approx([10.0] * 4)
    assert flow.cell_a[:2] == pytest.approx(flow.cell_a[:2:-1])
    assert np.ptp(flow.cell_a) < np.ptp(one.at(20.0).cell_a)
    assert both.leads_ohm == pytest.approx(0.003)


@st.composite
def networks(draw: st.DrawFn) -> Network:
    """Cells at random between nodes, joined by a tree and more, so that all hangs together."""
    rng = np.random.default_rng(draw(st.integers(0, 10**6)))
    cells = draw(st.integers(2, 9))
    ends = 2 * cells
    order = rng.permutation(ends)
    tree = [(int(order[k]), int(order[rng.integers(0, k)])) for k in range(1, ends)]
    more = [tuple(map(int, rng.choice(ends, 2, replace=False))) for _ in range(rng.integers(0, 12))]
    pairs = {(min(p), max(p)) for p in [*tree, *more]}
    a, b = (np.array(side) for side in zip(*sorted(pairs), strict=True))
    return Network(
        a=a,
        b=b,
        ohm=10.0 ** rng.uniform(-4, -1, len(a)),
        emf_v=rng.uniform(3.0, 4.2, cells),
        rest_v=rng.uniform(0.0, 4.0, ends),
        cell_ohm=rng.uniform(0.005, 0.1, cells),
        contact_ohm=rng.uniform(0.0, 1e-3, ends),
        link_ohm=rng.uniform(0.0, 1e-3, cells),
        live=np.ones(cells, dtype=bool),
        leads=(Lead("-", int(order[0]), None, 0.0), Lead("+", int(order[-1]), None, 0.0)),
        lead_ohm=np.full(2, 0.002),
    )


def dense_reference(net: Network, current: float) -> tuple[np.ndarray, np.ndarray]:
    """Terminal voltages and cell currents by modified nodal analysis with cell currents unknown."""
    cells, ends = len(net.emf_v), 2 * len(net.emf_v)
    size = 2 * ends + 1 + 2 * cells  # strips, cell ends, outer plus, currents at both cell ends
    matrix, right = np.zeros((size, size)), np.zeros(size)

    def resistor(one: int, two: int | None, ohm: float) -> None:
        matrix[one, one] += 1 / ohm
        if two is not None:
            matrix[two, two] += 1 / ohm
            matrix[one, two] -= 1 / ohm
            matrix[two, one] -= 1 / ohm

    for one, two, ohm in zip(net.a, net.b, net.ohm, strict=True):
        resistor(one, two, ohm)
    plus = 2 * ends
    for lead in net.leads:
        resistor(lead.terminal, plus if lead.pole == "+" else None, net.lead_ohm[0])
    right[plus] -= current
    for cell in range(cells):
        upper, lower = ends + 2 * cell, ends + 2 * cell + 1
        amps = 2 * ends + 1 + 2 * cell
        joint = net.contact_ohm[2 * cell] + net.link_ohm[cell]
        # i flows into the lower end, out of the upper end: two currents that are equal.
        matrix[upper, amps] -= 1
        matrix[2 * cell, amps] -= 1
        matrix[upper, upper] += 0
        matrix[upper, :] = 0
        matrix[upper, upper], matrix[upper, 2 * cell], matrix[upper, amps] = 1, -1, -joint
        matrix[lower, :] = 0
        matrix[lower, lower], matrix[lower, 2 * cell + 1] = 1, -1
        matrix[lower, amps] = net.contact_ohm[2 * cell + 1]
        matrix[2 * cell + 1, amps] += 1
        matrix[amps, upper], matrix[amps, lower], matrix[amps, amps] = 1, -1, net.cell_ohm[cell]
        right[amps] = net.emf_v[cell]
        matrix[amps + 1, amps + 1] = 1
    found = np.linalg.solve(matrix, right)
    return found[ends : 2 * ends], found[2 * ends + 1 :: 2]


@given(networks(), st.floats(0.0, 60.0))
def test_random_networks_agree_with_a_dense_solve_of_all_unknowns(
    net: Network, current: float
) -> None:
    solved = solve(net)
    assert solved is not None
    flow = solved.at(current)
    volts, amps = dense_reference(net, current)
    scale = max(1.0, float(np.abs(amps).max()))
    assert np.abs(flow.cell_a - amps).max() < 1e-8 * scale
    assert np.abs(flow.terminal_v - volts).max() < 1e-8 * scale
    assert flow.balance < 1e-9
    assert flow.power_balance < 1e-9


@given(networks())
def test_the_sparse_and_the_full_matrix_give_the_same(net: Network) -> None:
    branches = branches_of(net)
    wanted = np.random.default_rng(1).normal(size=(branches.nodes - 1, 2))
    none = np.zeros(0, dtype=np.intp)
    full, sparse = (
        subject.solve_dense(branches, none, wanted),
        subject.solve_sparse(branches, none, wanted),
    )
    assert full == pytest.approx(sparse, rel=1e-6, abs=1e-9)
    matrix = conductance(branches).toarray()
    assert matrix == pytest.approx(matrix.T)


def test_what_hangs_on_nothing_floats_and_what_is_open_is_not_solved() -> None:
    net = group_of(3, 0.016, 0.0008)
    # Cell 3 without its strips still has its own two ends.
    loose = solve(without(net, pieces=(1, 3)))
    assert loose is not None
    assert loose.floating[[4, 5]].all() and not loose.floating[:4].any()
    assert loose.at(6.0).cell_a == pytest.approx([3.13, 2.87, 0.0], abs=0.2)
    assert loose.at(6.0).balance < 1e-9
    assert solve(without(net, cells=(0, 1, 2))) is None


def test_an_unequal_cell_is_charged_by_the_others_at_rest() -> None:
    net = group_of(3, 0.02, 0.0005)
    net = subject.replace(net, emf_v=np.array([3.7, 3.6, 3.7]))
    solved = solve(net)
    assert solved is not None
    rest = solved.at(0.0)
    assert rest.cell_a[1] < 0.0 < min(rest.cell_a[0], rest.cell_a[2])
    assert rest.cell_a.sum() == pytest.approx(0.0, abs=1e-9)


@given(st.integers(1, 40), st.integers(0, 60), st.integers(0, 10**6))
def test_components_and_forest_are_those_of_a_plain_search(
    count: int, links: int, seed: int
) -> None:
    rng = np.random.default_rng(seed)
    one, two = rng.integers(0, count, links), rng.integers(0, count, links)
    weight = rng.integers(1, 4, links).astype(float)
    label = components(count, one, two)
    reach = np.eye(count, dtype=bool)
    reach[one, two] = reach[two, one] = True
    for _ in range(count):
        reach = reach @ reach
    assert ((label[:, None] == label[None]) == reach).all()
    kept = spanning(count, one, two, weight)
    assert kept.sum() == count - len(np.unique(label))
    assert (components(count, one[kept], two[kept]) == label).all()


@given(st.integers(2, 20), st.floats(0.001, 0.1), st.floats(1e-5, 0.01), st.floats(0.1, 100.0))
def test_what_works_over_its_fair_share_is_made_up_by_the_others(
    cells: int, r: float, strip: float, current: float
) -> None:
    solved = solve(group_of(cells, r, strip))
    assert solved is not None
    over = over_fair(solved.at(current), cells)
    assert over.sum() == pytest.approx(0.0, abs=1e-6 * cells)
    assert over[0] == over.max() >= 0.0


def test_the_drop_along_a_piece_is_the_difference_of_its_ends() -> None:
    net = group_of(3, 0.02, 0.001)
    solved = solve(net)
    assert solved is not None
    flow = solved.at(12.0)
    assert drops_v(flow, net.ohm) == pytest.approx(
        np.abs(flow.terminal_v[net.a] - flow.terminal_v[net.b])
    )


@given(st.integers(2, 12), st.floats(0.001, 0.1), st.floats(1e-6, 0.01), st.integers(0, 10))
def test_a_lead_at_the_far_end_of_a_piece_leaves_at_the_cell_there(
    cells: int, r: float, strip: float, at: int
) -> None:
    cell = min(at, cells - 2)
    net = group_of(cells, r, strip)
    here = Lead("+", 2 * (cell + 1), None, 0.0)
    there = solve(subject.replace(net, leads=(net.leads[0], here)))
    assert there is not None
    for share, start, toward in ((1.0, cell, cell + 1), (0.0, cell + 1, cell)):
        lead = Lead("+", 2 * start, 2 * toward, share)
        solved = solve(subject.replace(net, leads=(net.leads[0], lead)))
        assert solved is not None
        flow = solved.at(20.0)
        assert flow.balance < 1e-9
        assert flow.power_balance < 1e-9
        assert flow.cell_a == pytest.approx(there.at(20.0).cell_a, rel=1e-9, abs=1e-9)
