"""``lumvak new`` begins a project; ``lumvak check`` says whether files are valid."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from lumvak.cli.command import Refuse
from lumvak.cli.named import NotKnown, named
from lumvak.cli.project.reading import name_of
from lumvak.cli.project.typed import with_typed
from lumvak.cli.table import tell
from lumvak.cli.told import complain
from lumvak.cli.written import write_out
from lumvak.core.catalogue.catalogue import PARTS_FORMAT, Catalogue
from lumvak.core.checked import NotAccepted
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue, read_parts
from lumvak.files.problem import FileProblem, read_text, readable
from lumvak.files.project_file import noted_in, parse_project, project_text, with_copies
from lumvak.files.samples import samples

# What a project may begin from, besides a sample.
BEGINS: dict[str, dict[str, Any]] = {"need": {}, "found": {"as_found.begun": True}}


def new(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write a new project; 0 when done, 2 where it is not."""
    try:
        catalogue, problems = load_catalogue(chosen.catalogue)
        for text in problems:
            complain(chosen.command, text)
        project = with_typed(_begun(chosen, catalogue), chosen.set)
        content = project_text(with_copies(project, catalogue)).encode("utf-8")
        write_out(chosen.file, content, chosen.force, project=True)
    except NotKnown as problem:
        refuse(f"--sample: {spoken(problem.said)}")
    except ProjectError as problem:
        refuse(f"--set: {spoken(problem.said)}")
    except FileProblem as problem:
        complain(chosen.command, problem)
        return 2
    return 0


def _begun(chosen: argparse.Namespace, catalogue: Catalogue) -> Project:
    """The project before its fields are set; raises NotKnown, FileProblem."""
    name = chosen.file.name.removesuffix(".json").removesuffix(".lumvak")
    name = "pack" if name == "-" else name
    if chosen.sample is None:
        return with_values(Project(name=name), BEGINS[chosen.begin])
    known = {path.name.removesuffix(".lumvak.json"): path for _, path in samples()}
    titles = {path.name.removesuffix(".lumvak.json"): title for title, path in samples()}
    path = known[named(chosen.sample, titles, "sample")]
    return replace(parse_project(read_text(path), path.name, catalogue), name=name)


def check(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Say of each file whether it is valid and what is unusual; 2 where one is not valid."""
    found = [_checked(file, chosen.catalogue) for file in chosen.files]
    tell(chosen, found, lambda: "\n".join(map(_told, found)))
    return 0 if all(item["valid"] for item in found) else 2


def _checked(file: Path, catalogues: list[Path]) -> dict[str, Any]:
    """A file with what is wrong in it, what it leaves out, and what it means for the pack."""
    answer: dict[str, Any] = {
        "file": name_of(file),
        "kind": "project",
        "valid": False,
        "wrong": [],
        "notes": [],
        "stops": [],
        "cautions": [],
    }
    try:
        text = read_text(file)
        if f'"{PARTS_FORMAT}"' in text[:400]:
            answer["kind"] = "parts"
            read_parts(text, name_of(file))
            # Parts that lack one another are found once they are laid over those that ship.
            load_catalogue([*catalogues, file] if str(file) != "-" else catalogues)
            return {**answer, "valid": True}
        catalogue, problems = load_catalogue(catalogues)
        with readable(file):
            project = parse_project(text, name_of(file), catalogue)
            evaluation = evaluate(project, catalogue)
            noted = noted_in(text, evaluation)
    except FileProblem as problem:
        return {**answer, "wrong": _wrongs(problem)}
    answer["valid"] = True
    answer["notes"] = [*map(spoken, problems), *([spoken(noted.words)] if noted.words else [])]
    for finding in evaluation.findings:
        if finding.severity in ("stop", "warn"):
            where = "stops" if finding.severity == "stop" else "cautions"
            answer[where].append(f"{spoken(finding.text)}. {spoken(finding.do)}")
    return answer


def _wrongs(problem: FileProblem) -> list[str]:
    """All that is wrong with a file, a sentence each."""
    if isinstance(problem.__cause__, NotAccepted):
        return [spoken(wrong.sentence) for wrong in problem.__cause__.wrongs]
    return [str(problem)]


def _told(found: dict[str, Any]) -> str:
    kind = "a valid project" if found["kind"] == "project" else "a valid file of parts"
    lines = [f"{found['file']}: {kind if found['valid'] else 'not valid'}"]
    for name, words in (("wrong", "wrong"), ("notes", "note"), ("stops", "stop")):
        lines += [f"  {words}: {text}" for text in found[name]]
    return "\n".join([*lines, *(f"  caution: {text}" for text in found["cautions"])])
