"""Lead wires by the plain formulas."""

import math

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.lead_wire import WireLoad, lead_wire, wire_limit_a, wire_options
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation


def test_three_schools_of_a_lead_are_the_plain_formulas(
    catalogue: Catalogue, evaluation: Evaluation
) -> None:
    figures = evaluation.figures
    area = figures["leads.area_mm2"].number
    assert figures["leads.limit_rule_a"].number == pytest.approx(6.0 * area)
    ohm = figures["leads.resistance_ohm"].number
    assert figures["leads.limit_loss_a"].number == pytest.approx(0.25 / ohm)
    assert figures["leads.drop_v"].number == pytest.approx(22.0 * ohm)
    bundled = evaluate(
        with_values(evaluation.project, {"leads.bundled": True, "leads.area_mm2": area}), catalogue
    )
    ratio = bundled.figures["leads.limit_a"].number / figures["leads.limit_a"].number
    assert ratio == pytest.approx(math.sqrt(0.5))
    assert bundled.figures["leads.rise_k"].number == pytest.approx(
        2.0 * figures["leads.rise_k"].number
    )


def test_insulation_limits_a_lead_in_the_heat(catalogue: Catalogue, barrow: Project) -> None:
    hot = with_values(
        barrow, {"need.ambient_c": 50.0, "leads.insulation": "pvc", "leads.area_mm2": 3.3}
    )
    evaluation = evaluate(hot, catalogue)
    soft = evaluate(with_values(hot, {"leads.insulation": "silicone"}), catalogue)
    wide = soft.figures["leads.limit_a"].number
    # PVC may be 20 K warmer than 50 °C, the school allows 35 K.
    assert evaluation.figures["leads.limit_a"].number == pytest.approx(
        wide * math.sqrt(20.0 / 35.0)
    )


def test_wires_are_listed_as_the_leads_would_be(
    catalogue: Catalogue, evaluation: Evaluation
) -> None:
    leads = evaluation.project.leads
    options = wire_options(catalogue.wires.values(), leads, 22.0, 18.0)
    assert [item.serves for item in options] == sorted(
        (item.serves for item in options), reverse=True
    )
    for school in ("temperature", "rule", "loss"):
        own = replace(leads, school=school)
        for wire in list(catalogue.wires.values())[::7]:
            demand = evaluation.sized.demand
            load = WireLoad(demand.highest_current, demand.peak, demand.peak_duration)
            made = lead_wire(own, load, demand.ambient, wire)
            assert wire_limit_a(wire, own, demand.ambient.number) == pytest.approx(
                made.limit.number
            )
