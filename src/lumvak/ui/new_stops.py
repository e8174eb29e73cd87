"""New stops are told where the hands are, whatever stage they lie at."""

from __future__ import annotations

from functools import partial

from PyQt6 import sip
from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QApplication, QWidget

from lumvak.ui.session import Session
from lumvak.ui.speech import spoken, worded


class NewStops(QObject):
    """What an edit has stopped is added to the description of what has the focus."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._told: tuple[QWidget, str, str] | None = None
        self._known: set[str] | None = set(self._stops())
        session.begun.connect(self._forget)
        # Once the fields have said what they have to say of themselves.
        session.changed.connect(partial(QTimer.singleShot, 0, self._look))

    def _forget(self) -> None:
        """What is stopped in a project when it is opened is not new."""
        self._known = None

    def _stops(self) -> dict[str, str]:
        found = self.session.evaluation.findings
        return {item.code: spoken(item.text) for item in found if item.severity == "stop"}

    def _look(self) -> None:
        """Tell what has the focus of the stops that were not there at the last look."""
        stops, focus = self._stops(), QApplication.focusWidget()
        known = set(stops) if self._known is None else self._known
        news = "; ".join(said for code, said in stops.items() if code not in known)
        self._known = set(stops)
        if self._told is not None:
            widget, before, said = self._told
            self._told = None
            # A field in a table goes once its value is taken.
            if not sip.isdeleted(widget) and widget.accessibleDescription() == said:
                widget.setAccessibleDescription(before)
        if news and focus is not None:
            before = focus.accessibleDescription()
            said = worded("{} New stop: {}.", before, news).strip()
            focus.setAccessibleDescription(said)
            self._told = (focus, before, said)
