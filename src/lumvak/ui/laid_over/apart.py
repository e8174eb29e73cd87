"""What lies over the window and is not of its project: practise, and the shelf of projects."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget

from lumvak.ui.laid_over.over import Over
from lumvak.ui.session import Session


class Apart(QObject):
    """Makes the sheets when they are first asked for, and anew after a change of style."""

    def __init__(self, over: QWidget, session: Session, open_file: Callable[[Path], None]) -> None:
        """Sheets lie ``over`` a window; ``open_file`` opens a project that is picked."""
        super().__init__(over)
        self._over, self._session, self._open = over, session, open_file
        self._practising: QObject | None = None
        self._sheets: dict[str, Over] = {}
        over.installEventFilter(self)

    def practise(self) -> None:
        """Look for what is wrong with a simulated pack; what is in hand goes on."""
        from lumvak.ui.laid_over.practise_page import PractisePage
        from lumvak.ui.laid_over.practising import Practising

        if not isinstance(self._practising, Practising):
            self._practising = Practising(self._session.catalogue)
            self.destroyed.connect(self._practising.work.end)
        page = self._sheets.get("practise")
        if not isinstance(page, PractisePage):
            page = self._sheets["practise"] = PractisePage(self._over, self._practising)
        page.ask()

    def shelf(self) -> None:
        """List the projects of a folder."""
        from lumvak.ui.laid_over.shelf_page import ShelfPage

        page = self._sheets.get("shelf")
        if not isinstance(page, ShelfPage):
            page = self._sheets["shelf"] = ShelfPage(self._over, self._session, self._open)
        page.ask()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """A change of style takes the sheets away: they are measured for the one before."""
        if event is not None and event.type() == QEvent.Type.StyleChange:
            for sheet in self._sheets.values():
                sheet.hide()
                sheet.deleteLater()
            self._sheets = {}
        return super().eventFilter(watched, event)
