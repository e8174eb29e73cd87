"""Bench mode: one step of the work on the whole screen, read at arm's length, led by keys alone."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from msgspec import Struct
from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QFont, QHideEvent, QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from lumvak.ui.pack_drawing.side import SideShown
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.keys import is_return
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain

# Shares of the height of the screen: what is typed and its place are a tenth, 30 mm on 24 inches.
LARGE, MIDDLE, SMALL = 0.1, 0.05, 0.03
# So many times as large as the whole pack a place is shown.
CLOSE = 2.5


class BenchStep(Struct, frozen=True):
    """One step at the bench.

    ``place`` is said in large type, ``what`` is to be done there, ``cover`` stays covered,
    ``expected`` is what a reading should be; ``sides`` are drawings with their names, ``beside``
    makes what is drawn where no side is. ``take`` keeps what was typed and returns what was wrong
    with it; without it there is nothing to type. ``near_mm`` is the place of the pack that the
    drawings are close to. ``kept`` says what was read here before; it is asked before it is
    replaced. ``caution`` is said where nothing is covered.
    """

    place: str
    what: str
    cover: str = ""
    expected: str = ""
    sides: tuple[tuple[str, SideShown], ...] = ()
    take: Callable[[str], str] | None = None
    near_mm: tuple[float, float] | None = None
    caution: str = ""
    kept: Callable[[], str] | None = None
    beside: Callable[[], QWidget] | None = None


DONE = BenchStep("done", "All steps are done. Escape goes back to the window.")


class BenchMode(QWidget):
    """Enter keeps and goes on, Backspace on an empty field goes back, Escape leaves.

    After the last step it stays, so that nothing typed in haste goes elsewhere; where ``more``
    gives another step, it goes on for as long as there are any.
    """

    def __init__(
        self,
        session: Session,
        title: str,
        steps: Sequence[BenchStep],
        more: Callable[[], BenchStep | None] | None = None,
    ) -> None:
        super().__init__()
        self._session, self._more, self._asked = session, more, ""
        self.setWindowTitle(worded("{} – Lumvak", title))
        self.setObjectName("sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.steps, self.at, self.last = list(steps), 0, ""
        self.count, self.place, self.what = plain(""), plain(""), plain("")
        self.cover, self.expected, self.problem = plain(""), plain(""), plain("")
        self.reading, self.keys = plain(""), plain("Enter: on    Backspace: back    Escape: leave")
        for label in (self.what, self.cover, self.expected, self.problem):
            label.setWordWrap(True)
        for label in (self.cover, self.count, self.reading, self.keys):
            label.setObjectName("soft")
        self.problem.setObjectName("bad")
        self.entry = EntryField()
        self.entry.setAccessibleName(in_words("Reading"))
        self.entry.installEventFilter(self)
        self.views: list[PackView] = []
        self.names: list[QLabel] = []
        self.drawn = QVBoxLayout()
        self.beside: QWidget | None = None
        self._lay_out()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._show_step()

    def _lay_out(self) -> None:
        said = QVBoxLayout()
        for widget in (self.place, self.what, self.expected, self.entry, self.problem):
            said.addWidget(widget)
        said.addStretch(1)
        said.addWidget(self.cover)
        self.middle = middle = QHBoxLayout()
        middle.addLayout(self.drawn, 1)
        middle.addLayout(said, 1)
        foot = QHBoxLayout()
        foot.addWidget(self.count)
        foot.addStretch(1)
        foot.addWidget(self.reading)
        foot.addStretch(1)
        foot.addWidget(self.keys)
        outer = QVBoxLayout(self)
        outer.addLayout(middle, 1)
        outer.addLayout(foot)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Type and margins follow the height of the screen."""
        super().resizeEvent(event)
        layout = self.layout()
        if layout is not None:
            layout.setContentsMargins(*[round(SMALL * self.height())] * 4)
        self._set_type()

    def _set_type(self) -> None:
        for share, strong, labels in (
            (LARGE, True, (self.place, self.entry)),
            (MIDDLE, False, (self.what, self.expected, self.problem)),
            (SMALL, False, (self.cover, self.count, self.reading, self.keys, *self.names)),
        ):
            font = QFont(THEME.font("table", strong=strong))
            font.setPixelSize(max(round(share * self.height()), 10))
            for label in labels:
                label.setFont(font)

    @property
    def step(self) -> BenchStep:
        """The step in hand; where all are done, one that says so."""
        return DONE if self.at == len(self.steps) else self.steps[self.at]

    def _show_step(self) -> None:
        step = self.step
        self._asked = ""
        self.place.setText(step.place)
        self.what.setText(step.what)
        self.cover.setText(worded("Keep covered: {}", step.cover) if step.cover else step.caution)
        kept = "" if step.kept is None else step.kept()
        expected = worded("expected {}", step.expected) if step.expected else ""
        self.expected.setText(
            "; ".join(filter(None, (expected, worded("kept: {}", kept) if kept else "")))
        )
        self.expected.setVisible(bool(self.expected.text()))
        count = worded("step {} of {}", self.at + 1, len(self.steps))
        if self._more is not None:
            count = worded("reading {}, until Escape", self.at + 1)
        self.count.setText("" if step is DONE else count)
        self.reading.setText(worded("last: {}", self.last) if self.last else "")
        self.problem.setText("")
        self.entry.clear()
        self.entry.setVisible(step.take is not None)
        (self if step.take is None else self.entry).setFocus()
        self._draw(step)

    def _draw(self, step: BenchStep) -> None:
        # Without a drawing the words have the whole width.
        self.middle.setStretch(0, int(bool(step.sides) or step.beside is not None))
        if self.beside is not None:
            self.drawn.removeWidget(self.beside)
            self.beside.deleteLater()
        self.beside = None if step.beside is None else step.beside()
        if self.beside is not None:
            self.drawn.addWidget(self.beside, 1)
        while len(self.views) < len(step.sides):
            name, view = plain(""), PackView("")
            name.setObjectName("soft")
            self.drawn.addWidget(name)
            self.drawn.addWidget(view, 1)
            self.names.append(name)
            self.views.append(view)
            self._set_type()
        for place, (name, view) in enumerate(zip(self.names, self.views, strict=True)):
            shown = place < len(step.sides)
            name.setVisible(shown)
            view.setVisible(shown)
            if shown:
                words, drawn = step.sides[place]
                name.setText(words)
                view.setAccessibleName(in_words(words))
                view.show_drawn(drawn)
                if step.near_mm is not None:
                    view.look_at(*step.near_mm, CLOSE)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """An empty field leaves Backspace to the steps."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.KeyPress
            and event.key() == Qt.Key.Key_Backspace
            and not self.entry.text()
        ):
            self._go(-1)
            return True
        return super().eventFilter(watched, event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.close()
        elif is_return(event):
            self._keep()
        elif event is not None and event.key() == Qt.Key.Key_Backspace and not self.entry.text():
            self._go(-1)
        else:
            super().keyPressEvent(event)

    def _keep(self) -> None:
        """Keep what was typed and go on; what cannot be kept stays, selected, and is explained."""
        text, step = self.entry.text().strip(), self.step
        if step.take is not None:
            kept = "" if step.kept is None else step.kept()
            if text and kept and text != self._asked:
                self._asked = text
                self.problem.setText(
                    worded("{} is kept here: Enter again replaces it by {}.", kept, text)
                )
                self._session.beep()
                return
            # What takes it may say more of it than what was typed.
            before, self.last = self.last, text
            if problem := step.take(text):
                self.problem.setText(problem)
                self.last = before
                self.entry.selectAll()
                self._session.beep()
                return
        self._go(1)

    def _go(self, by: int) -> None:
        if by > 0 and self._more is not None and self.at == len(self.steps) - 1:
            step = self._more()
            if step is not None:
                self.steps.append(step)
        self.at = min(max(self.at + by, 0), len(self.steps))
        self._show_step()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        if event is not None and not event.spontaneous():
            self._session.bench_left.emit()
