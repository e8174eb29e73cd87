"""Files that a project refers to: by their way from the project's folder where they lie in it."""

from __future__ import annotations

from pathlib import Path

from msgspec.structs import replace

from lumvak.core.document.hand import HandCell


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


def named_whole(cells: tuple[HandCell, ...], project: Path) -> tuple[HandCell, ...]:
    """The cells with their photographs named whole: so they are found from any folder."""
    folder = project.resolve().parent
    return tuple(
        replace(cell, photo=str(folder / cell.photo)) if cell.photo else cell for cell in cells
    )
