"""How warm packs get in the cold."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.sizing.packs import one_pack
from lumvak.core.spelling import spoken


def test_a_larger_load_warms_a_cold_pack_more_and_a_larger_pack_less(
    barrow: Project, catalogue: Catalogue
) -> None:
    rises = []
    for amps in (10.0, 20.0, 40.0):
        asked = {"need.coldest_c": -5.0, "need.ambient_c": 20.0, "need.current_a": amps}
        cold = with_values(barrow, {**asked, "need.peak_current_a": None})
        sized_pack = evaluate(cold, catalogue).sized.sized_pack
        of_count = [
            float(
                one_pack(
                    sized_pack.table, sized_pack.choice.row, 14, count, sized_pack.terms
                ).cold_rise_k[0]
            )
            for count in (4, 8, 16)
        ]
        assert of_count == sorted(of_count, reverse=True)
        rises.append(of_count[0])
    assert rises == sorted(rises)


def test_what_the_run_warms_is_a_figure(barrow: Project, catalogue: Catalogue) -> None:
    cold = evaluate(with_values(barrow, {"need.coldest_c": -5.0}), catalogue)
    figure = cold.figures["heat.cold_end_c"]
    assert -5.0 < figure.number <= 25.0
    steady = cold.figures["cell.resistance_steady_ohm"]
    assert figure.key in {part.key for factor in steady.inputs for part in factor.inputs}
    room = evaluate(
        with_values(barrow, {"need.coldest_c": 25.0, "need.ambient_c": 30.0}), catalogue
    )
    assert room.figures["heat.cold_end_c"].number == 25.0


def test_a_start_too_weak_that_warms_itself_is_told(catalogue: Catalogue) -> None:
    need = {
        "need.kind": "tool",
        "need.rated_voltage_v": 14.4,
        "need.current_a": 24.0,
        "need.endurance_basis": "capacity",
        "need.capacity_ah": 1.5,
        "need.coldest_c": -10.0,
        "need.ambient_c": 5.0,
        "pack.cell": "ostrel-18-34",
        "pack.series": 4,
        "pack.parallel": 1,
    }
    evaluation = evaluate(with_values(Project(), need), catalogue)
    told = {item.code: item for item in evaluation.findings}
    packs, row = evaluation.sized.sized_pack.packs, evaluation.sized.choice.row
    table, terms = evaluation.sized.sized_pack.table, evaluation.sized.sized_pack.terms
    ohm = table.steady_ohm[row] * terms.ohm_factor[row]
    ohm *= float(table.shape_at(np.array([row]), 1.0)[0])
    volts = 4 * (float(table.ocv_at(np.array([row]), 1.0)[0]) - 24.0 * ohm)
    volts -= 24.0 * float(packs.outside_ohm[0])
    assert volts < 4 * 2.5
    assert f"{volts:.3g} V under load" in spoken(told["starts-weak"].text)
    warm = evaluate(
        with_values(Project(), {**need, "need.coldest_c": 24.0, "need.ambient_c": 25.0}), catalogue
    )
    assert "starts-weak" not in {item.code for item in warm.findings}
    assert evaluation.figures["pack.usable_fraction"].number == pytest.approx(
        float(evaluation.sized.sized_pack.worked.usable[0])
    )
