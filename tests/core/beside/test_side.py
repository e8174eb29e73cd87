"""A pack as numbers, as cells, and what must not be in parallel."""

import numpy as np
import pytest

from lumvak.core.beside.side import SideError, from_numbers, standing_at, why_not
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.spelling import spoken


def test_numbers_make_a_pack_with_the_curve_of_its_chemistry(catalogue: Catalogue) -> None:
    side = from_numbers("A", 14, 9.0, 0.09, catalogue.chemistries["nmc"], 0.5)
    assert 14 * 3.5 < side.emf_v < 14 * 3.9
    assert side.at_volts(side.emf_v) == pytest.approx(0.5)
    assert (np.diff(side.rest_v) > 0.0).all()
    (cells,) = side.limits
    assert cells.assumed and (cells.gives_a, cells.takes_a) == (9.0, 4.5)


@pytest.mark.parametrize(
    "numbers", [(0, 9.0, 0.09, 1.0), (14, 0.0, 0.09, 1.0), (14, 9.0, 0.0, 1.0), (14, 9.0, 0.1, 1.2)]
)
def test_what_no_pack_has_is_refused(
    catalogue: Catalogue, numbers: tuple[int, float, float, float]
) -> None:
    series, ah, ohm, at = numbers
    with pytest.raises(SideError, match="accepted"):
        from_numbers("A", series, ah, ohm, catalogue.chemistries["nmc"], at)


def test_another_count_or_chemistry_must_not_be_in_parallel(catalogue: Catalogue) -> None:
    one = from_numbers("A", 14, 9.0, 0.09, catalogue.chemistries["nmc"])
    count = from_numbers("B", 13, 9.0, 0.09, catalogue.chemistries["nmc"])
    kind = from_numbers("C", 14, 9.0, 0.09, catalogue.chemistries["lfp"])
    assert why_not((one, standing_at(one, 0.2))) == ()
    assert "13: one would charge" in spoken(why_not((one, count))[0])
    assert "different chemistry" in spoken(why_not((one, kind))[0])
