"""Files of the window: new, open, save, what to ask before leaving, and work to bring back."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Mapping
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from lumvak.bench.moment import moment_now
from lumvak.core.document.afterwards.record_of_pack import How, LogEntry
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.files.kept.recovery import LeftOver
from lumvak.files.problem import FileProblem, file_name, readable
from lumvak.files.project_file import SUFFIX, load_project
from lumvak.files.signs import in_signs
from lumvak.ui.dropped import ACCEPTED, PLACES
from lumvak.ui.scribe import fresh_id
from lumvak.ui.session import Opened, Session, read_project
from lumvak.ui.speech import in_words, said_of, worded
from lumvak.ui.widgets.pages import waiting
from lumvak.ui.work import Report, Work

# What is larger is read beside the window's own work.
LARGE_BYTES = 1_000_000
# What is larger is no table and no drawing that anybody drops here.
MOST_BYTES = 30_000_000
NO_CHANGES: Mapping[str, Any] = {}
FILTER = worded("Lumvak projects (*{});;All files (*)", SUFFIX)


def with_suffix(name: str) -> str:
    """The name of a file with the suffix of projects, of which a part may be there."""
    for part in (".json", ".lumvak"):
        name = name.removesuffix(part)
    return name + SUFFIX


class ProjectFiles(QObject):
    """What a window does with files; a problem is said and changes nothing.

    ``said`` has severity, text and a list of (name, what to do); ``quiet`` when there is nothing
    to say any more; ``began`` with a new project; ``used`` with the path that was read or written.
    """

    said = pyqtSignal(str, str, object)
    quiet = pyqtSignal()
    began = pyqtSignal()
    used = pyqtSignal(object)
    # A stage and the path of a field on it that something waits in.
    sought = pyqtSignal(str, str)
    # A file that is no project, and where it is to go.
    other = pyqtSignal(object, object)

    def __init__(
        self,
        session: Session,
        over: QWidget,
        commit: Callable[[], None],
        fresh: Callable[[], Project],
    ) -> None:
        """Dialogs stand over ``over``; ``commit`` takes what is typed but not yet entered.

        ``fresh`` makes a new project.
        """
        super().__init__(over)
        self.session, self._over, self._commit, self._fresh = session, over, commit, fresh
        # Where files were last read or written.
        self.folder = ""
        self.reading = Work()
        self.reading.done.connect(self._take_read)
        self.reading.failed.connect(lambda text: self.said.emit("stop", text, []))
        self.destroyed.connect(self.reading.end)
        # Who begins another project wants that one.
        session.begun.connect(self._stop_reading)
        session.goes_on.connect(self.go_on)

    def new(self, changes: Mapping[str, Any] = NO_CHANGES) -> None:
        """Begin a new project with these changes; raises ProjectError where they do not fit."""
        begun = with_values(self._fresh(), changes)
        if self.may_leave():
            self.session.start(begun, None)
            self.began.emit()

    def ask_open(self) -> None:
        """Ask for a file and open it."""
        name, _ = QFileDialog.getOpenFileName(self._over, "Open a project", self._folder(), FILTER)
        if name:
            self.open(Path(name))

    def open_sample(self, path: Path) -> None:
        """Begin a project of one's own with what a sample holds; the sample stays as it is."""
        if not self.may_leave():
            return
        try:
            with readable(path), waiting():
                self.session.start(load_project(path, self.session.catalogue), None)
        except FileProblem as problem:
            self.said.emit("stop", said_of(problem), [])
            return
        self.began.emit()

    def go_on(self, how: How) -> None:
        """Begin a project that goes on from the pack at hand; that one stays as it was saved."""
        from lumvak.core.record_of_pack.passport import passport_of
        from lumvak.core.record_of_pack.taking_over import taken_over

        if not self.may_leave():
            return
        session = self.session
        told = LogEntry(
            id=fresh_id(), when=moment_now(), text=how, who=session.project.record.builder
        )
        onward = taken_over(session.project, passport_of(session.evaluation), how, told)
        session.start(onward, None)
        # No file holds it yet.
        session.undo_stack.resetClean()
        self.began.emit()

    def open(self, path: Path) -> None:
        """Open a project file; a problem is said and nothing changes.

        What is no project goes where it belongs, once that was asked.
        """
        if self._is_other(path) or not self.may_leave():
            return
        self._stop_reading()
        try:
            large = path.stat().st_size > LARGE_BYTES
        except OSError:
            large = False
        if large:
            self._read_beside(path)
        else:
            self._open(path)

    def _is_other(self, path: Path) -> bool:
        """Whether a file is no project; then it is asked what it is to be taken for."""
        from lumvak.files.contents import contents_of

        try:
            if path.name.endswith(SUFFIX) or path.stat().st_size > MOST_BYTES:
                return False
            found = contents_of(path, self.session.evaluation.sized.choice.series)
        except (FileProblem, OSError):
            # Whoever reads it as a project says what is wrong.
            return False
        if found == ("project",):
            return False
        name = in_signs(path.name)
        if not found:
            self.said.emit("stop", worded("{} is nothing known; accepted: {}.", name, ACCEPTED), [])
            return True
        self.said.emit(
            "note",
            worded("{} is no project. Take it as", name),
            [(PLACES[it].words, partial(self.other.emit, path, PLACES[it])) for it in found],
        )
        return True

    def _read_beside(self, path: Path) -> None:
        """Read a large file off the window's thread; it can be stopped, and work goes on."""
        catalogue = self.session.catalogue

        def read(_: Report) -> Opened | FileProblem:
            try:
                return read_project(path, catalogue)
            except FileProblem as problem:
                return problem

        def stop() -> None:
            self._stop_reading()
            self.said.emit("note", worded("{} was not opened.", in_signs(path.name)), [])

        self.reading.start(read, path)
        self.said.emit("note", worded("Reading {} …", in_signs(path.name)), [("stop", stop)])

    def _stop_reading(self) -> None:
        if self.reading.busy:
            self.reading.cancel()
            self.quiet.emit()

    def _take_read(self, found: object, path: Path) -> None:
        """A large file was read; what was done meanwhile is asked about."""
        self.quiet.emit()
        if isinstance(found, FileProblem):
            self.said.emit("stop", said_of(found), [])
        elif isinstance(found, Opened) and self.may_leave():
            self.session.begin_with(found)
            self.used.emit(path)

    def _open(self, path: Path) -> bool:
        self.quiet.emit()
        try:
            with waiting():
                self.session.open(path)
        except FileProblem as problem:
            self.said.emit("stop", said_of(problem), [])
            return False
        self.used.emit(path)
        return True

    def save(self) -> bool:
        """Save; asks for a place the first time, and before writing over what somebody else wrote.

        Returns whether it is saved.
        """
        self._commit()
        if self.session.path is None:
            return self.save_as()
        if self.session.changed_outside:
            return self._settle_with_theirs(self.session.path)
        return self._save_to(self.session.path)

    def _settle_with_theirs(self, path: Path) -> bool:
        """Ask what becomes of a file that somebody else changed; whether the project is saved."""
        box = self._question(
            worded("{} was changed by somebody else since it was opened here.", in_signs(path.name))
        )
        mine = box.addButton("Keep mine", QMessageBox.ButtonRole.DestructiveRole)
        theirs = box.addButton("Take theirs", QMessageBox.ButtonRole.DestructiveRole)
        both = box.addButton("Keep both", QMessageBox.ButtonRole.AcceptRole)
        box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(both)
        box.exec()
        if box.clickedButton() is mine:
            return self._save_to(path)
        if box.clickedButton() is both:
            return self.save_as()
        if box.clickedButton() is theirs:
            mine_was = self.session.project, self.session.path
            if self._open(path):
                self.session.to_bin(*mine_was)
                return True
        return False

    def save_as(self) -> bool:
        """Ask for a place and save there."""
        self._commit()
        suggested = Path(self._folder()) / file_name(self.session.project.name, SUFFIX)
        name, _ = QFileDialog.getSaveFileName(
            self._over, "Save the project", str(suggested), FILTER
        )
        if not name:
            return False
        path = Path(name)
        if not path.name.endswith(SUFFIX):
            # The dialog has asked about another name than this one.
            path = path.with_name(with_suffix(path.name))
            if path.exists() and not self._may_replace(path):
                return False
        return self._save_to(path)

    def _may_replace(self, path: Path) -> bool:
        box = self._question(worded("There is a {} already. Write over it?", in_signs(path.name)))
        over = box.addButton("Write over it", QMessageBox.ButtonRole.DestructiveRole)
        box.setDefaultButton(box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole))
        box.exec()
        return box.clickedButton() is over

    def _save_to(self, path: Path) -> bool:
        try:
            self.session.save(path)
        except FileProblem as problem:
            self.said.emit("stop", said_of(problem), [("save elsewhere", self.save_as)])
            return False
        self.used.emit(path)
        self.quiet.emit()
        self._tell_refused()
        return True

    def _tell_refused(self) -> None:
        """Say what the file does not hold because nobody could take it."""
        refused = self.session.refused
        if refused.all:
            first = refused.all[0]
            show = partial(self.sought.emit, first.stage, first.path)
            self.said.emit("warn", worded("Saved. {}", refused.words), [("show it", show)])

    def _question(self, text: str) -> QMessageBox:
        box = QMessageBox(self._over)
        box.setWindowTitle(in_words("Lumvak"))
        # Names come from elsewhere: they are shown as they are.
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(text)
        return box

    def _folder(self) -> str:
        if self.session.path is not None:
            return str(self.session.path.parent)
        return self.folder if self.folder and Path(self.folder).is_dir() else str(Path.home())

    def may_leave(self) -> bool:
        """Whether the project may be left: saved, thrown away on purpose, or not changed."""
        self._commit()
        refused = self.session.refused.words
        if not self.session.unsaved:
            return not refused or self._may_forget(refused)
        text = worded("“{}” has changes that no file holds.", self.session.project.name)
        box = self._question(f"{text}\n{refused}" if refused else text)
        save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton("Throw away", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is save:
            return self.save()
        if box.clickedButton() is drop:
            self.session.discard()
            return True
        return False

    def _may_forget(self, refused: str) -> bool:
        box = self._question(worded("{} No file holds that.", refused))
        leave = box.addButton("Leave it", QMessageBox.ButtonRole.DestructiveRole)
        box.setDefaultButton(box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole))
        box.exec()
        return box.clickedButton() is leave

    def offer(self, copies: Iterable[LeftOver]) -> None:
        """Offer work that an earlier window left unsaved, one after the other."""
        waiting = list(copies)
        if not waiting:
            return
        copy, rest = waiting[0], waiting[1:]
        when = time.strftime("%d %B, %H:%M", time.localtime(copy.time))

        def bring_back() -> None:
            if not self.may_leave():
                return
            try:
                self.session.bring_back(copy)
            except FileProblem as problem:
                self.said.emit("stop", said_of(problem), [])

        def throw_away() -> None:
            copy.throw_away()
            self.offer(rest)

        since = (
            worded(" {} was saved since and holds newer work.", copy.saved_as.name)
            if (copy.older and copy.saved_as is not None)
            else ""
        )
        self.said.emit(
            "warn",
            worded("Work on “{}” from {} was never saved.{}", copy.project.name, when, since),
            [("bring it back", bring_back), ("throw it away", throw_away)],
        )
