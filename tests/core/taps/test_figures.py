"""The balance leads as figures, by Ohm's law and by the heat of a thin wire."""

import math

import pytest

from lumvak.core.evaluation import Evaluation


def test_a_fault_between_the_outer_leads_is_ohms_law(evaluation: Evaluation) -> None:
    tap, taps = evaluation.laid_out.tap, evaluation.laid_out.taps
    area = evaluation.project.balance_leads.area_mm2
    mean_m = float(taps.length_mm.mean()) / 1000.0
    wires = 2.0 * 1.724e-8 * mean_m / (area * 1e-6)
    ohm = wires + evaluation.laid_out.joined_pack.cells_ohm
    assert tap.fault.number == pytest.approx(evaluation.sized.pack.full.number / ohm, rel=0.02)
    # What such a wire takes up before it melts, nothing given off.
    taken = 287.0**2 * area**2 / tap.fault.number**2
    assert tap.melts.number == pytest.approx(taken, rel=0.05)


def test_all_leads_together_are_as_long_as_they_are_apart(evaluation: Evaluation) -> None:
    (whole,) = evaluation.laid_out.tap.length
    lengths = evaluation.laid_out.taps.length_mm
    assert whole.number == pytest.approx(math.fsum(lengths) / 1000.0)
    assert len(lengths) == evaluation.sized.choice.series + 1
