"""The built-in parts and the builder's own, read from JSON."""

from __future__ import annotations

import contextlib
from collections.abc import Iterable, Mapping
from functools import lru_cache
from importlib import resources
from pathlib import Path
from typing import Any

import msgspec
import platformdirs
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import (
    PART_KINDS,
    PARTS_FORMAT,
    PARTS_VERSION,
    Catalogue,
    PartsFile,
    UnknownPart,
)
from lumvak.core.checked import NotAccepted, Wrong, read
from lumvak.core.spelling import spoken
from lumvak.files.problem import FileProblem, check_header, read_text


def read_parts(text: str, where: str) -> PartsFile:
    """Parse a catalogue file; raises FileProblem naming ``where`` and the line or field."""
    document = check_header(text, where, PARTS_FORMAT, PARTS_VERSION)
    try:
        return read(PartsFile, text, document)
    except NotAccepted as error:
        raise FileProblem(f"{where}: {_placed(error.wrongs[0], document)}") from error


def _placed(wrong: Wrong, document: Mapping[str, Any]) -> str:
    """What is wrong, with the part that it is wrong in at its head, by its id where it has one."""
    way = wrong.way
    with contextlib.suppress(KeyError, IndexError, TypeError):
        part = document[str(way[0])][way[1]]["id"]
        way = (way[0], f"“{part}”", *way[2:])
    placed = replace(wrong, way=way)
    named = placed.named and placed.title
    said = spoken(placed.sentence)
    return f"{placed.path}: {said}" if named else said


@lru_cache(maxsize=1)
def built_in_parts() -> tuple[PartsFile, ...]:
    """The sample catalogue that ships with the program, which tests check instead of each start."""
    folder = resources.files("lumvak") / "data" / "parts"
    return tuple(
        msgspec.json.decode((folder / f"{kind}.json").read_bytes(), type=PartsFile)
        for kind in PART_KINDS
    )


def own_parts_folder() -> Path:
    """Where the builder's own parts live (XDG data folder)."""
    return Path(platformdirs.user_data_dir("lumvak")) / "parts"


def load_catalogue(
    files: Iterable[Path] = (), own: Path | None = None
) -> tuple[Catalogue, tuple[str, ...]]:
    """The catalogue at hand: built-in, then the builder's own, then ``files``.

    Returns the catalogue and what was wrong with any of the builder's own files, which are then
    left out. Raises FileProblem for a bad one among ``files``.
    """
    bundles = list(built_in_parts())
    problems: list[str] = []
    folder = own if own is not None else own_parts_folder()
    try:
        kept = sorted(folder.glob("*.json")) if folder.is_dir() else []
    except OSError as error:
        kept = []
        problems.append(f"Own parts left out: {folder} cannot be read: {error.strerror}")
    for path in kept:
        try:
            bundles.append(_checked(bundles, path))
        except FileProblem as problem:
            problems.append(f"Own parts left out: {problem}")
    for path in files:
        bundles.append(_checked(bundles, path))
    return Catalogue(bundles), tuple(problems)


def _checked(bundles: list[PartsFile], path: Path) -> PartsFile:
    parts = read_parts(read_text(path), path.name)
    try:
        Catalogue([*bundles, parts])
    except UnknownPart as error:
        raise FileProblem(f"{path.name}: {error}") from error
    return parts
