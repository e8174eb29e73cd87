"""Asking where an export is to go, and writing it there."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from lumvak.files.export.formats import SUFFIXES, write_export
from lumvak.files.problem import FileProblem, file_name
from lumvak.ui.session import Session

EXPORTS = (("pdf", "template, PDF …"), ("svg", "SVG …"), ("dxf", "DXF …"), ("csv", "CSV …"),
           ("spice", "netlist …"))  # fmt: skip


def ask_export(session: Session, over: QWidget, to: str, paper: str) -> None:
    """Ask for a place in a dialog over ``over`` and write an export there."""
    folder = session.path.parent if session.path is not None else Path.home()
    suggested = folder / file_name(session.project.name, SUFFIXES[to])
    name, _ = QFileDialog.getSaveFileName(over, "Export", str(suggested))
    if name:
        export_to(session, to, Path(name), paper)


def export_to(session: Session, to: str, path: Path, paper: str) -> None:
    """Write an export; what is wrong is said."""
    try:
        session.check_export(path)
        write_export(session.evaluation, to, path, paper)
    except FileProblem as problem:
        session.tell("stop", str(problem))
        return
    session.tell("note", f"Written to {path}.")
