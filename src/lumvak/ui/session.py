"""The session: the current project, its undo stack, its evaluation and its file."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from msgspec import Struct
from msgspec.structs import replace
from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack
from PyQt6.QtWidgets import QApplication

from lumvak.core.catalogue.catalogue import Catalogue, PartsFile
from lumvak.core.document.edit import with_values
from lumvak.core.document.part_names import change_words
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, worker
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import Finding
from lumvak.core.record_of_pack.log import kept, merged, with_log
from lumvak.core.said import Text, phrase
from lumvak.core.sizing.options import Had
from lumvak.core.spelling import Spelling
from lumvak.core.steps import Steps
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.kept.recovery import LeftOver, RecoveryCopy
from lumvak.files.own_parts import change_own, load_own
from lumvak.files.problem import FileProblem, read_text, readable, same_file, stamp_of
from lumvak.files.project_file import (
    log_in,
    noted_in,
    parse_project,
    save_project,
    with_copies,
    with_fresh_copies,
)
from lumvak.files.reference import log_named_whole, named_whole
from lumvak.files.signs import in_signs
from lumvak.ui.refused import RefusedEntries, RefusedEntry
from lumvak.ui.scribe import allowed_along, written_along
from lumvak.ui.speech import SPEECH, said_of, spoken, worded
from lumvak.ui.undo_edit import UndoEdit

RECOVERY_DELAY_MS = 1200


class _OwnEdit(QUndoCommand):
    """A change of the builder's own parts, and the project with it; it was kept already."""

    def __init__(self, session: Session, before: PartsFile, after: PartsFile, text: str) -> None:
        super().__init__(text)
        self._session, self._before, self._after = session, before, after
        self._project = session.project
        self._fresh = with_fresh_copies(session.project, session.own)
        self._kept = True

    def undo(self) -> None:
        self._session.change_own(self._after, self._before)
        self._session.take_own(self._project)

    def redo(self) -> None:
        if not self._kept:
            self._session.change_own(self._before, self._after)
        self._kept = False
        self._session.take_own(self._fresh)


class Opened(Struct, frozen=True, eq=False):
    """A project as it was read from a file and worked out; nothing shows it yet.

    ``stamp`` is of what the file held, ``given`` what it was worked out with; ``noted`` is what is
    to be said of a file that was written by hand.
    """

    path: Path
    stamp: str | None
    project: Project
    evaluation: Evaluation
    steps: Steps
    given: Catalogue
    noted: Text


def read_project(path: Path, catalogue: Catalogue, steps: Steps | None = None) -> Opened:
    """Read and work out a project file; raises FileProblem. It may run on any thread.

    With ``steps`` what was worked out before is used again, on the thread that has them.
    """
    steps = steps or Steps()
    with readable(path):
        # Taken first: who writes meanwhile is asked about, not written over.
        stamp = stamp_of(path)
        text = read_text(path)
        project = parse_project(text, path.name, catalogue)
        evaluation = evaluate(project, catalogue, steps=steps)
        words = noted_in(text, evaluation).words
        noted = phrase("{}: {}.", in_signs(path.name), words) if words else ""
        return Opened(
            path,
            stamp,
            project=project,
            evaluation=evaluation,
            steps=steps,
            given=catalogue,
            noted=noted,
        )


