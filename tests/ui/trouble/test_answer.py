"""Trouble in one line, worked out once."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.trouble.answer import Found, trouble_answer


def test_complaint_and_readings(window: Window) -> None:
    session = window.session
    assert trouble_answer(session.evaluation) == "jumps, 3 readings"
    found = Found()
    assert found.of(session.evaluation) is found.of(session.evaluation)
    session.edit({"trouble.readings": session.project.trouble.readings[:1]})
    assert trouble_answer(session.evaluation) == "jumps, 1 reading"
    session.edit({"trouble.complaint": None})
    assert trouble_answer(session.evaluation) == "no complaint"
    assert found.of(session.evaluation) is None
