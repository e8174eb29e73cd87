"""Another project in the same window looks as in one of its own, after every kind of use."""

import shutil
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication

from tests.conftest import DEMOS
from tests.second_project import EVERY, second_project

FILES = sorted(DEMOS.iterdir())
# The campaign goes through all of them, with other seeds.
SOME = [("taps", "check"), ("charging", "charger"), ("hand", "measure"), ("power", "order")]


@pytest.mark.parametrize(("stage", "view"), SOME)
def test_nothing_of_the_project_before_is_left(
    qapp: QApplication, tmp_path: Path, stage: str, view: str
) -> None:
    assert (stage, view) in EVERY
    at = EVERY.index((stage, view))
    first = tmp_path / "first.lumvak.json"
    shutil.copy(FILES[at % len(FILES)], first)
    second_project(first, FILES[(at + 3) % len(FILES)], stage, view, 10, 100 + at)
