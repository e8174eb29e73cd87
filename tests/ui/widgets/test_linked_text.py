"""Text in lines with places that can be clicked."""

import pytest
from PyQt6.QtGui import QPainter, QPixmap
from pytestqt.qtbot import QtBot

from lumvak.core.figures.mentioned import Mention
from lumvak.ui.widgets.linked_text import LinkedText

TEXT = "Series connections carry 14.7 A where 22 A are drawn from the pack."
MENTIONS = (Mention(20, 26, "limit"), Mention(33, 37, "load"))


@pytest.mark.parametrize("width", [90.0, 200.0, 900.0])
def test_each_place_is_found_where_it_is_drawn(qtbot: QtBot, width: float) -> None:
    text = LinkedText(TEXT, MENTIONS, width, "note", strong=False)
    found = {
        key
        for y in range(0, text.height, 3)
        for x in range(0, int(width), 3)
        if (key := text.key_at(float(x), float(y)))
    }
    assert found == {"limit", "load"}
    assert text.key_at(1.0, 1.0) == ""
    assert text.key_at(1.0, text.height + 20.0) == ""


def test_a_narrower_text_is_higher_and_paints(qtbot: QtBot) -> None:
    wide, narrow = (
        LinkedText(TEXT, MENTIONS, width, "note", strong=False) for width in (900.0, 90.0)
    )
    assert narrow.height > 2 * wide.height
    sheet = QPixmap(120, 200)
    sheet.fill()
    before = sheet.toImage()
    painter = QPainter(sheet)
    narrow.draw(painter, 4.0, 4.0)
    painter.end()
    assert sheet.toImage() != before
