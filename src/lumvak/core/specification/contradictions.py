"""Where no part can be: which two demands contradict, and the smallest changes that open it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from msgspec import Struct

from lumvak.core.conductors.lead_wire import OFFERED_MM2
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.power.as_specified import demands
from lumvak.core.power.fuses import SHORT_OPENS_S, FuseSetting, best_form
from lumvak.core.said import Text, phrase, say, wire_name

# Works out a project; what changes are tried with.
Work = Callable[[Project], Evaluation]
# Shares of a peak, of its length and of a current that are tried, the smallest change first.
SHARES = (0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3, 0.2, 0.1)
MOST_MORE = 6


class Change(Struct, frozen=True):
    """An edit of the project that opens a window, by dotted path, and what it is in words."""

    changes: dict[str, Any]
    text: Text


class Contradiction(Struct, frozen=True):
    """Two demands on a part that none meets, and the smallest changes of each kind that open it."""

    part: PartKey
    between: tuple[Text, Text]
    changes: tuple[Change, ...] = ()


def contradictions(evaluation: Evaluation, work: Work) -> tuple[Contradiction, ...]:
    """Every contradiction of an evaluation, with what opens it: each change was tried."""
    found = [
        *_fuse("fuse", evaluation.power.fuse_asked, evaluation),
        *_fuse("charge-fuse", evaluation.power.charge_fuse_asked, evaluation),
        *_bms(evaluation),
    ]
    return tuple(
        Contradiction(it.part, it.between, tuple(_changes(it.part, evaluation.project, work)))
        for it in found
    )


def empty_parts(evaluation: Evaluation) -> frozenset[PartKey]:
    """The parts of an evaluation of which none can be."""
    found = (
        *_fuse("fuse", evaluation.power.fuse_asked, evaluation),
        *_fuse("charge-fuse", evaluation.power.charge_fuse_asked, evaluation),
        *_bms(evaluation),
    )
    return frozenset(item.part for item in found)


def _fuse(key: PartKey, asked: FuseSetting, evaluation: Evaluation) -> Iterator[Contradiction]:
    if not best_form(asked).window.empty:
        return
    wire = evaluation.sized.wire if key == "fuse" else evaluation.power.charge_wire
    yield Contradiction(key, demands(asked, wire.name))


def _bms(evaluation: Evaluation) -> Iterator[Contradiction]:
    draw, least = evaluation.sized.drawn.limited, evaluation.power.short_least_a
    held = max(draw.most_a(SHORT_OPENS_S), draw.peak_a if draw.peak_s >= SHORT_OPENS_S else 0.0)
    cell = evaluation.sized.choice.cell
    sags = evaluation.power.short_cell_v.number < cell.voltage_empty_v
    if held > least.number * (1.0 + 1e-9) and not sags:
        yield Contradiction(
            "bms",
            (
                phrase("stay closed at {} for {}", say(held, "A"), say(SHORT_OPENS_S, "s")),
                phrase("open in a short circuit of {}", say(least.value, "A")),
            ),
        )


def _changes(part: PartKey, project: Project, work: Work) -> Iterator[Change]:
    """The smallest change of each kind that opens a part's window, each tried."""
    for tried in _kinds(part, project, work):
        for change in tried:
            try:
                other = work(with_values(project, change.changes))
            except ProjectError:
                continue
            if part not in empty_parts(other):
                yield change
                break


def _kinds(part: PartKey, project: Project, work: Work) -> Iterator[list[Change]]:
    """Changes that may open a window, kind by kind, the smallest of each first."""
    evaluation, need = work(project), project.need
    charging = part == "charge-fuse"
    wire = evaluation.power.charge_wire if charging else evaluation.sized.wire
    path = "charge_leads" if charging else "leads"
    thicker = [area for area in OFFERED_MM2 if area > wire.area.number * 1.01]
    yield [
        Change({f"{path}.wire": None, f"{path}.area_mm2": area}, phrase("{}", wire_name(area)))
        for area in thicker
    ]
    if charging:
        amps = evaluation.power.charge_current.number
        yield [
            Change({"need.charger_current_a": share * amps}, _of("a charger of {}", share * amps))
            for share in SHARES
        ]
        return
    demand = evaluation.sized.demand
    peak, load = demand.peak.number, evaluation.sized.pack.current.number
    lower = [load + share * (peak - load) for share in SHARES] if peak > load else []
    yield [Change({"need.peak_current_a": it}, _of("a peak of {}", it)) for it in lower]
    yield [
        Change({"need.peak_duration_s": it}, phrase("a peak of no more than {}", say(it, "s")))
        for it in (share * demand.peak_duration.number for share in SHARES)
        if peak > load
    ]
    if need.load_basis == "current":
        yield [
            Change({"need.current_a": it, "need.peak_current_a": it}, _of("a load of {}", it))
            for it in (share * need.current_a for share in SHARES)
        ]
    choice = evaluation.sized.choice
    kept = {"pack.cell": choice.cell.id, "pack.series": choice.series}
    yield [
        Change(
            {**kept, "pack.parallel": choice.parallel + more},
            phrase("{} cells in parallel", choice.parallel + more),
        )
        for more in range(1, MOST_MORE + 1)
    ]


def _of(template: str, amps: float) -> Text:
    return phrase(template, say(amps, "A"))
