"""Fields of a cell, their origins and fallbacks, and what each cell would do."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.cell_model import minimum_capacity, of_cell, resistance
from lumvak.core.cells.cell_sheet import (
    BY_NAME,
    FIELDS,
    CellProblem,
    changed,
    field_text,
    field_value,
    free_id,
    origin_of,
    own_curve,
    sheet_checklist,
)
from lumvak.core.comparison.cells_at_work import at_work, curves
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.fields import fields_of
from lumvak.core.spelling import spoken
from lumvak.core.units import QuantityError


@pytest.fixture
def cell(catalogue: Catalogue) -> Cell:
    return catalogue.cells["ostrel-21-48"]


def test_every_field_is_shown_and_read_back(catalogue: Catalogue) -> None:
    shown = {field.name for field in FIELDS}
    assert shown == set(fields_of(Cell)) - {
        "id",
        "sample",
        "measured",
        "guessed",
        "curves",
        "pulses",
    }
    for cell in catalogue.cell_list:
        for field in FIELDS:
            value = getattr(cell, field.name)
            assert field_value(field, spoken(field_text(field, cell))) == pytest.approx(value) or (
                value is None and field.fallback is not None
            )


def test_values_are_typed_with_their_units() -> None:
    assert field_value(BY_NAME["resistance_dc_ohm"], "22") == 0.022
    assert field_value(BY_NAME["resistance_dc_ohm"], "0.022 ohm") == 0.022
    assert field_value(BY_NAME["mass_g"], "0,07 kg") == 70.0
    assert field_value(BY_NAME["cycles"], "600") == 600
    assert field_value(BY_NAME["pulse_a"], "") is None
    with pytest.raises(QuantityError, match="accepted: new, reclaimed"):
        field_value(BY_NAME["origin"], "old")
    with pytest.raises(QuantityError, match="not a mass"):
        field_value(BY_NAME["mass_g"], "")


def test_where_a_value_comes_from_follows_it(cell: Cell) -> None:
    assert origin_of(cell, "mass_g") == "data sheet"
    weighed = changed(cell, {"mass_g": 69.1}, "measured")
    assert origin_of(weighed, "mass_g") == "measured"
    assert of_cell(weighed, "mass_g", "Mass", "g").origin == "measured"
    guess = changed(weighed, {"mass_g": 70.0}, "guessed")
    assert (guess.measured, guess.guessed) == ((), ("mass_g",))
    assert of_cell(guess, "mass_g", "Mass", "g").assumed
    silent = changed(cell, {"capacity_min_ah": None, "resistance_dc_ohm": None})
    assert origin_of(silent, "capacity_min_ah") == "assumed"
    field = BY_NAME["capacity_min_ah"]
    assert field.fallback is not None
    assert spoken(field.fallback(silent)).startswith("4.66 Ah")
    assert minimum_capacity(silent).number == pytest.approx(0.97 * 4.8)
    assert resistance(silent).number == pytest.approx(1.5 * 0.015)
    with pytest.raises(CellProblem, match="voltages must rise"):
        changed(cell, {"voltage_empty_v": 4.0})


def test_a_guess_is_marked_through_to_the_pack(barrow: Project, catalogue: Catalogue) -> None:
    guess = changed(catalogue.cells["ostrel-21-48"], {"price": 5.0}, "guessed")
    parts = replace(barrow.parts, cells=(guess,))
    evaluation = evaluate(replace(barrow, parts=parts), catalogue)
    assert evaluation.figures["pack.cost"].assumed
    assert not evaluate(barrow, catalogue).figures["pack.cost"].assumed


def test_ids_are_made_from_names_and_never_twice() -> None:
    assert free_id("Ostrel 21-48 copy", {}) == "ostrel-21-48-copy"
    assert free_id("A b", {"a-b", "a-b-2"}) == "a-b-3"
    assert free_id("…", ()) == "cell"


def test_a_curve_of_ones_own(cell: Cell, catalogue: Catalogue) -> None:
    chemistry = catalogue.chemistry_of(cell)
    made = own_curve(chemistry, cell, [(1.0, 4.2), (0.0, 2.5), (0.5, 3.7)])
    assert made.curve == ((0.0, 2.5), (0.5, 3.7), (1.0, 4.2))
    assert made.family == chemistry.family
    assert not made.curve_assumed
    with pytest.raises(CellProblem, match="from state of charge 0 to 1"):
        own_curve(chemistry, cell, [(0.1, 2.5), (1.0, 4.2)])
    with pytest.raises(CellProblem, match="never fall"):
        own_curve(chemistry, cell, [(0.0, 2.5), (0.5, 3.7), (1.0, 3.6)])


def test_the_checklist_says_at_which_temperature_the_maximum_holds(cell: Cell) -> None:
    silent = changed(cell, {"continuous_at_c": None, "pulse_a": None, "pulse_s": None})
    said = {spoken(check.text): check.said for check in sheet_checklist(silent)}
    assert said["at which cell temperature its 12 A hold"] is False
    assert said["a pulse current with its length"] is False
    hot = changed(cell, {"continuous_at_c": 80.0})
    assert spoken(sheet_checklist(hot)[1].text) == "its 12 A hold with the cell at 80 °C"


def test_what_a_cell_gives_is_what_its_pack_gives(
    evaluation: Evaluation, barrow: Project, catalogue: Catalogue
) -> None:
    work = at_work(evaluation.sized.sized_pack, evaluation.sized.options)
    for place in (0, 7, 15):
        cell = evaluation.sized.sized_pack.table.cells[place]
        if not work.serves[place]:
            continue
        pack = {
            "pack.cell": cell.id,
            "pack.series": int(work.series[place]),
            "pack.parallel": int(work.parallel[place]),
        }
        figures = evaluate(with_values(barrow, pack), catalogue).figures
        assert figures["heat.temperature_end_c"].number == pytest.approx(
            work.warmest_c[place], rel=1e-6
        )
        counted = figures["cell.capacity_min_ah"].number * figures["pack.usable_fraction"].number
        assert work.delivered_ah[place] == pytest.approx(counted, rel=1e-6)


def test_curves_sag_by_current_times_resistance(evaluation: Evaluation) -> None:
    charge, rest, loaded, amps = curves(evaluation.sized.sized_pack, evaluation.sized.choice.row)
    assert amps == pytest.approx(22.0 / 7.0)
    half = int(np.flatnonzero(charge == 0.5)[0])
    ohm = evaluation.figures["cell.resistance_steady_ohm"].number
    assert rest[half] - loaded[half] == pytest.approx(amps * ohm)
