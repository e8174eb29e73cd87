from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.spelling import spoken
from lumvak.files.kept.window_settings import load_settings, settings_path
from lumvak.ui.application import make_window
from lumvak.ui.handbook.pages import page_text
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.shell.working_view import precise
from lumvak.ui.stages.cells.stage import CellsStage
from lumvak.ui.stages.need.stage import NeedStage
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.figure_label import FigureLabel
from lumvak.ui.widgets.quantity_field import QuantityField
from lumvak.ui.widgets.theme import SHEETS, THEME
from tests.conftest import TRIMMER
from tests.length import LONG


def luminance(colour: str) -> float:
    parts = [int(colour[place : place + 2], 16) / 255 for place in (1, 3, 5)]
    linear = [p / 12.92 if p <= 0.03928 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(one: str, other: str) -> float:
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("sheet", sorted(SHEETS))
def test_text_keeps_its_contrast(sheet: str) -> None:
    colours = SHEETS[sheet]  # type: ignore[index]
    for ground in (colours.paper, colours.sheet, colours.tint, colours.amber_wash):
        for role in ("ink", "soft", "copper", "verdigris", "amber", "crimson"):
            if ground == colours.amber_wash and role not in (
                "ink",
                "verdigris",
                "amber",
                "crimson",
            ):
                continue
            assert contrast(getattr(colours, role), ground) >= 4.5, (sheet, role, ground)


# What eyes without the long or the middle cones see, as linear RGB (Machado, Oliveira and
# Fernandes, A Physiologically-based Model for Simulation of Color Vision Deficiency, 2009,
# severity 1).
EYES = {
    "all cones": ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    "no long cones": (
        (0.152286, 1.052583, -0.204868), (0.114503, 0.786281, 0.099216),
        (-0.003882, -0.048116, 1.051998),
    ),
    "no middle cones": (
        (0.367322, 0.860646, -0.227968), (0.280085, 0.672501, 0.047413),
        (-0.011820, 0.042940, 0.968881),
    ),
}  # fmt: skip
# Lightness (CIE L*) that tells two marks apart without their hue.
LEAST_APART = 5.0


def lightness(colour: str, eyes: str) -> float:
    linear = [
        part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4
        for part in (int(colour[at : at + 2], 16) / 255.0 for at in (1, 3, 5))
    ]
    seen = [
        min(max(sum(a * b for a, b in zip(row, linear, strict=True)), 0.0), 1.0)
        for row in EYES[eyes]
    ]
    y = 0.2126 * seen[0] + 0.7152 * seen[1] + 0.0722 * seen[2]
    return 116.0 * y ** (1.0 / 3.0) - 16.0 if y > 0.008856 else 903.3 * y


@pytest.mark.parametrize("sheet", sorted(SHEETS))
@pytest.mark.parametrize("eyes", EYES)
def test_warm_colours_differ_in_lightness_for_all_eyes(sheet: str, eyes: str) -> None:
    colours = SHEETS[sheet]  # type: ignore[index]
    for one, other in (("copper", "amber"), ("amber", "crimson"), ("copper", "crimson")):
        apart = lightness(getattr(colours, one), eyes) - lightness(getattr(colours, other), eyes)
        assert abs(apart) >= LEAST_APART, (one, other)


def need_field(window: Window, name: str) -> QuantityField:
    window.open_stage("need")
    stage = window.stages["need"]
    assert isinstance(stage, NeedStage)
    return stage.fields[name]


@pytest.mark.parametrize(
    ("name", "text", "word"),
    [
        ("current_a", "lots", "not a current"),
        ("current_a", "", "not a current"),
        ("current_a", "0", "over 0"),
        ("current_a", "-3 A", "over 0"),
        ("current_a", "nan", "not a current"),
        ("stop_voltage_v", "49 V", "below 48 V"),
        ("max_voltage_v", "40 V", "48 V or more"),
        ("peak_current_a", "20 A", "22 A or more"),
        ("runtime_h", "9000 h", "1000 h or less"),
    ],
)
def test_a_bad_entry_stays_is_marked_and_changes_nothing(
    qtbot: QtBot, window: Window, name: str, text: str, word: str
) -> None:
    before = window.session.project
    field = need_field(window, name)
    field.edit.setFocus()
    field.edit.selectAll()
    qtbot.keyClick(field.edit, Qt.Key.Key_Backspace)
    qtbot.keyClicks(field.edit, text)
    qtbot.keyClick(field.edit, Qt.Key.Key_Return)
    assert field.edit.text() == text
    assert field.edit.property("bad")
    assert field.problem.isVisible()
    assert word in field.problem.text()
    assert window.session.project == before
    qtbot.keyClick(field.edit, Qt.Key.Key_Escape)
    assert not field.problem.isVisible()
    assert field.edit.text() == field.shown_text


def test_an_optional_field_emptied_shows_what_is_assumed(window: Window) -> None:
    field = need_field(window, "max_voltage_v")
    assert field.note.text() == "typed"
    field.edit.setText("")
    field.commit()
    assert window.session.project.need.max_voltage_v is None
    assert field.edit.placeholderText() == "54.6 V"
    assert field.note.text() == "assumed"
    assert field.note.toolTip().startswith("48 V is a class of vehicles: 13 cells of 4.2 V")


def test_an_entry_is_taken_when_the_stage_is_left(qtbot: QtBot, window: Window) -> None:
    field = need_field(window, "current_a")
    field.edit.setFocus()
    field.edit.selectAll()
    qtbot.keyClicks(field.edit, "21")
    window.open_stage("cells")
    assert window.session.project.need.current_a == 21.0


def test_every_stage_opens_in_both_sheets_and_at_larger_text(qtbot: QtBot, window: Window) -> None:
    for percent in (100, 150):
        window.set_text(percent)
        # In a check each sheet at one size of text; the other two where there is time.
        for sheet in ("dark", "light"):
            window.swap_sheet()
            assert THEME.name == sheet
            if not LONG and (percent == 100) is (sheet == "light"):
                continue
            views = [("cells", view) for view in ("chart", "beside", "library")]
            for key, view in [*((stage.key, "") for stage in STAGES), *views]:
                window.open_stage(key)
                stage = window.stages[key]
                if view and isinstance(stage, CellsStage):
                    stage.show_view(view)
                    assert stage.view.value == view
                QApplication.processEvents()
                picture = window.grab().toImage()
                assert not picture.isNull()
                corner = picture.pixelColor(4, picture.height() - 6).name()
                assert corner == SHEETS[sheet].sheet.lower()  # type: ignore[index]
    stored = load_settings(settings_path())[0]
    assert (stored.sheet, stored.text_percent) == ("light", 150)


def test_figures_are_reached_and_explained_by_keys(qtbot: QtBot, window: Window) -> None:
    label = window.title_line.findChildren(FigureLabel)[2]
    label.setFocus()
    qtbot.keyClick(label, Qt.Key.Key_Return)
    assert window.session.explained_key == label.key


def test_the_margin_opens_on_the_question_of_the_stage(qtbot: QtBot, window: Window) -> None:
    for stage, key in (
        ("need", "need.max_voltage_v"),
        ("cells", "pack.parallel"),
        ("run", "run.time_h"),
        ("arrangement", "layout.length_mm"),
        ("joints", "network.series_limit_a"),
        ("power", "rating.continuous_a"),
    ):
        window.open_stage(stage)
        assert window.session.explained_key == key
        figure = window.session.figure(key)
        assert figure is not None
        assert spoken(figure.label) in window.margin.title.text()
    # What was asked last at a stage is asked there again.
    window.session.explain("power.fuse_hold_a")
    window.open_stage("run")
    assert window.session.explained_key == "run.time_h"
    window.open_stage("power")
    assert window.session.explained_key == "power.fuse_hold_a"
    assert "Fuse carries" in window.margin.title.text()


def test_the_margin_gives_full_precision(session: Session) -> None:
    figures = session.evaluation.figures
    assert precise(figures["leads.resistance_ohm"]) == "6.25247 mΩ"
    assert precise(figures["pack.derating"]) == "80 %"
    assert precise(figures["pack.runtime_h"]) == "1 h 18"


def test_findings_follow_the_stage_and_lead_to_their_figure(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    view = window.margin.findings
    assert view.findings[0].code == "series-joint-limit"
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Down)
    assert window.session.explained_key == "network.series_limit_a"
    window.open_stage("need")
    assert view.findings == ()


def test_the_name_is_edited_in_the_title_line(qtbot: QtBot, window: Window) -> None:
    name = window.title_line.name
    name.selectAll()
    qtbot.keyClicks(name, "Pear barrow")
    qtbot.keyClick(name, Qt.Key.Key_Return)
    assert window.session.project.name == "Pear barrow"
    name.setText("  ")
    name.setModified(True)
    qtbot.keyClick(name, Qt.Key.Key_Return)
    assert name.text() == "Pear barrow"


def test_a_file_dropped_on_the_window_opens(window: Window) -> None:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(TRIMMER))])
    window.dropEvent(
        QDropEvent(
            QPointF(100, 100),
            Qt.DropAction.CopyAction,
            data,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
    )
    assert window.session.project.name == "Hedge trimmer"


def test_an_edit_that_changes_nothing_is_no_step(session: Session) -> None:
    session.edit({"need.current_a": session.project.need.current_a})
    assert session.undo_stack.count() == 0


def test_the_handbook_opens_at_the_stage(qtbot: QtBot, window: Window) -> None:
    for page in (stage.key for stage in STAGES):
        assert page_text(page).startswith("# ")
        assert len(page_text(page)) > 600
    window.open_stage("joints")
    qtbot.keyClick(window, Qt.Key.Key_F1)
    handbook = window.handbook
    assert handbook is not None
    qtbot.addWidget(handbook)
    assert handbook.isVisible()
    assert "strip" in handbook.toPlainText()
    handbook.anchorClicked.emit(QUrl("power.md"))
    assert "BMS" in handbook.toPlainText()


def test_a_bad_own_parts_file_is_said_at_the_start(
    qtbot: QtBot, qapp: QApplication, own_home: Path
) -> None:
    folder = own_home / "XDG_DATA_HOME" / "lumvak" / "parts"
    folder.mkdir(parents=True)
    (folder / "mine.json").write_text("{", "utf-8")
    window = make_window(qapp, None)
    qtbot.addWidget(window)
    assert "mine.json" in window.notice.text.text()
    window.session.end()
