"""What was claimed stands beside what is here, and a pack goes on as another."""

import pytest
from PyQt6.QtWidgets import QMessageBox

from lumvak.core.document.edit import with_values
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.history_view import HistoryView
from tests.core.record_of_pack.test_label import PACK
from tests.ui.record.conftest import record


def test_claims_stand_beside_what_is_worked_out_here(window: Window) -> None:
    window.session.edit({"record.claimed": (PACK,), "pack.series": 8})
    view = record(window, "history").views["history"]
    assert isinstance(view, HistoryView)
    assert view.claims.isVisible() and not view.past.isVisible()
    rows = {row.cells[0]: row for row in view.claims.rows_model.rows}
    assert rows["Series"].cells[1:] == ("8", "8") and 2 not in rows["Series"].marks
    assert rows["Parallel"].cells[1] == "2" and rows["Parallel"].marks[2] == "crimson"
    assert all(row.marks[1] == "amber" for row in rows.values())


def test_a_pack_that_is_extended_goes_on_as_a_project_of_its_own(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QMessageBox, "exec", lambda _: QMessageBox.StandardButton.Discard)
    view = record(window, "history").views["history"]
    assert isinstance(view, HistoryView)
    before = window.session.project
    view.onward[1].click()
    onward = window.session.project
    assert onward.record.taken_over[0].how == "extended"
    assert onward.pack == before.pack and onward.hand.old.parallel
    # No file holds it yet: leaving it is asked about.
    assert window.session.path is None and window.session.unsaved
    view = record(window, "history").views["history"]
    assert isinstance(view, HistoryView)
    assert view.past.isVisible() and before.name in view.past.rows_model.rows[0].cells[2]
    assert with_values(onward, {}).record.log[-1].kind == "taken over"
