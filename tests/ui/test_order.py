from lumvak.core.evaluation import Evaluation
from lumvak.ui.handbook.pages import page_text
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES


def test_every_stage_answers_opens_and_has_its_page_in_the_handbook(
    window: Window, evaluation: Evaluation
) -> None:
    keys = [stage.key for stage in STAGES]
    assert len(set(keys)) == len(keys)
    for stage in STAGES:
        answer = stage.answer(evaluation)
        assert answer
        assert "\n" not in answer
        assert page_text(stage.key).startswith("# ")
        window.open_stage(stage.key)
        assert window.stage == stage.key
        assert window.stack.currentWidget() is window.stages[stage.key]
        assert stage.answer(window.session.evaluation) in {
            entry.answer for entry in window.build_line.entries
        }


def test_findings_and_links_name_stages_that_there_are(evaluation: Evaluation) -> None:
    keys = {stage.key for stage in STAGES}
    assert {item.stage for item in evaluation.findings} <= keys
    assert {link.stage for link in evaluation.path.links} <= keys
