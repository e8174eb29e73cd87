import numpy as np
import pytest

from lumvak.core.clearance.least import apart_mm, creepage_mm, least_of
from lumvak.core.figures.figure import typed


def test_two_millimetres_up_to_63_volts_and_the_table_beyond() -> None:
    assert creepage_mm(np.array([4.2, 63.0, 100.0, 112.5, 400.0])) == pytest.approx(
        [2.0, 2.0, 2.2, 2.3, 6.3]
    )
    assert apart_mm(1.0, np.array([4.2, 100.0])) == pytest.approx([1.0, 2.2])
    assert apart_mm(3.0, np.array([4.2, 100.0])) == pytest.approx([3.0, 3.0])


def test_the_figure_says_which_holds() -> None:
    full = typed("pack.full_v", "Full", 100.0, "V")
    assert least_of(None, full).number == pytest.approx(2.2) and least_of(None, full).assumed
    assert least_of(1.5, full).number == 1.5 and not least_of(1.5, full).assumed
