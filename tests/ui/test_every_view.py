"""What holds of every view: its size, its drawings as rows, its heads, its keys.

To open all views takes longer than to look at them: one window serves all of these tests.
"""

from collections.abc import Iterator
from itertools import chain

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.ui.application import make_window
from lumvak.ui.handbook.pages import page_text
from lumvak.ui.shell.as_rows import all_told
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells import stage as cells
from lumvak.ui.stages.joints import stage as joints
from lumvak.ui.stages.order import STAGES
from lumvak.ui.stages.power import stage as power
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.tables import RowsTable
from lumvak.ui.widgets.told import told_by
from tests.conftest import BARROW, HOMES
from tests.length import so_many
from tests.sizes import SIZES, faults_in_views, focus, out_of_view, settled, turns_of, views_of
from tests.ui.conftest import forget

CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture(scope="module")
def opened(qapp: QApplication, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Window]:
    folder = tmp_path_factory.mktemp("shared")
    path = folder / BARROW.name
    path.write_text(BARROW.read_text("utf-8"), "utf-8")
    with pytest.MonkeyPatch.context() as patch:
        for name in HOMES:
            patch.setenv(name, str(folder / name))
        made = make_window(qapp, path)
    made.setProperty("shared", True)
    yield made
    made.setProperty("shared", False)
    forget(made)
    made.close()
    made.deleteLater()


@pytest.fixture
def shared(qtbot: QtBot, opened: Window) -> Iterator[Window]:
    """The window of all these tests; it is given on as it was."""
    opened.show()
    qtbot.waitExposed(opened)
    opened.open_stage("need")
    yield opened
    while opened.session.undo_stack.canUndo():
        opened.session.undo_stack.undo()
    opened.resize(*opened.settings.window_px)


def hidden_in_views(window: Window) -> list[str]:
    """Drawings and rows that are out of view, and what scrolls within what scrolls."""
    found = []
    for stage, view in views_of(window):
        settled()
        found += [f"{stage}/{view}: {fault}" for fault in out_of_view(window.stages[stage])]
    return found


def test_every_view_fits_every_size(shared: Window) -> None:
    for size in SIZES:
        shared.resize(*size)
        settled()
        assert (shared.width(), shared.height()) == size
        assert not faults_in_views(shared), size
    shared.resize(*SIZES[0])
    assert not hidden_in_views(shared)


def test_every_stage_answers_opens_and_has_its_page_in_the_handbook(
    shared: Window, evaluation: Evaluation
) -> None:
    keys = [stage.key for stage in STAGES]
    assert len(set(keys)) == len(keys)
    for stage in STAGES:
        answer = stage.answer(evaluation)
        assert answer
        assert "\n" not in answer
        assert page_text(stage.key).startswith("# ")
        shared.open_stage(stage.key)
        assert shared.stage == stage.key
        assert shared.stack.currentWidget() is shared.stages[stage.key]
        assert stage.answer(shared.session.evaluation) in {
            entry.answer for entry in shared.build_line.entries
        }


def test_every_view_has_its_drawings_as_rows(qtbot: QtBot, shared: Window) -> None:
    walked: dict[str, set[str]] = {}
    for stage, view in views_of(shared):
        QApplication.processEvents()
        page = shared.stages[stage]
        for told in all_told((page,)):
            assert told.name
            assert all(len(row) == len(told.heads) for row in told.rows), told.name
            walked.setdefault(f"{stage}/{view}", set()).add(told.name)
        # Whatever paints itself and takes the focus tells what it shows, or is a plain table.
        for widget in page.findChildren(QWidget):
            if widget.isVisible() and type(widget).__name__ in ("LadderView", "PackView"):
                assert told_by(widget) is not None
    for view in ("need/", "cells/counts", "run/", "arrangement/", "joints/table", "power/order"):
        assert walked[view]


def test_every_head_of_a_table_has_a_tip(shared: Window) -> None:
    views = {"cells": cells.VIEWS, "joints": joints.VIEWS, "power": power.VIEWS}
    walked: set[str] = set()
    for key in (item.key for item in STAGES):
        shared.open_stage(key)
        stage = shared.stages[key]
        for view, _ in views.get(key, ()):
            stage.show_view(view)  # type: ignore[attr-defined]
        for table in stage.findChildren(RowsTable):
            for column in table.rows_model.columns:
                walked.add(column.head)
                assert column.tip or not column.head, (key, column.head)
    assert len(walked) > 100


def test_views_have_numbers_and_neighbours(qtbot: QtBot, shared: Window) -> None:
    for stage in STAGES:
        shared.go_to(stage.key)
        for place, (view, _) in enumerate(stage.views):
            qtbot.keyClick(shared, Qt.Key(Qt.Key.Key_1 + place), CONTROL)
            page = shared.stages[stage.key]
            assert page.view.value == view  # type: ignore[attr-defined]
            assert page.isAncestorOf(focus())
    shared.go_to("joints")
    order = [view for view, _ in next(stage.views for stage in STAGES if stage.key == "joints")]
    qtbot.keyClick(shared, Qt.Key.Key_1, CONTROL)
    for view in (*order[1:], order[0]):
        qtbot.keyClick(shared, Qt.Key.Key_PageDown, CONTROL)
        assert shared.stages["joints"].view.value == view  # type: ignore[attr-defined]
    qtbot.keyClick(shared, Qt.Key.Key_PageUp, CONTROL)
    assert shared.stages["joints"].view.value == order[-1]  # type: ignore[attr-defined]
    # A stage without views keeps its page.
    shared.go_to("run")
    qtbot.keyClick(shared, Qt.Key.Key_4, CONTROL)
    assert shared.stage == "run"


def test_tab_leaves_every_grid(qtbot: QtBot, shared: Window) -> None:
    shared.session.edit({"arrangement.room.kind": "outline", "arrangement.kept_free": ()})
    walked: set[str] = set()
    for stage, view in views_of(shared):
        for turn in chain(("",), turns_of(shared, stage, so_many(4, 1))):
            QApplication.processEvents()
            for grid in shared.stages[stage].findChildren(Grid):
                table = grid.table
                if not table.isVisible() or not table.isEnabled():
                    continue
                for back in (False, True):
                    table.setFocus()
                    key = Qt.Key.Key_Backtab if back else Qt.Key.Key_Tab
                    qtbot.keyClick(focus(), key)
                    assert not (focus() is table or table.isAncestorOf(focus())), (view, turn)
                walked.add(table.accessibleName())
    assert len(walked) >= 12
