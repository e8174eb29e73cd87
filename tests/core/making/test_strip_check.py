"""What a piece of strip reads of each material, and what a reading tells."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.document.making import Making
from lumvak.core.making.strip_check import SHOWN, check, readings


def test_the_piece_reads_resistivity_times_length_over_section() -> None:
    of = {item.material: item for item in readings(Making())}
    assert set(of) == set(SHOWN)
    # 70 nΩ·m over 200 mm of 8 × 0.15 mm.
    assert of["nickel"].mohm == pytest.approx(70e-9 * 0.2 / (8e-3 * 0.15e-3) * 1e3, rel=0.02)
    assert [item.mohm for item in readings(Making())] == sorted(item.mohm for item in of.values())


@given(st.floats(20.0, 1000.0), st.floats(3.0, 50.0), st.floats(0.1, 1.0), st.floats(1e-3, 1.0))
def test_what_a_piece_would_read_is_taken_for_what_it_is(
    length: float, width: float, thickness: float, meter: float
) -> None:
    making = Making(check_length_mm=length, check_width_mm=width, check_thickness_mm=thickness,
                    check_meter_mohm=meter)  # fmt: skip
    for item in readings(making):
        found = check(replace(making, check_mohm=item.mohm))
        assert found is not None
        assert item.material in found.materials
        # The band is as wide as what would still be taken for it by the same share.
        assert item.within_mohm / item.mohm == pytest.approx(
            2.0 * found.within / found.resistivity.number, rel=1e-6
        )
