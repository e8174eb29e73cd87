"""Tables of readings: spellings of heads, decimal commas, units, and what is wrong by its line."""

import csv
import io
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.document.hand import HandCell
from lumvak.files.problem import FileProblem
from lumvak.files.readings_file import HEADS, TITLES, field_of, read_readings, readings_csv


@pytest.mark.parametrize(
    ("text", "cell"),
    [
        (
            "number,volts,ah,mohm,g\n7,3.61,4.65,21.5,68\n",
            {"number": 7, "volts": 3.61, "ah": 4.65, "mohm": 21.5, "grams": 68.0},
        ),
        (
            "Cell;OCV (mV);Capacity (mAh);IR [Ohm]\n7;3610;4650;0,0215\n",
            {"number": 7, "volts": 3.61, "ah": 4.65, "mohm": 21.5},
        ),
        (
            "Nr\tSpannung\tKapazität mAh\tWiderstand (mΩ)\tGewicht (kg)\n"
            "7\t3,61\t4650\t21,5\t0,068\n",
            {"number": 7, "volts": 3.61, "ah": 4.65, "mohm": 21.5, "grams": 68.0},
        ),
        (
            "id;capacity;note\n7;4650 mAh;=SUM(A1)\n",
            {"number": 7, "ah": 4.65, "remark": "=SUM(A1)"},
        ),
        (
            "\ufeffCell No.,Voltage 1,Voltage 2,Days\n7,3.61,\u22120.2,\n",
            {"number": 7, "volts": 3.61, "later_v": -0.2},
        ),
        ("number;ah\n7;\u2014\n", {"number": 7}),
    ],
)
def test_a_row_is_read_in_many_spellings(text: str, cell: dict[str, object]) -> None:
    assert read_readings(text, "pool.csv").cells == (cell,)


def test_heads_that_nobody_knows_are_told_and_can_be_mapped() -> None:
    text = "number;Zappel;ah\n1;21;4.6\n"
    found = read_readings(text, "pool.csv")
    assert found.unknown == ("Zappel",)
    assert found.cells == ({"number": 1, "ah": 4.6},)
    mapped = read_readings(text, "pool.csv", {"zappel": "mohm"})
    assert mapped.cells == ({"number": 1, "mohm": 21.0, "ah": 4.6},)
    assert field_of("", {}) is None


@pytest.mark.parametrize(
    ("text", "wrong"),
    [
        ("", "nothing in it"),
        ("1;3.6\n2;3.7\n", "line 1: numbers where heads are wanted"),
        ("volts;ah\n3.6;4.6\n", "no column is the number of the cell; the heads are volts, ah"),
        ("number;ah;mAh\n1;2;3\n", "two columns are the capacity"),
        ("number;ah\n1;4.6\n1;4.7\n", "line 3: cell 1 is in line 2 already"),
        ("number;ah\n1;lots\n", "line 2: “lots” is no capacity; write a number such as 3.61"),
        ("number;ah\n1.5;4\n", "line 2: “1.5” is no number of a cell"),
        ("number;ah\n0;4\n", "accepted: 1 to 999999"),
        ("number;volts\n1;36\n", "line 2: 36 is no voltage; accepted: -6 to 6"),
        ("number;ah\n;4\n", "line 2: no number of the cell"),
        ("number,ah\n1,4,65\n", "line 2: 3 columns, 2 heads; where commas are decimal"),
        ("number;ah\n1;4 furlongs\n", "“4 furlongs” is no capacity"),
    ],
)
def test_what_is_wrong_is_said_by_its_line(text: str, wrong: str) -> None:
    with pytest.raises(FileProblem, match=r"pool\.csv") as caught:
        read_readings(text, "pool.csv")
    assert wrong in str(caught.value)


def test_every_problem_is_told_at_once_up_to_some() -> None:
    rows = "".join(f"{place};x\n" for place in range(1, 30))
    with pytest.raises(FileProblem) as caught:
        read_readings("number;ah\n" + rows, "pool.csv")
    assert str(caught.value).count("is no capacity") == 8
    assert "and 21 more" in str(caught.value)


CELLS = st.builds(
    HandCell,
    number=st.integers(1, 999_999),
    volts=st.none() | st.floats(-1.0, 4.3).map(lambda value: round(value, 4)),
    ah=st.none() | st.floats(0.1, 300.0).map(lambda value: round(value, 4)),
    mohm=st.none() | st.floats(0.1, 900.0).map(lambda value: round(value, 3)),
    grams=st.none() | st.floats(1.0, 900.0).map(lambda value: round(value, 2)),
    remark=st.text(st.characters(codec="utf-8", exclude_categories=("C", "Z")), max_size=20),
)


@given(st.lists(CELLS, max_size=20, unique_by=lambda cell: cell.number))
def test_what_is_written_is_read_back_and_runs_in_no_spreadsheet(cells: list[HandCell]) -> None:
    text = readings_csv(cells)
    rows = list(csv.reader(io.StringIO(text)))
    assert rows[0] == [*TITLES.values()]
    for row in rows[1:]:
        assert not any(value.startswith(("=", "@", "+")) for value in row)
    if not cells:
        return
    read = read_readings(text, "out.csv")
    assert [HandCell(**item) for item in read.cells] == cells
    assert set(read.fields) == set(HEADS)


@given(
    st.lists(
        st.tuples(
            st.decimals("0", "6", places=4),
            st.decimals("0.001", "9", places=3),
            st.one_of(st.none(), st.decimals("1", "300", places=1)),
        ),
        min_size=1,
        max_size=12,
    )
)
def test_columns_of_plain_numbers_are_read_as_single_ones_are(
    rows: list[tuple[Decimal, Decimal, Decimal | None]],
) -> None:
    def table(volt: str, ohm: str) -> str:
        lines = [
            f"{place};{volts}{volt};{ah};{'' if mohm is None else f'{mohm}{ohm}'}"
            for place, (volts, ah, mohm) in enumerate(rows, 1)
        ]
        return "\n".join(["cell;volts;Ah;mohm", *lines])

    plain = read_readings(table("", ""), "here")
    # With a unit behind it each is read by itself.
    assert plain == read_readings(table(" V", " mohm"), "here")
    assert [cell["volts"] for cell in plain.cells] == [float(volts) for volts, _, _ in rows]


@pytest.mark.parametrize("wrong", ["1.2.3", ".", "7", "1e9", "nan", "1_0", "-7"])
def test_what_is_out_of_range_or_no_number_is_told_by_its_line(wrong: str) -> None:
    with pytest.raises(FileProblem, match="here, line 3"):
        read_readings(f"cell;volts\n1;3.6\n2;{wrong}\n3;3.61", "here")
    with pytest.raises(FileProblem, match="line 2"):
        read_readings("cell;volts\n0;3.6", "here")
    with pytest.raises(FileProblem, match="line 2"):
        read_readings("cell;volts\n1.5;3.6", "here")
