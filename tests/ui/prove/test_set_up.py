"""What is connected in a test, drawn and told."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.proving.guide import GUIDES
from lumvak.ui.stages.prove.set_up import SetUpDrawing


@pytest.mark.parametrize("test", GUIDES)
def test_every_set_up_is_drawn_and_told(qtbot: QtBot, test: str) -> None:
    drawing = SetUpDrawing()
    qtbot.addWidget(drawing)
    drawing.show_test(GUIDES[test])  # type: ignore[index]
    assert [row[0] for row in drawing.told().rows] == [name for name, _ in GUIDES[test].drawn]  # type: ignore[index]
    drawing.resize(400, 100)
    assert drawing.accessibleName() and not drawing.grab().isNull()
