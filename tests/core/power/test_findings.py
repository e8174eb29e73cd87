"""Each failure of leads, contacts and starts has its own code, and goes when cured."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from tests.core.power.failures import Failure, codes, each, told_and_cured

FAILURES: tuple[Failure, ...] = (
    ("leads-limit", "barrow", {"leads.wire": "withy-20"}, {"leads.wire": None}),
    ("leads-set-rating", "cycle", {"joints.group.part": None, "leads.wire": "withy-14",
                                   "power.fuse": "ember-h-50", "power.connector": "clasp-60"},
     {"leads.wire": "withy-10"}),
    ("charge-leads-limit", "kayak", {"charge_leads.wire": "withy-24"},
     {"charge_leads.wire": None}),
    ("connector-continuous", "barrow", {"power.connector": "clasp-15"},
     {"power.connector": "clasp-45"}),
    ("connector-set-rating", "cycle", {"joints.group.part": None, "power.fuse": "ember-h-50",
                                       "power.connector": "clasp-30", "leads.wire": "withy-10",
                                       "protection.board": "wicket-13-60"},
     {"power.connector": "clasp-60"}),
    ("switch-continuous", "barrow", {"power.switch": "throw-20"}, {"power.switch": "stile-32"}),
    ("spark", "barrow", {"power.capacitance_uf": 2000.0}, {"power.precharge": "stair-22"}),
    ("spark", "barrow", {}, {"power.connector": "clasp-60-s"}),
    ("precharge-energy", "barrow", {"power.precharge": "foothold-5.6",
                                    "power.capacitance_uf": 5000.0},
     {"power.precharge": "stair-22"}),
    ("surge-cools", "trimmer", {"power.surge": "moor-0.3", "start.pause_s": 5.0},
     {"start.pause_s": 600.0}),
    ("balance-leads-unfused", "barrow", {}, {"balance_leads.fuse_a": 3.0}),
)  # fmt: skip


@each(FAILURES)
def test_a_failure_is_told_and_goes_when_it_is_cured(
    failure: Failure, demos: dict[str, Project], catalogue: Catalogue
) -> None:
    found, evaluation = told_and_cured(failure, demos, catalogue)
    if found.code == "spark" and evaluation.power.capacitance.assumed:
        assert found.severity == "note"


def test_over_60_v_the_caution_stands_at_the_step(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    assert "power-over-60-v" not in codes(evaluate(demos["barrow"], catalogue))
    high = with_values(demos["barrow"], {"need.max_voltage_v": 72.0, "pack.series": 16})
    assert "power-over-60-v" in codes(evaluate(high, catalogue))
