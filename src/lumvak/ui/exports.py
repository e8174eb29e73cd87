"""Asking where an export is to go, and writing it there."""

from __future__ import annotations

import time
from collections.abc import Callable, Collection
from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QFileDialog, QWidget

from lumvak.files.export.formats import SUFFIXES, exported
from lumvak.files.problem import FileProblem, file_name, write_atomically
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, said_of, worded
from lumvak.ui.work import Report, Work

# Work that takes less than this is not told about; what is at work is kept here until it is done.
SOON_MS = 100
RUNNING: set[Work] = set()
# What can be exported: its name, the key of its form, and what it is for. Those that begin a group
# stand under a line.
BEGIN_GROUPS = ("placing", "shopping", "report", "label", "log", "spice")
EXPORTS = (
    ("cut list, CSV …", "csv", "pieces, for a table"),
    ("cutting template, PDF …", "pdf", "1:1, to lay the strips on"),
    ("drawing of both sides, SVG …", "svg", "for a picture"),
    ("drawing of both sides, DXF …", "dxf", "for a cutter"),
    ("placing sheet, PDF …", "placing", "which cell sits where"),
    ("wiring sheet, PDF …", "wiring", "to make the harness by"),
    ("wiring sheet, SVG …", "wiring-svg", "the same, as a drawing"),
    ("wires of the harness, CSV …", "wiring-csv", "lengths and colours"),
    ("shopping sheet, PDF …", "shopping", "what to look for in a shop"),
    ("shopping sheet, CSV …", "shopping-csv", "the same, as a table"),
    ("shopping sheet, text …", "shopping-text", "for a message"),
    ("report, PDF …", "report", "the whole of it, to print"),
    ("report, HTML …", "report-html", "the same in one file that opens anywhere"),
    ("label, PDF …", "label", "to stick on the pack"),
    ("label of the charger, PDF …", "label-charger", "to stick on the charger"),
    ("label, SVG …", "label-svg", "for a cutter or a laser"),
    ("label, PNG …", "label-png", "for a label printer"),
    ("label of the charger, SVG …", "label-charger-svg", "the same, as a drawing"),
    ("label of the charger, PNG …", "label-charger-png", "the same, as a picture"),
    ("log, CSV …", "log", "what was done and read"),
    ("bill of materials, CSV …", "bom", "everything that the pack takes"),
    ("days to look at it, calendar …", "dates", "storage, balance, fuse"),
    ("netlist, SPICE …", "spice", "for a circuit simulator"),
)


def ask_export(session: Session, over: QWidget, to: str, left_out: Collection[str] = ()) -> None:
    """Ask for a place in a dialog over ``over`` and write an export there.

    ``left_out`` are the parts that a report goes without.
    """
    if path := ask_place(session, over, "Export", SUFFIXES[to]):
        export_to(session, to, path, left_out)


def export_to(session: Session, to: str, path: Path, left_out: Collection[str] = ()) -> None:
    """Write an export, made off the window's thread; what is wrong is said, and it can be stopped.

    What is written is the pack as it was when this was asked for.
    """
    try:
        session.check_export(path)
    except FileProblem as problem:
        session.tell("stop", said_of(problem))
        return
    evaluation, paper, work = session.evaluation, session.paper, Work()
    spelling = SPEECH.spelling

    def make(report: Report) -> bytes | FileProblem:
        try:
            return exported(evaluation, to, paper, spelling, left_out, report)
        except FileProblem as problem:
            return problem

    def done(made: object, _: object) -> None:
        RUNNING.discard(work)
        if isinstance(made, FileProblem):
            session.tell("stop", str(made))
        elif isinstance(made, bytes):
            write_out(session, path, lambda: write_atomically(path, made))

    def failed(why: str) -> None:
        RUNNING.discard(work)
        session.tell("stop", worded("{} was not made: {}.", path.name, why))

    def stop() -> None:
        work.cancel()
        RUNNING.discard(work)
        session.tell("note", worded("{} was not written.", path.name))

    begun = time.monotonic()

    def tell(_: int = 0, share: float = 0.0) -> None:
        if work.busy and time.monotonic() - begun >= 1e-3 * SOON_MS:
            far = f" {share:.0%}" if share else ""
            session.tell("note", worded("Making {} …{}", path.name, far), (("stop", stop),))

    work.done.connect(done)
    work.failed.connect(failed)
    RUNNING.add(work)
    work.start(make, None)
    work.progressed.connect(tell)
    QTimer.singleShot(SOON_MS + 1, tell)


def ask_place(
    session: Session, over: QWidget, title: str, suffix: str, kinds: str = ""
) -> Path | None:
    """Where something of the project is to go: beside it, and named for it, unless said."""
    folder = session.path.parent if session.path is not None else Path.home()
    suggested = folder / file_name(session.project.name, suffix)
    name, _ = QFileDialog.getSaveFileName(over, title, str(suggested), kinds)
    return Path(name) if name else None


def write_out(session: Session, path: Path, write: Callable[[], object], said: str = "") -> None:
    """Write to a path that is not the project's own; what was done, or is wrong, is said."""
    try:
        session.check_export(path)
        write()
    except FileProblem as problem:
        session.tell("stop", said_of(problem))
        return
    session.tell("note", said or worded("Written to {}.", path))
