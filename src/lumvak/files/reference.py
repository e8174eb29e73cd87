"""Files that a project refers to: by their way from the project's folder where they lie in it."""

from __future__ import annotations

import itertools
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.document.afterwards.record_of_pack import LogEntry
from lumvak.core.document.hand import HandCell
from lumvak.files.problem import FileProblem, write_atomically
from lumvak.files.project_file import SUFFIX


def reference_to(path: Path, project: Path | None) -> str:
    """How a project that is saved as ``project`` refers to a file.

    One in its folder or below is named from there, so that both can be moved together.
    """
    if project is not None:
        folder = project.resolve().parent
        if path.resolve().is_relative_to(folder):
            return path.resolve().relative_to(folder).as_posix()
    return str(path.absolute())


def referred(reference: str, project: Path | None) -> Path | None:
    """The file that is referred to; ``None`` where the project was never saved and it is beside."""
    path = Path(reference)
    if path.is_absolute():
        return path
    return None if project is None else project.resolve().parent / path


def log_named_whole(log: tuple[LogEntry, ...], project: Path) -> tuple[LogEntry, ...]:
    """The log with its photographs named whole: so they are found from any folder."""
    folder = project.resolve().parent
    return tuple(
        replace(it, photos=tuple(str(folder / photo) for photo in it.photos)) if it.photos else it
        for it in log
    )


class CopiedBeside(Struct, frozen=True):
    """A log whose photographs lie beside the project: how many were copied, which are missing."""

    log: tuple[LogEntry, ...]
    copied: int
    missing: tuple[str, ...]


def copied_beside(log: tuple[LogEntry, ...], project: Path) -> CopiedBeside:
    """Copy photographs that lie elsewhere into a folder beside the project, and name them there.

    The originals stay; what is missing is referred to as before. Raises FileProblem.
    """
    home = project.resolve().parent
    folder = home / f"{project.name.removesuffix(SUFFIX)} photographs"
    copied, missing, made = 0, [], []
    for entry in log:
        photos = []
        for photo in entry.photos:
            path = referred(photo, project)
            if path is None or not path.is_file():
                missing.append(photo)
                photos.append(photo)
            elif path.resolve().is_relative_to(home):
                photos.append(reference_to(path, project))
            else:
                photos.append(reference_to(_copied(path, folder), project))
                copied += 1
        made.append(replace(entry, photos=tuple(photos)) if photos else entry)
    return CopiedBeside(tuple(made), copied, tuple(missing))


def _copied(path: Path, folder: Path) -> Path:
    """A copy of a file in a folder, under its own name, or one like it where that is taken."""
    try:
        held = path.read_bytes()
        folder.mkdir(exist_ok=True)
        for number in itertools.count(1):
            place = folder / (path.name if number == 1 else f"{path.stem}-{number}{path.suffix}")
            if not place.exists():
                write_atomically(place, held)
                return place
            if place.read_bytes() == held:
                return place
    except OSError as problem:
        raise FileProblem(f"{path.name} was not copied: {problem.strerror}") from problem
    raise AssertionError("there is always another number")


def named_whole(cells: tuple[HandCell, ...], project: Path) -> tuple[HandCell, ...]:
    """The cells with their photographs named whole: so they are found from any folder."""
    folder = project.resolve().parent
    return tuple(
        replace(cell, photo=str(folder / cell.photo)) if cell.photo else cell for cell in cells
    )
