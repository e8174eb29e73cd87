"""From a need to a wiring sheet by keys alone, with the keys counted."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.ui.application import make_window
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.quantity_field import QuantityField
from tests.ui.conftest import forget

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier
PLAIN, ENTER = Qt.KeyboardModifier.NoModifier, Qt.Key.Key_Return
LEADS = 10


class Keys:
    """Keys pressed at whatever has the focus, and how many they were."""

    def __init__(self, window: Window) -> None:
        self.window, self.pressed = window, 0

    def press(self, key: Qt.Key, modifier: Qt.KeyboardModifier = PLAIN) -> None:
        QTest.keyClick(QApplication.focusWidget() or self.window, key, modifier)
        QApplication.processEvents()
        self.pressed += 1

    def type(self, text: str) -> None:
        QTest.keyClicks(QApplication.focusWidget() or self.window, text)
        QApplication.processEvents()
        self.pressed += len(text)


@pytest.fixture
def fresh(qtbot: QtBot, qapp: QApplication) -> Iterator[Window]:
    made = make_window(qapp, None)
    made.show()
    qtbot.waitExposed(made)
    yield made
    forget(made)
    made.close()


def field_in_hand() -> str:
    focus = QApplication.focusWidget()
    parent = None if focus is None else focus.parentWidget()
    return parent.path if isinstance(parent, QuantityField) else ""


def test_from_a_need_to_a_wiring_sheet(
    qtbot: QtBot, fresh: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    keys, session = Keys(fresh), fresh.session
    # The first field: two keys at most.
    keys.press(Qt.Key.Key_1, ALT)
    assert field_in_hand() == "need.rated_voltage_v" and keys.pressed <= 2
    keys.type("36")
    keys.press(ENTER)
    assert session.project.need.rated_voltage_v == 36.0
    # Another pack: four keys.
    before, begun = session.project.pack, keys.pressed
    keys.press(Qt.Key.Key_2, ALT)
    keys.press(Qt.Key.Key_2, ALT)
    keys.press(Qt.Key.Key_Down)
    keys.press(ENTER)
    assert keys.pressed - begun == 4
    assert session.project.pack != before
    assert session.evaluation.sized.choice.series >= LEADS - 1
    # Twenty cells: digits and Enter alone, once the bench is open.
    keys.press(Qt.Key.Key_8, ALT)
    keys.press(Qt.Key.Key_F9)
    begun = keys.pressed
    for place in range(20):
        keys.type(f"3.6{place % 10}")
        keys.press(ENTER)
    assert keys.pressed - begun == 20 * 5
    assert [it.volts for it in session.project.hand.cells] == [
        float(f"3.6{place % 10}") for place in range(20)
    ]
    keys.press(Qt.Key.Key_Escape)
    # Ten leads: the same.
    keys.press(Qt.Key.Key_9, ALT)
    while fresh.stages["taps"].view.value != "check":  # type: ignore[attr-defined]
        keys.press(Qt.Key.Key_PageDown, CONTROL)
    keys.press(Qt.Key.Key_F9)
    begun, digits = keys.pressed, 0
    for place in range(1, LEADS + 1):
        text = f"{3.6 * place:.1f}"
        digits += len(text)
        keys.type(text)
        keys.press(ENTER)
    assert keys.pressed - begun == digits + LEADS
    totals = session.project.balance_leads.totals
    assert [it.volts for it in totals] == [pytest.approx(3.6 * it) for it in range(1, LEADS + 1)]
    keys.press(Qt.Key.Key_Escape)
    # The sheet to make the harness by.
    sheet = tmp_path / "harness.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(sheet), ""))
    keys.press(Qt.Key.Key_F, CONTROL)
    keys.type("wiring sheet pdf")
    keys.press(ENTER)
    qtbot.waitUntil(lambda: "Written to" in fresh.notice.text.text(), timeout=20_000)
    assert sheet.read_bytes().startswith(b"%PDF")


def test_the_same_key_again_goes_on_to_the_rows_and_round(window: Window) -> None:
    keys = Keys(window)
    keys.press(Qt.Key.Key_2, ALT)
    first = QApplication.focusWidget()
    seen = []
    for _ in range(4):
        keys.press(Qt.Key.Key_2, ALT)
        seen.append(QApplication.focusWidget())
    assert seen[0] is not first and first in seen
    assert seen[0] is not None and seen[0].accessibleName() == "Options that serve"
