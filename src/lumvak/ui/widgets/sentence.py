"""A sentence in a stage whose numbers lead to the figures that they are."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QLabel, QSizePolicy

from lumvak.core.figures.mentioned import Mention, mentioned
from lumvak.core.said import Text
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, placed
from lumvak.ui.widgets.keys import is_enter, moved, step_of
from lumvak.ui.widgets.linked_text import LinkedText
from lumvak.ui.widgets.theme import THEME

SIZE = "table"


class Sentence(QLabel):
    """A line of soft text that wraps; numbers that are figures are underlined.

    A click on one, or Left and Right to it and Enter, shows its working.
    """

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._text, self._mentions = "", tuple[Mention, ...]()
        self._laid: LinkedText | None = None
        self._along = 0
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        self.setWordWrap(True)
        self.setMouseTracking(True)

    def text(self) -> str:
        """What it says."""
        return self._text

    def keys(self) -> tuple[str, ...]:
        """The figures that it mentions, in order."""
        return tuple(item.key for item in self._mentions)

    def tell(self, said: Text, about: Sequence[str] = ()) -> None:
        """Say it; it is ``about`` figures of the evaluation at hand."""
        text, places = placed(said)
        mentions = mentioned(places, self._session.evaluation.figures, about)
        if (text, mentions) == (self._text, self._mentions):
            return
        self._text, self._mentions, self._laid, self._along = text, mentions, None, 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if mentions else Qt.FocusPolicy.NoFocus)
        self.setAccessibleName(text)
        self.setToolTip(in_words("Underlined: click to see how it came about") if mentions else "")
        self.updateGeometry()
        self.update()

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return LinkedText(self._text, (), float(width), SIZE, strong=False).height

    def sizeHint(self) -> QSize:
        wide = max(self.width(), THEME.px(240))
        return QSize(wide, self.heightForWidth(wide))

    def minimumSizeHint(self) -> QSize:
        return QSize(THEME.px(120), 0)

    def _text_laid(self) -> LinkedText:
        if self._laid is None:
            self._laid = LinkedText(
                self._text, self._mentions, float(self.width()), SIZE, strong=False
            )
        return self._laid

    def event(self, event: QEvent | None) -> bool:
        if event is not None and event.type() in (
            QEvent.Type.Resize,
            QEvent.Type.FontChange,
            QEvent.Type.PaletteChange,
            QEvent.Type.StyleChange,
        ):
            self._laid = None
        return super().event(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setPen(THEME.colour("soft"))
        self._text_laid().draw(painter, 0.0, 0.0)
        if self.hasFocus() and self._mentions:
            painter.setPen(THEME.colour("verdigris"))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            at = event.position()
            here = self._text_laid().key_at(at.x(), at.y())
            shape = Qt.CursorShape.PointingHandCursor if here else Qt.CursorShape.ArrowCursor
            self.setCursor(shape)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        at = event.position()
        if key := self._text_laid().key_at(at.x(), at.y()):
            self._session.explain(key)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if self._mentions and is_enter(event):
            self._session.explain(self._mentions[self._along].key)
            return
        step = step_of(event, Qt.Key.Key_Left, Qt.Key.Key_Right)
        if self._mentions and step:
            self._along = moved(self._along, step, len(self._mentions))
            self._session.explain(self._mentions[self._along].key)
            return
        super().keyPressEvent(event)
