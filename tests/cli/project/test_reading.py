"""A project with fields set in the line."""

import io
import json
import sys

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW


def value(capsys: pytest.CaptureFixture[str], key: str, *words: str) -> float:
    assert main(["explain", str(BARROW), key, *words, "--json"]) == 0
    return float(json.loads(capsys.readouterr().out)["value"])


def test_what_is_set_counts_and_nothing_is_saved(capsys: pytest.CaptureFixture[str]) -> None:
    before = BARROW.read_bytes()
    one = value(capsys, "pack.energy_wh", "--set", "pack.parallel=4")
    two = value(capsys, "pack.energy_wh", "--set", "pack.parallel=8P")
    assert two == pytest.approx(2.0 * one) and BARROW.read_bytes() == before


def test_what_has_no_effect_is_said(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["evaluate", str(BARROW), "--set", "need.nickel_cells=15"]) in (0, 1)
    assert "--set need.nickel_cells has no effect" in capsys.readouterr().err


def test_what_is_no_good_changes_nothing(capsys: pytest.CaptureFixture[str]) -> None:
    for change, says in (("pack.parallel=0", "1 or more"), ("pack.paralel=2", "did you mean")):
        assert main(["evaluate", str(BARROW), "--set", change]) == 2
        err = capsys.readouterr().err
        assert says in err and err.count("\n") == 1


def test_a_project_comes_in_on_standard_input(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    raw = io.TextIOWrapper(io.BytesIO(BARROW.read_bytes()), "utf-8")
    monkeypatch.setattr(sys, "stdin", raw)
    assert main(["explain", "-", "pack.series", "--depth", "0"]) == 0
    assert "in series" in capsys.readouterr().out
    monkeypatch.setattr(sys, "stdin", io.TextIOWrapper(io.BytesIO(b""), "utf-8"))
    assert main(["explain", "-", "pack.series"]) == 2
    assert "nothing came in on standard input" in capsys.readouterr().err
