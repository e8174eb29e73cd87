"""What views need is loaded beside the work, a module at a time."""

import sys

from PyQt6.QtCore import QObject
from pytestqt.qtbot import QtBot

from lumvak.ui.stages.order import STAGES
from lumvak.ui.warming import Warming, names


def test_every_stage_is_among_them_and_each_is_loaded_once(qtbot: QtBot) -> None:
    wanted = [*names()]
    assert len({*wanted}) == len(wanted)
    assert {f"lumvak.ui.stages.{stage.key}.stage" for stage in STAGES} <= {*wanted}
    parent = QObject()
    warming = Warming(parent)
    assert warming.left == wanted
    warming.load()
    assert warming.left == wanted[1:] and wanted[0] in sys.modules
    # It goes on by itself, and ends.
    warming.left = wanted[-2:]
    qtbot.waitUntil(lambda: not warming.left, timeout=5_000)
    assert wanted[-1] in sys.modules
    warming.load()
