"""Rails and what their appliances take."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.loads import Appliance, Rail
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.need.rails import all_rails, appliance_hours, rail_loads, rails_power


def test_hours_of_appliances_are_energy_over_what_they_take(catalogue: Catalogue) -> None:
    project = with_values(
        Project(),
        {"need.kind": "portable", "need.load_basis": "rails", "need.endurance_basis": "appliances"},
    )
    evaluation = evaluate(project, catalogue)
    hours = appliance_hours(
        project.need,
        evaluation.sized.demand.rails,
        evaluation.figures["pack.usable_ah"],
        evaluation.sized.pack.nominal,
    )
    energy = evaluation.figures["pack.usable_ah"].number * evaluation.sized.pack.nominal.number
    lamp = hours[0]
    assert lamp.alone.number == pytest.approx(energy / (10.0 / 0.9))
    taken = sum(load.taken_w.number for load in evaluation.sized.demand.rails)
    assert lamp.together.number == pytest.approx(energy / taken)
    assert lamp.alone.number > lamp.together.number


def test_all_rails_together_are_the_sum_and_its_current(catalogue: Catalogue) -> None:
    need = Need(
        load_basis="rails",
        rails=(
            Rail(name="lamps", volts=12.0, kind="direct", limit_w=40.0),
            Rail(name="sockets", volts=230.0, kind="inverter", efficiency=0.8, idle_w=5.0),
        ),
        appliances=(
            Appliance(name="string", rail="lamps", amount=4.0, unit="A", hours=2.0),
            Appliance(name="pump", rail="sockets", amount=80.0, hours=1.0),
        ),
    )
    lamps, sockets = rail_loads(need)
    assert (lamps.given_w.number, lamps.taken_w.number) == (48.0, 48.0)
    assert lamps.current_a == pytest.approx(4.0)
    assert lamps.overloaded
    assert not sockets.overloaded
    assert sockets.taken_w.number == pytest.approx(80.0 / 0.8 + 5.0)
    assert sockets.energy_wh.number == pytest.approx(105.0)
    watts, amps = all_rails((lamps, sockets), 36.0)
    assert watts == pytest.approx(153.0)
    assert amps == pytest.approx(153.0 / 36.0)
    assert rails_power((lamps, sockets)).number == pytest.approx(watts)
