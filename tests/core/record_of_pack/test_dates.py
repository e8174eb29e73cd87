"""Days, counted again by a calendar."""

from datetime import date

from lumvak.core.document.afterwards.record_of_pack import PackRecord
from lumvak.core.document.project import Project
from lumvak.core.record_of_pack.dates import at_hand, due_days

BUILT = Project(record=PackRecord(built="2026-05-31"))


def test_none_before_it_was_closed_up() -> None:
    assert due_days(Project()) == ()


def test_each_kind_has_its_days() -> None:
    days = due_days(BUILT, years=1)
    found = [(it.key, it.day) for it in days]
    assert found[0] == ("self-discharge", date(2026, 6, 7))
    assert sum(key == "storage" for key, _ in found) == 4
    assert [day for key, day in found if key == "balance"] == [
        date(2026, 6, 30),
        date(2026, 12, 27),
    ]
    assert [day for key, day in found if key == "fuse"] == [date(2027, 5, 31)]
    assert [it.day for it in days] == sorted(it.day for it in days)


def test_the_last_and_the_next_of_each_kind_are_at_hand() -> None:
    found = at_hand(due_days(BUILT), date(2026, 12, 1))
    days = {(it.key, it.day > date(2026, 12, 1)): it.day for it in found}
    assert len(days) == len(found)
    assert days["storage", False] == date(2026, 11, 27) and days["storage", True] == date(
        2027, 2, 25
    )
    assert ("self-discharge", True) not in days and ("fuse", False) not in days
