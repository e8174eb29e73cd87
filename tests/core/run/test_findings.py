"""What there is to notice about a run, by how it ended."""

import pytest
from msgspec.structs import replace

from lumvak.core.evaluation import Evaluation
from lumvak.core.run.figures import RunResult
from lumvak.core.run.findings import PEAK_CHARGE, run_findings


def codes(result: RunResult, evaluation: Evaluation, peak_given: bool = True) -> list[str]:
    return [item.code for item in run_findings(result, evaluation.sized.demand, peak_given, 60.0)]


@pytest.mark.parametrize(
    ("ended", "told"),
    [
        ("power not to be had", ["power-not-to-be-had"]),
        ("too warm", ["too-warm"]),
        ("low-voltage cut-off", []),
    ],
)
def test_how_a_run_ended_is_told_where_it_should_not_have(
    evaluation: Evaluation, ended: str, told: list[str]
) -> None:
    quiet = replace(evaluation.run, peak_from=0.0)
    run = replace(quiet.run, ended=ended)
    result = replace(quiet, run=run, warm=run)
    assert codes(result, evaluation) == [*told, "first-run"]


def test_a_peak_that_stops_it_is_told_only_where_one_was_given(evaluation: Evaluation) -> None:
    calm = replace(evaluation.run, run=replace(evaluation.run.run, ended="low-voltage cut-off"))
    for charge, told in ((PEAK_CHARGE, False), (PEAK_CHARGE + 0.01, True)):
        result = replace(calm, peak_from=charge)
        assert ("peak-stops" in codes(result, evaluation)) == told
        assert "peak-stops" not in codes(result, evaluation, peak_given=False)
