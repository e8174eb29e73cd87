"""Stage: record. The label of the pack, and its log."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.record.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "label": "What must stand on the pack?",
    "log": "What was done, and when?",
    "bill": "What does the pack take?",
    "report": "What goes to whoever owns it?",
    "dates": "When is it to be looked at?",
    "history": "What was it, and what becomes of it?",
    "conversion": "What does the old tool gain?",
}


class RecordStage(StageOfViews):
    """One of the views of the record."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        makers = {
            "label": self._label,
            "log": self._log,
            "bill": self._bill,
            "report": self._report,
            "dates": self._dates,
            "history": self._history,
            "conversion": self._conversion,
        }
        super().__init__(session, VIEWS, "View of the record", makers)

    def _label(self, session: Session) -> Page:
        from lumvak.ui.stages.record.label_view import LabelView

        return LabelView(session)

    def _log(self, session: Session) -> Page:
        from lumvak.ui.stages.record.log_view import PackLogView

        return PackLogView(session)

    def _bill(self, session: Session) -> Page:
        from lumvak.ui.stages.record.bill_view import BillView

        return BillView(session)

    def _report(self, session: Session) -> Page:
        from lumvak.ui.stages.record.report_view import ReportView

        return ReportView(session)

    def _dates(self, session: Session) -> Page:
        from lumvak.ui.stages.record.dates_view import DatesView

        return DatesView(session)

    def _history(self, session: Session) -> Page:
        from lumvak.ui.stages.record.history_view import HistoryView

        return HistoryView(session)

    def _conversion(self, session: Session) -> Page:
        from lumvak.ui.stages.record.conversion_view import ConversionView

        return ConversionView(session)
