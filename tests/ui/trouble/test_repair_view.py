"""The plan in the window."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.trouble.repair_view import RepairView
from tests.ui.trouble.conftest import trouble


def test_the_plan_follows_the_likeliest_cause(window: Window) -> None:
    view = trouble(window, "repair").views["repair"]
    assert isinstance(view, RepairView)
    assert "half on" in view.cause.text() and "What fits this pack" in view.steps.text()
    assert "Then again in Prove: Sleeping BMS" in view.tests.text()
    assert "not sure yet" in view.by.text()
    window.session.edit({"trouble.complaint": None})
    assert view.waits.isVisible() and not view.steps.isVisible()
