"""The pack as sums of its cells, and what its voltage does under load."""

import pytest

from lumvak.core.evaluation import Evaluation


def test_sums_are_those_of_the_cells(evaluation: Evaluation) -> None:
    figures, choice = evaluation.figures, evaluation.sized.choice
    cell, count = choice.cell, choice.series * choice.parallel
    assert figures["pack.cell_count"].value == count
    least_ah = cell.capacity_min_ah or cell.capacity_typical_ah
    assert figures["pack.capacity_ah"].number == pytest.approx(choice.parallel * least_ah, rel=0.06)
    energy = choice.series * cell.voltage_nominal_v * figures["pack.capacity_ah"].number
    assert figures["pack.energy_wh"].number == pytest.approx(energy)
    assert figures["pack.mass_kg"].number == pytest.approx(count * cell.mass_g / 1000.0)


def test_the_end_voltage_is_rest_less_what_the_load_drops(evaluation: Evaluation) -> None:
    figures, choice = evaluation.figures, evaluation.sized.choice
    rest = choice.series * figures["cell.rest_end_v"].number
    ohm = choice.series / choice.parallel * figures["cell.resistance_end_ohm"].number
    ohm += figures["path.resistance_ohm"].number
    current = figures["demand.end_current_a"].number
    assert figures["pack.end_voltage_v"].number == pytest.approx(rest - current * ohm)
    per_cell = figures["pack.current_per_cell_a"].number
    assert per_cell == pytest.approx(current / choice.parallel)
