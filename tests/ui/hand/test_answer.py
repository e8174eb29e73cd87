"""What the build line says of the cells in hand."""

from lumvak.core.spelling import Spelling
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import SPEECH
from lumvak.ui.stages.hand.answer import hand_answer, share_said
from tests.ui.conftest import forget


def test_the_answer_follows_the_work(roller: Window) -> None:
    session = roller.session
    assert hand_answer(session.evaluation) == "86 of 90 good"
    session.edit({"hand.cells": ()})
    assert hand_answer(session.evaluation) == "none measured"
    forget(roller)


def test_small_shares_are_said_to_two_figures() -> None:
    assert [share_said(share) for share in (0.0555, 0.00123, 0.00001)] == [
        "5.5 %",
        "0.12 %",
        "< 0.01 %",
    ]
    SPEECH.spelling = Spelling(comma=True)
    assert share_said(0.0012) == "0,12 %"
