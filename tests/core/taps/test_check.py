"""The readings of a project's balance leads, held against its groups."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import made
from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import Meter
from lumvak.core.document.project import Project
from lumvak.core.document.taps import BalanceLeads, TapTotal
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.matched import GroupNow
from lumvak.core.spelling import spoken
from lumvak.core.taps.check import check_of, end_of, lead_said, meter_of
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS


def now(*volts: float) -> tuple[GroupNow, ...]:
    return tuple(
        GroupNow(place, (place,), None, None, value, None) for place, value in enumerate(volts, 1)
    )


def leads(*totals: float | None, **more: object) -> BalanceLeads:
    read = tuple(TapTotal(lead=lead, volts=volts) for lead, volts in enumerate(totals))
    return made(BalanceLeads, {"totals": read, **more})


def test_groups_are_as_measured_else_as_typed_else_as_their_sum_says() -> None:
    measured = check_of(leads(), now(3.6, 3.7, 3.8), 3.65, 3, Meter())
    assert measured.case.groups.tolist() == [3.6, 3.7, 3.8]
    assert measured.level_v == pytest.approx([0.0, 3.6, 7.3, 11.1])
    assert not measured.figures[0].assumed
    shown = check_of(leads(group_v=3.5), (), 3.65, 3, Meter(), (3.6, 3.61, 3.62))
    assert shown.case.groups == pytest.approx([3.6, 3.61, 3.62])
    typed = check_of(leads(group_v=3.5), (), 3.65, 3, Meter())
    assert typed.case.groups.tolist() == [3.5] * 3
    half = check_of(leads(0.0, 3.9), (), 3.65, 3, Meter())
    assert half.case.groups.tolist() == [3.65] * 3
    assert half.figures[0].assumed
    summed = check_of(leads(0.0, 3.9, 7.8, 11.7), (), 3.65, 3, Meter())
    assert summed.case.groups == pytest.approx([3.9] * 3)
    assert summed.verdict is not None
    assert summed.verdict.unproven


def test_a_verdict_is_there_once_all_are_read() -> None:
    some = check_of(leads(0.0, 3.7), now(3.7, 3.7, 3.7), 3.7, 3, Meter())
    assert some.verdict is None
    swapped = check_of(leads(0.0, 7.4, 3.7, 11.1), now(3.7, 3.7, 3.7), 3.7, 3, Meter())
    assert swapped.verdict is not None
    assert swapped.verdict.hypotheses[0].name == "swapped"
    shifted = {"start": "lead 3", "end": "main plus", "volts": 3.7}
    more = leads(0.0, 3.7, 3.7, 7.4, more=(shifted,))
    told = check_of(more, now(3.7, 3.7, 3.7), 3.7, 3, Meter())
    assert told.verdict is not None
    assert [item.name for item in told.verdict.hypotheses] == ["shifted"]
    # Leads that a smaller pack does not have are left out.
    proof = {"start": "lead 0", "end": "lead 1", "volts": 3.7}
    fewer = check_of(leads(0.0, 3.7, 7.4, 11.1, more=(proof,)), now(3.7, 3.7), 3.7, 2, Meter())
    assert fewer.verdict is not None
    assert fewer.verdict.safe


def test_a_board_without_a_lowest_lead_has_main_minus_there() -> None:
    read = BalanceLeads(totals=tuple(TapTotal(lead=lead, volts=3.7 * lead) for lead in (1, 2, 3)))
    groups = now(3.7, 3.7, 3.7)
    assert check_of(read, groups, 3.7, 3, Meter()).verdict is None
    found = check_of(read, groups, 3.7, 3, Meter(), (), True).verdict
    assert found is not None
    assert found.safe
    assert not check_of(BalanceLeads(), groups, 3.7, 3, Meter(), (), True).read


def test_each_reading_says_something_by_itself() -> None:
    check = check_of(leads(0.0, 7.4, None, 9.0), now(3.7, 3.7, 3.7), 3.7, 3, Meter())
    said = [spoken(lead_said(check, lead)) for lead in range(4)]
    assert said[:3] == ["as it should", "as tap 2", "open"]
    assert said[3] == "2.1 V under, as no tap"
    assert spoken(lead_said(check_of(leads(), (), 3.7, 3, Meter()), 1)) == ""
    assert meter_of(Meter()).resolution_v == 0.01


def test_ends_by_their_names() -> None:
    names = ("lead 3", "joint 3", "main minus", "main plus")
    assert [end_of(name) for name in names] == [3, JOINT + 3, MAIN_MINUS, MAIN_PLUS]


def test_what_is_wrong_stops_and_a_board_with_few_inputs_too(
    barrow: Project, catalogue: Catalogue, evaluation: Evaluation
) -> None:
    level = evaluation.balance.check.level_v
    totals = [{"lead": lead, "volts": round(float(volts), 2)} for lead, volts in enumerate(level)]
    read = {"balance_leads.totals": tuple(totals)}
    unproven = evaluate(with_values(barrow, read), catalogue)
    assert [item.severity for item in unproven.findings if item.code == "taps-zero"] == ["note"]
    proof = {"start": "lead 0", "end": "lead 1", "volts": totals[1]["volts"]}
    fine = evaluate(with_values(barrow, {**read, "balance_leads.more": (proof,)}), catalogue)
    assert fine.balance.check.verdict is not None
    assert fine.balance.check.verdict.safe
    assert not [item for item in fine.findings if item.code == "taps-wrong"]
    totals[1]["volts"], totals[2]["volts"] = totals[2]["volts"], totals[1]["volts"]
    wrong = evaluate(with_values(barrow, {"balance_leads.totals": tuple(totals)}), catalogue)
    finding = next(item for item in wrong.findings if item.code == "taps-wrong")
    assert finding.severity == "stop"
    assert spoken(finding.text) == "Do not plug in: Leads 1 and 2 are swapped"
    assert wrong.figures["taps.whole_v"].number == pytest.approx(float(level[-1]), abs=0.1)
