"""A person at a terminal is told what to do, and answers."""

import io

import pytest

from lumvak.bench.by_hand import AtTerminal


def test_it_asks_and_waits(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr("sys.stdin", io.StringIO("\n\nn\n\n"))
    person = AtTerminal()
    person.move("group:4")
    person.act("wake")
    assert not person.lamp() and person.lamp()
    said = capsys.readouterr().err
    assert "group:4" in said and "Wake the BMS" in said
    before = person.now()
    person.wait(0.01)
    assert person.now() - before >= 0.01 and person.moment().startswith("20")
