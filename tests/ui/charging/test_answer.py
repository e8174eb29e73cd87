"""The answer of the stage stands in the build line."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES


def test_the_stage_stands_after_the_power_path(window: Window) -> None:
    keys = [stage.key for stage in STAGES]
    assert keys.index("charging") == keys.index("power") + 1
    stage = next(item for item in STAGES if item.key == "charging")
    assert stage.part == "on paper"
    assert "58.8 V" in stage.answer(window.session.evaluation)
