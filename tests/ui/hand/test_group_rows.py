"""The tables of dealt cells say what the evaluation has."""

from lumvak.core.matching.matched import GroupNow
from lumvak.ui.speech import say
from lumvak.ui.stages.hand.group_rows import GROUP_COLUMNS, METHOD_COLUMNS
from lumvak.ui.widgets.rows import row_of


def test_a_group_says_its_charge_its_resistance_and_its_cells() -> None:
    group = GroupNow(3, cells=(12, 4, 7), ah=9.35, siemens=80.0, volts=None, gate=None)
    cells = row_of(GROUP_COLUMNS, group, key=3).cells
    assert cells[:3] == ("3", say(9.35, "Ah"), say(12.5, "mΩ"))
    assert cells[3:6] == ("—", "—", "—") and cells[-1] == "4, 7, 12"
    assert all(column.tip for column in (*GROUP_COLUMNS, *METHOD_COLUMNS))
