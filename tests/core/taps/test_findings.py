"""What there is to notice about the balance leads."""

import pytest
from msgspec.structs import replace

from lumvak.core.document.hand import Meter
from lumvak.core.evaluation import Evaluation
from lumvak.core.taps.figures import tap_figures
from lumvak.core.taps.findings import balance_topic, tap_findings
from lumvak.core.taps.watch import WatchTopic


@pytest.mark.parametrize(
    ("fuse_a", "series", "told"), [(None, 2, True), (None, 1, False), (0.5, 10, False)]
)
def test_leads_without_a_fuse_are_told_of_where_two_could_touch(
    evaluation: Evaluation, fuse_a: float | None, series: int, told: bool
) -> None:
    leads = replace(evaluation.project.balance_leads, fuse_a=fuse_a)
    tap = tap_figures(
        leads,
        evaluation.laid_out.taps,
        evaluation.laid_out.joined_pack.cells_ohm,
        evaluation.sized.pack.full,
        evaluation.sized.pack.series,
        evaluation.sized.demand.ambient,
    )
    found = tap_findings(leads, tap, series)
    assert [item.code for item in found] == (["balance-leads-unfused"] if told else [])
    topic = balance_topic(leads, tap, None, (), 3.7, series, Meter(), WatchTopic())
    assert topic.findings == found
