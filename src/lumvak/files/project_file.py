"""Project files: read with clear refusals, written whole or not at all."""

from __future__ import annotations

import json
from collections.abc import Collection, Mapping
from pathlib import Path
from typing import Any, TypeVar

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue, Parts, UnknownPart
from lumvak.core.checked import NotAccepted, read, written
from lumvak.core.document.afterwards.record_of_pack import LogEntry
from lumvak.core.document.edit import field_title
from lumvak.core.document.loads import AMOUNTS, bases_of
from lumvak.core.document.need import idle_in
from lumvak.core.document.part_names import check_parts
from lumvak.core.document.project import PROJECT_FORMAT, PROJECT_VERSION, Project
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure
from lumvak.core.said import Text, in_line, listed, phrase, say
from lumvak.files.problem import FileProblem, check_header, read_text, write_atomically

SUFFIX = ".lumvak.json"
T = TypeVar("T")


def project_text(project: Project) -> str:
    """A project as the JSON that is stored, with a newline at its end."""
    return written(project, indent=2) + "\n"


def parse_project(text: str, where: str, catalogue: Catalogue) -> Project:
    """Read a project; raises FileProblem naming ``where`` and the field or line."""
    given = check_header(text, where, PROJECT_FORMAT, PROJECT_VERSION)
    document = _with_bases(given, where)
    try:
        project = read(Project, text if document is given else json.dumps(document), document)
    except NotAccepted as error:
        raise FileProblem(f"{where}: {error}") from error
    try:
        check_parts(project, catalogue.with_parts(project.parts))
    except UnknownPart as error:
        raise FileProblem(f"{where}: {error}") from error
    return project


def _with_bases(document: dict[str, Any], where: str) -> dict[str, Any]:
    """A project as it was parsed, with what its load and its run time are given as.

    Files that were written by hand may leave that out; what is given says it.
    """
    need = document.get("need")
    if not isinstance(need, dict):
        return document
    try:
        found = bases_of(need)
    except ValueError as error:
        raise FileProblem(f"{where}: need: {error}") from error
    return {**document, "need": {**need, **found}} if found else document


def noted_in(text: str, evaluation: Evaluation, given_too: Collection[str] = ()) -> Noted:
    """What a project file that was written by hand leaves out, and what in it has no effect.

    A file that the window wrote says all there is to say of the need, and nothing is noted; nor are
    fields that are ``given_too``, by dotted path.
    """
    document = json.loads(text)
    given = document.get("need", {}) if isinstance(document, dict) else {}
    if given.keys() >= AMOUNTS:
        return Noted((), ())
    left_out = tuple(
        figure
        for figure in evaluation.figures.values()
        if figure.origin == "default"
        and figure.unit
        and figure.key.startswith("need.")
        and figure.key.removeprefix("need.") not in given
        and figure.key not in given_too
    )
    return Noted(left_out, idle_in(evaluation.project.need, given))


class Noted(Struct, frozen=True):
    """What a file leaves out and is assumed, and fields in it without an effect."""

    left_out: tuple[Figure, ...]
    idle: tuple[str, ...]

    @property
    def words(self) -> Text:
        """It in a sentence or two; empty where there is nothing to note."""
        found = list[Text]()
        if self.left_out:
            values = listed(
                phrase("{} {}", in_line(item.label), say(item.value, item.unit, item.key))
                for item in self.left_out
            )
            found.append(phrase("the file leaves out, and is taken to mean: {}", values))
        if self.idle:
            names = listed(field_title(f"need.{name}").lower() for name in self.idle)
            found.append(phrase("given, and without an effect, for others count: {}", names))
        return listed(found, "; ")

    def marked(self, evaluation: Evaluation) -> Evaluation:
        """The evaluation with what was left out marked as assumed, down to all results."""
        keys, known = {item.key for item in self.left_out}, dict[int, Figure]()

        def mark(figure: Figure) -> Figure:
            if id(figure) not in known:
                inputs = tuple(map(mark, figure.inputs))
                left = figure.key in keys and figure.origin == "default"
                changed = left or any(
                    a is not b for a, b in zip(inputs, figure.inputs, strict=True)
                )
                known[id(figure)] = (
                    figure
                    if not changed
                    else replace(
                        figure,
                        inputs=inputs,
                        origin="assumed" if left else figure.origin,
                        rule="left out of the file" if left else figure.rule,
                    )
                )
            return known[id(figure)]

        return replace(
            evaluation, figures={key: mark(item) for key, item in evaluation.figures.items()}
        )


