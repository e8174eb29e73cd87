"""A found pack in one line."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.answer import as_found_answer, as_found_begun, audit_of


def test_what_it_gives_and_the_verdict(window: Window) -> None:
    session = window.session
    assert as_found_answer(session.evaluation) == "16.6 A, use within limits"
    session.edit({"as_found.state": None})
    assert as_found_answer(session.evaluation) == "16.6 A, not all seen"
    assert audit_of(session.evaluation) is session.evaluation.as_found.audit
    session.edit({"as_found.begun": False})
    assert as_found_answer(session.evaluation) == "begins from a need"
    assert not as_found_begun(session.evaluation)
    # Of a project from a need nothing is audited unless somebody asks.
    assert session.evaluation.as_found.audit is None
    assert audit_of(session.evaluation).verdict == "recycle"
