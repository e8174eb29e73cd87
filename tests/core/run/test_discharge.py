import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.cell_model import FAST_SHARE, SLOW_SHARE
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.document.run import RunSettings
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.run.discharge import Run, discharge
from lumvak.core.run.model import ModelledPack, RunStep
from lumvak.core.run.tolerance import tolerance
from tests.core.sizing.test_usable import straight_cell
from tests.length import so_many


def pack_of(**changes: object) -> ModelledPack:
    catalogue, table = straight_cell()
    (cell,) = catalogue.cell_list
    values: dict[str, object] = {
        "cell": cell,
        "behaviour": table.behaviours[0],
        "series": 10,
        "parallel": 5,
        "capacity_ah": 10.0,
        "path_ohm": 0.01,
        "heat_path_ohm": 0.004,
        "stop_v": 31.0,
        "ambient_c": 25.0,
        "limit_c": 90.0,
        "kelvin_per_watt": 1.0,
        "joule_per_kelvin": 3000.0,
    }
    return ModelledPack(**{**values, **changes})  # type: ignore[arg-type]


def ideal(behaviour: Behaviour) -> Behaviour:
    return replace(behaviour, fast_ohm=1e-9 * FAST_SHARE, slow_ohm=1e-9 * SLOW_SHARE)


def flat(volts: float) -> Behaviour:
    curve = {"rest_charge": np.array([0.0, 1.0]), "rest_v": np.array([volts, volts])}
    return replace(pack_of().behaviour, **curve)


def balance(run: Run) -> float:
    spent = run.delivered_wh + run.cell_loss_wh + run.path_loss_wh
    return spent / run.emf_wh - 1.0


def test_run_time_of_an_ideal_pack_is_charge_over_current() -> None:
    # 10 x (3 + z) V falls to 31 V at a charge of 0.1: 9 Ah at 18 A take half an hour.
    pack = pack_of(behaviour=ideal(pack_of().behaviour), path_ohm=0.0, heat_path_ohm=0.0)
    run = discharge(pack, [RunStep(18.0, None, 3600.0)], 1.0)
    assert run.ended == "low-voltage cut-off"
    assert run.hours == pytest.approx(0.5, abs=1e-6)
    assert run.taken_ah == pytest.approx(9.0, abs=1e-5)
    assert run.delivered_wh == pytest.approx(9.0 * 35.5, rel=1e-6)


def test_charge_is_conserved_and_energy_is_accounted_for() -> None:
    duty = [RunStep(40.0, None, 8.0), RunStep(18.0, None, 40.0), RunStep(0.0, None, 12.0)]
    run = discharge(pack_of(), duty, 1.0)
    passed = float(np.sum(np.diff(run.time_s) * run.amps[1:])) / 3600.0
    assert run.taken_ah == pytest.approx((1.0 - run.charge[-1]) * 10.0, abs=1e-9)
    assert passed == pytest.approx(run.taken_ah, rel=1e-9)
    assert abs(balance(run)) < 1e-6


@given(st.floats(100.0, 1500.0), st.floats(0.0, 600.0), st.floats(0.0, 0.05), st.integers(2, 12))
@settings(max_examples=so_many(8, 25))
def test_energy_balances_for_power_loads_of_all_kinds(
    first: float, second: float, ohm: float, parallel: int
) -> None:
    pack = pack_of(parallel=parallel, path_ohm=ohm, capacity_ah=2.0 * parallel)
    run = discharge(pack, [RunStep(None, first, 20.0), RunStep(None, second, 30.0)], 2.0)
    if run.emf_wh > 0.0:
        assert abs(balance(run)) < 1e-6
    assert np.all(np.diff(run.charge) <= 1e-12)


def test_the_result_does_not_depend_on_the_step() -> None:
    pack, duty = pack_of(), [RunStep(None, 600.0, 60.0), RunStep(None, 150.0, 60.0)]
    runs = [discharge(pack, duty, size) for size in (20.0, 10.0, 5.0, 0.5)]
    exact = runs[-1]
    for coarse, fine in pairwise(runs[:-1]):
        assert abs(fine.hours - exact.hours) <= abs(coarse.hours - exact.hours) + 1e-6
    assert runs[0].hours == pytest.approx(exact.hours, rel=1e-3)
    assert runs[2].hours == pytest.approx(exact.hours, rel=1e-4)
    assert runs[2].temperature_c[-1] == pytest.approx(exact.temperature_c[-1], abs=0.02)


def test_the_voltage_after_a_step_follows_the_two_branches() -> None:
    # At half charge and 25 degC, held warm by a large heat capacity, on a flat curve.
    pack = pack_of(behaviour=flat(3.5), path_ohm=0.0, joule_per_kelvin=1e12, capacity_ah=1e6)
    run = discharge(pack, [RunStep(20.0, None, 100.0)], 0.5, charge=0.5, longest_s=100.0)
    assert run.ended == "time is up"
    fast, slow, each = 0.650 * 0.02, SLOW_SHARE * 0.02, 4.0
    for seconds in (1.0, 10.0, 50.0, 100.0):
        sag = each * (fast + slow * (1.0 - math.exp(-seconds / 17.5)))
        at = float(np.interp(seconds, run.time_s, run.volts))
        assert at == pytest.approx(10.0 * (3.5 - sag), abs=1e-6)


