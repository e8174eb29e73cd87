"""Each common failure of the power path has its own code, and goes when the right thing changes."""

from typing import Any

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation


def codes(seen: Evaluation) -> set[str]:
    return {item.code for item in seen.findings if item.stage == "power"}


FAILURES: tuple[tuple[str, str, dict[str, Any], dict[str, Any]], ...] = (
    # Code, demo, what brings it about, what cures it.
    ("board-start", "trimmer", {}, {"power.surge": "moor-0.08"}),
    ("board-start", "trimmer", {}, {"protection.board": "wicket-5-30"}),
    ("board-start", "trimmer", {}, {"start.spin_up_s": 0.3}),
    ("board-peak", "barrow", {"need.peak_current_a": 70.0, "protection.board": "wicket-14-30"},
     {"protection.board": "wicket-14-45"}),
    ("board-continuous", "barrow", {"need.current_a": 33.0, "protection.board": "wicket-14-30"},
     {"protection.board": None}),
    ("board-feeds", "barrow", {"protection.board": "gate-14-60-two-port", "protection.feeds": True},
     {"protection.feeds": False}),
    ("board-kind", "trimmer", {"protection.board": "turnpike-5"}, {"protection.board": None}),
    ("fuse-load", "barrow", {"power.fuse": "flint-20"}, {"power.fuse": None}),
    ("fuse-melts", "trimmer", {"power.fuse": "ember-15"}, {"power.fuse": None}),
    ("fuse-never", "trimmer", {"power.fuse": "cinder-200"}, {"power.fuse": None}),
    ("fuse-breaking", "kayak", {"power.fuse": "ember-h-60"}, {"power.fuse": "flint-40"}),
    ("fuse-voltage", "barrow", {"power.fuse": "ember-40"}, {"power.fuse": None}),
    ("fuse-wire", "barrow", {"power.fuse": "flint-63"}, {"leads.wire": "withy-6"}),
    ("no-fuse", "barrow", {"power.fuse": "none"}, {"power.fuse": None}),
    ("no-charge-fuse", "barrow", {"power.charge_fuse": "none"}, {"power.charge_fuse": None}),
    ("fuse-late", "barrow", {"power.fuse_place": "output"}, {"power.fuse_place": "cells"}),
    ("leads-limit", "barrow", {"leads.wire": "withy-20"}, {"leads.wire": None}),
    ("leads-set-rating", "cycle", {"joints.group.part": None, "leads.wire": "withy-14",
                                   "power.fuse": "ember-h-50", "power.connector": "clasp-60"},
     {"leads.wire": "withy-10"}),
    ("charge-leads-limit", "kayak", {"charge_leads.wire": "withy-24"},
     {"charge_leads.wire": None}),
    ("connector-continuous", "barrow", {"power.connector": "clasp-15"},
     {"power.connector": "clasp-45"}),
    ("connector-set-rating", "cycle", {"joints.group.part": None, "power.fuse": "ember-h-50",
                                       "power.connector": "clasp-30"},
     {"power.connector": "clasp-60"}),
    ("switch-continuous", "barrow", {"power.switch": "throw-20"}, {"power.switch": "stile-32"}),
    ("spark", "barrow", {"power.capacitance_uf": 2000.0}, {"power.precharge": "stair-22"}),
    ("spark", "barrow", {}, {"power.connector": "clasp-60-s"}),
    ("precharge-energy", "barrow", {"power.precharge": "foothold-5.6",
                                    "power.capacitance_uf": 5000.0},
     {"power.precharge": "stair-22"}),
    ("surge-cools", "trimmer", {"power.surge": "moor-0.3", "start.pause_s": 5.0},
     {"start.pause_s": 600.0}),
    ("shelf-cuts", "barrow", {"rest.meter_ma": 20.0}, {"rest.meter_ma": 0.0}),
    ("shelf-flat", "trimmer", {"rest.meter_ma": 8.0, "rest.days": 90.0}, {"rest.days": 20.0}),
    ("balance-leads-unfused", "barrow", {}, {"balance_leads.fuse_a": 3.0}),
)  # fmt: skip


@pytest.mark.parametrize(
    ("code", "demo", "cause", "cure"), FAILURES, ids=[f"{item[0]} {item[1]}" for item in FAILURES]
)
def test_a_failure_is_told_and_goes_when_it_is_cured(
    code: str,
    demo: str,
    cause: dict[str, Any],
    cure: dict[str, Any],
    demos: dict[str, Project],
    catalogue: Catalogue,
) -> None:
    project = with_values(demos[demo], cause)
    seen = evaluate(project, catalogue)
    assert code in codes(seen)
    found = next(item for item in seen.findings if item.code == code)
    assert found.text
    assert found.why
    assert found.do
    cured = evaluate(with_values(project, cure), catalogue)
    if code == "spark" and seen.power.capacitance.assumed:
        assert found.severity == "note"
    assert code not in codes(cured)


def test_a_board_with_three_for_two_contacts_is_told(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    made = catalogue.boards["wicket-5-30"].model_copy(update={"id": "own", "ports": 2})
    parts = demos["trimmer"].parts.model_copy(update={"boards": (made,)})
    project = demos["trimmer"].model_copy(update={"parts": parts})
    project = with_values(project, {"protection.board": "own"})
    assert "board-ports" in codes(evaluate(project, catalogue))
    three = with_values(project, {"need.contacts": 3})
    assert "board-ports" not in codes(evaluate(three, catalogue))


def test_over_60_v_the_caution_stands_at_the_step(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    assert "power-over-60-v" not in codes(evaluate(demos["barrow"], catalogue))
    high = with_values(demos["barrow"], {"need.max_voltage_v": 72.0, "pack.series": 16})
    assert "power-over-60-v" in codes(evaluate(high, catalogue))


def test_a_rail_overloads_its_fuse(catalogue: Catalogue) -> None:
    rails = ({"name": "12 V", "volts": 12.0, "fuse_a": 5.0},)
    loads = ({"name": "pump", "rail": "12 V", "amount": 4.5, "unit": "A", "hours": 1.0},)
    project = with_values(
        Project(),
        {"need.kind": "portable", "need.load_basis": "rails", "need.rails": rails,
         "need.appliances": loads},
    )  # fmt: skip
    seen = evaluate(project, catalogue)
    found = next(item for item in seen.findings if item.code == "rail-fuse")
    assert found.severity == "warn"
    assert "5.62 A" in found.do
    bare = with_values(project, {"need.rails": ({"name": "12 V", "volts": 12.0},)})
    assert "rail-unfused" in codes(evaluate(bare, catalogue))
