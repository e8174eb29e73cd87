"""The built-in parts and the builder's own, read from JSON."""

from __future__ import annotations

import json
from collections.abc import Iterable
from functools import lru_cache
from importlib import resources
from pathlib import Path

import platformdirs
from pydantic import ValidationError

from lumvak.core.catalogue.catalogue import (
    PARTS_FORMAT,
    PARTS_VERSION,
    Catalogue,
    PartsFile,
    UnknownPart,
)
from lumvak.core.document.edit import sentences
from lumvak.files.problem import FileProblem, check_header, read_text

BUILT_IN = (
    "chemistries.json",
    "cells.json",
    "conductors.json",
    "boards.json",
    "fuses.json",
    "wires.json",
    "connectors.json",
    "switches.json",
    "surges.json",
    "chargers.json",
    "holders.json",
)


def read_parts(text: str, where: str) -> PartsFile:
    """Parse a catalogue file; raises FileProblem naming ``where`` and the line or field."""
    check_header(text, where, PARTS_FORMAT, PARTS_VERSION)
    try:
        return PartsFile.model_validate_json(text)
    except ValidationError as error:
        raise FileProblem(f"{where}: {_named(text, _placed(error))}") from error


def _placed(error: ValidationError) -> str:
    """The first thing wrong, with where it is at its head even where a rule names its field."""
    sentence = sentences(error)[0]
    path = ".".join(str(step) for step in error.errors()[0]["loc"])
    return sentence if not path or path in sentence else f"{path}: {sentence}"


def _named(text: str, sentence: str) -> str:
    """Replace ``cells.3.`` at the head of a sentence by the part's own id, where it has one."""
    head, _, rest = sentence.partition(":")
    steps = head.split(".")
    if len(steps) >= 2 and steps[1].isdigit():
        try:
            part = json.loads(text)[steps[0]][int(steps[1])]["id"]
        except (KeyError, IndexError, TypeError):
            return sentence
        return f"{'.'.join([steps[0], f'“{part}”', *steps[2:]])}:{rest}"
    return sentence


@lru_cache(maxsize=1)
def built_in_parts() -> tuple[PartsFile, ...]:
    """The sample catalogue that ships with the program."""
    folder = resources.files("lumvak") / "data" / "parts"
    return tuple(
        PartsFile.model_validate_json((folder / name).read_text("utf-8")) for name in BUILT_IN
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
