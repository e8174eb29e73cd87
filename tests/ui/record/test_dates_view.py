"""Days, as the window shows them."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.dates_view import DatesView
from tests.ui.record.conftest import record


def test_days_come_once_it_was_closed_up(window: Window) -> None:
    view = record(window, "dates").views["dates"]
    assert isinstance(view, DatesView)
    assert view.waits.isVisible() and not view.table.isVisible()
    window.session.edit({"record.built": "2020-01-31"})
    assert not view.waits.isVisible() and view.table.rows_model.rowCount() > 3
    window.session.edit({"record.built": None})
    assert view.waits.isVisible()
