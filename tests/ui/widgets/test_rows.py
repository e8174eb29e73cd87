import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.ui.widgets.rows import Column, LazyRows, Row, closer_by, row_of


@given(st.integers(1, 200), st.lists(st.integers(0, 199), max_size=20))
def test_a_row_is_made_once_and_when_it_is_looked_at(count: int, looked: list[int]) -> None:
    made: list[int] = []

    def make(place: int) -> Row:
        made.append(place)
        return Row((str(place),))

    rows = LazyRows(count, make, 3)
    assert len(rows) == count
    assert rows.chosen == 3
    places = [place % count for place in looked]
    assert [rows[place].cells[0] for place in places] == [str(place) for place in places]
    assert sorted(made) == sorted(set(places))
    assert [row.cells[0] for row in rows[:2]] == [str(place) for place in range(min(2, count))]
    assert rows[-1].cells == (str(count - 1),)


def test_a_row_is_made_by_its_columns() -> None:
    columns = (
        Column("V", text=lambda it: f"{it:.1f} V", mark=lambda it: "crimson" if it > 60 else ""),
        Column("twice", text=lambda it: f"{2 * it:g}"),
        Column(""),
    )
    row = row_of(columns, 63.0, key="a", chosen=True)
    assert row.cells == ("63.0 V", "126", "") and row.marks == {0: "crimson"}
    assert (row.key, row.chosen) == ("a", True)
    assert row_of(columns, 12.0).marks == {}


@pytest.mark.parametrize(
    ("left", "columns", "each"),
    [(40, 6, 0), (0, 6, 0), (-1, 6, 1), (-6, 6, 1), (-7, 6, 2), (-30, 6, 5), (-31, 6, 0)],
)
def test_columns_give_up_what_lacks_or_nothing(left: int, columns: int, each: int) -> None:
    assert closer_by(left, columns, 5) == each
    assert each == 0 or left + each * columns >= 0