def is_project(path: Path) -> bool:
    """Whether there is a file at ``path`` that says of itself that it is a project."""
    try:
        if not path.is_file():
            return False
        with path.open("rb") as file:
            return f'"{PROJECT_FORMAT}"'.encode() in file.read(400)
    except OSError:
        return False


def load_project(path: Path, catalogue: Catalogue) -> Project:
    """Read the project at ``path``; raises FileProblem and changes nothing."""
    return parse_project(read_text(path), path.name, catalogue)


def log_in(path: Path) -> tuple[LogEntry, ...]:
    """The log in a project file; empty where there is no such file, or none that can be read."""
    try:
        return read(Project, read_text(path)).record.log
    except (FileProblem, NotAccepted, ValueError):
        return ()


def save_project(project: Project, path: Path, catalogue: Catalogue) -> Project:
    """Write ``project`` with copies of the parts it uses; returns what was written."""
    full = with_copies(project, catalogue)
    write_atomically(path, project_text(full))
    return full


def with_copies(project: Project, catalogue: Catalogue) -> Project:
    """The project carrying copies of just the parts that it names."""
    known = catalogue.with_parts(project.parts)
    in_hand = (*(lot.cell or "" for lot in project.hand.lots), project.hand.old.cell or "")
    beside = (item.cell for item in project.pack.beside)
    named = (project.pack.cell or "", project.as_found.cell or "", *beside, *in_hand)
    cells = {name: known.cells[name] for name in named if name in known.cells}
    chemistries = {cell.chemistry: known.chemistry_of(cell) for cell in cells.values()}
    for name in (project.as_found.chemistry, project.beside.chemistry):
        if name in known.chemistries:
            chemistries[name] = known.chemistries[name]
    strips = {project.joints.group.part, project.joints.series.part, project.joints.bridge}
    board = known.boards.get(project.protection.board or "")
    power = project.power
    fuses = _named(known.fuses, power.fuse, power.charge_fuse)
    wires = _named(known.wires, project.leads.wire, project.charge_leads.wire)
    parts = Parts(
        chemistries=tuple(chemistries.values()),
        cells=tuple(cells.values()),
        conductors=tuple(
            known.conductors[part] for part in sorted(it for it in strips if it in known.conductors)
        ),
        boards=() if board is None else (board,),
        fuses=fuses,
        wires=wires,
        connectors=_named(known.connectors, power.connector),
        switches=_named(known.switches, power.switch),
        surges=_named(known.surges, power.surge, power.precharge),
        holders=_named(known.holders, project.arrangement.holder),
    )
    # The same copies stay the same objects, so that what hangs on them can rest.
    return project if parts == project.parts else replace(project, parts=parts)


def _named(known: Mapping[str, T], *names: str | None) -> tuple[T, ...]:
    """The parts of these names, each once, in a fixed order."""
    wanted = sorted({name for name in names if name is not None})
    return tuple(known[name] for name in wanted if name in known)


def with_fresh_copies(project: Project, own: Parts) -> Project:
    """The project with the builder's own cells in place of the older copies it carries."""
    cells = {cell.id: cell for cell in own.cells}
    curves = {item.id: item for item in own.chemistries}
    fresh = tuple(cells.get(cell.id, cell) for cell in project.parts.cells)
    wanted = {cell.chemistry for cell in fresh}
    carried = {item.id: item for item in project.parts.chemistries}
    known = {**carried, **curves}
    parts = replace(
        project.parts,
        cells=fresh,
        chemistries=tuple(
            known[name]
            for name in (*carried, *sorted(wanted - {*carried}))
            if name in wanted and name in known
        ),
    )
    return project if parts == project.parts else replace(project, parts=parts)
