from __future__ import annotations

import os

import pytest

import lumvak.cli.main
from lumvak.__main__ import run


def test_it_ends_with_what_the_command_line_ends_with(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lumvak.cli.main, "main", lambda: 3)
    with pytest.raises(SystemExit) as ended:
        run()
    assert ended.value.code == 3


def test_an_interruption_ends_it_at_once_with_the_usual_code(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    ended: list[int] = []

    def interrupted() -> int:
        raise KeyboardInterrupt

    monkeypatch.setattr(lumvak.cli.main, "main", interrupted)
    monkeypatch.setattr(os, "_exit", ended.append)
    run()
    assert ended == [130]
