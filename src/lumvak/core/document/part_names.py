"""The parts that a project names, and whether each is at hand."""

from __future__ import annotations

from collections.abc import Mapping

from lumvak.core.catalogue.catalogue import Catalogue, UnknownPart
from lumvak.core.document.power import NONE
from lumvak.core.document.project import Project
from lumvak.core.said import phrase


def check_parts(project: Project, catalogue: Catalogue) -> None:
    """Raise UnknownPart where the project names a part that nobody has."""
    wanted: tuple[tuple[str, str, str | None, Mapping[str, object]], ...] = (
        ("pack.cell", "cell", project.pack.cell, catalogue.cells),
        *(("pack.beside", "cell", item.cell, catalogue.cells) for item in project.pack.beside),
        *(("hand.lots", "cell", lot.cell, catalogue.cells) for lot in project.hand.lots),
        ("hand.old", "cell", project.hand.old.cell, catalogue.cells),
        ("joints.group.part", "conductor", project.joints.group.part, catalogue.conductors),
        ("joints.series.part", "conductor", project.joints.series.part, catalogue.conductors),
        ("joints.bridge", "conductor", project.joints.bridge, catalogue.conductors),
        ("arrangement.holder", "holder", project.arrangement.holder, catalogue.holders),
        ("protection.board", "board", project.protection.board, catalogue.boards),
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
    for path, kind, part, known in wanted:
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


def _part(wanted: str | None) -> str | None:
    """A part named; ``None`` where none is, on purpose or not."""
    return None if wanted == NONE else wanted
