"""Preferences take effect at once, everywhere, and change nothing of the project."""

import re
from collections.abc import Iterator
from itertools import islice

import pytest
from PyQt6.QtCore import QLocale, Qt
from PyQt6.QtWidgets import QAbstractButton, QLabel, QLineEdit, QTableView, QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import Spelling
from lumvak.files.kept.window_settings import Settings, load_settings, settings_path
from lumvak.ui.shell.preferences import Preferences, paper_of, spelled_by
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import SPEECH
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.quantity_field import QuantityField
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.told import told_by
from tests.sizes import views_of

METRIC = re.compile(r"\d ?(mm|°C)(?![²\w/])|(?<!by )\bmm\b(?!²)")
POINT = re.compile(r"\d\.\d")


def asked(window: Window) -> Preferences:
    return next(item for item in window.findChildren(Preferences) if item.isVisible())


def prefer(qtbot: QtBot, window: Window, name: str, value: object) -> None:
    window.ask_preferences(name)
    choice = asked(window).fields[name]
    assert isinstance(choice, ChoiceRow)
    assert choice.hasFocus()
    for _ in choice.offered:
        field = asked(window).fields[name]
        assert isinstance(field, ChoiceRow)
        if field.value == value:
            break
        qtbot.keyClick(field, Qt.Key.Key_Right)
        # What was chosen is taken once the key is done with, and all is made anew.
        qtbot.wait(5)
    qtbot.keyClick(asked(window), Qt.Key.Key_Escape)
    assert not any(item.isVisible() for item in window.findChildren(Preferences))


def texts_of(part: QWidget) -> Iterator[str]:
    """Every text that a part of the window shows, or says to those who cannot see it."""
    for widget in (part, *part.findChildren(QWidget)):
        if not widget.isVisible():
            continue
        yield widget.accessibleName()
        if isinstance(widget, QLabel | QAbstractButton):
            yield widget.text()
        elif isinstance(widget, QLineEdit):
            yield widget.text() or widget.placeholderText()
        elif isinstance(widget, QTableView) and (model := widget.model()) is not None:
            for column in range(model.columnCount()):
                yield str(model.headerData(column, Qt.Orientation.Horizontal))
                for row in range(min(model.rowCount(), 20)):
                    yield str(model.index(row, column).data() or "")
        told = told_by(widget)
        for row in () if told is None else (told.heads, *told.rows):
            yield from row


def in_view(window: Window) -> Iterator[tuple[str, str]]:
    """Where a text stands, and the text without the names of parts."""
    catalogue = window.session.catalogue
    shelves = (
        catalogue.cells,
        catalogue.conductors,
        catalogue.boards,
        catalogue.fuses,
        catalogue.wires,
        catalogue.connectors,
        catalogue.switches,
        catalogue.surges,
    )
    names = sorted((part.name for shelf in shelves for part in shelf.values()), key=len)[::-1]
    for stage, view in views_of(window):
        frame = window.frame
        for part in (
            frame.stack,
            frame.title_line,
            frame.build_line,
            frame.path_view,
            window.margin.findings,
        ):
            for text in set(texts_of(part)):
                bare = text
                for name in names:
                    bare = bare.replace(name, "")
                yield f"{stage} {view} {type(part).__name__}", bare


def test_every_view_is_in_the_units_that_are_preferred(qtbot: QtBot, window: Window) -> None:
    metric = (text for _, text in in_view(window) if METRIC.search(text) or POINT.search(text))
    assert len(list(islice(metric, 200))) == 200
    before = window.session.project
    for name, value in (("lengths", "in"), ("temperatures", "F"), ("decimal", "comma")):
        prefer(qtbot, window, name, value)
    texts, count, last = [], 0, ""
    for where, text in in_view(window):
        texts.append((where, text))
        view = where.rpartition(" ")[0]
        # A field that is left as it was edits nothing.
        for field in window.findChildren(QuantityField) if view != last else ():
            if field.isVisible():
                count += 1
                field.commit()
                field.edit.editingFinished.emit()
        last = view
    found = {(where, text) for where, text in texts if METRIC.search(text) or POINT.search(text)}
    assert len(texts) > 2000 and count > 20
    assert not found, "\n".join(f"{where}: {text}" for where, text in sorted(found)[:40])
    assert window.session.project is before
    assert window.session.undo_stack.count() == 0


