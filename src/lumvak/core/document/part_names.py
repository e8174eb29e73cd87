"""The parts that a project names, and whether each is at hand."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple

from lumvak.core.catalogue.catalogue import Catalogue, UnknownPart
from lumvak.core.document.edit import field_title, value_at
from lumvak.core.document.power import AS_SPECIFIED_ID, NONE
from lumvak.core.document.project import Project
from lumvak.core.said import phrase


class NamedPart(NamedTuple):
    """A part that a project names: at which path, of which kind, its id and all of its kind."""

    path: str
    kind: str
    part: str | None
    known: Mapping[str, Any]


def named_parts(project: Project, catalogue: Catalogue) -> tuple[NamedPart, ...]:
    """Everywhere that a project may name a part."""
    series, group = project.joints.series, project.joints.group
    named: tuple[tuple[str, str, str | None, Mapping[str, Any]], ...] = (
        ("pack.cell", "cell", project.pack.cell, catalogue.cells),
        *(("pack.beside", "cell", item.cell, catalogue.cells) for item in project.pack.beside),
        *(("hand.lots", "cell", lot.cell, catalogue.cells) for lot in project.hand.lots),
        ("hand.old", "cell", project.hand.old.cell, catalogue.cells),
        ("as_found.chemistry", "chemistry", project.as_found.chemistry, catalogue.chemistries),
        ("beside.chemistry", "chemistry", project.beside.chemistry, catalogue.chemistries),
        ("as_found.cell", "cell", project.as_found.cell, catalogue.cells),
        ("joints.group.part", "conductor", _part(group.part), catalogue.conductors),
        (
            "joints.series.part",
            "conductor",
            _part(series.part),
            catalogue.conductors,
        ),
        ("joints.bridge", "conductor", project.joints.bridge, catalogue.conductors),
        ("arrangement.holder", "holder", project.arrangement.holder, catalogue.holders),
        ("protection.board", "board", _part(project.protection.board), catalogue.boards),
        ("leads.wire", "wire", project.leads.wire, catalogue.wires),
        ("charge_leads.wire", "wire", project.charge_leads.wire, catalogue.wires),
        ("power.fuse", "fuse", _part(project.power.fuse), catalogue.fuses),
        ("power.charge_fuse", "fuse", _part(project.power.charge_fuse), catalogue.fuses),
        ("power.connector", "connector", _part(project.power.connector), catalogue.connectors),
        ("power.switch", "switch", _part(project.power.switch), catalogue.switches),
        (
            "power.surge",
            "surge thermistor",
            _part(project.power.surge),
            {key: part for key, part in catalogue.surges.items() if part.kind == "thermistor"},
        ),
        (
            "power.precharge",
            "precharge part",
            _part(project.power.precharge),
            {key: part for key, part in catalogue.surges.items() if part.kind != "thermistor"},
        ),
    )
    return tuple(NamedPart(*each) for each in named)


def check_parts(project: Project, catalogue: Catalogue) -> None:
    """Raise UnknownPart where the project names a part that nobody has."""
    for path, kind, part, known in named_parts(project, catalogue):
        if part is not None and part not in known:
            raise UnknownPart(
                phrase(
                    "{}: no {} “{}” in the file or in the catalogue; add it to your own parts or "
                    "name another",
                    path,
                    kind,
                    part,
                )
            )


def change_words(project: Project, catalogue: Catalogue, changes: Iterable[str]) -> str:
    """What to call a change of the fields at these paths, from the ``project`` after it.

    Parts are called by their names: “13S8P of …”, “fuse …”.
    """
    paths, pack = tuple(changes), project.pack
    if {"pack.cell", "pack.series", "pack.parallel"} <= {*paths}:
        if pack.cell is None:
            return "the top-ranked pack"
        return f"{pack.series}S{pack.parallel}P of {catalogue.cells[pack.cell].name}"
    title = field_title(paths[0]).lower()
    for path, _, part, known in named_parts(project, catalogue):
        if path == paths[0]:
            open_ = value_at(project, path) == AS_SPECIFIED_ID
            said = "as specified" if open_ else "as recommended"
            return f"{title}: {said if part is None else known[part].name}"
    return title


def _part(wanted: str | None) -> str | None:
    """A part named; ``None`` where none is, on purpose or not."""
    return None if wanted in (NONE, AS_SPECIFIED_ID) else wanted
