"""Random single edits of a project, drawn from its schema."""

from __future__ import annotations

import random
from collections.abc import Iterator
from typing import Any

from msgspec import Struct

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.fields import Accepts, Field
from lumvak.core.fields import fields_of as fields_of_record

# Where a range of the schema says little about what people type.
LIKELY = {
    "need.rated_voltage_v": (12.0, 60.0),
    "need.current_a": (2.0, 60.0),
    "need.power_w": (50.0, 2000.0),
    "need.peak_current_a": (10.0, 120.0),
    "need.runtime_h": (0.2, 4.0),
    "need.ambient_c": (-5.0, 38.0),
    "need.coldest_c": (-20.0, -5.0),
    "pack.series": (3, 15),
    "pack.parallel": (1, 8),
    "pack.ceiling_v": (3.3, 4.2),
    "joints.link_a": (4.0, 30.0),
    "joints.link_mohm": (0.5, 10.0),
    "joints.contact_mohm": (0.05, 3.0),
    "arrangement.pitch_mm": (19.0, 60.0),
    "run.draws": (200, 400),
}


def fields_of(record: type[Struct] = Project, way: str = "") -> Iterator[tuple[str, Field]]:
    """Every field of the project that holds a plain value, by dotted path."""
    for name, field in fields_of_record(record).items():
        kind = field.accepts.plain
        if isinstance(kind, type) and issubclass(kind, Struct):
            if name != "parts":
                yield from fields_of(kind, f"{way}{name}.")
        elif name not in ("format", "version"):
            yield way + name, field


def parts_of(catalogue: Catalogue) -> dict[str, list[str]]:
    """The ids that each field with a part takes."""
    surges = catalogue.surges.values()
    return {
        "pack.cell": [*catalogue.cells],
        "as_found.cell": [*catalogue.cells],
        "as_found.chemistry": [*catalogue.chemistries],
        "beside.chemistry": [*catalogue.chemistries],
        "joints.group.part": [*catalogue.conductors],
        "joints.series.part": [*catalogue.conductors],
        "joints.bridge": [*catalogue.conductors],
        "arrangement.holder": [*catalogue.holders],
        "protection.board": [*catalogue.boards],
        "leads.wire": [*catalogue.wires],
        "charge_leads.wire": [*catalogue.wires],
        "power.fuse": [*catalogue.fuses, "none"],
        "power.charge_fuse": [*catalogue.fuses, "none"],
        "power.connector": [*catalogue.connectors, "none"],
        "power.switch": [*catalogue.switches, "none"],
        "power.surge": [*(item.id for item in surges if item.kind == "thermistor"), "none"],
        "power.precharge": [*(item.id for item in surges if item.kind != "thermistor"), "none"],
    }


def value_for(
    path: str, field: Field, now: Any, parts: dict[str, list[str]], draw: random.Random
) -> Any:
    """A value that a field may take; raises KeyError where none is drawn for it."""
    kind = field.accepts
    if kind.optional and draw.random() < 0.2:
        return None
    if path in parts:
        return draw.choice(parts[path])
    if kind.values:
        return draw.choice(kind.values)
    if kind.plain is bool:
        return draw.random() < 0.5
    if kind.plain is int:
        low, high = LIKELY.get(path, _range(kind, now))
        return draw.randint(int(low), int(high))
    if kind.plain is float:
        low, high = LIKELY.get(path, _range(kind, now))
        return round(draw.uniform(low, high), 3)
    if path in ("name", "note"):
        return f"pack {draw.randrange(1000)}"
    if path == "joints.lead_points":
        return tuple({"pole": pole, "cell": draw.randint(1, 4)} for pole in "+-")
    if path == "measured":
        return tuple(
            {"cell": f"g{draw.randint(1, 9)}c1", "mohm": draw.uniform(8.0, 60.0)}
            for _ in range(draw.randrange(3))
        )
    raise KeyError(path)


def _range(kind: Accepts, now: Any) -> tuple[float, float]:
    """Around what is there, within what the schema takes."""
    least = max((value for value in (kind.ge, kind.gt) if value is not None), default=0.0)
    most = min((value for value in (kind.le, kind.lt) if value is not None), default=1e4)
    if isinstance(now, int | float) and now:
        return max(least, 0.4 * now), max(least, min(most, 2.5 * now))
    return least, max(least, min(most, 3.0 * least + 10.0))


def random_edit(project: Project, catalogue: Catalogue, draw: random.Random) -> tuple[str, Project]:
    """One edit that is accepted: the path it changed, and the project after it."""
    known, parts = list(fields_of()), parts_of(catalogue)
    while True:
        path, field = draw.choice(known)
        now: Any = project
        for step in path.split("."):
            now = getattr(now, step)
        try:
            fresh = with_values(project, {path: value_for(path, field, now, parts, draw)})
        except (KeyError, ProjectError):
            continue
        series, parallel = fresh.pack.series or 1, fresh.pack.parallel or 1
        if fresh != project and series * parallel <= 120:
            return path, fresh
