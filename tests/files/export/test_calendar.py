"""A calendar, read by a reader that is not ours."""

from datetime import date

from icalendar import Calendar

from lumvak.core.record_of_pack.dates import due_days
from lumvak.files.export.calendar import calendar_bytes
from tests.core.record_of_pack.test_dates import BUILT


def test_each_day_is_an_entry_of_its_own_and_stays_the_same() -> None:
    days = due_days(BUILT)
    made = calendar_bytes("Kayak; thruster, 2", days)
    read = Calendar.from_ical(made)
    events = list(read.walk("VEVENT"))
    assert len(events) == len(days) and len({str(it["uid"]) for it in events}) == len(days)
    assert events[0]["dtstart"].dt == date(2026, 6, 7)
    assert str(events[0]["summary"]) == "Kayak; thruster, 2: Self-discharge"
    assert made == calendar_bytes("Kayak; thruster, 2", days)
