from __future__ import annotations

from argparse import Namespace
from pathlib import Path

import pytest

from lumvak.cli.parts.at_hand import catalogue_of


def test_what_ships_is_at_hand_and_nothing_is_told(capsys: pytest.CaptureFixture[str]) -> None:
    catalogue = catalogue_of(Namespace(command="lumvak parts", catalogue=[]))
    assert catalogue is not None and "ostrel-21-48" in catalogue.cells
    assert capsys.readouterr().err == ""


def test_a_file_that_is_no_good_is_told_under_the_command(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    spoiled = tmp_path / "own.json"
    spoiled.write_text("{", "utf-8")
    assert catalogue_of(Namespace(command="lumvak wire", catalogue=[spoiled])) is None
    told = capsys.readouterr().err
    assert told.startswith("lumvak wire: ") and "own.json" in told
