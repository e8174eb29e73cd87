"""A level from its beginning to the score; nothing shows what is hidden before the answer."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QComboBox, QLabel, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from lumvak.bench.practise import trail
from lumvak.bench.simulated.faults import FAULTS
from lumvak.files.kept import score_card
from lumvak.ui.laid_over.practise_page import PractisePage
from lumvak.ui.shell.window import Window


def asked(window: Window, words: str) -> QAction:
    return next(action for name, action in window.menus.actions if words in name)


@pytest.fixture
def page(window: Window, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> PractisePage:
    monkeypatch.setattr(
        "lumvak.ui.laid_over.practising.card_path", lambda: tmp_path / "practise.json"
    )
    asked(window, "actise").trigger()
    page = window.findChild(PractisePage)
    assert page is not None and page.isVisible()
    return page


def press(page: PractisePage, name: str) -> None:
    button = next(it for it in page.findChildren(QPushButton) if it.accessibleName() == name)
    button.click()


def texts(page: PractisePage) -> str:
    """Everything that can be seen or heard of the page, but what may be answered."""
    found = [
        it.text() for kind in (QLabel, QPushButton, QLineEdit) for it in page.findChildren(kind)
    ]
    found += [it.accessibleName() + it.toolTip() for it in page.findChildren(QPushButton)]
    found += [cell for row in page.trail.rows_model.rows for cell in row.cells]
    found += [cell for row in page.levels.rows_model.rows for cell in row.cells]
    return "\n".join(found)


def test_a_worn_connector_is_found(page: PractisePage, qtbot: QtBot, tmp_path: Path) -> None:
    page.levels.picked.emit(7)
    page.begin.click()
    assert "plug is warm" in page.says.text()
    for group in range(1, 6):
        press(page, f"Read group {group}")
    for words in ("wake the BMS", "load on"):
        next(it for it in page.findChildren(QPushButton) if it.text() == words).click()
    press(page, "Read connector")
    rows = page.trail.rows_model.rows
    assert rows[0].cells[2] == "connector" and rows[0].cells[1] == "awake, load on"
    assert rows[0].cells[3].endswith("mV") and not rows[0].cells[4]
    assert not any(words in texts(page) for words in FAULTS.values())
    fault = page.answers[0].fault
    fault.setCurrentIndex(fault.findData("worn-connector"))
    page.give.click()
    assert page.practising.score is not None and page.practising.score.right
    qtbot.waitUntil(lambda: page.practising.told is not None, timeout=60_000)
    assert page.result.text().startswith("Found: a connector") and "Nothing was unsafe" in (
        page.result.text()
    )
    assert "told most" in page.trail.rows_model.rows[0].cells[4]
    (kept,) = score_card.load_card(tmp_path / "practise.json")[0]
    assert kept.whole and kept.readings == 6 and kept.level == 7
    assert page.levels.rows_model.rows[6].cells[1] == "found, 6"
    # It is over: nothing more can be read of it.
    count = len(page.practising.done)
    press(page, "Read connector")
    assert len(page.practising.done) == count


def test_nothing_tells_before_the_answer(
    page: PractisePage, window: Window, tmp_path: Path
) -> None:
    before = window.session.project
    page.seed.setText("3")
    page.levels.picked.emit(19)
    page.begin.click()
    press(page, "Read ends of the cells")
    assert page.practising.hidden == () and page.practising.score is None
    assert not any(words in texts(page) for words in FAULTS.values())
    chosen = [it.currentText() for it in page.findChildren(QComboBox) if it.currentText()]
    assert all("nothing is wrong" in words for words in chosen)
    assert window.session.project is before and not window.session.unsaved
    assert not (tmp_path / "practise.json").exists()


def test_what_is_in_hand_stays_when_the_page_is_left(
    page: PractisePage, window: Window, qtbot: QtBot
) -> None:
    page.begin.click()
    press(page, "Read output")
    qtbot.keyClick(page, Qt.Key.Key_Escape)
    assert not page.isVisible()
    window.swap_sheet()
    asked(window, "actise").trigger()
    again = next(it for it in window.findChildren(PractisePage) if it.isVisible())
    assert len(again.trail.rows_model.rows) == 1
    window.swap_sheet()


def test_a_pack_that_is_no_number_is_said(page: PractisePage) -> None:
    page.seed.setText("seven")
    page.begin.click()
    assert "accepted" in page.problem.text() and not page.practising.running


def test_an_unsafe_step_is_told_with_the_answer(page: PractisePage, qtbot: QtBot) -> None:
    page.levels.picked.emit(4)
    page.begin.click()
    next(it for it in page.findChildren(QPushButton) if it.text() == trail.ACTS["bridge"]).click()
    assert "nothing opens" not in texts(page)
    page.give.click()
    qtbot.waitUntil(lambda: page.practising.told is not None, timeout=60_000)
    assert page.result.text().startswith("Not found") and "nothing opens" in page.result.text()


def test_a_search_is_followed_beside_it(page: PractisePage) -> None:
    page.levels.picked.emit(3)
    page.begin.click()
    assert page.search.isHidden() and page.take.isHidden()
    page.beside.click()
    assert "It asks for" in page.search.text()
    for _ in range(6):
        if page.take.isHidden():
            break
        page.take.click()
    assert page.search.text().startswith("Likeliest: the charger")
    assert "would tell it little" in page.search.text()
    assert any(it.act.place == "charger" for it in page.practising.done)
    page.beside.click()
    assert page.search.isHidden()
