"""The builder's own cells: kept, brought in, written out, and what is said about bad files."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue, PartsFile
from lumvak.core.catalogue.cells import Cell
from lumvak.files.catalogue_file import load_catalogue, own_parts_folder
from lumvak.files.own_parts import (
    COLUMNS,
    cells_csv,
    change_own,
    is_cells_csv,
    load_own,
    merged,
    read_cells_csv,
    with_change,
)
from lumvak.files.problem import FileProblem
from lumvak.files.spreadsheet import RISKY


def plain(cell: Cell) -> Cell:
    return replace(cell, sample=False)


def test_all_cells_round_trip_through_csv(catalogue: Catalogue) -> None:
    cells = tuple(plain(cell) for cell in catalogue.cell_list)
    text = cells_csv(cells)
    assert read_cells_csv(text, "cells.csv") == cells
    assert text.count("\r\n") == len(cells) + 1


@given(
    st.text(st.characters(exclude_categories=["Cs", "Cc", "Cf", "Zl", "Zp"]), max_size=30),
    st.floats(0.001, 1e5),
    st.sampled_from(["", "=", "+", "-", "@", "'", "\t"]),
)
def test_any_text_round_trips_and_runs_nothing(note: str, price: float, head: str) -> None:
    cell = Cell(
        id="a",
        name="a",
        chemistry="nmc",
        format="18650",
        voltage_full_v=4.2,
        voltage_nominal_v=3.6,
        voltage_empty_v=2.5,
        capacity_typical_ah=2.0,
        continuous_a=5.0,
        charge_standard_a=1.0,
        mass_g=45.0,
        diameter_mm=18.4,
        height_mm=65.0,
        price=price,
        note=head + note,
        measured=("mass_g",),
    )
    text = cells_csv([cell])
    assert read_cells_csv(text, "cells.csv") == (cell,)
    row = list(csv.reader(io.StringIO(text, newline="")))[1]
    for name, shown in zip(COLUMNS, row, strict=True):
        if isinstance(getattr(cell, name), str):
            assert not shown.startswith(RISKY)


HEAD = (
    "id;name;chemistry;format;voltage_full_v;voltage_nominal_v;voltage_empty_v;"
    "capacity_typical_ah;continuous_a;charge_standard_a;mass_g;diameter_mm;height_mm;price"
)
GOOD = "x-1;X 1;nmc;18650;4,2;3,6;2,5;2,5;10;1,2;45;18,4;65;3,5"


def test_a_sheet_with_decimal_commas() -> None:
    (cell,) = read_cells_csv(f"\ufeff{HEAD}\n{GOOD}\n", "x.csv")
    assert (cell.voltage_full_v, cell.price, cell.capacity_min_ah) == (4.2, 3.5, None)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (HEAD, "holds no cells"),
        (HEAD.replace(";price", ""), "line 1: a column “price” is wanted"),
        (HEAD + ";colour\n", "“colour” is no field"),
        (f"{HEAD}\n{GOOD}\n{GOOD}", "two cells have the id “x-1”"),
        (f"{HEAD}\n{GOOD.replace('45', 'heavy')}", "line 2, mass_g: “heavy” is no number"),
        (f"{HEAD}\n{GOOD};1", "line 2: 15 columns; the header has 14"),
        (f"{HEAD}\n{GOOD.replace('4,2', '2,2')}", "line 2: voltages must rise"),
        (f"{HEAD}\n{GOOD.replace('18650', '99')}", r"line 2: Form \(format\): '99' was given"),
        (f'{HEAD}\n"{GOOD}', "line 2"),
    ],
)
def test_bad_tables_are_named_by_line_and_field(text: str, says: str) -> None:
    with pytest.raises(FileProblem, match=says):
        read_cells_csv(text, "x.csv")


def test_own_cells_are_kept_and_found_again(catalogue: Catalogue) -> None:
    assert load_own().cells == ()
    cell = replace(plain(catalogue.cell_list[0]), id="mine", name="Mine")
    change_own(load_own(), merged(load_own(), (cell,)))
    assert load_own().cells == (cell,)
    heavier = replace(cell, mass_g=99.0)
    change_own(load_own(), merged(load_own(), (heavier,)))
    assert load_own().cells == (heavier,)
    found, problems = load_catalogue()
    assert found.cells["mine"] == heavier
    assert problems == ()
    (own_parts_folder() / "own.json").write_text("{", "utf-8")
    with pytest.raises(FileProblem, match="cut short"):
        load_own()


def test_two_windows_that_change_own_parts_keep_both(catalogue: Catalogue) -> None:
    one, two, three = (
        replace(plain(cell), id=f"own-{place}")
        for place, cell in enumerate(catalogue.cell_list[:3])
    )
    start = change_own(load_own(), merged(load_own(), (one,)))
    # Both windows begin with the same parts.
    change_own(start, merged(start, (two,)))
    kept = change_own(start, merged(start, (three,)))
    assert {cell.id for cell in kept.cells} == {one.id, two.id, three.id}
    assert load_own() == kept
    heavier = replace(one, mass_g=one.mass_g + 1.0)
    gone = replace(kept, cells=(one, two))
    change_own(kept, gone)
    last = change_own(kept, merged(kept, (heavier,)))
    assert {cell.id: cell.mass_g for cell in last.cells} == {
        one.id: heavier.mass_g,
        two.id: two.mass_g,
    }


@given(st.data())
def test_a_change_of_own_parts_is_taken_back_to_the_byte(data: st.DataObject) -> None:
    cells = [
        replace(cell, mass_g=mass)
        for cell in load_catalogue()[0].cell_list[:5]
        for mass in (40.0, 50.0)
    ]
    several = st.lists(st.sampled_from(cells), unique_by=lambda cell: cell.id).map(tuple)
    before, after = (PartsFile(title="", cells=data.draw(several)) for _ in range(2))
    assert with_change(before, before, after) == after
    assert with_change(after, after, before) == before
    # Somebody else's parts stay, in whatever is changed here.
    theirs = PartsFile(title="", cells=data.draw(several))
    kept = {cell.id for cell in with_change(theirs, before, after).cells}
    touched = {cell.id for cell in (*before.cells, *after.cells)}
    assert {cell.id for cell in theirs.cells} - touched <= kept


def test_few_columns_in_any_order_are_enough_with_cells_to_be_like(catalogue: Catalogue) -> None:
    like = [catalogue.cells["ostrel-21-48"], *catalogue.cells.values()]
    text = "continuous_a;name;capacity_min_ah\n9,5;Market blue;2,4\n12;Market red;4,85\n"
    assert is_cells_csv(text) and not is_cells_csv("amps;volts\n1;2\n")
    blue, red = read_cells_csv(text, "market.csv", like)
    assert (blue.id, blue.name, blue.continuous_a) == ("market-blue", "Market blue", 9.5)
    assert blue.capacity_typical_ah == pytest.approx(2.4 / 0.97)
    # Half the cell has twice the resistance: ohm times Ah stays.
    each = [it.resistance_dc_ohm * it.capacity_typical_ah for it in (blue, red, like[0])]  # type: ignore[operator]
    assert each == pytest.approx([each[0]] * 3)
    assert {"resistance_dc_ohm", "mass_g"} <= set(blue.guessed)
    assert not {"continuous_a", "capacity_min_ah"} & set(blue.guessed)


def test_a_row_of_few_columns_is_like_a_cell_of_its_form(catalogue: Catalogue) -> None:
    like = [catalogue.cells["ostrel-21-48"], *catalogue.cells.values()]
    head = "name,continuous_a,capacity_typical_ah,format,chemistry\n"
    (cell,) = read_cells_csv(f"{head}Iron one,10,1.6,18650,lfp\n", "x.csv", like)
    assert cell.diameter_mm == pytest.approx(18.4, abs=0.4)
    assert cell.voltage_full_v == pytest.approx(3.65)
    # No iron phosphate cell of that form is at hand: volts of the one, sides of the other.
    (cell,) = read_cells_csv(f"{head}Iron two,10,3.0,21700,lfp\n", "x.csv", like)
    assert cell.voltage_full_v == pytest.approx(3.65)
    assert cell.diameter_mm == pytest.approx(21.3, abs=0.4)
    with pytest.raises(FileProblem, match="no cell of the form “99”"):
        read_cells_csv(f"{head}Odd,10,1.6,99,lfp\n", "x.csv", like)
    with pytest.raises(FileProblem, match="a column “capacity_typical_ah” is wanted"):
        read_cells_csv("name,continuous_a\nX,10\n", "x.csv", like)
