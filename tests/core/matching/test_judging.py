"""Cells judged: worked scores, planted faults found, and few false alarms in lots without any."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.hand import HandCell, Lot, Meter
from lumvak.core.matching.judging import (
    LotUsual,
    judge_lot,
    modified_z,
    stands_out,
    summary,
)
from lumvak.core.matching.meter import volts_within
from lumvak.core.spelling import spoken
from tests.length import so_many

METER = Meter()


@pytest.fixture
def sheet(catalogue: Catalogue) -> Cell:
    return catalogue.cells["ostrel-21-48"]


def lot_of(count: int, seed: int, sheet: Cell, origin: str = "reclaimed") -> list[HandCell]:
    """A lot without a fault: what is read of each cell scatters as such lots do."""
    chance = np.random.default_rng(seed)
    rated, ohm = sheet.capacity_typical_ah, sheet.resistance_dc_ohm or 0.02
    ah = rated * chance.normal({"new": 1.0, "reclaimed": 0.975, "used": 0.9}[origin], 0.012, count)
    return [
        HandCell(
            number=place + 1,
            volts=round(float(chance.normal(3.61, 0.004)), 3),
            later_v=None,
            days=7.0,
            ah=round(float(ah[place]), 3),
            mohm=round(float(ohm * 1e3 * chance.normal(1.08, 0.03)), 1),
            grams=round(float(sheet.mass_g * chance.normal(1.0, 0.003)), 1),
        )
        for place in range(count)
    ]


def with_later(cells: list[HandCell], seed: int) -> list[HandCell]:
    chance = np.random.default_rng(seed + 1000)
    return [
        replace(
            cell, later_v=round((cell.volts or 0.0) - 7e-3 * float(chance.lognormal(-1.2, 0.4)), 3)
        )
        for cell in cells
    ]


def test_the_worked_score() -> None:
    found = modified_z(np.array([1610.0]), LotUsual(2331.0, 42.0, 90))
    assert found[0] == pytest.approx(-11.6, abs=0.05)


def test_few_cells_ask_for_a_higher_score_and_fewer_than_eight_for_none() -> None:
    assert stands_out(7) == float("inf")
    assert stands_out(8) > stands_out(20) > stands_out(90) > 3.5
    assert stands_out(100_000) == pytest.approx(3.5, abs=1e-3)


@pytest.mark.parametrize("origin", ["new", "reclaimed", "used"])
def test_lots_without_a_fault_give_few_false_alarms(
    sheet: Cell, catalogue: Catalogue, origin: str
) -> None:
    family = catalogue.chemistry_of(sheet).family
    alarms = total = 0
    for seed in range(so_many(20, 67)):
        count = (12, 20, 40, 90, 150)[seed % 5]
        cells = with_later(lot_of(count, seed, sheet, origin), seed)
        judged = judge_lot(Lot(origin=origin), cells, sheet, family, METER)  # type: ignore[arg-type]
        alarms += sum(item.state == "reject" for item in judged.cells)
        total += count
    assert total > so_many(1000, 4000)
    assert alarms < 0.005 * total


def test_each_planted_fault_is_found_with_its_reason(sheet: Cell, catalogue: Catalogue) -> None:
    cells = with_later(lot_of(90, 7, sheet), 7)
    usual_g = sheet.mass_g
    planted = {
        12: ("leaks", {"later_v": (cells[11].volts or 0.0) - 0.09}),
        30: ("vented", {"grams": usual_g * 0.955}),
        47: ("small", {"ah": 2.1, "remark": "wrapper says 7.2 Ah"}),
        61: ("dead", {"volts": 1.1}),
        75: ("reversed", {"volts": -0.3}),
        80: ("resistance", {"mohm": 60.0}),
    }
    for number, (_, change) in planted.items():
        cells[number - 1] = replace(cells[number - 1], **change)
    family = catalogue.chemistry_of(sheet).family
    judged = judge_lot(Lot(origin="reclaimed"), cells, sheet, family, METER)
    found = {item.cell.number: item for item in judged.cells if item.state == "reject"}
    assert set(found) == set(planted)
    for number, (code, _) in planted.items():
        assert code in {reason.code for reason in found[number].reasons}, number
    assert "6 of 90 rejected" in spoken(summary(judged))
    assert "under the sheet" in spoken(summary(judged))


def test_a_rejection_is_overruled_but_never_that_of_a_dead_cell(
    sheet: Cell, catalogue: Catalogue
) -> None:
    family = catalogue.chemistry_of(sheet).family
    cells = lot_of(20, 3, sheet)
    cells[0] = replace(cells[0], ah=2.0, verdict="keep", why="read at twice the current")
    cells[1] = replace(cells[1], volts=1.1, verdict="keep")
    cells[2] = replace(cells[2], verdict="reject", why="dented")
    judged = judge_lot(Lot(origin="reclaimed"), cells, sheet, family, METER).cells
    assert [item.state for item in judged[:4]] == ["look", "reject", "reject", "good"]
    assert "kept by the builder, read at twice the current" in spoken(judged[0].said)
    assert "never charge it again" in spoken(judged[1].said)
    assert spoken(judged[2].said).startswith("rejected by the builder, dented")


def test_no_difference_is_made_of_a_meters_noise(sheet: Cell, catalogue: Catalogue) -> None:
    family = catalogue.chemistry_of(sheet).family
    cells = [
        replace(cell, volts=3.600 + 0.001 * (cell.number % 2), ah=4.7)
        for cell in lot_of(30, 1, sheet)
    ]
    # Alike to a digit, so that 12 mV have a high score; they are no difference to 10 mV each.
    cells[0] = replace(cells[0], volts=3.612, ah=4.71)
    coarse = Meter(percent=0.0, digits=1, counts=500)
    assert volts_within(coarse, 3.6) == pytest.approx(0.01)
    judged = judge_lot(Lot(origin="new"), cells, sheet, family, coarse)
    assert {item.state for item in judged.cells} == {"good"}
    fine = replace_meter(coarse, counts=500_000)
    told = judge_lot(Lot(origin="new"), cells, sheet, family, fine).cells[0]
    assert [reason.code for reason in told.reasons] == ["family-volts"]


def replace_meter(meter: Meter, **changes: object) -> Meter:
    return replace(meter, **changes)


def test_what_was_not_measured_is_said(sheet: Cell, catalogue: Catalogue) -> None:
    family = catalogue.chemistry_of(sheet).family
    cells = [HandCell(number=1), HandCell(number=2, volts=3.6)]
    judged = judge_lot(Lot(), cells, sheet, family, METER).cells
    assert [item.state for item in judged] == ["unread", "good"]
    assert spoken(judged[1].said) == "capacity, resistance not measured yet"
    assert judge_lot(Lot(), cells, None, None, METER).good[0].cell.number == 2
