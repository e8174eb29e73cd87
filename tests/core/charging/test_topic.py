"""Charging as a topic: which charger is in force, what bears the current, its figures."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging.topic import charge_way
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.figure import typed
from lumvak.core.spelling import spoken

CHARGER = {"id": "own", "name": "own", "volts": 58.8, "amps": 6.0}
KEPT = (CHARGER,)


def topic(project: Project, catalogue: Catalogue, **changes: object):  # type: ignore[no-untyped-def]
    given = {key.replace("__", "."): value for key, value in changes.items()}
    return evaluate(with_values(project, given), catalogue).charging


def test_the_charger_in_force_is_picked_else_given_else_bought(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    none = {"need__charger_voltage_v": None, "need__charger_current_a": None}
    bought = topic(even_barrow, catalogue, **none, charging__chargers=(), charging__charger=None)
    assert bought.charger.id == "right"
    assert bought.verdict.kind == "right"
    kept = topic(even_barrow, catalogue, **none, charging__chargers=KEPT, charging__charger=None)
    assert kept.charger.id == "right"
    given = topic(
        even_barrow,
        catalogue,
        need__charger_voltage_v=56.0,
        charging__chargers=KEPT,
        charging__charger=None,
    )
    assert (given.charger.id, given.charger.volts) == ("given", 56.0)
    picked = topic(
        even_barrow,
        catalogue,
        need__charger_voltage_v=56.0,
        charging__chargers=KEPT,
        charging__charger="own",
    )
    assert picked.charger.id == "own"


def test_a_lead_charger_that_stays_is_one_for_lead(catalogue: Catalogue) -> None:
    project = with_values(
        Project(),
        {"need.kind": "supply", "need.lead_charger": True, "need.charger_voltage_v": 28.8},
    )
    assert evaluate(project, catalogue).charging.charger.kind == "lead"


def test_only_what_is_decided_limits_the_current(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    free = topic(even_barrow, catalogue)
    assert {limit.key for limit in free.setting.limits} == {"board.charge_a", "power.connector_a"}
    tied = topic(even_barrow, catalogue, charge_leads__area_mm2=0.5, charging__socket_a=3.0)
    assert "charge_leads.limit_a" in {limit.key for limit in tied.setting.limits}
    assert "charging.socket_a" in {limit.key for limit in tied.setting.limits}
    assert tied.right.amps.number <= 3.0


def test_the_way_adds_up_what_lies_in_it(catalogue: Catalogue) -> None:
    board = catalogue.boards["wicket-14-30"]
    leads = typed("charge_leads.limit_a", "Charge leads carry", 8.0, "A")
    way = charge_way(board, leads, 0.01, None, None, None, 0.005)
    assert way.path_ohm == pytest.approx(0.015 + board.resistance_ohm)
    assert [limit.key for limit in way.limits] == ["board.charge_a", "charge_leads.limit_a"]
    assert charge_way(None, None, 0.01, leads, None, 2.0, 0.0).limits[-1].number == 2.0


def test_figures_lead_to_what_they_are_made_of(even_barrow: Project, catalogue: Catalogue) -> None:
    found = {figure.key: figure for figure in topic(even_barrow, catalogue).figures}
    assert found["charging.usable_ah"].value == pytest.approx(33.6)
    assert found["charging.usable_ah"].assumed
    assert found["charging.stops_share"].value == pytest.approx(1.0, abs=0.01)
    assert {"charging.amps_a", "charging.end_a", "charging.even_h", "charging.kept_ah"} <= set(
        found
    )


def test_a_ceiling_over_the_cell_s_own_is_not_charged_to(
    even_barrow: Project, catalogue: Catalogue
) -> None:
    found = topic(even_barrow, catalogue, pack__ceiling_v=4.5)
    assert found.right.volts.number == pytest.approx(58.8)
    assert "accepted: up to 4.2 V" in spoken(found.window_problem)
    assert found.verdict.kind == "right"
