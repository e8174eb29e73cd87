"""Cases line by line: what is no case is told, and the next is answered."""

import io
import json

import pytest

from lumvak.cli.batch import run_batch
from lumvak.cli.main import main


def test_each_line_gets_its_answer(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("sys.stdin", io.StringIO('{"a": 2}\n\nnonsense\n{}\n{"a": 3}\n'))
    assert run_batch(lambda case: {"twice": 2 * case["a"]}, '{"a": 1}') == 2
    found = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [item.get("twice") for item in found] == [4, None, None, 6]
    assert all('wanted is {"a": 1}' in item["error"] for item in found[1:3])
    monkeypatch.setattr("sys.stdin", io.StringIO('{"a": 1}\n'))
    assert run_batch(lambda case: case, "") == 0


@pytest.mark.parametrize(
    "line",
    [
        '{"cycles": 1e999}',
        "[" * 100_000,
        '{"seed": -1}',
        '{"seconds": "x"}',
        "1e999",
        "\x00",
        "{",
        '{"groups": [], "readings": []}',
        '{"file": "/nowhere"}',
        '{"cells": [{"number": 1e999}]}',
        '{"cells": [{"number": 1, "ah": 2}], "series": 1, "parallel": 1, "seed": -1}',
        '{"cells": [{"number": 1, "ah": 2}], "series": 1, "parallel": 1, "seconds": "x"}',
        '{"groups": "15Ah@80%,14Ah@70%", "cycles": 1e999}',
        '{"cells": [{"number": 1, "mohm": 1e-320}], "series": 1, "parallel": 1, "by": '
        '"resistance"}',
    ],
)
@pytest.mark.parametrize("command", ["group", "taps", "charge", "balance"])
def test_a_bad_line_does_not_end_a_batch(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch, command: str, line: str
) -> None:
    monkeypatch.setattr("sys.stdin", io.StringIO(f"{line}\n{line}\n"))
    assert main([command, "--batch"]) == 2
    found = [json.loads(item) for item in capsys.readouterr().out.splitlines()]
    assert len(found) == 2
    assert all("error" in item and len(item["error"]) < 700 for item in found)
