"""The log is written along, and nothing that was read goes out of it."""

from msgspec.structs import replace

from lumvak.core.document.afterwards.record_of_pack import LogEntry, PackRecord
from lumvak.core.document.afterwards.trouble import FaultReading
from lumvak.core.document.charging import ChargeLog, LogRow
from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import Placed
from lumvak.core.document.project import Project
from lumvak.core.document.proving import Proving
from lumvak.core.document.taps import TapTotal
from lumvak.core.record_of_pack.log import (
    EntriesWanted,
    along,
    kept,
    merged,
    plug_allowed,
    wanted_of,
    with_log,
)
from tests.proofs import reading

PLAIN = Project()


def entry(name: str, when: str = "2026-05-31 10:00:00", *, readings: bool = False) -> LogEntry:
    return LogEntry(id=name, when=when, text=name, readings=readings)


def after(**changes: object) -> Project:
    return with_values(PLAIN, {key.replace("__", "."): value for key, value in changes.items()})


def test_cells_leads_tests_and_closing_are_written_along() -> None:
    placed = after(hand__placed=(Placed(number=3, cell="g1c2"), Placed(number=5, cell="g2c1")))
    one, two = along(PLAIN, placed)
    assert (one.kind, one.text, one.group) == ("cells placed", "cell 3 at g1c2", 1)
    assert (two.text, two.group) == ("cell 5 at g2c1", 2)
    (leads,) = along(PLAIN, after(balance_leads__totals=(TapTotal(lead=1, volts=3.7),)))
    assert leads.kind == "leads checked" and "lead 1: 3.7 V" in leads.text and leads.readings
    (closed,) = along(PLAIN, after(record__built="2026-05-31"))
    assert closed.kind == "closed up"
    assert along(PLAIN, after(name="another")) == ()


def test_a_test_is_logged_when_it_is_begun_and_begun_again() -> None:
    first = after(proving=Proving(readings=(reading("full-charge", 3.0, what="amps"),)))
    (begun,) = along(PLAIN, first)
    assert begun.kind == "first charge" and begun.readings
    more = with_values(
        first,
        {"proving.readings": (*first.proving.readings, reading("full-charge", 2.0, what="amps"))},
    )
    assert along(first, more) == ()
    again = reading("full-charge", 2.0, what="amps", attempt=2)
    third = with_values(more, {"proving.readings": (*more.proving.readings, again)})
    (other,) = along(more, third)
    assert other.kind == "test" and other.text.endswith("attempt 2")


def test_the_first_charge_is_logged_once() -> None:
    rows = ChargeLog(rows=(LogRow(seconds=0.0, volts=48.0),))
    charged = after(charging__log=rows)
    (begun,) = along(PLAIN, charged)
    assert (begun.kind, begun.stage, begun.readings) == ("first charge", "charging", True)
    logged = with_log(charged, (replace(entry("a" * 8), kind="first charge"),))
    anew = with_values(logged, {"charging.log": ChargeLog()})
    assert along(anew, with_values(anew, {"charging.log": rows})) == ()
    test = with_values(anew, {"proving": Proving(readings=(reading("full-charge", 3.0),))})
    assert [it.kind for it in along(anew, test)] == ["test"]


def test_the_plug_is_allowed_once_after_the_leads_were_read() -> None:
    assert plug_allowed(PLAIN, True) == ()
    read = with_log(PLAIN, (replace(entry("a" * 8), kind="leads checked"),))
    assert plug_allowed(read, False) == ()
    (allowed,) = plug_allowed(read, True)
    assert allowed.kind == "plug allowed" and allowed.readings
    done = with_log(read, (*read.record.log, replace(entry("b" * 8), kind="plug allowed")))
    assert plug_allowed(done, True) == ()


def test_entries_are_found_by_stage_group_and_day() -> None:
    log = (
        replace(entry("a" * 8, "2026-05-30 10:00:00"), stage="hand", group=2),
        replace(entry("b" * 8, "2026-05-31 10:00:00"), stage="hand"),
        replace(entry("c" * 8, "2026-06-01 10:00:00"), stage="prove", group=2),
    )
    assert wanted_of(log, EntriesWanted()) == log
    assert wanted_of(log, EntriesWanted(stage="hand")) == log[:2]
    assert wanted_of(log, EntriesWanted(group=2)) == (log[0], log[2])
    assert wanted_of(log, EntriesWanted(from_day="2026-05-31", to_day="2026-05-31")) == (log[1],)


def test_no_step_back_takes_a_reading_out_of_the_log() -> None:
    read, note = entry("a" * 8, readings=True), entry("b" * 8)
    now = with_log(PLAIN, (read, note))
    assert kept(now, PLAIN).record.log == (read,)
    assert kept(now, now) is now


def test_two_logs_become_one_in_the_order_of_time() -> None:
    one, two, three = (entry(f"{n}" * 8, f"2026-05-3{n} 10:00:00") for n in range(3))
    assert merged((one, three), (two, one)) == (one, two, three)
    assert with_log(PLAIN, ()) is PLAIN
    assert with_log(PLAIN, (one,)) == replace(PLAIN, record=PackRecord(log=(one,)))


def test_readings_of_a_search_stand_in_the_log_of_a_pack_that_has_one() -> None:
    found = FaultReading(place="terminals", word="jumps")
    before = Project(record=PackRecord(built="2026-05-31"))
    after = with_values(before, {"trouble.complaint": "jumps", "trouble.readings": (found,)})
    (entry,) = [it for it in along(before, after) if it.stage == "trouble"]
    assert entry.readings and entry.text.startswith("jumps: the terminals")
    bare = with_values(Project(), {"trouble.readings": (found,)})
    assert not [it for it in along(Project(), bare) if it.stage == "trouble"]
