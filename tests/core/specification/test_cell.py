"""The windows of a cell: at their tight side the need asks for just the count there is."""

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.cell import cell_spec


def test_each_need_at_its_tight_side_asks_for_just_the_count(evaluation: Evaluation) -> None:
    spec, pack = cell_spec(evaluation), evaluation.sized.pack
    cell = evaluation.sized.choice.cell
    # Currents and charge by division alone.
    assert spec.of("pulse_a").bounds[0] == pytest.approx(46.0 / 7.0)
    assert spec.of("charge_max_a").bounds[0] == pytest.approx(4.0 / 7.0)
    assert spec.of("continuous_a").bounds[0] == pytest.approx(22.0 / 0.8 / 7.0)
    wanted = 22.0 * 1.25
    usable = evaluation.figures["pack.usable_fraction"].number
    assert spec.of("capacity_min_ah").bounds[0] == pytest.approx(wanted / usable / 0.92 / 7.0)
    assert spec.of("voltage_full_v").bounds[1] == pytest.approx(60.0 / 14.0)
    assert spec.quantity == 98.0
    # The one in force lies in all of them.
    assert cell.capacity_min_ah is not None
    assert spec.of("capacity_min_ah").takes(cell.capacity_min_ah)
    assert spec.of("continuous_a").takes(cell.continuous_a)
    assert spec.of("resistance_dc_ohm").takes(pack.resistance.number)
