"""The frame of the window: title, build line, stage, margin and path, and how they fold."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QContextMenuEvent, QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from lumvak.ui.copying import copy_picture, copy_rows, source_of
from lumvak.ui.session import Session
from lumvak.ui.shell.build_line import WIDE, BuildLine, StageButton
from lumvak.ui.shell.folds import Folds, short_of_room
from lumvak.ui.shell.margin import Margin
from lumvak.ui.shell.moving import next_stop
from lumvak.ui.shell.notice import Notice
from lumvak.ui.shell.path_view import PathView
from lumvak.ui.shell.title_line import TitleLine
from lumvak.ui.speech import in_words
from lumvak.ui.widgets.keys import is_return
from lumvak.ui.widgets.pages import Split, Stack
from lumvak.ui.widgets.theme import THEME

MARGIN_WIDE = 280
ROW = "Copy this row\tCtrl+Alt+C"
COPIES: tuple[tuple[str, Callable[[QWidget], object]], ...] = (
    ("Copy rows\tCtrl+C", copy_rows),
    (ROW, partial(copy_rows, here=True)),
    ("Copy as picture\tCtrl+Shift+C", copy_picture),
)


class Frame(QWidget):
    """Everything but the menus; made anew for another sheet or size of text.

    ``entered`` tells that Enter was pressed on a stage: whoever does wants its first field.
    """

    entered = pyqtSignal()

    def __init__(self, session: Session, folds: Folds) -> None:
        super().__init__()
        self.session, self.folds = session, folds
        self.setObjectName("paper")
        self.title_line, self.notice = TitleLine(session), Notice()
        self.build_line, self.path_view = BuildLine(), PathView()
        self.margin, self.stack = Margin(session), Stack()
        parts = (self.build_line, self.stack, self.margin)
        self.split = Split(session, "frame", Qt.Orientation.Horizontal, parts, ())
        self.split.setStretchFactor(1, 1)
        self.margin.setMinimumWidth(THEME.px(210))
        self.margin.setMaximumWidth(THEME.px(460))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.title_line)
        layout.addWidget(self.notice)
        layout.addWidget(self.split, 1)
        layout.addWidget(self.path_view)

    @property
    def parts(self) -> tuple[QWidget, ...]:
        """What the window is made of, in the order in which keys go through it."""
        lines = (self.title_line, self.notice, self.build_line)
        return (*lines, self.stack, self.margin, self.path_view)

    def focusNextPrevChild(self, next: bool) -> bool:
        return next_stop(self.parts, 1 if next else -1) or super().focusNextPrevChild(next)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter presses the button that has the focus."""
        focus = QApplication.focusWidget()
        if is_return(event) and isinstance(focus, StageButton):
            self.entered.emit()
        elif is_return(event) and isinstance(focus, QAbstractButton):
            focus.click()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """What can be copied where the pointer is, or where the focus is."""
        if event is None:
            return
        keys = event.reason() == QContextMenuEvent.Reason.Keyboard
        under = QApplication.focusWidget() if keys else self.childAt(event.pos())
        source = source_of(under)
        if source is None or not self.isAncestorOf(source):
            return
        menu = QMenu(self)
        for text, copy in COPIES:
            if text != ROW or isinstance(source, QAbstractItemView):
                menu.addAction(in_words(text), partial(copy, source))
        menu.exec(event.globalPos())

    def fit(self, *, anew: bool = False) -> None:
        """Fold by itself what the window has no room for; ``anew`` also where nothing changed."""
        window = self.window()
        if window is None:
            return
        room = (window.width(), window.height(), THEME.percent)
        if self.folds.fit(short_of_room(*room)) or anew:
            self.show_folds()
        self._place_margin()

    def show_folds(self) -> None:
        """Fold and open parts as they are wanted; where room is short the margin floats."""
        self.build_line.fold(self.folds.folded("line"))
        self.path_view.fold(self.folds.folded("path"))
        floats, folded = "margin" in self.folds.short, self.folds.folded("margin")
        self.margin.float_over(self if floats else None)
        if not floats and self.split.indexOf(self.margin) < 0:
            self.split.addWidget(self.margin)
        self.margin.setVisible(not folded)
        # All that is left over is the stage's.
        left = self.session.splits.get("frame", (WIDE, 0, MARGIN_WIDE))
        line = (
            self.build_line.sizeHint().width() if self.folds.folded("line") else THEME.px(left[0])
        )
        beside = 0 if floats or folded or len(left) < 3 else THEME.px(left[2] or MARGIN_WIDE)
        self.split.setSizes([line, max(self.width() - line - beside, 1), beside])
        self._place_margin()

    def _place_margin(self) -> None:
        """Where the margin floats, it lies over the right of the stage."""
        if self.margin.parentWidget() is not self:
            return
        wide, top = THEME.px(MARGIN_WIDE), self.split.geometry().top()
        self.margin.setGeometry(self.width() - wide, top, wide, self.split.height())
        self.margin.raise_()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.fit()
