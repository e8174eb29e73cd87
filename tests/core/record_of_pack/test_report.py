"""The report holds what it should, and says what the pack is not."""

from lumvak.core.document.afterwards.record_of_pack import TakenOver
from lumvak.core.document.edit import with_values
from lumvak.core.document.proving import Proving
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.report import SHOWN, TITLES, report_of
from lumvak.core.spelling import spoken
from tests.core.record_of_pack.test_label import PACK
from tests.core.record_of_pack.test_log import entry
from tests.proofs import reading


def test_every_figure_that_it_names_is_one(designed: Evaluation) -> None:
    for keys in SHOWN.values():
        assert sum(key in designed.figures for key in keys) >= len(keys) - 2


def test_parts_come_in_the_order_of_the_work_and_can_be_left_out(designed: Evaluation) -> None:
    report = report_of(designed)
    keys = [part.key for part in report.parts]
    assert keys == [key for key in TITLES if key in keys]
    assert {"need", "cells", "joints", "cuts", "power", "bms", "bill", "assumed"} <= set(keys)
    assert "placed" not in keys and "tests" not in keys
    less = report_of(designed, left_out=("cuts", "bill"))
    assert {part.key for part in less.parts} == set(keys) - {"cuts", "bill"}
    assert all(
        len(row) == len(it.heads) for part in report.parts for it in part.tables for row in it.rows
    )


def test_what_is_not_proven_says_so(designed: Evaluation) -> None:
    assert spoken(report_of(designed).on_every_page).startswith("NOT PROVEN. The rating is assumed")
    readings = (
        reading("full-discharge", 17.0, "pack", "ah"),
        *(
            reading("staircase", volts, place, what, amps=amps)
            for place, what, volts, amps in (
                ("pack", "volts", 50.0, 10.0),
                ("pack", "volts", 51.0, 0.0),
                ("strip", "celsius", 30.0, 10.0),
                ("cells", "celsius", 28.0, 10.0),
                ("lead", "celsius", 29.0, 10.0),
                ("air", "celsius", 25.0, 10.0),
            )
        ),
    )
    proven = with_values(designed.project, {"proving": Proving(readings=readings)})
    assert report_of(evaluate(proven, designed.sized.parts)).on_every_page == ""


def test_the_log_and_every_assumption_are_in_it(designed: Evaluation) -> None:
    project = with_values(designed.project, {"record.log": (entry("a" * 8),)})
    parts = {part.key: part for part in report_of(evaluate(project, designed.sized.parts)).parts}
    ((row,),) = (it.rows for it in parts["deviations"].tables)
    assert spoken(row[2]) == "a" * 8
    assumed = [it for it in designed.figures.values() if it.origin == "assumed"]
    assert len(parts["assumed"].tables[0].rows) == len(assumed)


def test_what_opens_first_and_cautions_are_parts_of_it(designed: Evaluation) -> None:
    parts = {part.key: part for part in report_of(designed).parts}
    (order,) = parts["order"].tables
    assert len(order.rows) == len(designed.power.pairs)
    assert {spoken(row[2]) for row in order.rows} <= {"in order", "not in order", "thin"}
    said = " ".join(spoken(text) for text in parts["cautions"].texts)
    over = designed.sized.pack.full.number > 60.0
    assert "never bypass a BMS" in said and ("over 60 V" in said) is over
    assert spoken(parts["charging"].texts[0]).startswith("To be set in a fuel gauge")


def test_a_pack_that_goes_on_says_from_which(designed: Evaluation) -> None:
    was = TakenOver(how="extended", day="2027-05-31", was=PACK)
    project = with_values(designed.project, {"record.taken_over": (was,)})
    parts = {part.key: part for part in report_of(evaluate(project, designed.sized.parts)).parts}
    assert spoken(parts["deviations"].texts[0]) == (
        "Taken over from Kayak thruster, extended on 2027-05-31."
    )
