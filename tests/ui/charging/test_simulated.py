"""Simulations run off the window's thread, and only where they would differ."""

from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.stages.charging.simulated import Simulated


def test_the_same_is_not_simulated_twice(session: Session, qtbot: QtBot) -> None:
    ran: list[Evaluation] = []

    def simulate(seen: Evaluation) -> int:
        ran.append(seen)
        return len(ran)

    made = Simulated(simulate)
    with qtbot.waitSignal(made.ready, timeout=5000):
        assert made.ask(session.evaluation)
    assert not made.ask(session.evaluation)
    session.edit({"name": "other"})
    assert not made.ask(session.evaluation)
    session.edit({"charging.start": 0.4})
    with qtbot.waitSignal(made.ready, timeout=5000):
        assert made.ask(session.evaluation)
    assert len(ran) == 2
    made.work.end()


def test_what_goes_wrong_is_told(session: Session, qtbot: QtBot) -> None:
    def simulate(_: Evaluation) -> int:
        raise RuntimeError("no such thing")

    made = Simulated(simulate)
    with qtbot.waitSignal(made.failed, timeout=5000) as told:
        made.ask(session.evaluation)
    assert told.args == ["RuntimeError: no such thing"]
    made.work.end()