def test_temperature_follows_the_closed_form_and_may_end_the_run() -> None:
    pack = pack_of(
        behaviour=ideal(flat(3.8)),
        path_ohm=0.1,
        heat_path_ohm=0.1,
        capacity_ah=1e5,
    )
    run = discharge(pack, [RunStep(20.0, None, 600.0)], 5.0, longest_s=1800.0)
    closed = 25.0 + 40.0 * (1.0 - math.exp(-1800.0 / 3000.0))
    assert run.temperature_c[-1] == pytest.approx(closed, abs=1e-3)
    hot = discharge(
        pack_of(
            behaviour=pack.behaviour,
            path_ohm=0.1,
            heat_path_ohm=0.1,
            capacity_ah=1e5,
            limit_c=40.0,
        ),
        [RunStep(20.0, None, 600.0)],
        5.0,
    )
    assert hot.ended == "too warm"
    assert hot.time_s[-1] == pytest.approx(-3000.0 * math.log(1.0 - 15.0 / 40.0), rel=1e-4)


def test_what_ends_a_run_is_named() -> None:
    assert discharge(pack_of(stop_v=5.0), [RunStep(20.0, None, 60.0)], 5.0).ended == "empty cell"
    early = discharge(pack_of(stop_v=39.0), [RunStep(60.0, None, 60.0)], 1.0)
    assert early.ended == "low-voltage cut-off"
    weak = discharge(pack_of(path_ohm=0.5, stop_v=5.0), [RunStep(None, 1000.0, 60.0)], 1.0)
    assert weak.ended == "power not to be had"
    assert weak.hours < 0.01


@pytest.mark.parametrize("duty", [[], [RunStep(1.0, None, 0.0)]])
def test_a_duty_without_time_is_refused(duty: list[RunStep]) -> None:
    with pytest.raises(ValueError, match="more than 0 s"):
        discharge(pack_of(), duty, 1.0)


def test_the_run_of_the_demo_agrees_with_sizing_within_reason(evaluation: Evaluation) -> None:
    run = evaluation.run.run
    assert run.ended == "low-voltage cut-off"
    assert run.hours == pytest.approx(evaluation.figures["pack.runtime_h"].number, rel=0.035)
    assert run.volts[-1] == pytest.approx(36.0, abs=0.05)
    assert run.temperature_c[-1] == pytest.approx(
        evaluation.figures["heat.temperature_end_c"].number, abs=6.0
    )
    assert abs(balance(run)) < 1e-6


def test_what_ends_a_run_is_a_finding(barrow: Project, catalogue: Catalogue) -> None:
    def codes(changes: dict[str, object]) -> set[str]:
        return {item.code for item in evaluate(with_values(barrow, changes), catalogue).findings}

    assert "too-warm" in codes({"pack.temperature_limit_c": 25.0})
    assert "peak-stops" in codes({"need.peak_current_a": 160.0})
    heavy = {"need.load_basis": "power", "need.power_w": 25000.0, "need.stop_voltage_v": 2.0}
    assert "power-not-to-be-had" in codes(heavy)
    assert not {"too-warm", "peak-stops", "power-not-to-be-had"} & codes({})


@pytest.mark.parametrize(("amps", "hours"), [(1.0, 80.0), (0.2, 400.0), (22.0, 1.0)])
def test_no_run_is_cut_however_long(catalogue: Catalogue, amps: float, hours: float) -> None:
    need = {
        "need.kind": "supply",
        "need.rated_voltage_v": 12.0,
        "need.current_a": amps,
        "need.runtime_h": hours,
    }
    evaluation = evaluate(with_values(Project(), need), catalogue)
    run, expected = evaluation.run.run, evaluation.figures["pack.runtime_h"].number
    assert run.ended != "time is up"
    assert run.hours == pytest.approx(expected, rel=0.02)
    assert run.hours > hours
    assert len(run.time_s) < 400
    drawn = tolerance(
        evaluation.sized.sized_pack, evaluation.run.pack, expected, RunSettings(draws=200)
    )
    assert drawn.chance is not None and drawn.chance > 0.4
    low, middle, high = drawn.run_band_h()
    assert low < middle < high
    assert middle == pytest.approx(run.hours, rel=0.03)


def test_a_steady_load_for_ever_takes_no_more_room_than_its_run() -> None:
    pack = pack_of()
    short, ever = (discharge(pack, [RunStep(18.0, None, span)], 20.0) for span in (600.0, 1e12))
    assert ever.hours == pytest.approx(short.hours, rel=1e-6)
    assert len(ever.time_s) < 200