class Session(QObject):
    """Holds what the window shows; every edit goes through ``edit`` and can be undone."""

    changed = pyqtSignal()
    file_changed = pyqtSignal()
    # Something that was typed was not taken, or is no longer waiting.
    refusals_changed = pyqtSignal()
    # Another project has taken the place of the one before.
    begun = pyqtSignal()
    # Findings have come that were worked out beside the evaluation.
    findings_changed = pyqtSignal()
    explained = pyqtSignal(str)
    # What is to be said: how bad, the text, and what can be done, as words and functions.
    told = pyqtSignal(str, str, object)
    # The steps at the bench were left for the window.
    bench_left = pyqtSignal()
    # A stage is to be opened, and a view of it: “record/conversion”.
    wanted = pyqtSignal(str)
    # A project is to go on from this pack: what becomes of it.
    goes_on = pyqtSignal(str)
    # A name and a value that projects begun later start with.
    remembered = pyqtSignal(str, object)

    def __init__(
        self,
        catalogue: Catalogue,
        recovery: RecoveryCopy,
        project: Project | None = None,
        opened: Opened | None = None,
    ) -> None:
        """Begin with a project that was ``opened``, with ``project``, or with a new one."""
        super().__init__()
        self.catalogue = catalogue
        self.path: Path | None = None if opened is None else opened.path
        # What the file held when it was last read or written here.
        self._stamp: str | None = None if opened is None else opened.stamp
        self._own: PartsFile | None = None
        self.undo_stack = QUndoStack(self)
        self.undo_stack.cleanChanged.connect(self._clean_changed)
        self.recovery = recovery
        # One thread, so that a copy is never written after it was dropped.
        self._writer = ThreadPoolExecutor(1, thread_name_prefix="recovery")
        self._recovery_timer = QTimer(self)
        self._recovery_timer.setSingleShot(True)
        self._recovery_timer.setInterval(RECOVERY_DELAY_MS)
        self._recovery_timer.timeout.connect(self._keep_copy)
        self._steps = Steps()
        # The cell and count that stood before the evaluation at hand, and stay among equals.
        self._had: Had | None = None
        if opened is None:
            self.project = Project() if project is None else project
            self.evaluation: Evaluation = evaluate(self.project, catalogue, steps=self._steps)
        else:
            self.project, self.evaluation, self._steps = (
                opened.project,
                opened.evaluation,
                opened.steps,
            )
        self.revision = 0
        self._added: dict[str, Figure] = {}
        self.beside: tuple[Finding, ...] = ()
        self.explained_key = "pack.parallel"
        # The question last asked at each stage, and the stage that is open.
        self._asked: dict[str, str] = {}
        self._place = ""
        # What exports are laid on, and where the lines between panes were left, in px at 100 %.
        self.paper = "a4"
        self.splits: dict[str, tuple[int, ...]] = {}
        # Whether a reading that is refused, or a cell that is, is heard as well.
        self.sounds = False
        # What heads of tables of readings were said to be, in small letters.
        self.heads: dict[str, str] = {}
        # What was typed and not taken; it waits for something that fits it.
        self.refused = RefusedEntries()

    @property
    def unsaved(self) -> bool:
        """Whether there is work that no file holds."""
        return not self.undo_stack.isClean()

    def edit(self, changes: Mapping[str, Any], text: str = "", *, merges: bool = False) -> None:
        """Change the project by dotted path; raises ProjectError and changes nothing if refused.

        What was refused before and fits now is taken with it, as one edit; one that ``merges`` is
        undone with those before it of the same text.
        """
        taken = self.refused.fitting(self.project, changes)
        fresh = with_values(self.project, taken)
        self.let_go(*taken)
        if fresh == self.project:
            return
        fresh = with_copies(written_along(self.project, fresh), self.catalogue)
        before, after = (self.project, self._had), (fresh, self._proposed())
        words = text or change_words(fresh, self.evaluation.sized.parts, changes)
        edit = UndoEdit(lambda it: self.take(*it), before, after, words, merges)
        self.undo_stack.push(edit)

    def trial(self) -> Callable[[Project], Evaluation]:
        """Works out other projects beside the one at hand, from where that stands."""
        return worker(self.evaluation.sized.parts, self._steps)

    def refuse(self, entry: RefusedEntry) -> None:
        """Have what was typed wait in its field, on the stage that is open."""
        self.refused.keep(replace(entry, stage=self._place))
        self.refusals_changed.emit()

    def let_go(self, *paths: str) -> None:
        """Nothing that was typed into these fields waits any more."""
        if any(self.refused.of(path) for path in paths):
            self.refused.drop(*paths)
            self.refusals_changed.emit()

    def _proposed(self) -> Had | None:
        """The cell and series count that are proposed now; ``None`` where they were picked."""
        pack, choice = self.project.pack, self.evaluation.sized.choice
        open_ = None in (pack.cell, pack.series)
        return (choice.cell.id, choice.series) if open_ else None

    def take(self, project: Project, had: Had | None = None) -> None:
        """Make ``project`` the current one and evaluate it; ``had`` stays among its equals.

        What is logged with a reading stays, whatever is taken back.
        """
        self._had, project = had, kept(self.project, project)
        evaluation = evaluate(project, self.catalogue, steps=self._steps, had=had)
        allowed = allowed_along(evaluation)
        if allowed is not project:
            evaluation = evaluate(allowed, self.catalogue, steps=self._steps, had=had)
        self._show(allowed, evaluation)

    def _show(self, project: Project, evaluation: Evaluation) -> None:
        self.project, self.evaluation = project, evaluation
        self.refused.renew(project)
        self.revision += 1
        self._added, self.beside = {}, ()
        if not self._recovery_timer.isActive():
            self._recovery_timer.start()
        self.changed.emit()

    @property
    def own(self) -> PartsFile:
        """The builder's own parts; read when first asked for. Raises FileProblem."""
        if self._own is None:
            self._own = load_own()
        return self._own

    def edit_own(self, parts: PartsFile, text: str) -> None:
        """Change the builder's own parts; raises FileProblem and changes nothing if not kept."""
        before = self.own
        if parts == before:
            return
        self._own = change_own(before, parts)
        self.undo_stack.push(_OwnEdit(self, before, parts, text))

    def spell_as(self, wanted: Spelling) -> None:
        """Say all quantities so; all is worked out anew, so that every view takes it as changed."""
        if wanted != SPEECH.spelling:
            SPEECH.spelling = wanted
            self._steps = Steps()
            self.take(self.project, self._had)

    def change_own(self, before: PartsFile, after: PartsFile) -> None:
        """Keep the builder's own parts with a change made or taken back; a problem is told."""
        try:
            self._own = change_own(before, after)
        except FileProblem as problem:
            self.tell("stop", said_of(problem))

    def take_own(self, project: Project) -> None:
        """Take the builder's own parts as they are kept, and ``project`` with them."""
        self.catalogue, problems = load_catalogue()
        for text in problems:
            self.tell("warn", text)
        self.take(project, self._had)

    def explain(self, key: str) -> None:
        """Ask for the working of a figure."""
        if self.figure(key) is not None:
            self.explained_key = self._asked[self._place] = key
            self.explained.emit(key)

    def come_to(self, place: str, asks: tuple[str, ...]) -> None:
        """Turn to the question of a stage: the one last asked there, else its own."""
        self._place = place
        known = (key for key in (self._asked.get(place, ""), *asks) if self.figure(key) is not None)
        self.explained_key = next(known, self.explained_key)

    def figure(self, key: str) -> Figure | None:
        """A figure of the evaluation, or one that was worked out beside it since."""
        return self.evaluation.figures.get(key) or self._added.get(key)

    def add_figures(self, figures: Iterable[Figure], revision: int) -> bool:
        """Keep figures worked out beside the evaluation of ``revision``; stale ones are dropped."""
        if revision != self.revision:
            return False
        self._added.update((figure.key, figure) for figure in figures)
        return True

    def add_findings(self, findings: Iterable[Finding], revision: int, stage: str) -> None:
        """Keep what a ``stage`` found beside the evaluation of ``revision``; stale ones go."""
        others = [it for it in self.beside if it.stage != stage]
        if revision == self.revision and (found := (*others, *findings)) != self.beside:
            self.beside = found
            self.findings_changed.emit()

    def tell(
        self, severity: str, text: Text, actions: Sequence[tuple[str, Callable[[], None]]] = ()
    ) -> None:
        """Say something in the window's own line: ``note``, ``warn`` or ``stop``.

        Each of ``actions`` is a word and what it does.
        """
        self.told.emit(severity, spoken(text), actions)

    def beep(self) -> None:
        """Be heard, where that is preferred."""
        if self.sounds:
            QApplication.beep()

    def start(self, project: Project, path: Path | None, stamp: str | None = None) -> None:
        """Begin with ``project``, held by ``path`` if given; the undo stack starts anew.

        ``stamp`` is of what the file held when the project was read from it. What cannot be worked
        out raises and changes nothing.
        """
        self._begin(project, path, stamp, evaluate(project, self.catalogue, steps=self._steps))

    def _begin(
        self, project: Project, path: Path | None, stamp: str | None, evaluation: Evaluation
    ) -> None:
        self._had = None
        self.undo_stack.clear()
        self.path, self._stamp = path, stamp
        self._asked = {}
        self.refused.clear()
        self.begun.emit()
        self._show(project, evaluation)
        self._settle()
        self.file_changed.emit()

    def open(self, path: Path) -> None:
        """Open a project file, whole or not at all; raises FileProblem and keeps what is there."""
        self.begin_with(read_project(path, self.catalogue, self._steps))

    def begin_with(self, opened: Opened) -> None:
        """Begin with a project that was read; what changed meanwhile is worked out anew."""
        if opened.given is self.catalogue:
            self._steps, evaluation = opened.steps, opened.evaluation
        else:
            evaluation = evaluate(opened.project, self.catalogue, steps=self._steps)
        self._begin(opened.project, opened.path, opened.stamp, evaluation)
        if opened.noted:
            self.tell("note", opened.noted)

    @property
    def changed_outside(self) -> bool:
        """Whether somebody else wrote the file of the project since it was read or written here."""
        found = None if self.path is None else stamp_of(self.path)
        return found is not None and found != self._stamp

    def check_export(self, path: Path) -> None:
        """Raise FileProblem where an export would go over the project's own file."""
        if self.path is not None and same_file(path, self.path):
            raise FileProblem(worded("{} is the project itself; name another file", path.name))

    def save(self, path: Path) -> None:
        """Save to ``path``; raises FileProblem and keeps the work."""
        if self.path is not None and self.path.parent != path.parent:
            # What is referred to from the folder that is left must be found from the other one.
            cells = named_whole(self.project.hand.cells, self.path)
            log = log_named_whole(self.project.record.log, self.path)
            if (cells, log) != (self.project.hand.cells, self.project.record.log):
                whole = {"hand.cells": cells, "record.log": log}
                self.edit(whole, "photographs named whole")
        if self.path is not None and same_file(path, self.path):
            # Another window may have logged something since: no entry of either is lost.
            log = merged(self.project.record.log, log_in(path))
            if log != self.project.record.log:
                self.take(with_log(self.project, log), self._had)
        from lumvak.files.shelf import with_glance

        save_project(with_glance(self.project, self.evaluation), path, self.catalogue)
        self.path, self._stamp = path, stamp_of(path)
        self.undo_stack.setClean()
        self._settle()
        self.file_changed.emit()

    def bring_back(self, copy: LeftOver) -> None:
        """Continue with a recovery copy, as unsaved work; raises FileProblem and changes nothing.

        The copy stays until there is another of the same work.
        """
        # What was saved since is not written over without a question.
        stamp = None if copy.saved_as is None or copy.older else stamp_of(copy.saved_as)
        with readable(copy.path):
            self.start(copy.project, copy.saved_as, stamp)
        self.undo_stack.resetClean()
        if self._writer.submit(self._write_copy, self.project, self.path).result():
            copy.drop()
        self.file_changed.emit()

    def discard(self) -> None:
        """Throw unsaved work away on purpose: into the bin."""
        self.to_bin(self.project, self.path)
        self._settle()

    def to_bin(self, project: Project, path: Path | None) -> None:
        """Put a project into the bin, where it lies for a week."""
        try:
            self.recovery.throw_away(project, path)
        except FileProblem as problem:
            self.tell("warn", said_of(problem))

    def keep_now(self) -> None:
        """Have what is unsaved in a recovery copy before this returns."""
        if self._recovery_timer.isActive():
            self._recovery_timer.stop()
            self._keep_copy()
        self._writer.submit(lambda: None).result()

    def end(self) -> None:
        """The window closes: what is unsaved stays as a recovery copy."""
        self.keep_now()
        self._writer.submit(self.recovery.close).result()

    def _settle(self) -> None:
        self._recovery_timer.stop()
        self._writer.submit(self.recovery.drop).result()

    def _clean_changed(self, clean: bool) -> None:
        if clean:
            self._settle()
        self.file_changed.emit()

    def _keep_copy(self) -> None:
        if not self.unsaved:
            return
        self._writer.submit(self._write_copy, self.project, self.path)

    def _write_copy(self, project: Project, path: Path | None) -> bool:
        """Whether it is written. Runs on the writer's thread; signals cross to the window's."""
        try:
            self.recovery.write(project, path)
        except FileProblem as problem:
            self.tell("warn", said_of(problem))
            return False
        return True
