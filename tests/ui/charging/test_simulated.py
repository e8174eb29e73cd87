"""Simulations run off the window's thread, and only where they would differ."""

from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.stages.charging.simulated import Simulated
from lumvak.ui.work import Report


def test_the_same_is_not_simulated_twice(session: Session, qtbot: QtBot) -> None:
    ran: list[Evaluation] = []

    def simulate(evaluation: Evaluation, _: Report) -> int:
        ran.append(evaluation)
        return len(ran)

    made = Simulated(simulate)
    with qtbot.waitSignal(made.ready, timeout=5000):
        made.ask(session.evaluation)
        assert made.busy
    made.ask(session.evaluation)
    assert not made.busy
    session.edit({"name": "other"})
    made.ask(session.evaluation)
    assert not made.busy
    with qtbot.waitSignal(made.ready, timeout=5000):
        for share in (0.3, 0.4, 0.5):
            session.edit({"charging.start": share})
            made.ask(session.evaluation)
    # What was asked for in between is not worked out.
    assert [evaluation.project.charging.start for evaluation in ran] == [0.2, 0.5]
    made.end()


def test_what_a_view_hangs_on_besides_is_asked_for(session: Session, qtbot: QtBot) -> None:
    made = Simulated(
        lambda evaluation, _: None, lambda evaluation: evaluation.sized.pack.current.number
    )
    with qtbot.waitSignal(made.ready, timeout=5000):
        made.ask(session.evaluation)
    session.edit({"need.current_a": 21.0})
    made.ask(session.evaluation)
    assert made.busy
    made.cancel()
    assert not made.busy
    made.end()


def test_a_try_waits_for_nothing_and_is_dropped_while_one_runs(
    session: Session, qtbot: QtBot
) -> None:
    made, tried = Simulated(lambda evaluation, _: None), []
    with qtbot.waitSignal(made.ready, timeout=5000):
        made.try_out(lambda _: tried.append(1), session.evaluation)
        made.try_out(lambda _: tried.append(2), session.evaluation)
    assert tried == [1]
    made.end()


def test_what_goes_wrong_is_told(session: Session, qtbot: QtBot) -> None:
    def simulate(_: Evaluation, report: Report) -> int:
        raise RuntimeError("no such thing")

    made = Simulated(simulate)
    with qtbot.waitSignal(made.failed, timeout=5000) as told:
        made.ask(session.evaluation)
    assert told.args == ["RuntimeError: no such thing"]
    made.end()
