"""A project as commands take it: from a file or standard input, with fields set in the line."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path

from msgspec import Struct

from lumvak.cli.project.typed import with_typed
from lumvak.cli.told import complain
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError
from lumvak.core.document.need import idle_in
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.problem import FileProblem, read_text, readable
from lumvak.files.project_file import noted_in, parse_project


class ReadProject(Struct, frozen=True):
    """A project with what was set in the line, its text as it stands in the file, its parts."""

    project: Project
    text: str
    catalogue: Catalogue
    paths: tuple[str, ...]
    notes: tuple[Text, ...]


def read_project(
    file: Path, catalogues: Sequence[Path], changes: Sequence[str] = ()
) -> ReadProject:
    """The project of a file with ``changes``, each ``path=value``; raises FileProblem."""
    catalogue, problems = load_catalogue(catalogues)
    with readable(file):
        text = read_text(file)
        project = parse_project(text, name_of(file), catalogue)
        try:
            project = with_typed(project, changes)
        except ProjectError as error:
            raise FileProblem(f"--set: {spoken(error.said)}") from error
    paths = tuple(item.partition("=")[0].strip() for item in changes)
    return ReadProject(project, text, catalogue, paths, (*problems, *_idle(project, paths)))


def name_of(file: Path) -> str:
    """What a file is called in what is said of it."""
    return "standard input" if str(file) == "-" else file.name


def _idle(project: Project, paths: Sequence[str]) -> tuple[str, ...]:
    """What was set and counts for nothing, with what would make it count."""
    needs = [path.removeprefix("need.") for path in paths if path.startswith("need.")]
    idle = idle_in(project.need, needs)
    return tuple(
        f"--set need.{name} has no effect: load and run time count as need.load_basis="
        f"{project.need.load_basis} and need.endurance_basis={project.need.endurance_basis} say"
        for name in idle
    )


def read_evaluation(
    command: str, file: Path, catalogues: Sequence[Path], changes: Sequence[str] = ()
) -> Evaluation | None:
    """The evaluation of a project file; problems go to the error stream under ``command``."""
    try:
        found = read_project(file, catalogues, changes)
        with readable(file):
            evaluation = evaluate(found.project, found.catalogue)
            noted = noted_in(found.text, evaluation, found.paths)
    except FileProblem as problem:
        complain(command, problem)
        return None
    told: Text
    for told in (*found.notes, *([noted.words] if noted.words else [])):
        complain(command, told)
    return noted.marked(evaluation)


def evaluation_of(chosen: argparse.Namespace) -> Evaluation | None:
    """The evaluation of the project that was chosen; ``None``, and told, where there is none."""
    return read_evaluation(chosen.command, chosen.file, chosen.catalogue, chosen.set)
