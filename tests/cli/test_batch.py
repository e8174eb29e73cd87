"""Cases line by line: what is no case is told, and the next is answered."""

import argparse
import io
import json

import pytest

from lumvak.cli.batch import run_batch, usual_options


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


def test_options_are_those_of_every_command() -> None:
    parser = argparse.ArgumentParser()
    usual_options(parser, batch=True)
    chosen = parser.parse_args(["--json", "--catalogue", "one", "--catalogue", "two"])
    assert chosen.json and not chosen.batch and len(chosen.catalogue) == 2
