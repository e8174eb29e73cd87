"""Sheets apart from the project are made once, and anew after a change of style."""

from lumvak.ui.laid_over.practise_page import PractisePage
from lumvak.ui.shell.window import Window
from tests.ui.laid_over.test_practise_page import asked


def test_a_sheet_is_made_once_and_goes_with_its_style(window: Window) -> None:
    assert not window.findChildren(PractisePage)
    for _ in range(2):
        asked(window, "actise").trigger()
    (page,) = window.findChildren(PractisePage)
    page.leave()
    window.swap_sheet()
    asked(window, "actise").trigger()
    shown = [it for it in window.findChildren(PractisePage) if it.isVisible()]
    assert len(shown) == 1 and shown[0] is not page
    window.swap_sheet()
