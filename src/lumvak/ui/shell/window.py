"""The main window: build line, stage, margin, current path and the title line."""

from __future__ import annotations

import sys
from collections.abc import Mapping, Sequence
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QCoreApplication, QEvent, QProcess, QSize, Qt, QTimer
from PyQt6.QtGui import QCloseEvent, QCursor, QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QApplication, QMainWindow, QWidget

from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.files.kept.window_settings import Settings, save_settings, with_recent
from lumvak.files.signs import in_signs
from lumvak.ui.copying import copy_picture, copy_rows, source_of
from lumvak.ui.dropped import Belongs
from lumvak.ui.exports import ask_export
from lumvak.ui.handbook.pages import Handbook, section_in
from lumvak.ui.handbook.words_page import term_in, text_at
from lumvak.ui.language import turn, turn_window
from lumvak.ui.new_stops import NewStops
from lumvak.ui.session import Session
from lumvak.ui.shell.as_rows import AsRows, all_told
from lumvak.ui.shell.findables import Ways, findables, go_to_field, home_of, open_place
from lumvak.ui.shell.finder import Finder
from lumvak.ui.shell.folds import Folds
from lumvak.ui.shell.frame import Frame
from lumvak.ui.shell.menus import Menus, fill_menus
from lumvak.ui.shell.moving import (
    commit_pending,
    first_field,
    next_part,
    next_rows,
    view_by,
)
from lumvak.ui.shell.notice import Action
from lumvak.ui.shell.preferences import Preferences, take
from lumvak.ui.shell.project_files import ProjectFiles
from lumvak.ui.speech import in_words, worded
from lumvak.ui.stages.opened import StagePages
from lumvak.ui.stages.order import FIRST, STAGES, first_stage
from lumvak.ui.widgets.pages import Page, waiting
from lumvak.ui.widgets.theme import THEME, dress, next_text_size, sheet_of

KEYS = [stage.key for stage in STAGES]
PART_OF = {stage.key: stage.part for stage in STAGES}
PARTS = ("line", "margin", "path")
ON_PAPER = "on paper"


