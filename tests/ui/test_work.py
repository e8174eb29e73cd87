"""Slow work: its result comes with its tag, a stop silences it, errors are told."""

from collections.abc import Iterator
from threading import Event

import pytest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.work import Report, Work


@pytest.fixture
def work(qapp: QApplication) -> Iterator[Work]:
    made = Work()
    yield made
    made.end()


def test_a_result_comes_with_its_tag_and_progress(qtbot: QtBot, work: Work) -> None:
    shares: list[float] = []
    work.progressed.connect(
        lambda number, share: shares.append(share) if work.listens(number) else None
    )

    def task(report: Report) -> object:
        assert report(0.25)
        assert report(0.75)
        return 42

    with qtbot.waitSignal(work.done, timeout=5000) as done:
        work.start(task, "tag")
        assert work.busy
    assert done.args == [42, "tag"]
    assert shares == [0.25, 0.75]
    assert not work.busy


def test_another_start_calls_the_first_off(qtbot: QtBot, work: Work) -> None:
    begun, stopped = Event(), Event()

    def slow(report: Report) -> object:
        begun.set()
        while report(0.5):
            stopped.wait(0.002)
        stopped.set()
        return "slow"

    work.start(slow, 1)
    assert begun.wait(5.0)
    with qtbot.waitSignal(work.done, timeout=5000) as done:
        work.start(lambda _: "quick", 2)
    assert done.args == ["quick", 2]
    assert stopped.is_set()


def test_a_stop_is_silent_and_an_error_is_told(qtbot: QtBot, work: Work) -> None:
    begun = Event()

    def slow(report: Report) -> object:
        begun.set()
        while report(0.1):
            pass
        raise RuntimeError("called off")

    work.start(slow, 0)
    assert begun.wait(5.0)
    with qtbot.assertNotEmitted(work.failed, wait=200):
        work.cancel()
    assert not work.busy

    def bad(_: Report) -> object:
        raise ValueError("no such pack")

    with qtbot.waitSignal(work.failed, timeout=5000) as failed:
        work.start(bad, 0)
    assert failed.args == ["ValueError: no such pack"]


def test_figures_of_a_state_that_has_passed_are_dropped(session: Session) -> None:
    figure = session.evaluation.figures["pack.mass_kg"]
    before = session.revision
    assert session.add_figures((figure,), before)
    session.edit({"need.current_a": 23.0})
    assert session.revision == before + 1
    assert not session.add_figures((figure,), before)
    # The evaluation's own figure wins over one that was added.
    assert session.figure("pack.mass_kg") == session.evaluation.figures["pack.mass_kg"]
    assert session.figure("nothing") is None


def test_a_problem_that_is_returned_is_a_result(qtbot: QtBot, work: Work) -> None:
    problem = ValueError("not so")
    with qtbot.waitSignal(work.done, timeout=5000) as done:
        work.start(lambda _: problem, "tag")
    assert done.args == [problem, "tag"]
