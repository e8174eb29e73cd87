"""The first charge in stages, as rows."""

from msgspec.structs import replace

from lumvak.core.charging_in_hand import plan_in_hand
from lumvak.core.evaluation import Evaluation
from lumvak.ui.stages.charging.plan import NAMES, PLAN, plan_row


def test_every_stage_is_a_row_with_when_to_read(evaluation: Evaluation) -> None:
    plan = plan_in_hand(evaluation)
    assert plan.stages
    for stage in plan.stages:
        row = plan_row(stage, chosen=False)
        assert len(row.cells) == len(PLAN) and row.cells[0] == NAMES[stage.name]
        assert row.cells[4].endswith("min") or row.cells[4].endswith("next day")
    stage = replace(plan.stages[0], amps=0.0, read=(0.0, 5.0, 15.0, 30.0, 60.0, 2000.0))
    row = plan_row(stage, chosen=True)
    assert row.chosen and row.cells[1] == "none"
    assert row.cells[4] == "0, 5, 15, 30 … min, next day"
