"""Pages of which one is seen: what a stage is, its head, and views that are made when opened."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QSizePolicy,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.evaluation import Evaluation
from lumvak.ui.language import turn
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft, tip


@contextmanager
def waiting() -> Iterator[None]:
    """Show that the window is at work while something is done that may take a moment."""
    QApplication.setOverrideCursor(Qt.CursorShape.BusyCursor)
    try:
        yield
    finally:
        QApplication.restoreOverrideCursor()


class Page(QWidget):
    """A stage, or a view of one: draws evaluations while it is seen.

    ``about`` is a line beside the title of its stage.
    """

    about = ""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Draw what is in view of an evaluation."""
        raise NotImplementedError

    def show_view(self, view: str) -> None:
        """Turn to one of its views; a page that has none stays as it is."""

    def begin_bench(self) -> bool:
        """Open the steps of what is in view in bench mode; whether it has any."""
        return False

    def bench_field(self) -> QWidget | None:
        """Where what is typed belongs once bench mode is left; ``None`` where that is nowhere."""
        return None

    def take_file(self, path: Path) -> None:
        """Take what a file holds, where this page takes any; a problem is told."""

    def show_path(self, path: str) -> None:
        """Turn to where a field of the document is set, as far as this page shows one of several.

        What sets it has its path as the name of its object.
        """


class Stack(QStackedWidget):
    """Pages of which the one in front alone asks for room."""

    def sizeHint(self) -> QSize:
        page = self.currentWidget()
        return QSize() if page is None else page.sizeHint()

    def minimumSizeHint(self) -> QSize:
        page = self.currentWidget()
        return QSize() if page is None else page.minimumSizeHint()


class Views(Stack):
    """The views of a stage, each made when it is first opened."""

    def __init__(self, session: Session, makers: Mapping[str, Callable[[Session], Page]]) -> None:
        super().__init__()
        self._session, self._makers = session, makers
        self.made: dict[str, Page] = {}

    def view(self, key: str) -> Page:
        """A view, made when it is first asked for."""
        if key not in self.made:
            with waiting():
                self.made[key] = self._makers[key](self._session)
                self.addWidget(self.made[key])
        return self.made[key]

    def open(self, key: str) -> Page:
        """Turn to a view."""
        page = self.view(key)
        self.setCurrentWidget(page)
        return page


class Split(QSplitter):
    """Panes with a line between them, which stays where the builder left it.

    ``sizes`` are of the panes in px at 100 %, until the line is moved.
    """

    def __init__(
        self,
        session: Session,
        name: str,
        way: Qt.Orientation,
        panes: Sequence[QWidget],
        sizes: Sequence[float],
        line: int = 1,
    ) -> None:
        super().__init__(way)
        self._session, self._name = session, name
        self.setHandleWidth(line)
        self.setChildrenCollapsible(False)
        for pane in panes:
            self.addWidget(pane)
        self.lay(name, sizes)
        self.splitterMoved.connect(self.keep)

    def lay(self, name: str, sizes: Sequence[float]) -> None:
        """Lay the panes out as they were left under a name, or in these sizes."""
        self._name = name
        self.setSizes([THEME.px(size) for size in self._session.splits.get(name, sizes)])

    def keep(self) -> None:
        """Remember where the line is."""
        left = tuple(round(size * 100 / THEME.percent) for size in self.sizes())
        self._session.splits[self._name] = left


class StageHead(QWidget):
    """The title of a stage, a line beside it, and the choice of its views."""

    def __init__(
        self, views: Sequence[tuple[str, str]], name: str, *, views_below: bool = False
    ) -> None:
        super().__init__()
        self.title, self.about = heading(""), soft("")
        self.view = ChoiceRow(views, name)
        self.about.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._always_below = views_below
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), THEME.px(12), THEME.px(12), 0)
        outer.setSpacing(THEME.px(6))
        self._top, self._below = QHBoxLayout(), QHBoxLayout()
        self._top.setSpacing(THEME.px(12))
        self._top.addWidget(self.title)
        self._top.addWidget(self.about, 1)
        outer.addLayout(self._top)
        self._below.addWidget(self.view)
        self._below.addStretch(1)
        outer.addLayout(self._below)
        self._place()

    def _place(self) -> None:
        """The choice beside the title where both fit, else below it."""
        margins = THEME.px(24) + 2 * THEME.px(12)
        wanted = self.title.sizeHint().width() + self.view.sizeHint().width() + margins
        below = self._always_below or (self.width() > 0 and wanted > self.width())
        if below == (self._top.indexOf(self.view) < 0):
            return
        if below:
            self._below.insertWidget(0, self.view)
        else:
            self._top.addWidget(self.view)

    def _fit(self) -> None:
        """The line beside the title where all of it fits; else it is the title's tip."""
        taken = self.title.sizeHint().width() + THEME.px(24) + 3 * THEME.px(12)
        if self._top.indexOf(self.view) >= 0:
            taken += self.view.sizeHint().width()
        fits = taken + self.about.sizeHint().width() <= self.width()
        self.about.setVisible(fits)
        self.title.setToolTip("" if fits else tip(self.about.text()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place()
        self._fit()

    def minimumSizeHint(self) -> QSize:
        # Narrower than both side by side, for then one goes below the other.
        hint = super().minimumSizeHint()
        return QSize(min(hint.width(), self.view.minimumSizeHint().width()), hint.height())

    def say(self, title: str, about: str) -> None:
        """Show a title and the line beside it."""
        self.title.setText(in_words(title))
        self.about.setText(in_words(about))
        self._fit()


class StageOfViews(Page):
    """A stage of several views, each made when it is first opened; ``titles`` stand above them."""

    titles: Mapping[str, str] = {}

    def __init__(
        self,
        session: Session,
        views: Sequence[tuple[str, str]],
        name: str,
        makers: Mapping[str, Callable[[Session], Page]],
        *,
        views_below: bool = False,
    ) -> None:
        super().__init__(session)
        on_sheet(self)
        self.head = StageHead(views, name, views_below=views_below)
        self.view = self.head.view
        self.pages = Views(session, makers)
        self.views = self.pages.made
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(6))
        outer.addWidget(self.head)
        outer.addWidget(self.pages, 1)
        self.view.picked.connect(self.show_view)

    def show_view(self, view: str) -> None:
        """Turn to one of the views."""
        self.view.show_value(view)
        self.show_evaluation(self.session.evaluation)
        turn(self)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what is in view of an evaluation."""
        page = self.pages.open(self.view.value)
        page.show_evaluation(evaluation)
        self.say_head(evaluation, page)

    def say_head(self, evaluation: Evaluation, page: Page) -> None:
        """Say the title of the view that is open, and the line beside it."""
        self.head.say(self.titles[self.view.value], page.about)

    def begin_bench(self) -> bool:
        """Open the steps of what is in view in bench mode; whether it has any."""
        return self.pages.open(self.view.value).begin_bench()

    def take_file(self, path: Path) -> None:
        self.pages.open(self.view.value).take_file(path)

    def show_path(self, path: str) -> None:
        self.pages.open(self.view.value).show_path(path)

    def bench_field(self) -> QWidget | None:
        return self.pages.open(self.view.value).bench_field()


def on_sheet(page: QWidget) -> None:
    """Let a page lie on the sheet of the window."""
    page.setObjectName("sheet")
    page.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
