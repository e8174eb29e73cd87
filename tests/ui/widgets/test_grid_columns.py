"""How columns of a grid read what is typed and spell it back."""

import pytest

from lumvak.core.units import LENGTH_MM, QuantityError
from lumvak.ui.widgets.grid_columns import (
    count_column,
    quantity_column,
    shown_column,
    text_column,
    words_column,
)


def test_quantities_are_read_in_any_unit_and_may_be_left_out() -> None:
    column = quantity_column("height", "height_mm", LENGTH_MM, optional=True, hint=lambda _: "all")
    assert column.read("1.2 cm", {}) == 12.0 and column.read("", {}) is None
    assert column.spell(None, {}) == "" and column.spell(12.0, {}) == "12 mm"
    assert column.hint is not None and column.hint({}) == "all"
    with pytest.raises(QuantityError):
        quantity_column("height", "height_mm", LENGTH_MM).read("", {})


def test_words_stand_for_values_however_they_are_written() -> None:
    column = words_column("is", "kind", {"board": "BMS", "foam": "foam"})
    assert column.read(" bms ", {}) == "board" and column.spell("board", {}) == "BMS"
    with pytest.raises(QuantityError, match="accepted: BMS, foam"):
        column.read("hat", {})


def test_counts_texts_and_what_is_only_looked_at() -> None:
    assert count_column("rows", "rows").read("3", {}) == 3
    assert text_column("name", "name").read("  x", {}) == "  x"
    with pytest.raises(QuantityError):
        shown_column("it", "it").read("x", {})
