"""The entry point: closed streams, words that are no command, no display, refusals in a line."""

import subprocess
import sys

import pytest

from lumvak.cli.main import main
from tests.cli.test_cli import ENVIRONMENT
from tests.conftest import BARROW


@pytest.mark.parametrize("closed", ["<&-", ">&-", "2>&-", "<&- >&- 2>&-"])
def test_what_is_closed_is_no_traceback(closed: str) -> None:
    line = f'"$0" -m lumvak balance --batch {closed}'
    done = subprocess.run(
        ["sh", "-c", line, sys.executable],
        stdin=subprocess.DEVNULL,
        capture_output=True,
        env=ENVIRONMENT,
        check=False,
        timeout=120,
    )
    assert (done.returncode, done.stderr) == (0, b"")


def test_a_word_that_is_neither_command_nor_file(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["sise"]) == 2
    assert "no command and no file “sise”; did you mean “size”?" in capsys.readouterr().err
    assert main(["zzz"]) == 2
    assert "commands are size, new, check" in capsys.readouterr().err


def test_without_a_display_that_is_said(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    for name in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY"):
        monkeypatch.delenv(name, raising=False)
    assert main([]) == 3
    assert "no display to open a window on" in capsys.readouterr().err


def test_a_refusal_is_one_line_without_signs_that_are_not_shown(
    capsys: pytest.CaptureFixture[str],
) -> None:
    odd = "\x1b[31m\u202ered\n" * 200
    for arguments in (
        ["evaluate", odd],
        ["cell", odd],
        ["charge", str(BARROW), "--charger", odd],
        ["explain", str(BARROW), odd],
    ):
        assert main(arguments) == 2
        said = capsys.readouterr().err
        assert said.endswith("\n") and said.count("\n") == 1
        assert said[:-1].isprintable() and len(said) <= 330
    with pytest.raises(SystemExit):
        main(["size", odd])
    assert "\x1b" not in capsys.readouterr().err


@pytest.mark.parametrize("count", ["²", "9" * 400, "-1", "1001", "2.5"])
def test_a_count_that_is_none_is_refused(capsys: pytest.CaptureFixture[str], count: str) -> None:
    with pytest.raises(SystemExit) as ended:
        main(["group", "cells.csv", "--series", count, "--parallel", "2"])
    assert ended.value.code == 2
    assert "1" in (said := capsys.readouterr().err) and said.count("\n") == 1