def test_a_bare_number_is_in_the_units_that_are_preferred(qtbot: QtBot, window: Window) -> None:
    prefer(qtbot, window, "temperatures", "F")
    prefer(qtbot, window, "decimal", "comma")
    window.open_stage("need")
    field = next(
        item for item in window.findChildren(QuantityField) if item.path == "need.ambient_c"
    )
    field.edit.setFocus()
    field.edit.selectAll()
    qtbot.keyClicks(field.edit, "77,9")
    qtbot.keyClick(field.edit, Qt.Key.Key_Return)
    assert window.session.project.need.ambient_c == pytest.approx(25.5)
    assert field.edit.text() == "77,9 °F"
    qtbot.keyClicks(field.edit, "1")
    field.edit.setText("400")
    field.commit()
    assert "158 °F or less" in field.problem.text()


def test_a_currency_is_shown_and_remembered(qtbot: QtBot, window: Window) -> None:
    assert window.title_line.labels[-1].said == "480.20"
    window.ask_preferences("currency")
    qtbot.keyClicks(asked(window).currency, "EUR")
    qtbot.keyClick(asked(window).currency, Qt.Key.Key_Return)
    qtbot.wait(5)
    assert window.title_line.labels[-1].said == "480.20 EUR"
    assert load_settings(settings_path())[0].currency == "EUR"


def test_the_paper_of_the_making_page_is_the_preference(qtbot: QtBot, window: Window) -> None:
    assert window.session.paper == "a4"
    prefer(qtbot, window, "paper", "letter")
    assert window.session.paper == "letter"
    window.open_stage("joints")
    window.stages["joints"].show_view("making")  # type: ignore[attr-defined]
    making = window.stages["joints"].making  # type: ignore[attr-defined]
    assert making.paper.value == "letter"
    making.paper.picked.emit("a4")
    assert (window.session.paper, making.paper.value) == ("a4", "a4")
    assert load_settings(settings_path())[0].paper == "a4"


def test_sheet_and_text_are_preferences_too(qtbot: QtBot, window: Window) -> None:
    prefer(qtbot, window, "sheet", "dark")
    prefer(qtbot, window, "text_percent", 125)
    kept = load_settings(settings_path())[0]
    assert (kept.sheet, kept.text_percent) == ("dark", 125)
    prefer(qtbot, window, "sheet", "contrast")
    assert THEME.name == "contrast"
    prefer(qtbot, window, "sheet", "")
    # As the desktop has it, which knows neither dark nor high contrast here.
    assert THEME.name == "light"


def test_what_is_not_said_is_as_the_desktop_has_it() -> None:
    german, american = QLocale("de_DE"), QLocale("en_US")
    assert spelled_by(Settings(), german) == Spelling(comma=True, currency="€")
    assert spelled_by(Settings(decimal="point", currency="CHF"), german) == Spelling(currency="CHF")
    assert spelled_by(Settings(), american) == Spelling(currency="$")
    assert (paper_of(Settings(), german), paper_of(Settings(), american)) == ("a4", "letter")
    assert SPEECH.spelling == Spelling()


def test_the_meter_is_that_of_projects_begun_later(qtbot: QtBot, window: Window) -> None:
    window.ask_preferences("meter")
    field = next(
        item
        for item in asked(window).findChildren(QLineEdit)
        if item.accessibleName() == "Voltmeter, of the reading"
    )
    field.selectAll()
    qtbot.keyClicks(field, "0.1 %")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    qtbot.wait(5)
    assert load_settings(settings_path())[0].meter.percent == pytest.approx(0.001)
    field = next(
        item
        for item in asked(window).findChildren(QLineEdit)
        if item.accessibleName() == "Voltmeter, counts"
    )
    field.setText("lots")
    field.editingFinished.emit()
    assert field.text() == "6000"
    window.files.new()
    assert window.session.project.hand.meter.percent == pytest.approx(0.001)
