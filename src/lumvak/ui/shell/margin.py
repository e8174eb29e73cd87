"""The margin: what there is to notice at this stage, and the working of the figure clicked."""

from __future__ import annotations

from PyQt6.QtCore import QRect, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.ui.session import Session
from lumvak.ui.shell.findings_view import FindingsView
from lumvak.ui.shell.working_view import WorkingTree
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.widgets.figure_label import draw_assumed
from lumvak.ui.widgets.flow import scrolled
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain


class _Legend(QWidget):
    """What the words under a figure mean."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(THEME.px(22))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        font = THEME.font("note", table=True)
        painter.setFont(font)
        metrics = QFontMetrics(font)
        x = 0
        for origin, role in (("typed", "verdigris"), ("data sheet", "ink"), ("assumed", "amber")):
            painter.setPen(THEME.colour(role))
            word = in_words(origin)
            width = metrics.horizontalAdvance(word)
            painter.drawText(
                QRect(x, 0, width + 4, self.height()), Qt.AlignmentFlag.AlignVCenter, word
            )
            x += width + THEME.px(8)
            if origin == "assumed":
                draw_assumed(painter, x, self.height() / 2)
            x += THEME.px(8)


class Margin(QWidget):
    """Findings above, working below."""

    closed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("paper")
        self.findings = FindingsView()
        self.tree = WorkingTree()
        self.title = plain("")
        self.title.setWordWrap(True)
        self.title.setFont(THEME.font("stage", strong=True))
        notice = plain("To notice")
        notice.setFont(THEME.font("stage", strong=True))
        self.scroll_area = scrolled(self.findings)
        rule = QFrame()
        rule.setFixedHeight(1)
        rule.setStyleSheet(f"background: {THEME.colours.line};")
        self.away = QPushButton("fold away")
        self.away.setToolTip(in_words("Back to the stage (Escape)"))
        self.away.clicked.connect(self.closed)
        self.away.hide()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(THEME.px(16), THEME.px(12), THEME.px(8), THEME.px(4))
        layout.setSpacing(THEME.px(6))
        head = QHBoxLayout()
        head.addWidget(notice)
        head.addStretch(1)
        head.addWidget(self.away)
        layout.addLayout(head)
        layout.addWidget(self.scroll_area)
        layout.addWidget(rule)
        layout.addWidget(self.title)
        layout.addWidget(self.tree, 1)
        layout.addWidget(_Legend())
        self.findings.explained.connect(session.explain)
        self.findings.laid_out.connect(self._share_height)

    def float_over(self, body: QWidget | None) -> None:
        """Float over ``body``, or stand beside the stage where there is none."""
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground, body is not None)
        self.away.setVisible(body is not None)
        if body is not None and self.parentWidget() is not body:
            self.setParent(body)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape and self.away.isVisible():
            self.closed.emit()
            return
        super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self.away.isVisible():
            painter = QPainter(self)
            painter.setPen(THEME.colour("soft"))
            painter.drawLine(0, 0, 0, self.height())

    def resizeEvent(self, event: object) -> None:
        self._share_height()

    def _share_height(self) -> None:
        """The findings take what they need, up to half of the height; the working the rest."""
        wanted = self.findings.minimumHeight() + THEME.px(4)
        self.scroll_area.setFixedHeight(min(wanted, self.height() * 48 // 100))

    def show_stage(self, stage: str) -> None:
        """Show the findings of a stage and the working of the figure in question."""
        evaluation = self.session.evaluation
        findings = (*evaluation.findings, *self.session.beside)
        self.findings.show_findings(
            tuple(item for item in findings if item.stage == stage), evaluation.figures
        )
        self._share_height()
        figure = self.session.figure(self.session.explained_key)
        if figure is not None:
            self.title.setText(
                worded("Why {}? {}", say(figure.value, figure.unit), spoken(figure.label))
            )
            self.tree.show_figure(figure)
