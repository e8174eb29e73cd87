"""Days on which something is due of a pack, from the day on which it was closed up (methods 43)."""

from __future__ import annotations

from datetime import date, timedelta

from msgspec import Struct

from lumvak.core.document.project import Project
from lumvak.core.said import Text

# After so many days, and again every so many, and what there is to do.
# fmt: off
DUE: tuple[tuple[str, int, int, Text, Text], ...] = (
    ("self-discharge", 7, 0, "Self-discharge",
     "Read every group: one that fell by more than the others leaks."),
    ("balance", 30, 180, "Balance",
     "Charge full, wait an hour, read every group: over 20 mV apart wants balancing."),
    ("storage", 90, 90, "Storage charge",
     "If it was not used: bring it to about half, and read every group."),
    ("fuse", 365, 365, "Fuse, screws, wrapper",
     "Fuse and holder by eye, leads and plugs by a pull, screws by torque, wrapper for wear."),
)
# fmt: on
# So many years ahead are told.
YEARS = 3


class DueDay(Struct, frozen=True):
    """A day, what is due, and what to do then."""

    day: date
    key: str
    what: Text
    do: Text


def due_days(project: Project, years: int = YEARS) -> tuple[DueDay, ...]:
    """All days of a pack for ``years`` after it was closed up; none before it was."""
    if project.record.built is None:
        return ()
    built = date.fromisoformat(project.record.built)
    ends = built + timedelta(days=365 * years)
    found = []
    for key, first, every, what, do in DUE:
        day = built + timedelta(days=first)
        while day <= ends:
            found.append(DueDay(day, key, what, do))
            if not every:
                break
            day += timedelta(days=every)
    return tuple(sorted(found, key=lambda it: (it.day, it.key)))


def at_hand(days: tuple[DueDay, ...], today: date) -> tuple[DueDay, ...]:
    """Of each kind the last that was due by ``today``, and the next after it, by their days."""
    kept: dict[tuple[str, bool], DueDay] = {}
    for item in days:
        ahead = item.day > today
        kept[item.key, ahead] = kept.get((item.key, True), item) if ahead else item
    return tuple(sorted(kept.values(), key=lambda it: (it.day, it.key)))
