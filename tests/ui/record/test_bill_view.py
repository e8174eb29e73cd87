"""What the pack takes, as the window shows it."""

from lumvak.core.record_of_pack.bill import bill_of
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.bill_view import BillView
from tests.ui.record.conftest import record


def test_every_line_is_a_row_and_the_total_tells_what_is_not_known(window: Window) -> None:
    view = record(window, "bill").views["bill"]
    assert isinstance(view, BillView)
    lines = bill_of(window.session.evaluation)
    assert view.table.rows_model.rowCount() == len(lines)
    assert f"{sum(it.cost is None for it in lines)} things of unknown cost" in view.total.text()
