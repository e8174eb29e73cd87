"""The window spells what is said in the units of its reader, everywhere at once."""

import pytest

from lumvak.core import units
from lumvak.core.evaluate import evaluate
from lumvak.core.said import phrase, say
from lumvak.core.spelling import Refused, Spelling, spoken
from lumvak.ui import speech
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH


def test_what_the_window_says_follows_its_spelling() -> None:
    said = phrase("{} in {}", say(25.4, "mm"), say(20.5, "°C"))
    assert speech.spoken(said) == "25.4 mm in 20.5 °C"
    SPEECH.spelling = Spelling(inches=True, fahrenheit=True, comma=True)
    assert speech.spoken(said) == "1 in in 68,9 °F"
    assert speech.say(said, "V") == "1 in in 68,9 °F"
    assert speech.say_fixed(1.0, "V") == "1,00 V"
    assert speech.parse("1", units.LENGTH_MM) == pytest.approx(25.4)
    assert speech.spell(50.8, units.LENGTH_MM) == "2 in"
    assert speech.said_of(Refused(said)) == "1 in in 68,9 °F"
    assert speech.said_of(ValueError("plain")) == "plain"


def test_what_is_worked_out_holds_no_spelling(session: Session) -> None:
    before = [spoken(finding.text) for finding in session.evaluation.findings]
    SPEECH.spelling = Spelling(inches=True, comma=True)
    again = evaluate(session.project, session.catalogue)
    assert [finding.text for finding in again.findings] == [
        finding.text for finding in session.evaluation.findings
    ]
    assert [spoken(finding.text) for finding in again.findings] == before
