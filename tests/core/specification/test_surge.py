"""The windows of what limits the first rush, by the textbook's RC circuit."""

import math

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.specification.surge import surge_spec


def test_a_precharge_resistor_by_the_textbook(barrow: Project, catalogue: Catalogue) -> None:
    project = with_values(barrow, {"power.capacitance_uf": 1000.0})
    spec = surge_spec(evaluate(project, catalogue))
    assert spec.of("energy_j").bounds[0] == pytest.approx(0.5 * 1e-3 * 58.8**2)
    assert spec.of("ohm").bounds[1] == pytest.approx(5.0 / 5.0 / 1e-3)


def test_a_thermistor_brings_the_start_just_under_the_level(
    trimmer: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_values(trimmer, {"need.stall_current_a": 120.0}), catalogue)
    window = next(it for it in surge_spec(evaluation).windows if it.case == "thermistor")
    raw, board = evaluation.sized.drawn.raw, evaluation.power.board
    assert board is not None and window.name == "ohm"
    emf = evaluation.sized.pack.full.number
    # By the circuit itself: the surge through the motor and the resistor, after each delay.
    begun = emf / (emf / raw.start_a + window.bounds[0])
    after = [
        (raw.continuous_a + (begun - raw.continuous_a) * math.exp(-delay / raw.tau_s), amps)
        for amps, delay in board.trips
    ]
    assert all(drawn <= amps * (1.0 + 1e-6) for drawn, amps in after)
    assert any(drawn == pytest.approx(amps, rel=1e-6) for drawn, amps in after)


def test_where_nothing_rushes_nothing_is_asked(trimmer: Project, catalogue: Catalogue) -> None:
    project = with_values(trimmer, {"need.stall_current_a": None, "power.capacitance_uf": None})
    spec = surge_spec(evaluate(project, catalogue))
    assert not spec.windows and not spec.needed
