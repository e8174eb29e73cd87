"""A pack whose record goes on: rebuilt, extended, or taken apart into cells."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

from msgspec.structs import replace

from lumvak.core.as_found.counting import series_count
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.document.afterwards.record_of_pack import How, LogEntry, PackRecord, TakenOver
from lumvak.core.document.charging import ChargeLog
from lumvak.core.document.hand import MOST_CELLS, Hand, HandCell, Lot, OldGroup, OldPack
from lumvak.core.document.project import Project
from lumvak.core.proving.measured import counted
from lumvak.core.record_of_pack.log import cut_short
from lumvak.core.spelling import DAYS_A_YEAR

# A cell that rests under this share of the volts at which it is empty was run down.
RUN_DOWN = 0.8
MOST_TAKEN, MOST_NAME, MOST_REMARK = 20, 60, 200
# What is said in the log of each.
SAID: dict[How, str] = {
    "rebuilt": "“{}” is rebuilt: what was read of it before is of the pack as it was",
    "extended": "“{}” is extended: what was read of it before is of the pack as it was",
    "taken apart": "“{}” was taken apart",
}


def taken_over(project: Project, passport: Passport, how: How, entry: LogEntry) -> Project:
    """A project that goes on from the pack of another, with its log.

    ``passport`` is what the pack was, ``entry`` gives the moment, the name and who. What was read
    of the old pack as a whole, and where its cells sat, does not go on; what was read of its cells
    does.
    """
    was = TakenOver(how=how, day=entry.when[:10], was=passport)
    told = replace(entry, kind="taken over", stage="record", text=SAID[how].format(passport.name))
    record = PackRecord(
        log=(*project.record.log, told),
        builder=project.record.builder,
        label=project.record.label,
        claimed=project.record.claimed,
        taken_over=(*project.record.taken_over, was)[-MOST_TAKEN:],
    )
    if how == "taken apart":
        return Project(
            name=cut_short(f"Cells of {passport.name}", 120),
            hand=_loose(project, passport),
            record=record,
            parts=project.parts,
        )
    hand = replace(project.hand, placed=(), soldered=(), pins=())
    if how == "extended":
        hand = replace(hand, old=_old_pack(project, passport, was.day))
    leads = replace(project.balance_leads, soldered=(), totals=(), more=(), group_v=None)
    return replace(
        project,
        hand=hand,
        balance_leads=leads,
        charging=replace(project.charging, groups=(), log=ChargeLog()),
        proving=replace(project.proving, readings=(), counts=()),
        record=record,
    )


def _old_pack(project: Project, passport: Passport, day: str) -> OldPack:
    """The pack in use as it is joined to, with what was read of its groups last."""
    last = {it.place: it.value for it in counted(project.proving, "groups") if it.what == "volts"}
    volts = [last.get(f"group:{group}") for group in range(1, passport.series + 1)]
    groups = tuple(OldGroup(volts=it if it and 0.0 < it <= 6.0 else None) for it in volts)
    years = None
    if passport.built is not None:
        days = (date.fromisoformat(day) - date.fromisoformat(passport.built)).days
        years = round(max(days, 0) / DAYS_A_YEAR, 2)
    return OldPack(
        cell=project.pack.cell,
        parallel=min(passport.parallel, 400),
        years=years,
        groups=groups if any(it.volts is not None for it in groups) else (),
    )


def _loose(project: Project, passport: Passport) -> Hand:
    """The cells of a pack as a lot, each with where it sat; what was measured of it stays."""
    lot = replace(
        next(iter(project.hand.lots), Lot()),
        name=cut_short(f"from {passport.name}", MOST_NAME),
        cell=project.as_found.cell if project.as_found.begun else project.pack.cell,
        origin="reclaimed",
        day=passport.built or "",
        word=_found_word(project.as_found),
    )
    return Hand(meter=project.hand.meter, lots=(lot,), cells=tuple(_cells(project, passport, lot)))


def _cells(project: Project, passport: Passport, lot: Lot) -> Iterator[HandCell]:
    sat = {it.number: it.cell for it in project.hand.placed}
    built = f", built {passport.built}" if passport.built else ""
    came = f"from {passport.name}{built}"
    if not sat:
        yield from _unnumbered(project, passport, lot, came)
        return
    known = {it.number: it for it in project.hand.cells}
    for number, place in sorted(sat.items()):
        cell = known.get(number, HandCell(number=number, lot=lot.name))
        remark = "; ".join(filter(None, (cell.remark, f"{came}, {place}")))
        # A rest voltage of before it was built in says nothing of the cell as it is now.
        yield replace(
            cell, lot=lot.name, volts=None, later_v=None, days=None, remark=remark[-MOST_REMARK:]
        )


def _unnumbered(project: Project, passport: Passport, lot: Lot, came: str) -> Iterator[HandCell]:
    """Cells that nobody numbered: as many as the pack has, by its design or as it was found.

    Those of a group that was run down are not kept (methods 45).
    """
    found = project.as_found
    series, parallel = passport.series, passport.parallel
    if found.begun:
        count = series_count(found, passport.full_v / passport.series)
        series = count.likely if count.ways else series
        parallel = found.parallel or parallel
    run_down_v = RUN_DOWN * passport.empty_v / passport.series
    numbers = iter(range(1, MOST_CELLS + 1))
    for group in range(1, series + 1):
        volts = found.group_v[group - 1] if group <= len(found.group_v) else None
        read = "" if volts is None else f", its group read {volts:g} V"
        down = volts is not None and volts < run_down_v
        for place, number in zip(range(1, parallel + 1), numbers, strict=False):
            yield HandCell(
                number=number,
                lot=lot.name,
                remark=cut_short(f"{came}, g{group}c{place}{read}", MOST_REMARK),
                verdict="reject" if down else "",
                why="its group was run down" if down else "",
            )


def _found_word(found: AsFound) -> str:
    """What is known of a found pack, for the lot of its cells; empty where nothing is."""
    if not found.begun:
        return ""
    known = (
        (found.years, "{:g} years old"),
        (found.cycles, "{:g} charges"),
        (found.stored, "stood {} mostly"),
        (found.measured_ah, "the pack held {:g} Ah"),
        (found.promised_ah, "sold with {:g} Ah"),
    )
    return "; ".join(words.format(value) for value, words in known if value is not None)
