"""Stage: record. The label of the pack, and its log."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.record.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "label": "What must stand on the pack?",
    "log": "What was done, when, and with which readings?",
}


class RecordStage(StageOfViews):
    """One of the views of the record."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(
            session, VIEWS, "View of the record", {"label": self._label, "log": self._log}
        )

    def _label(self, session: Session) -> Page:
        from lumvak.ui.stages.record.label_view import LabelView

        return LabelView(session)

    def _log(self, session: Session) -> Page:
        from lumvak.ui.stages.record.log_view import PackLogView

        return PackLogView(session)
