"""What each kind of equipment adds to the need."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.loads import Appliance, Rail
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, rungs_in_hand
from lumvak.core.need.demand import demand_of
from lumvak.core.need.motor_speed import no_load_rpm, rolling_kmh
from lumvak.core.need.rails import rail_loads, rails_energy, rails_power
from lumvak.core.spelling import spoken
from tests.amounts import amounts


def codes(evaluation: Evaluation) -> set[str]:
    return {item.code for item in evaluation.findings}


def test_a_wheel_of_one_metre_round() -> None:
    assert no_load_rpm(10.0, 36.0) == 360.0
    # 360 turns a minute of a wheel 1 m round, geared 6 : 1, is 1 m/s.
    assert rolling_kmh(360.0, 1000.0 / math.pi, 6.0) == pytest.approx(3.6)


def test_rails_by_hand() -> None:
    need = Need(
        kind="portable",
        load_basis="rails",
        endurance_basis="appliances",
        rails=(
            Rail(name="9 V", volts=9.0, efficiency=0.75),
            Rail(name="mains", volts=230.0, kind="inverter", idle_w=6.0),
            Rail(name="pack", volts=12.8, kind="direct"),
        ),
        appliances=(
            Appliance(name="radio", rail="9 V", amount=0.5, unit="A", hours=4.0),
            Appliance(name="kettle", rail="mains", amount=170.0, hours=0.1),
            Appliance(name="saw", rail="mains", amount=85.0, hours=0.5),
            Appliance(name="lamp", rail="pack", amount=8.0, hours=3.0),
        ),
    )
    radio, mains, pack = rail_loads(need)
    assert radio.taken_w.number == pytest.approx(6.0)
    assert mains.taken_w.number == pytest.approx(255.0 / 0.85 + 6.0)
    assert mains.energy_wh.number == pytest.approx((17.0 + 42.5) / 0.85 + 6.0 * 0.5)
    assert pack.taken_w.number == 8.0
    assert rails_power((radio, mains, pack)).number == pytest.approx(320.0)
    assert rails_energy((radio, mains, pack)).number == pytest.approx(24.0 + 73.0 + 24.0)
    # What nobody said is marked through to the sum; a straight rail assumes nothing.
    assert mains.taken_w.assumed
    assert not radio.taken_w.assumed
    assert not pack.taken_w.assumed
    demand = demand_of(need)
    assert demand.load.power_w == pytest.approx(320.0)
    assert demand.endurance is not None
    assert demand.endurance.unit == "Wh"


@given(
    st.lists(st.tuples(amounts(500.0), amounts(24.0)), min_size=1, max_size=6),
    st.floats(0.5, 1.0),
    amounts(20.0),
)
def test_a_rail_takes_what_it_gives_and_loses(
    items: list[tuple[float, float]], efficiency: float, idle_w: float
) -> None:
    need = Need(
        load_basis="current",
        rails=(Rail(name="r", volts=9.0, efficiency=efficiency, idle_w=idle_w),),
        appliances=tuple(
            Appliance(name=f"a{at}", rail="r", amount=watts, hours=hours)
            for at, (watts, hours) in enumerate(items)
        ),
    )
    (load,) = rail_loads(need)
    out = sum(watts for watts, _ in items)
    assert load.given_w.number == pytest.approx(out)
    assert load.taken_w.number >= out - 1e-9
    assert load.taken_w.number == pytest.approx(out / efficiency + idle_w)
    longest = max(hours for _, hours in items)
    # All on for the longest time would take no less than the hours listed.
    assert load.energy_wh.number <= load.taken_w.number * longest * (1 + 1e-9) + 1e-9


def test_rails_are_refused_by_name() -> None:
    project = with_values(Project(), {"need.kind": "portable"})
    with pytest.raises(ProjectError, match="two are called “5 V”"):
        with_values(project, {"need.rails": ({"name": "5 V", "volts": 5.0},) * 2})
    with pytest.raises(ProjectError, match="“lamp” is fed from “12 V”, which is no rail"):
        with_values(project, {"need.rails": ({"name": "5 V", "volts": 5.0},)})


def test_where_the_old_charger_stopped_is_what_the_tool_survives() -> None:
    need = Need(kind="tool", rated_voltage_v=14.4, nickel_cells=12)
    assert demand_of(need).window.highest.number == pytest.approx(17.4)
    measured = demand_of(replace(need, old_charger_stop_v=16.9)).window.highest
    assert measured.number == 16.9
    assert measured.origin == "assumed"
    assert [part.key for part in measured.inputs] == ["need.old_charger_stop_v"]


def test_a_controller_limits_the_peak() -> None:
    need = Need(current_a=20.0, controller_limit_a=35.0)
    peak = demand_of(need).peak
    assert (peak.value, peak.origin) == (35.0, "assumed")
    assert demand_of(replace(need, peak_current_a=50.0)).peak.value == 50.0
    guessed = replace(need, peak_current_a=50.0, peak_given="estimated")
    assert demand_of(guessed).peak.assumed


def test_kinds_are_judged(barrow: Project, trimmer: Project, catalogue: Catalogue) -> None:
    assert "over-controller" not in codes(evaluate(barrow, catalogue))
    tight = with_values(barrow, {"need.controller_limit_a": 30.0})
    assert "over-controller" in codes(evaluate(tight, catalogue))
    assert "stall-cut" in codes(evaluate(trimmer, catalogue))
    stalled = with_values(trimmer, {"need.stall_current_a": 48.0})
    stage = evaluate(stalled, catalogue).board
    assert stage is not None
    found = codes(evaluate(stalled, catalogue))
    assert ("stall-cut" in found) == (stage.board.stages[0].current_a < 48.0)
    assert not evaluate(trimmer, catalogue).figures["need.stall_current_a"].assumed
    rough = with_values(trimmer, {"need.peak_given": "estimated"})
    assert evaluate(rough, catalogue).figures["need.stall_current_a"].assumed
    guess = with_values(barrow, {"need.peak_given": "estimated"})
    assert "peak-estimated" in codes(evaluate(guess, catalogue))


def test_a_lead_charger_is_known_by_its_cells(catalogue: Catalogue) -> None:
    supply = with_values(
        Project(),
        {
            "need.kind": "supply",
            "need.rated_voltage_v": 12.0,
            "need.current_a": 8.0,
            "need.lead_replaced": True,
            "need.lead_charger": True,
            "need.max_voltage_v": 14.0,
        },
    )
    evaluation = evaluate(supply, catalogue)
    assert evaluation.sized.demand.charger_voltage is not None
    assert evaluation.sized.demand.charger_voltage.number == pytest.approx(14.4)
    assert {"lead-charger", "lead-window"} <= codes(evaluation)
    wide = with_values(supply, {"need.max_voltage_v": 15.0})
    assert "lead-window" not in codes(evaluate(wide, catalogue))


def test_the_ladder_says_the_speed_of_every_count(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    for rung in rungs_in_hand(evaluation):
        if "too high" in spoken(rung.says):
            continue
        # 11 rpm/V over a gear of 4.4 on a wheel of 0.4 m.
        kmh = 11.0 * rung.nominal_v / 4.4 * math.pi * 0.4 * 60.0 / 1000.0
        assert spoken(rung.says).endswith(f"{kmh:.0f} km/h")
    assert evaluation.figures["motion.full_kmh"].number == pytest.approx(
        evaluation.figures["motion.nominal_kmh"].number * 58.8 / 50.4
    )
    bare = with_values(barrow, {"need.wheel_mm": None})
    figures = evaluate(bare, catalogue).figures
    assert "motion.nominal_kmh" not in figures
    assert figures["motion.nominal_rpm"].number == pytest.approx(11.0 * 50.4)
    assert "rpm" in spoken(rungs_in_hand(evaluate(bare, catalogue))[0].says)


def test_listed_appliances_size_the_pack(catalogue: Catalogue) -> None:
    portable = with_values(
        Project(),
        {
            "need.kind": "portable",
            "need.rated_voltage_v": 12.0,
            "need.load_basis": "rails",
            "need.endurance_basis": "appliances",
        },
    )
    evaluation = evaluate(portable, catalogue)
    wanted = evaluation.figures["demand.energy_wh"].number
    assert wanted == pytest.approx((10.0 * 5.0 + 10.0 * 2.0) / 0.9)
    # The pack in hand delivers it, by sizing and by the run.
    assert evaluation.sized.pack.needs["capacity"].number <= evaluation.sized.choice.parallel
    assert evaluation.figures["run.delivered_wh"].number >= wanted * 0.98
    assert evaluation.figures["demand.energy_wh"].assumed
