"""Cells share the load by their resistances where they sit."""

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.network import over_fair
from lumvak.core.joints.sharing import busiest_over_fair


def test_the_busiest_cell_is_that_of_the_network_as_it_is(evaluation: Evaluation) -> None:
    network, layout, flow = (
        evaluation.laid_out.joined_pack.network,
        evaluation.laid_out.joined_pack.layout,
        evaluation.laid_out.joined_pack.flow,
    )
    assert network is not None
    assert flow is not None
    found = busiest_over_fair(network, layout, {})
    assert found == pytest.approx(float(over_fair(flow, layout.parallel).max()), rel=1e-3)


def test_a_cell_of_half_the_resistance_takes_more(evaluation: Evaluation) -> None:
    network, layout = (
        evaluation.laid_out.joined_pack.network,
        evaluation.laid_out.joined_pack.layout,
    )
    assert network is not None
    before = busiest_over_fair(network, layout, {})
    half = float(network.cell_ohm[0]) / 2.0
    found = busiest_over_fair(network, layout, {"g3c2": half})
    assert before is not None
    assert found is not None
    # Beside six others it takes up to 2 of 8 shares instead of 1 of 7, less for the joints.
    assert before < found < 2.0 * 7.0 / 8.0 - 1.0 + 0.05
