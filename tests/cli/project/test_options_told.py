"""What is told of options that serve, and of those that do not."""

import pytest

from lumvak.cli.main import main

NEED = ("size", "--rated-voltage", "36V", "--current", "18A", "--runtime", "1h")


def test_refusals_are_in_words(capsys: pytest.CaptureFixture[str]) -> None:
    main([*NEED, "--top", "3"])
    refused = [
        line for line in capsys.readouterr().out.splitlines() if line.startswith("refused: ")
    ]
    assert refused and not any(" 0S" in line or "no-board" in line for line in refused)
    assert any(line.startswith("refused: iron phosphate, 12 in series: ") for line in refused)


def test_what_stops_another_option_is_said(capsys: pytest.CaptureFixture[str]) -> None:
    """At 400 V no BMS serves, and that is said in a sentence."""
    words = ("--rated-voltage", "400V", "--current", "300A", "--runtime", "6min", "--top", "2")
    main(["size", *words])
    out = capsys.readouterr().out
    assert "stop" in out and "no-board" not in out
