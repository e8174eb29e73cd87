"""Projects begun and checked without a window."""

import io
import json
import sys
from pathlib import Path

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW
from tests.conftest import DEMOS as DEMO_FOLDER


def test_a_project_begins_with_what_is_set(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "punt.lumvak.json"
    sets = ("--set", "need.rated_voltage_v=48 volt", "--set", "need.power_w=600 W")
    assert main(["new", str(path), *sets]) == 0
    held = json.loads(path.read_text("utf-8"))
    assert held["name"] == "punt" and held["need"]["load_basis"] == "power"
    assert held["need"]["rated_voltage_v"] == 48.0 and held["need"]["power_w"] == 600.0
    capsys.readouterr()
    assert main(["check", str(path), "--json"]) == 0
    (answer,) = json.loads(capsys.readouterr().out)
    assert answer["valid"] and answer["kind"] == "project"
    assert main(["new", str(path)]) == 2 and main(["new", str(path), "--force"]) == 0


def test_a_project_begins_from_a_pack_as_found_and_from_a_sample(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    found = tmp_path / "old.lumvak.json"
    assert main(["new", str(found), "--from", "found", "--set", "as_found.parallel=4"]) == 0
    assert main(["audit", str(found)]) in (0, 1)
    capsys.readouterr()
    assert main(["new", "-", "--sample", "Hedge trimmer"]) == 0
    assert json.loads(capsys.readouterr().out)["pack"]["series"] == 5
    for words in (("--sample", "hedge"), ("--set", "need.currant_a=3")):
        with pytest.raises(SystemExit):
            main(["new", "-", *words])
        assert "did you mean" in capsys.readouterr().err


def test_all_that_is_wrong_in_a_file_is_named(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    document = json.loads(BARROW.read_text("utf-8"))
    document["need"]["current_a"] = -3
    document["pack"]["parallel"] = "many"
    document["extra"] = 1
    path = tmp_path / "bad.lumvak.json"
    path.write_text(json.dumps(document), "utf-8")
    assert main(["check", str(path), str(BARROW), "--json"]) == 2
    bad, good = json.loads(capsys.readouterr().out)
    assert not bad["valid"] and len(bad["wrong"]) == 3 and good["valid"]
    assert any("need.current_a" in text for text in bad["wrong"])


def test_parts_and_standard_input_are_checked_too(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    parts = tmp_path / "parts.json"
    parts.write_text('{"format": "lumvak-parts", "version": 1, "cells": [{"id": "x"}]}', "utf-8")
    assert main(["check", str(parts)]) == 2
    assert "not valid" in capsys.readouterr().out
    parts.write_text('{"format": "lumvak-parts", "version": 1}', "utf-8")
    assert main(["check", str(parts)]) == 0
    text = (DEMO_FOLDER / "kayak-thruster.lumvak.json").read_bytes()
    monkeypatch.setattr(sys, "stdin", io.TextIOWrapper(io.BytesIO(text), "utf-8"))
    capsys.readouterr()
    assert main(["check", "-"]) == 0
    assert capsys.readouterr().out.startswith("standard input: a valid project")
