"""A page lives as long as its project; the view that it was left at stays."""

from PyQt6.QtWidgets import QStackedWidget

from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.opened import StagePages, view_now
from tests.conftest import TRIMMER
from tests.ui.conftest import forget


def test_pages_are_made_once_and_end_with_their_project(session: Session) -> None:
    stack = QStackedWidget()
    pages = StagePages(session, {"taps": "check", "hand": "no such view"})
    pages.lie_in(stack)
    taps = pages.page("taps")
    assert pages.page("taps") is taps and stack.count() == 1
    assert view_now(taps) == "check"
    pages.page("hand").show_view("judge")
    assert pages.views_now() == {"taps": "check", "hand": "judge"}
    pages.leave()
    assert not pages.made and stack.count() == 0
    assert pages.views_now() == {"taps": "check", "hand": "judge"}
    assert pages.page("taps") is not taps and view_now(pages.page("taps")) == "check"


def test_what_a_page_knew_ends_with_its_project(window: Window) -> None:
    window.open_stage("arrangement")
    page = window.stages["arrangement"]
    page.chosen = frozenset((0, 1))  # type: ignore[attr-defined]
    window.session.explain("pack.full_voltage_v")
    window.session.edit({"note": "x"})
    assert window.stages["arrangement"] is page
    forget(window)
    window.files.open(TRIMMER)
    fresh = window.stages["arrangement"]
    assert window.stage == "arrangement" and fresh is not page
    assert window.stack.currentWidget() is fresh and window.stack.count() == 1
    assert fresh.chosen == frozenset()  # type: ignore[attr-defined]
