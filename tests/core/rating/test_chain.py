"""What the path holds for how long, what an upgrade buys, and a pack at rest."""

import math
from itertools import pairwise

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.lead_wire import lead_wire, wire_limit_a, wire_options
from lumvak.core.document.edit import with_values
from lumvak.core.document.power import Rest
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation, path_in_hand
from lumvak.core.joints.candidates import layers_name
from lumvak.core.need.rails import appliance_hours
from lumvak.core.power.at_rest import charge_at_rest, shelf_of
from lumvak.core.rating.chain import rating
from lumvak.core.rating.upgrades import upgrades


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_a_shorter_time_never_lowers_what_a_link_holds(
    demo: str, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    seen = evaluate(demos[demo], catalogue)
    for link in seen.links:
        held = [link.limit_a(seconds) for seconds in (9000.0, 100.0, 10.0, 1.0, 0.1)]
        assert held == sorted(held), link.key
        assert held[0] == pytest.approx(link.continuous_a, rel=0.02), link.key
    ratings = [rating(seen.links, seconds) for seconds in (None, 10.0, 1.0)]
    amps = [item.current_a for item in ratings if item is not None]
    assert len(amps) == 3
    assert amps == sorted(amps)
    assert ratings[0] is not None
    assert ratings[0].link is seen.weakest


def test_upgrades_raise_the_weakest_again_and_again(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    seen = evaluate(demos["barrow"], catalogue)
    steps = upgrades(path_in_hand(seen))
    assert steps[0].link == "series-joints"
    assert steps[0].from_a == pytest.approx(20.14, abs=0.01)
    for one, two in pairwise(steps):
        assert two.from_a == pytest.approx(one.to_a)
        assert one.cost is not None
        assert one.cost > 0.0
    # What the first step promises comes true when it is taken.
    taken = evaluate(with_values(seen.project, dict(steps[0].changes)), catalogue)
    assert taken.weakest is not None
    assert taken.weakest.continuous_a == pytest.approx(steps[0].to_a, rel=0.02)


@pytest.mark.parametrize("demo", ["barrow", "trimmer", "kayak", "cycle"])
def test_a_step_is_taken_whole(demo: str, demos: dict[str, Project], catalogue: Catalogue) -> None:
    """Layers go with a strip, and a band typed for the old fuse goes with it."""
    for step in upgrades(path_in_hand(evaluate(demos[demo], catalogue))):
        changes = dict(step.changes)
        if step.link.endswith("-joints"):
            role = step.link.removesuffix("-joints")
            assert step.what.endswith(layers_name(changes[f"joints.{role}.layers"]))
        if "power.fuse" in changes:
            assert changes["power.fuse_band"] == ()
        if changes:
            with_values(demos[demo], changes)


def test_three_schools_of_a_lead_are_the_plain_formulas(
    catalogue: Catalogue, seen: Evaluation
) -> None:
    figures = seen.figures
    area = figures["leads.area_mm2"].number
    assert figures["leads.limit_rule_a"].number == pytest.approx(6.0 * area)
    ohm = figures["leads.resistance_ohm"].number
    assert figures["leads.limit_loss_a"].number == pytest.approx(0.25 / ohm)
    assert figures["leads.drop_v"].number == pytest.approx(22.0 * ohm)
    bundled = evaluate(with_values(seen.project, {"leads.bundled": True,
                                                  "leads.area_mm2": area}), catalogue)  # fmt: skip
    ratio = bundled.figures["leads.limit_a"].number / figures["leads.limit_a"].number
    assert ratio == pytest.approx(math.sqrt(0.5))
    assert bundled.figures["leads.rise_k"].number == pytest.approx(
        2.0 * figures["leads.rise_k"].number
    )


def test_insulation_limits_a_lead_in_the_heat(catalogue: Catalogue, barrow: Project) -> None:
    hot = with_values(barrow, {"need.ambient_c": 50.0, "leads.insulation": "pvc"})
    seen = evaluate(hot, catalogue)
    soft = evaluate(with_values(hot, {"leads.insulation": "silicone"}), catalogue)
    wide = soft.figures["leads.limit_a"].number
    # PVC may be 20 K warmer than 50 °C, the school allows 35 K.
    assert seen.figures["leads.limit_a"].number == pytest.approx(wide * math.sqrt(20.0 / 35.0))


def test_wires_are_listed_as_the_leads_would_be(catalogue: Catalogue, seen: Evaluation) -> None:
    leads = seen.project.leads
    options = wire_options(catalogue.wires.values(), leads, 22.0, 18.0)
    assert [item.serves for item in options] == sorted(
        (item.serves for item in options), reverse=True
    )
    for school in ("temperature", "rule", "loss"):
        own = leads.model_copy(update={"school": school})
        for wire in list(catalogue.wires.values())[::7]:
            demand = seen.demand
            made = lead_wire(own, demand.highest_current, demand.peak, demand.peak_duration,
                             demand.ambient, wire)  # fmt: skip
            assert wire_limit_a(wire, own, demand.ambient.number) == pytest.approx(
                made.limit.number
            )


def test_days_on_the_shelf_are_charge_over_drain(catalogue: Catalogue, seen: Evaluation) -> None:
    cell = seen.choice.cell
    chemistry = catalogue.chemistry_of(cell)
    board = catalogue.boards["wicket-14-30"]
    capacity = seen.figures["pack.capacity_ah"]
    rest = Rest(charge=0.6, meter_ma=10.0, month_loss=0.0)
    shelf = shelf_of(rest, cell, chemistry, 7, capacity, board)
    at_cut = charge_at_rest(chemistry, board.under_voltage_v)
    drain = board.quiescent_a + 0.010
    assert shelf.cut_days.number == pytest.approx((0.6 - at_cut) * capacity.number / drain / 24.0)
    # Once the board has cut off the meter is off too.
    off = board.off_a or 0.0
    left = (at_cut - charge_at_rest(chemistry, cell.voltage_empty_v - 0.5)) * capacity.number
    assert shelf.harm_days.number == pytest.approx(left / off / 24.0)
    nothing = board.model_copy(update={"quiescent_a": 0.0, "off_a": 0.0})
    ever = shelf_of(Rest(month_loss=0.0), cell, chemistry, 7, capacity, nothing)
    assert ever.cut_days.value is None
    curve = chemistry.curve
    assert charge_at_rest(chemistry, curve[0][1]) == pytest.approx(0.0, abs=1e-6)
    assert charge_at_rest(chemistry, curve[0][1] - 0.5) == pytest.approx(-0.02)


def test_hours_of_appliances_are_energy_over_what_they_take(catalogue: Catalogue) -> None:
    project = with_values(Project(), {"need.kind": "portable", "need.load_basis": "rails",
                                      "need.endurance_basis": "appliances"})  # fmt: skip
    seen = evaluate(project, catalogue)
    hours = appliance_hours(
        project.need, seen.demand.rails, seen.figures["pack.usable_ah"], seen.pack.nominal
    )
    energy = seen.figures["pack.usable_ah"].number * seen.pack.nominal.number
    lamp = hours[0]
    assert lamp.alone.number == pytest.approx(energy / (10.0 / 0.9))
    taken = sum(load.taken_w.number for load in seen.demand.rails)
    assert lamp.together.number == pytest.approx(energy / taken)
    assert lamp.alone.number > lamp.together.number
