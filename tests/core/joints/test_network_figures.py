"""What the solve gives as figures, held against Kirchhoff and Joule."""

import numpy as np
import pytest

from lumvak.core.evaluation import Evaluation


def test_losses_and_currents_balance(evaluation: Evaluation) -> None:
    joined_pack = evaluation.laid_out.joined_pack
    flow, network = joined_pack.flow, evaluation.laid_out.network
    assert flow is not None and network is not None and joined_pack.sections is not None
    figures = {item.key: item for item in network.every}
    current = evaluation.sized.pack.current.number
    groups = flow.cell_a.reshape(joined_pack.layout.series, -1)
    assert np.allclose(groups.sum(axis=1), current)
    ohm = joined_pack.sections.ohm / joined_pack.sections.strips
    # Of pieces that a lead cuts each part has its own current.
    assert figures["network.piece_w"].number == pytest.approx(float(flow.piece_w.sum()))
    assert figures["network.piece_w"].number == pytest.approx(
        float((flow.piece_a**2 * ohm).sum()), rel=0.05
    )
    fair = current / evaluation.sized.choice.parallel
    assert network.busiest_cell.number == pytest.approx(float(groups.max()))
    assert network.excess.number == pytest.approx(groups.max() / fair - 1.0, abs=1e-6)
    assert network.joint_ohm.number == pytest.approx(
        network.effective_ohm.number - joined_pack.cells_ohm
    )


def test_no_limit_of_a_joint_is_over_that_of_its_busiest_piece(evaluation: Evaluation) -> None:
    joined_pack, network = evaluation.laid_out.joined_pack, evaluation.laid_out.network
    assert network is not None and joined_pack.carried is not None
    least = float(np.nanmin(joined_pack.carried.pack_limit_a))
    limits = [item.number for item in network.limits.values() if item.value is not None]
    takes = [] if network.takeoff_limit is None else [network.takeoff_limit.number]
    assert min(*limits, *takes) == pytest.approx(least)
