"""What a piece of strip reads of each material, and what a reading tells."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.conductors.strip_and_wire import MATERIALS
from lumvak.core.document.making import Making
from lumvak.core.making.strip_check import SHOWN, check, readings
from lumvak.core.spelling import spoken


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
    making = Making(
        check_length_mm=length,
        check_width_mm=width,
        check_thickness_mm=thickness,
        check_meter_mohm=meter,
    )
    for item in readings(making):
        found = check(replace(making, check_mohm=item.mohm))
        assert found is not None
        assert item.material in found.materials
        # The band is as wide as what would still be taken for it by the same share.
        assert item.within_mohm / item.mohm == pytest.approx(
            2.0 * found.within / found.resistivity.number, rel=1e-6
        )


@pytest.mark.parametrize("name", ["nickel", "plated steel"])
@given(
    st.floats(100.0, 1000.0), st.sampled_from([5.0, 8.0, 10.0]), st.sampled_from([0.15, 0.2, 0.3])
)
def test_a_strip_of_known_stuff_is_known(
    name: str, length: float, width: float, thickness: float
) -> None:
    ohm = MATERIALS[name].resistivity_ohm_m * length * 1e-3 / (width * thickness * 1e-6)
    found = check(
        Making(
            check_mohm=ohm * 1e3,
            check_meter_mohm=0.02,
            check_length_mm=length,
            check_width_mm=width,
            check_thickness_mm=thickness,
        )
    )
    assert found is not None
    rho = MATERIALS[name].resistivity_ohm_m * 1e9
    assert found.resistivity.number == pytest.approx(rho)
    assert found.sure and name in found.materials
    assert spoken(found.text).lower().startswith(("pure " + name) if name == "nickel" else name)


def test_the_strip_checker_says_when_it_cannot_tell() -> None:
    assert check(Making()) is None
    poor = check(Making(check_mohm=15.0, check_meter_mohm=8.0))
    assert poor is not None and not poor.sure and "Cannot be told" in spoken(poor.text)
    low, high, between = (check(Making(check_mohm=value)) for value in (4.0, 60.0, 17.0))
    assert low is not None and high is not None and between is not None
    assert (
        "under nickel" in spoken(low.text)
        and "over steel" in spoken(high.text)
        and "Between" in spoken(between.text)
    )
