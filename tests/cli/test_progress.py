"""What is said of a command that takes its time, and where."""

import io
import sys
import time

import pytest

from lumvak.cli.progress import ticking


class Terminal(io.StringIO):
    def isatty(self) -> bool:
        return True


def test_a_terminal_is_told_and_wiped(monkeypatch: pytest.MonkeyPatch) -> None:
    stream = Terminal()
    monkeypatch.setattr(sys, "stderr", stream)
    with ticking("lumvak size", wait_s=0.05):
        time.sleep(0.2)
    said = stream.getvalue()
    assert "lumvak size: 0 s" in said and "Ctrl+C" in said
    assert said.endswith("\r\x1b[K")


def test_what_is_quick_or_unwatched_says_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    for stream, wait_s in ((Terminal(), 5.0), (io.StringIO(), 0.0)):
        monkeypatch.setattr(sys, "stderr", stream)
        with ticking("lumvak size", wait_s):
            time.sleep(0.02)
        assert stream.getvalue() == ""


def test_what_fails_is_wiped_too(monkeypatch: pytest.MonkeyPatch) -> None:
    stream = Terminal()
    monkeypatch.setattr(sys, "stderr", stream)
    with pytest.raises(KeyboardInterrupt), ticking("lumvak size", wait_s=0.02):
        time.sleep(0.1)
        raise KeyboardInterrupt
    assert stream.getvalue().endswith("\x1b[K")
