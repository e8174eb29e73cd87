"""What lies over the window and is not of its project: how one begins, practise, the shelf."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any, Protocol

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget

from lumvak.ui.laid_over.over import Over
from lumvak.ui.session import Session


class Opener(Protocol):
    """What opens files and begins projects for a window."""

    def open(self, path: Path) -> None: ...
    def open_sample(self, path: Path) -> None: ...
    def new(self, changes: Mapping[str, Any] = ...) -> None: ...


class Apart(QObject):
    """Makes the sheets when they are first asked for, and anew after a change of style."""

    def __init__(self, over: QWidget, session: Session, files: Opener) -> None:
        """Sheets lie ``over`` a window; ``files`` opens or begins what is picked."""
        super().__init__(over)
        self._over, self._session, self._files = over, session, files
        self._practising: QObject | None = None
        self._sheets: dict[str, Over] = {}
        over.installEventFilter(self)

    def begin(self) -> None:
        """Ask how a project begins."""
        from lumvak.ui.laid_over.begin_page import BeginPage

        page = self._sheets.get("begin")
        if not isinstance(page, BeginPage):
            files = self._files
            page = self._sheets["begin"] = BeginPage(self._over, files.new, files.open_sample)
        page.ask()

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
            page = self._sheets["shelf"] = ShelfPage(self._over, self._session, self._files.open)
        page.ask()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """A change of style takes the sheets away: they are measured for the one before."""
        if event is not None and event.type() == QEvent.Type.StyleChange:
            for sheet in self._sheets.values():
                sheet.hide()
                sheet.deleteLater()
            self._sheets = {}
        return super().eventFilter(watched, event)
