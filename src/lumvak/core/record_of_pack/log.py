"""The log of a pack: what the stages write along, and that nothing of it is lost."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from operator import attrgetter

from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.document.afterwards.record_of_pack import MOST_ENTRIES, Entry, LogEntry
from lumvak.core.document.project import Project
from lumvak.core.said import listed, phrase, say
from lumvak.core.spelling import spoken

MOST_TEXT = 500
CHARGED: Entry = "first charge"
# What is said of the balance leads: that they were read, and that they may be plugged in.
CHECKED: tuple[Entry, Entry] = "leads checked", "plug allowed"


class ToLog(Struct, frozen=True):
    """What is to be written along: no entry yet, for it has no moment and no name."""

    kind: Entry
    stage: str
    text: str
    readings: bool = False
    group: int | None = None


def along(before: Project, after: Project) -> tuple[ToLog, ...]:
    """What an edit did that belongs into the log."""
    made: list[ToLog] = []
    for way in (_placed, _leads, _charged, _tests, _set, _closed, _searched):
        made += way(before, after)
    return tuple(made)


def _placed(before: Project, after: Project) -> Iterator[ToLog]:
    if after.hand.placed is before.hand.placed:
        return
    known = set(before.hand.placed)
    fresh = [it for it in after.hand.placed if it not in known]
    for group in sorted({group_of(it.cell) for it in fresh}):
        words = [f"cell {it.number} at {it.cell}" for it in fresh if group_of(it.cell) == group]
        yield ToLog("cells placed", "hand", cut_short(spoken(listed(words))), group=group)


def group_of(place: str) -> int:
    """The group of a place such as ``g3c2``."""
    return int(place[1:].partition("c")[0])


def _charged(before: Project, after: Project) -> Iterator[ToLog]:
    if after.charging.log.rows and not before.charging.log.rows and not _known(before, CHARGED):
        yield ToLog(CHARGED, "charging", "readings of a charge were begun", readings=True)


def _known(project: Project, kind: Entry) -> bool:
    return any(it.kind == kind for it in project.record.log)


def plug_allowed(project: Project, safe: bool) -> tuple[ToLog, ...]:
    """That the balance leads may be plugged in, once after they were read."""
    if not safe:
        return ()
    last = next((it.kind for it in reversed(project.record.log) if it.kind in CHECKED), "")
    if last != CHECKED[0]:
        return ()
    return (ToLog(CHECKED[1], "taps", "every lead was read; none is wrong", readings=True),)


def _leads(before: Project, after: Project) -> Iterator[ToLog]:
    if after.balance_leads.totals is before.balance_leads.totals:
        return
    known = {it.lead: it.volts for it in before.balance_leads.totals}
    words = [
        phrase("lead {}: {}", it.lead, say(it.volts, "V"))
        for it in after.balance_leads.totals
        if it.volts is not None and known.get(it.lead) != it.volts
    ]
    if words:
        yield ToLog("leads checked", "taps", cut_short(spoken(listed(words))), readings=True)


def _tests(before: Project, after: Project) -> Iterator[ToLog]:
    """A test that was begun, or begun again; readings are only added to."""
    was = before.proving.readings
    fresh = after.proving.readings[len(was) :]
    if after.proving.readings is was or not fresh:
        return
    # What a test is called is wanted only now: all of proving comes with it.
    from lumvak.core.proving.guide import GUIDES

    known = {(it.test, it.attempt) for it in was}
    for test, attempt in dict.fromkeys((it.test, it.attempt) for it in fresh):
        if (test, attempt) in known:
            continue
        anew = any(it[0] == test for it in known) or _known(before, CHARGED)
        first = test == "full-charge" and not anew
        again = f", attempt {attempt}" if attempt > 1 else ""
        yield ToLog(
            CHARGED if first else "test",
            "prove",
            f"{GUIDES[test].name}{again}",
            readings=True,
        )


def _set(before: Project, after: Project) -> Iterator[ToLog]:
    settings = after.protection.settings
    if settings is not before.protection.settings and settings != before.protection.settings:
        yield ToLog("BMS set", "power", "settings of the BMS were written down")


def _closed(before: Project, after: Project) -> Iterator[ToLog]:
    if after.record.built is not None and before.record.built != after.record.built:
        yield ToLog("closed up", "record", f"built {after.record.built}")


def cut_short(text: str, most: int = MOST_TEXT) -> str:
    """A text of ``most`` signs at most, with a mark where it was longer."""
    return text if len(text) <= most else text[: most - 1] + "…"


class EntriesWanted(Struct, frozen=True):
    """Which entries are wanted: of a stage, of a group, of days from and to; empty is all."""

    stage: str = ""
    group: int | None = None
    from_day: str = ""
    to_day: str = ""


def wanted_of(log: Iterable[LogEntry], wanted: EntriesWanted) -> tuple[LogEntry, ...]:
    """The entries that are wanted; one without a group is of none."""
    return tuple(
        it
        for it in log
        if (not wanted.stage or it.stage == wanted.stage)
        and (wanted.group is None or it.group == wanted.group)
        and (not wanted.from_day or it.when[:10] >= wanted.from_day)
        and (not wanted.to_day or it.when[:10] <= wanted.to_day)
    )


def merged(one: Iterable[LogEntry], other: Iterable[LogEntry]) -> tuple[LogEntry, ...]:
    """All entries of two logs, each once, in the order of their moments."""
    by_id = {item.id: item for item in (*one, *other)}
    return tuple(sorted(by_id.values(), key=attrgetter("when")))[:MOST_ENTRIES]


def with_log(project: Project, log: tuple[LogEntry, ...]) -> Project:
    """The project with another log; the same where it has that."""
    if log == project.record.log:
        return project
    return replace(project, record=replace(project.record, log=log))


def kept(now: Project, then: Project) -> Project:
    """``then``, with what is logged ``now`` with a reading: no step back takes that away."""
    if now.record.log is then.record.log:
        return then
    read = [item for item in now.record.log if item.readings]
    return with_log(then, merged(then.record.log, read))


def _searched(before: Project, after: Project) -> Iterator[ToLog]:
    """Readings of a search for trouble, where the pack has a record."""
    trouble, known = after.trouble, before.trouble.readings
    if trouble.readings is known or not (before.record.log or before.record.built):
        return
    from lumvak.core.afterwards.in_trouble import as_trouble_reading
    from lumvak.core.trouble.how import reading_said

    for reading in trouble.readings[len(known) :]:
        said = spoken(reading_said(as_trouble_reading(reading)))
        words = f"{trouble.complaint or 'trouble'}: {said}"
        yield ToLog("note", "trouble", cut_short(words), readings=True)
