"""What goes on from a pack, and what stays with it."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.afterwards.record_of_pack import How, LogEntry, PackRecord
from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import HandCell, Placed
from lumvak.core.document.project import Project
from lumvak.core.document.proving import Proving
from lumvak.core.document.taps import TapTotal
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.core.record_of_pack.taking_over import taken_over
from tests.core.record_of_pack.test_label import PACK
from tests.proofs import reading

TOLD = LogEntry(id="z" * 8, when="2027-05-31 10:00:00", text="x", who="Mina")
BEFORE = LogEntry(id="a" * 8, when="2026-05-31 10:00:00", text="closed", kind="closed up")
OLD = replace(
    with_values(
        Project(name="Kayak thruster"),
        {
            "pack.series": 8,
            "pack.parallel": 2,
            "balance_leads.totals": (TapTotal(lead=1, volts=3.3),),
            "hand.cells": tuple(
                HandCell(
                    number=number, ah=14.0 + number, volts=3.3, remark="dented" * (number == 1)
                )
                for number in (1, 2, 3)
            ),
            "hand.placed": (Placed(number=1, cell="g1c1"), Placed(number=2, cell="g8c2")),
        },
    ),
    proving=Proving(
        readings=tuple(
            reading("groups", 3.3 + group / 100, f"group:{group}") for group in range(1, 9)
        )
    ),
    record=PackRecord(log=(BEFORE,), built="2026-05-31", builder="Mina"),
)
WAS = replace(PACK, built="2026-05-31")


@pytest.mark.parametrize("how", ["rebuilt", "extended", "taken apart"])
def test_the_log_goes_on_and_says_what_became_of_it(how: How) -> None:
    onward = taken_over(OLD, WAS, how, TOLD)
    first, last = onward.record.log
    assert first == BEFORE and last.kind == "taken over" and "Kayak thruster" in last.text
    assert last.when == TOLD.when and last.who == "Mina"
    (was,) = onward.record.taken_over
    assert (was.how, was.day, was.was) == (how, "2027-05-31", WAS)
    assert onward.record.built is None and not onward.proving.readings
    assert not onward.balance_leads.totals and not onward.hand.placed


def test_what_is_rebuilt_has_its_design_and_is_modified(
    designed: Evaluation, catalogue: Catalogue
) -> None:
    onward = taken_over(OLD, WAS, "rebuilt", TOLD)
    assert onward.pack == OLD.pack and onward.hand.cells == OLD.hand.cells
    again = evaluate(
        with_values(designed.project, {"record.taken_over": onward.record.taken_over}),
        catalogue,
    )
    assert passport_of(again).modified and not passport_of(designed).modified


def test_what_is_extended_is_the_old_pack_of_the_new_cells() -> None:
    old = taken_over(OLD, WAS, "extended", TOLD).hand.old
    assert (old.parallel, old.years) == (2, 1.0)
    assert [it.volts for it in old.groups] == [pytest.approx(3.3 + n / 100) for n in range(1, 9)]


def test_cells_that_come_out_keep_what_was_measured_and_where_they_sat() -> None:
    hand = taken_over(OLD, WAS, "taken apart", TOLD).hand
    assert [it.number for it in hand.cells] == [1, 2] and hand.lots[0].origin == "reclaimed"
    one, two = hand.cells
    assert (one.ah, two.ah) == (15.0, 16.0) and one.volts is None
    assert one.remark == "dented; from Kayak thruster, built 2026-05-31, g1c1"
    assert two.remark.endswith("g8c2") and two.lot == hand.lots[0].name


def test_cells_that_nobody_numbered_are_as_many_as_the_pack_had() -> None:
    bare = with_values(OLD, {"hand.placed": (), "hand.cells": ()})
    cells = taken_over(bare, WAS, "taken apart", TOLD).hand.cells
    assert len(cells) == 16 and cells[0].remark.endswith("g1c1")
    assert cells[-1].remark.endswith("g8c2") and len({it.number for it in cells}) == 16


def test_cells_of_a_found_pack_are_as_many_as_were_seen_with_what_is_known() -> None:
    found = AsFound(
        begun=True,
        cell="ostrel-18-25p",
        series_cells=3,
        parallel=2,
        years=3.0,
        stored="full",
        promised_ah=5.0,
        group_v=(3.8, 0.6, 3.7),
    )
    hand = taken_over(Project(name="Barn find", as_found=found), WAS, "taken apart", TOLD).hand
    (lot,) = hand.lots
    assert lot.cell == "ostrel-18-25p" and lot.origin == "reclaimed"
    assert lot.word == "3 years old; stood full mostly; sold with 5 Ah"
    assert len(hand.cells) == 6 and "g3c1, its group read 3.7 V" in hand.cells[4].remark
    # A cell that was run down is never revived.
    assert [it.verdict for it in hand.cells] == ["", "", "reject", "reject", "", ""]
    assert hand.cells[2].why == "its group was run down"
