"""What is simulated of a pack where it is looked at."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.charging_in_hand import (
    begun_at,
    charge_in_hand,
    charge_warmth,
    cycles_in_hand,
    full_setting,
    log_in_hand,
    plan_in_hand,
)
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation


@pytest.fixture
def evaluation(barrow: Project, catalogue: Catalogue) -> Evaluation:
    return evaluate(barrow, catalogue)


def test_a_charge_stops_where_the_verdict_says(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    for project in demos.values():
        even = with_values(project, {"charging.groups": (), "watch.sets": (), "hand.placed": ()})
        evaluation = evaluate(even, catalogue)
        found = charge_in_hand(evaluation)
        if found.ended_by in ("charger", "nobody"):
            wanted = evaluation.charging.verdict.stops_share
            assert min(found.stops_share, 1.0) == pytest.approx(wanted, abs=0.01)
        if evaluation.charging.verdict.ended_by == "board":
            assert found.ended_by == "board"


def test_the_band_lies_about_the_charge(evaluation: Evaluation) -> None:
    found = charge_in_hand(evaluation, band=True)
    assert found.band_h is not None
    assert found.band_h[0] < found.hours < found.band_h[1]


def test_groups_begin_as_far_apart_as_they_are(
    evaluation: Evaluation, catalogue: Catalogue
) -> None:
    rows = tuple({"share": 0.5 + 0.01 * place} for place in range(14))
    apart = evaluate(with_values(evaluation.project, {"charging.groups": rows}), catalogue)
    begun = begun_at(apart.charging.now, 0.3)
    assert begun.mean() == pytest.approx(0.3)
    assert np.diff(begun) == pytest.approx(np.full(13, 0.01))


def test_at_the_bottom_the_first_full_group_ends_the_charge(
    evaluation: Evaluation, catalogue: Catalogue
) -> None:
    rows = tuple({"ah": 33.6 if place else 30.0} for place in range(14))
    bottom = evaluate(
        with_values(evaluation.project, {"charging.groups": rows, "charging.at": "bottom"}),
        catalogue,
    )
    assert full_setting(bottom).over_v == pytest.approx(4.2)
    (cycle,) = cycles_in_hand(bottom, 1)
    assert cycle.ended_by == "over"
    assert cycle.usable_ah == pytest.approx(30.0, rel=0.05)


def test_cold_is_that_of_the_need_unless_it_is_said(
    evaluation: Evaluation, catalogue: Catalogue
) -> None:
    assert evaluation.charging.setting.celsius == evaluation.sized.demand.coldest.number
    said = evaluate(with_values(evaluation.project, {"charging.cell_c": 5.0}), catalogue)
    assert charge_warmth(said).ambient_c == 5.0


def test_a_pack_is_cycled_at_its_own_load(evaluation: Evaluation) -> None:
    setting = evaluation.charging.use
    assert setting.load_a == evaluation.sized.pack.current.number
    assert setting.hold_v == evaluation.charging.charger.volts
    found = cycles_in_hand(evaluation, 2)
    assert len(found) == 2
    assert found[0].usable_ah <= evaluation.charging.imbalance.even_ah


def test_plan_and_log_are_of_the_pack(evaluation: Evaluation, catalogue: Catalogue) -> None:
    plan = plan_in_hand(evaluation)
    assert plan.stages[-1].name == "rest"
    rows = (
        {"seconds": 0.0, "volts": 50.0, "amps": 0.0},
        {"seconds": 60.0, "volts": 51.0, "amps": 2.0},
    )
    log = log_in_hand(
        evaluate(with_values(evaluation.project, {"charging.log.rows": rows}), catalogue)
    )
    assert log.taken_ah == pytest.approx(60.0 * 1.0 / 3600.0)


def test_where_nothing_ends_a_charge_that_is_said(
    evaluation: Evaluation, catalogue: Catalogue
) -> None:
    """A charger for nickel on a pack whose board balances alone."""
    nickel = {"id": "n", "name": "n", "kind": "nickel", "volts": 60.0, "amps": 20.0}
    changes = {
        "charging.chargers": (nickel,),
        "charging.charger": "n",
        "protection.board": "yoke-14",
    }
    alone = evaluate(with_values(evaluation.project, changes), catalogue)
    found = charge_in_hand(alone)
    assert found.ended_by == "nobody"
    assert float(found.group_v[-1].max()) == pytest.approx(1.1 * 4.2, abs=1e-3)
