"""Nodes of the network by name, and the volts at them."""

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.node_names import node_names, node_voltages


def test_volts_rise_from_0_to_the_pack_through_every_group(evaluation: Evaluation) -> None:
    joined_pack = evaluation.laid_out.joined_pack
    names, volts = node_names(joined_pack), node_voltages(joined_pack)
    assert len(set(names.node)) == len(names.node) and names.node[-2:] == ("pack", "0")
    assert volts["0"] == 0.0
    series = evaluation.sized.choice.series
    means = [(volts[f"g{group}c1p"] + volts[f"g{group}c1n"]) / 2 for group in range(1, series + 1)]
    assert means == sorted(means) and means[0] > 0.0 and means[-1] < volts["pack"]
    current = evaluation.sized.pack.current.number
    ohm = evaluation.figures["network.effective_ohm"].number + evaluation.sized.wire.ohm.number
    lost = current * ohm
    # Kirchhoff: what all cells give, less what is lost on the way, is the pack's voltage.
    emf = sum(volts[f"g{group}c1e"] - volts[f"g{group}c1n"] for group in range(1, series + 1))
    assert volts["pack"] == pytest.approx(emf - lost, rel=1e-3)
