"""Parts of a found pack on one scale."""

from PyQt6.QtGui import QPixmap

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.audit_view import AuditView
from tests.ui.as_found.conftest import as_found


def test_the_scale_reaches_past_what_it_was_sold_as(window: Window) -> None:
    view = as_found(window, "audit").views["audit"]
    assert isinstance(view, AuditView)
    drawn = view.drawn
    assert drawn.top_a > 40.0 and drawn.weakest == "series-joints"
    picture = QPixmap(drawn.size())
    drawn.render(picture)
    before = picture.toImage()
    window.session.edit({"as_found.promised_a": 20.0})
    drawn.render(picture)
    assert picture.toImage() != before
    assert "no limit" in drawn.accessibleName()
