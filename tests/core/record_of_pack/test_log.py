"""The log is written along, and nothing that was read goes out of it."""

from msgspec.structs import replace

from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import Placed
from lumvak.core.document.project import Project
from lumvak.core.document.proving import Proving
from lumvak.core.document.record_of_pack import LogEntry, PackRecord
from lumvak.core.document.taps import TapTotal
from lumvak.core.record_of_pack.log import along, kept, merged, with_log
from tests.proofs import reading

PLAIN = Project()


def entry(name: str, when: str = "2026-05-31 10:00:00", *, readings: bool = False) -> LogEntry:
    return LogEntry(id=name, when=when, text=name, readings=readings)


def after(**changes: object) -> Project:
    return with_values(PLAIN, {key.replace("__", "."): value for key, value in changes.items()})


def test_cells_leads_tests_and_closing_are_written_along() -> None:
    placed = after(hand__placed=(Placed(number=3, cell="g1c2"), Placed(number=5, cell="g2c1")))
    (cells,) = along(PLAIN, placed)
    assert (cells.kind, cells.text) == ("cells placed", "cell 3 at g1c2, cell 5 at g2c1")
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
