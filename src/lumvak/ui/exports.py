"""Asking where an export is to go, and writing it there."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from lumvak.files.export.formats import SUFFIXES, write_export
from lumvak.files.problem import FileProblem, file_name
from lumvak.ui.session import Session

EXPORTS = (("pdf", "template, PDF …"), ("svg", "SVG …"), ("dxf", "DXF …"), ("csv", "CSV …"),
           ("spice", "netlist …"))  # fmt: skip


def ask_export(session: Session, over: QWidget, to: str) -> None:
    """Ask for a place in a dialog over ``over`` and write an export there."""
    if path := ask_place(session, over, "Export", SUFFIXES[to]):
        export_to(session, to, path)


def export_to(session: Session, to: str, path: Path) -> None:
    """Write an export; what is wrong is said."""
    write_out(session, path, lambda: write_export(session.evaluation, to, path, session.paper))


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
        session.tell("stop", str(problem))
        return
    session.tell("note", said or f"Written to {path}.")
