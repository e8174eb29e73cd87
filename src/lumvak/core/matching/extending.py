"""New cells joined to an old pack, group to group: what both carry, and when they must not be."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace

from lumvak.core.document.hand import OldPack
from lumvak.core.figures.figure import Figure, Rule, typed
from lumvak.core.figures.finding import Finding
from lumvak.core.matching.matched import STAGE, GroupNow, LotKind
from lumvak.core.matching.old_and_new import (
    OldAndNew,
    OldOrNew,
    apart_in_resistance,
    joined,
    new_of,
    old_of,
    recipe_of,
    worn_limit_a,
)
from lumvak.core.matching.sharing_over_time import shared
from lumvak.core.said import phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
WEAKEST_AH = Rule("{}.old.weakest_ah", "Weakest group, old and new", "Ah",
                  "old + new, of the least sum", "methods 29")
SPREAD = Rule("{}.old.spread", "Groups of both apart", "%", "(largest − least) ÷ mean of old + new",
              "methods 29")
FIRST_SHARE = Rule("{}.old.first_share", "Old group carries at first", "%",
                   "resistance of the new ÷ both, full and level", "methods 29")
APART = Rule("{}.old.apart", "Resistances apart, for equal capacity", "",
             "mΩ × Ah of one ÷ of the other, the most", "methods 29")
HOURS = Rule("{}.old.hours", "Both together run", "h",
             "steady current until the first group is at its end", "methods 29")
MOHM = Rule("{}.old.{}{}_mohm", "{} {}", "mΩ", "{}", "methods 29")
SHEET_A = Rule("{}.old.sheet_a", "{}, continuous", "A", "data sheet", "the catalogue")
PARALLEL = Rule("hand.old.parallel", "Old cells in parallel", "",
                "mean capacity ÷ that of the sheet, rounded", "methods 29")
OLD_MOST_A = Rule("{}.old.{}", "Most that a cell carries, {}", "A",
                  "most of a group over the discharge ÷ cells in parallel", "methods 29")
LIMIT_A = Rule("{}.old.limit_a", "An old cell carries", "A",
               "continuous × √(resistance of the sheet ÷ measured): no warmer than a new one",
               "methods 29")
KEPT = Rule("{}.old.kept", "Old groups keep of the sheet", "%",
            "least group ÷ (cells × typical capacity)", "methods 29")
JOIN_A = Rule("{}.old.join_a", "Would flow when they are joined", "A",
              "pair {}: volts apart ÷ both resistances", "methods 27")
OLD_AH = Rule("{}.old.{}{}_ah", "{} {}", "Ah", "{}", "methods 29")
# fmt: on

# Under so much of the sheet's charge a cell is worn; used for so many years it has aged apart.
WORN, LONG_YEARS = 0.8, 3.0
# Old and new groups joined differ by no more than this.
EVEN = 0.02


def extending_topic(
    wanted: OldPack,
    groups: tuple[GroupNow, ...],
    own: LotKind,
    old: LotKind,
    series: int,
    parallel: int,
    current: Figure,
    charge: Figure,
    stop_cell_v: float,
) -> OldAndNew:
    """What an old pack and the new cells are together (methods 29).

    ``groups`` are the new cells' as placed, empty where none are; ``own`` and ``old`` what new and
    old cells are. ``current`` is drawn from both, ``charge`` is where both are charged to in V,
    ``stop_cell_v`` where the equipment stops, over the count in series.
    """
    if not wanted.groups:
        return OldAndNew()
    count = len(wanted.groups)
    if count != series:
        return OldAndNew(findings=(_count_finding(count, series),))
    old_side = old_of(wanted, old)
    new_side = new_of(groups, own, series, parallel)
    ends = max(stop_cell_v, old.cell.voltage_empty_v, own.cell.voltage_empty_v)
    course = shared(
        old_side.source(), new_side.source(), current.number, ends, charge.number / series
    )
    found = OldAndNew(old_side, new_side, joined(old_side, new_side), course)
    figures = tuple(_figures(wanted, found, current))
    findings = tuple(_findings(wanted, found, {item.key: item for item in figures}, charge))
    return replace(found, figures=figures, findings=findings)


def _figures(wanted: OldPack, beside: OldAndNew, current: Figure) -> Iterator[Figure]:
    old, new, course = beside.old, beside.new, beside.course
    assert old is not None and new is not None and course is not None
    assert beside.joining is not None
    sums = old.ah + new.ah
    weakest = int(np.argmin(sums))
    old_ah = _of_side(old, "old", "Old group", weakest)
    new_ah = _of_side(new, "new", "New group", weakest)
    yield WEAKEST_AH.of(float(sums[weakest]), old_ah, new_ah, key=STAGE)
    yield SPREAD.of(float(np.ptp(sums) / sums.mean()), old_ah, new_ah, key=STAGE)
    worst = int(np.argmax(course.one_a[0]))
    ohms = (_ohm_of(old, "old", "Old group", worst), _ohm_of(new, "new", "New group", worst))
    first = float(course.one_a[0, worst]) / current.number
    yield FIRST_SHARE.of(first, *ohms, current, key=STAGE)
    for side, amps, key, word in (
        (old, course.one_a, "old_cell_a", "old"),
        (new, course.other_a, "new_cell_a", "new"),
    ):
        yield OLD_MOST_A.of(
            float(amps.max()) / side.parallel, current, *ohms, key=(STAGE, key), label=word
        )
    yield LIMIT_A.of(
        worn_limit_a(old),
        _sheet_limit(old),
        _ohm_of(old, "old", "Old group", int(np.argmax(old.ohm))),
        key=STAGE,
    )
    yield APART.of(apart_in_resistance(beside), *ohms, old_ah, new_ah, key=STAGE)
    if old.measured:
        rated = old.parallel * old.kind.cell.capacity_typical_ah
        yield KEPT.of(
            float(old.ah.min()) / rated,
            _of_side(old, "old", "Old group", int(np.argmin(old.ah))),
            _old_parallel(wanted, old),
            key=STAGE,
        )
    yield HOURS.of(float(course.hours[-1]), current, old_ah, new_ah, key=STAGE)
    if np.isfinite(beside.joining.current_a).any():
        at = beside.joining.worst
        yield JOIN_A.of(
            float(beside.joining.current_a[at]), origin="measured", key=STAGE, rule=at + 1
        )


def _of_side(side: OldOrNew, key: str, words: str, at: int) -> Figure:
    return OLD_AH.of(
        float(side.ah[at]),
        origin="measured" if side.measured else "assumed",
        key=(STAGE, key, at + 1),
        label=(words, at + 1),
        rule="measured" if side.measured else "where it was not measured, the sheet's",
    )


def _ohm_of(side: OldOrNew, key: str, words: str, at: int) -> Figure:
    mohm = float(side.ohm[at]) * 1e3
    return MOHM.of(
        mohm,
        origin="measured" if side.measured else "assumed",
        key=(STAGE, key, at + 1),
        label=(words, at + 1),
        rule="measured" if side.measured else "where it was not measured, the sheet's",
    )


def _sheet_limit(old: OldOrNew) -> Figure:
    return SHEET_A.of(
        old.kind.cell.continuous_a, origin="sheet", key=STAGE, label=old.kind.cell.name
    )


def _old_parallel(wanted: OldPack, old: OldOrNew) -> Figure:
    if wanted.parallel is not None:
        return typed("hand.old.parallel", "Old cells in parallel", wanted.parallel, "")
    return PARALLEL.assumed(old.parallel)


def _findings(
    wanted: OldPack, beside: OldAndNew, figures: dict[str, Figure], charge: Figure
) -> Iterator[Finding]:
    yield from _kinds(beside, charge)
    yield from _ages(wanted, beside, figures)
    yield from _loads(beside, figures)
    yield from _joins(beside)


def _count_finding(count: int, series: int) -> Finding:
    return Finding(
        "old-count",
        "stop",
        text=phrase("The old pack has {} groups, the new cells {} in series", count, series),
        why="In parallel both must have the same number in series: else one charges the other for "
        "as long as they are joined.",
        do=phrase("Measure all groups of the old pack; or put {} in series.", count),
        stage=STAGE,
        figure="hand.old.groups",
    )


def _kinds(beside: OldAndNew, charge: Figure) -> Iterator[Finding]:
    """What must not be joined for what the cells are."""
    assert beside.old is not None and beside.new is not None
    old, new = beside.old.kind, beside.new.kind
    cell_v = charge.number / len(beside.old.ah)
    if old.family != new.family:
        yield Finding(
            "old-chemistry",
            "stop",
            text=phrase("{} and {} are of different chemistry", old.cell.name, new.cell.name),
            why="Their voltages run differently against charge: one would be charged by the other, "
            "or filled beyond what it bears.",
            do="Take cells of the old pack's chemistry, or a second pack of its own.",
            stage=STAGE,
            figure="hand.old.cell",
        )
    elif cell_v > old.cell.voltage_full_v + 1e-9:
        yield Finding(
            "old-full",
            "stop",
            text=phrase(
                "Charged to {} a cell, the old cells bear {}",
                say(cell_v, "V"),
                say(old.cell.voltage_full_v, "V"),
            ),
            why="Both are charged as one.",
            do="Lower the charge limit.",
            stage=STAGE,
            figure=charge.key,
        )


def _ages(wanted: OldPack, beside: OldAndNew, figures: dict[str, Figure]) -> Iterator[Finding]:
    assert beside.old is not None and beside.new is not None
    kept = figures.get(f"{STAGE}.old.kept")
    if kept is not None and kept.number < WORN:
        yield Finding(
            "old-worn",
            "warn",
            text=phrase("The old groups keep {} of the sheet", say(kept.number, "%")),
            why=phrase(
                "Under {} a cell ages ever faster, and the new ones do its part from the first "
                "day.",
                say(WORN, "%"),
            ),
            do="Do not join them; build the new pack alone, or a second one that is swapped.",
            stage=STAGE,
            figure=kept.key,
        )
    elif wanted.years is not None and wanted.years > LONG_YEARS:
        yield Finding(
            "old-years",
            "warn",
            text=phrase("The old pack has been in use for {}", say(wanted.years, "years")),
            why=phrase(
                "After {} cells fail in ways that capacity does not foretell, and one that "
                "shorts is fed by all that lie beside it.",
                say(LONG_YEARS, "years"),
            ),
            do="Weigh it; where you join them, put a fuse into each joint of old and new.",
            stage=STAGE,
            figure="hand.old.years",
        )
    apart = figures[f"{STAGE}.old.apart"]
    if apart.number > wanted.ratio:
        yield Finding(
            "old-resistance",
            "warn",
            text=phrase(
                "Old and new differ {} times in resistance for their capacity",
                say(apart.number, ""),
            ),
            why=phrase(
                "Over {} the one of less resistance does the work at first and is charged by "
                "the other between rides: both wear by it.",
                say(wanted.ratio, ""),
            ),
            do="Take new cells nearer to the old; or build a second pack.",
            stage=STAGE,
            figure=apart.key,
        )


def _loads(beside: OldAndNew, figures: dict[str, Figure]) -> Iterator[Finding]:
    assert beside.new is not None
    carried, limit = figures[f"{STAGE}.old.old_cell_a"], figures[f"{STAGE}.old.limit_a"]
    if carried.number > limit.number:
        yield Finding(
            "old-overload",
            "stop",
            text=phrase(
                "An old cell would carry {}, and carries {}",
                say(carried.number, "A"),
                say(limit.number, "A"),
            ),
            why="By the heat that its risen resistance makes.",
            do="More new cells in parallel, or less current.",
            stage=STAGE,
            figure=carried.key,
        )
    most = beside.new.kind.cell.continuous_a
    carried = figures[f"{STAGE}.old.new_cell_a"]
    if carried.number > most:
        yield Finding(
            "old-new-overload",
            "stop",
            text=phrase(
                "A new cell would carry {} beside the old pack, and carries {}",
                say(carried.number, "A"),
                say(most, "A"),
            ),
            why="The old groups are of more resistance, and leave it more than its share.",
            do="More new cells in parallel, or less current.",
            stage=STAGE,
            figure=carried.key,
        )
    spread = figures[f"{STAGE}.old.spread"]
    if spread.number > EVEN:
        yield Finding(
            "old-uneven",
            "warn",
            text=phrase("Groups of both differ by {} in capacity", say(spread.number, "%")),
            why=phrase(
                "The weakest ends every ride; over {} it is worth assigning the new cells so "
                "that the sums match.",
                say(EVEN, "%"),
            ),
            do="Assign them under “groups”: the old groups count there.",
            stage=STAGE,
            figure=spread.key,
        )


def _joins(beside: OldAndNew) -> Iterator[Finding]:
    joining = beside.joining
    assert joining is not None
    unread = int(np.isnan(joining.current_a).sum())
    if unread:
        yield Finding(
            "old-unread",
            "warn",
            text=phrase(
                "{} of {} pairs of old and new have no voltage yet", unread, len(joining.current_a)
            ),
            why="What would flow when they are joined is not known.",
            do="Read both before any are joined.",
            stage=STAGE,
            figure="hand.old.groups",
        )
    recipe = recipe_of(beside)
    if recipe is None:
        return
    at = joining.worst
    higher, lower = ("new", "old") if joining.to_old[at] else ("old", "new")
    yield Finding(
        "old-join",
        "stop",
        text=phrase(
            "Do not join group {}: {} would flow from the {} into the {}",
            at + 1,
            say(float(joining.current_a[at]), "A"),
            higher,
            lower,
        ),
        why=phrase(
            "They are {} apart, and the {} one takes {}; {} would move.",
            say(float(joining.volts[at]), "V"),
            lower,
            say(float(joining.limit_a[at]), "A"),
            say(float(joining.flows_ah[at]), "Ah"),
        ),
        do=phrase(
            "Bring both to {} a cell by a charger, up to {}; or this pair through {}, {}, "
            "for {}. Stay with them.",
            *recipe.quantities,
        ),
        stage=STAGE,
        figure=f"{STAGE}.old.join_a",
    )
