from lumvak.core.evaluation import Evaluation
from lumvak.ui.stages.order import STAGES


def test_findings_and_links_name_stages_that_there_are(evaluation: Evaluation) -> None:
    keys = {stage.key for stage in STAGES}
    assert {item.stage for item in evaluation.findings} <= keys
    assert {link.stage for link in evaluation.path.links} <= keys