class Window(QMainWindow):
    """The window over one session."""

    def __init__(self, session: Session, settings: Settings, settings_path: Path) -> None:
        super().__init__()
        self.session = session
        self.settings = settings
        self._settings_path = settings_path
        self.stage = settings.stage if settings.stage in KEYS else FIRST
        self.pages = StagePages(session, settings.views)
        shown = {part: getattr(settings, f"{part}_shown") for part in PARTS}
        self.folds = Folds(shown, settings.paths)
        self.handbook: Handbook | None = None
        self._new_stops = NewStops(session)
        self._ways = Ways(self.go_to, self._opened)
        self.setAcceptDrops(True)
        self.setMinimumSize(QSize(960, 640))
        self.resize(*settings.window_px)
        self.files = ProjectFiles(session, self, self.commit_pending, self._fresh)
        self.files.folder = settings.folder
        session.splits, session.heads = dict(settings.splits), dict(settings.heads)
        take(self.settings, self.session)
        self.menus = Menus(self)
        fill_menus(self, self)
        self._finder: Finder | None = None
        self._as_rows: AsRows | None = None
        self._preferences: Preferences | None = None
        self._build()
        session.begun.connect(self._clear_away)
        session.changed.connect(self.refresh)
        session.explained.connect(lambda _: self._show_margin())
        session.file_changed.connect(self._show_file)
        session.wanted.connect(partial(open_place, self._ways))
        session.bench_left.connect(self._after_bench)
        session.refusals_changed.connect(self._show_line)
        session.findings_changed.connect(self._show_found)
        session.told.connect(self._tell)
        if (hints := QApplication.styleHints()) is not None:
            hints.colorSchemeChanged.connect(self._desktop_turned)
        session.remembered.connect(lambda name, value: self._remember(**{name: value}))
        self.files.said.connect(self._tell)
        self.files.quiet.connect(lambda: self.notice.setVisible(False))
        self.files.began.connect(lambda: self.open_stage(first_stage(session.evaluation)))
        self.files.used.connect(self.remember_file)
        self.files.other.connect(self._take_file)
        self.files.sought.connect(partial(go_to_field, session, self._ways))
        self.refresh()
        self._show_file()

    def _tell(self, severity: str, text: str, actions: Sequence[Action] = ()) -> None:
        self.notice.say(severity, text, actions)

    # The parts of the window.

    def _build(self) -> None:
        """Make all widgets anew, as at the start and after a change of sheet or text size."""
        self.frame = frame = Frame(self.session, self.folds)
        self.title_line, self.notice = frame.title_line, frame.notice
        self.build_line, self.path_view = frame.build_line, frame.path_view
        self.stack, self.margin = frame.stack, frame.margin
        self.pages.lie_in(frame.stack)
        self.setCentralWidget(frame)
        turn_window(self)
        frame.show()
        # Pages are made into the room that they will have, so that lines between panes stand still.
        for layout in filter(None, (self.layout(), frame.layout())):
            layout.activate()
        frame.fit(anew=True)
        self.build_line.opened.connect(self.open_stage)
        frame.entered.connect(self._first_field)
        self.path_view.opened.connect(self._open_link)
        self.path_view.unfolded.connect(partial(self.swap, "path"))
        self.margin.findings.cured.connect(self._to_path)
        self.margin.closed.connect(partial(self.swap, "margin"))
        self.margin.tree.asked.connect(self.show_handbook)
        self.open_stage(self.stage)
        self.build_line.setFocus()

    @property
    def stages(self) -> Mapping[str, Page]:
        """The pages of the stages that were opened, by their keys."""
        return self.pages.made

    def open_stage(self, key: str) -> None:
        """Turn to a stage."""
        self.commit_pending()
        self.stage = key
        folded = self.folds.folded("path")
        self.folds.stand_at(key, bench=PART_OF[key] != ON_PAPER)
        if self.folds.folded("path") != folded:
            self.frame.show_folds()
        widget = self.pages.page(key)
        widget.show_evaluation(self.session.evaluation)
        turn(widget)
        self.session.come_to(key, next(stage.asks for stage in STAGES if stage.key == key))
        self.stack.setCurrentWidget(widget)
        self._show_line()
        self.margin.show_stage(key)

    def go_to(self, key: str) -> None:
        """Turn to a stage, with the focus on its first field; from within it, on its next rows."""
        page, focus = self.stages[self.stage], QApplication.focusWidget()
        within = key == self.stage and focus is not None and page.isAncestorOf(focus)
        self.open_stage(key)
        rows = next_rows(page) if within else None
        if rows is None:
            self._first_field()
        else:
            rows.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _first_field(self) -> None:
        field = first_field(self.stages[self.stage])
        if field is not None:
            field.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def to_view(self, *, number: int | None = None, step: int = 0) -> None:
        """Turn the stage to its view of a number, from 0, or so many views on."""
        if view_by(self.stages[self.stage], number=number, step=step):
            self._first_field()

    def next_part(self, step: int) -> None:
        """Give the focus to the next part of the window."""
        next_part(self.frame.parts, step)

    def begin_bench(self) -> None:
        """Open what is in view step by step on the whole screen."""
        if not self.stages[self.stage].begin_bench():
            self.session.tell("note", in_words("This stage has no steps at the bench; Joints has."))

    def _after_bench(self) -> None:
        """What is typed next goes where readings belong, or nowhere: never into a name."""
        self.activateWindow()
        (self.stages[self.stage].bench_field() or self.build_line).setFocus()

    def _to_path(self, path: str) -> None:
        """To the field of the document that a finding or a link of the path leads to."""
        go_to_field(self.session, self._ways, home_of(path) or self.stage, path)

    def refresh(self) -> None:
        """Draw the latest evaluation: only the stage that is open."""
        evaluation = self.session.evaluation
        if self.centralWidget() is None:
            self._build()
        self.title_line.show_evaluation(evaluation)
        self._show_line()
        self.stages[self.stage].show_evaluation(evaluation)
        turn(self.stages[self.stage])
        self.margin.show_stage(self.stage)
        self.path_view.show_evaluation(evaluation)

    def _show_line(self) -> None:
        session = self.session
        refused = session.refused.by_stage()
        self.build_line.show_evaluation(session.evaluation, self.stage, refused, session.beside)

    def _show_found(self) -> None:
        self._show_line()
        self.margin.show_stage(self.stage)

    def _open_link(self, path: str, figure: str) -> None:
        self._to_path(path)
        self.session.explain(figure)

    def _show_margin(self) -> None:
        if self.folds.folded("margin"):
            self.folds.turn("margin", folded=False)
            self.frame.show_folds()
        self.margin.show_stage(self.stage)

    def _show_file(self) -> None:
        self.title_line.show_state()
        path = self.session.path
        name = self.session.project.name if path is None else in_signs(path.name)
        self.setWindowTitle(worded("{}[*] – Lumvak", name))
        self.setWindowModified(self.session.unsaved)

    def commit_pending(self) -> None:
        """Take what is typed but not yet entered in the field that has the focus."""
        commit_pending(self)

    def another_window(self) -> None:
        """Open a window of its own beside this one."""
        # What lies in the folder at hand is not run.
        QProcess.startDetached(sys.executable, ["-P", "-m", "lumvak"])

    def open_handbook(self) -> None:
        """Open the handbook at the word under the pointer, else the page of the open stage."""
        place = QCursor.pos()
        shown = text_at(QApplication.widgetAt(place), place)
        asked = self.margin.tree.section if self.margin.tree.hasFocus() else ""
        if section := section_in(shown) or asked:
            self.show_handbook(section)
        elif head := term_in(shown):
            self.show_word(head)
        else:
            self.show_handbook(self.stage)

    def show_word(self, head: str) -> None:
        """Open the page of words at an entry."""
        self._book().show_word(head)

    def show_handbook(self, page: str) -> None:
        """Open a page of the handbook."""
        self._book().show_page(page)

    def _book(self) -> Handbook:
        self.handbook = self.handbook or Handbook()
        return self.handbook

    def print_it(self) -> None:
        """Print the sheet that belongs to the stage that is open."""
        from lumvak.ui.shell.printing import print_it

        print_it(self.session, self.stage, self.stages[self.stage])

    def preview(self) -> None:
        """Show how that would be printed."""
        from lumvak.ui.shell.printing import preview

        preview(self.session, self.stage, self.stages[self.stage])

    def copy_rows(self, *, here: bool = False) -> None:
        """Copy the rows of what has the focus, a table, plot or drawing; or the row in hand."""
        if (source := self._copied()) is not None:
            count = copy_rows(source, here=here)
            rows = "1 row" if count == 1 else worded("{} rows", count)
            self.session.tell("note", worded("{} of “{}” copied.", rows, source.accessibleName()))

    def copy_picture(self) -> None:
        """Copy what has the focus as a picture."""
        if (source := self._copied()) is not None:
            copy_picture(source)
            self.session.tell("note", worded("“{}” copied as a picture.", source.accessibleName()))

    def _copied(self) -> QWidget | None:
        source = source_of(QApplication.focusWidget())
        if source is None or not self.isAncestorOf(source):
            self.session.tell(
                "note", in_words("Nothing here to copy: go to a table, a plot or a drawing.")
            )
            return None
        return source

    def find_anything(self) -> None:
        """Ask what to find among everything there is, and go there or do it."""
        if self._finder is None:
            self._finder = Finder(self)
        self._finder.ask(findables(self.session, self._ways, self.menus.actions))

    def drawings_as_rows(self) -> None:
        """Lay what the drawings in view show over them, as tables."""
        told = all_told((self.stages[self.stage], self.path_view, self.build_line, self.margin))
        if self._as_rows is None:
            self._as_rows = AsRows(self)
        self._as_rows.ask(told)

    def _opened(self, key: str) -> Page:
        self.open_stage(key)
        return self.stages[key]

    def export(self, to: str) -> None:
        """Ask where an export is to go."""
        ask_export(self.session, self, to)

    # Preferences, sheet and text size.

    def ask_preferences(self, at: str = "sheet") -> None:
        """Lay the preferences over the window, with the focus on one."""
        if self._preferences is None:
            self._preferences = Preferences(self, self.settings, self.prefer)
        self._preferences.ask(at)

    def prefer(self, name: str, value: object) -> None:
        """Take a preference; the page that asked is made anew with everything else."""
        self._remember(**{name: value})
        QTimer.singleShot(0, partial(self._preferred, name))

    def _preferred(self, name: str) -> None:
        self._dress_as_preferred()
        self.ask_preferences(name)

    def _dress_as_preferred(self) -> None:
        THEME.name = sheet_of(self.settings.sheet, QApplication.styleHints())
        THEME.percent = self.settings.text_percent
        self._restyle()

    def _restyle(self) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        # First of all the old widgets go: each would be styled anew before it is thrown away.
        self._clear_away(at_once=True)
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        with waiting():
            dress(app)
            self.refresh()
        self._show_file()

    def _clear_away(self, *, at_once: bool = False) -> None:
        """Let all widgets go, and with them what they know of a project that is left."""
        self.pages.leave()
        # Taking it out styles all that is in it once more: no use where it goes at once.
        central = self.centralWidget() if at_once else self.takeCentralWidget()
        for old in (central, self._finder, self._as_rows, self._preferences):
            if old is not None:
                old.hide()
                old.deleteLater()
        self._finder = self._as_rows = self._preferences = None

    def _desktop_turned(self) -> None:
        """Follow the desktop from light to dark and back, where no sheet is preferred."""
        if self.settings.sheet == "" and sheet_of("", QApplication.styleHints()) != THEME.name:
            self._dress_as_preferred()

    def swap_sheet(self) -> None:
        """Turn from the light to the dark sheet or back."""
        THEME.name = "light" if THEME.name == "dark" else "dark"
        self._remember(sheet=THEME.name)
        self._restyle()

    def set_text(self, percent: int) -> None:
        """Show everything at another text size."""
        THEME.percent = percent
        self._remember(text_percent=percent)
        self._restyle()

    def zoom(self, step: int) -> None:
        """Show everything at the next larger or smaller size of text."""
        self.set_text(next_text_size(step))

    def full_screen(self) -> None:
        """Fill the screen, or go back to a window."""
        self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)

    def swap(self, part: str) -> None:
        """Fold a part of the window away, or open it."""
        self.folds.turn(part, folded=not self.folds.folded(part))
        shown = {f"{name}_shown": shown for name, shown in self.folds.shown.items()}
        self._remember(**shown, paths=self.folds.paths)
        self.frame.show_folds()

    def _fresh(self) -> Project:
        """A new project, with what was remembered for such."""
        remembered = {"pack.forms": self.settings.forms, "hand.meter": self.settings.meter}
        return with_values(Project(), remembered)

    def forget_recent(self) -> None:
        """Forget which files were open."""
        self._remember(recent=())

    def remember_file(self, path: Path) -> None:
        """Put a file first among the recent ones."""
        recent = with_recent(self.settings, path).recent
        self._remember(recent=recent, folder=in_signs(str(path.resolve().parent)))
        self.files.folder = self.settings.folder

    def _remember(self, **values: object) -> None:
        self.settings = replace(self.settings, **values)
        save_settings(self.settings, self._settings_path)
        take(self.settings, self.session)

    # Paper, drops and the end.

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and (data := event.mimeData()) is not None and data.hasUrls():
            event.acceptProposedAction()

    def _take_file(self, path: Path, where: Belongs) -> None:
        """Have a file taken by the page that it belongs to."""
        self.open_stage(where.stage)
        page = self.stages[where.stage]
        if where.view:
            page.show_view(where.view)
        page.take_file(path)

    def dropEvent(self, event: QDropEvent | None) -> None:
        data = event.mimeData() if event is not None else None
        if data is not None and data.urls():
            self.files.open(Path(data.urls()[0].toLocalFile()))

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        if not self.files.may_leave():
            event.ignore()
            return
        size = self.normalGeometry().size()
        self._remember(
            window_px=(size.width(), size.height()),
            stage=self.stage,
            views=self.pages.views_now(),
            splits=self.session.splits,
        )
        self.session.end()
        if self.handbook is not None:
            self.handbook.close()
        event.accept()
