"""What flags take, and how it is refused."""

import argparse

import pytest

from lumvak.cli.spelled import (
    count_of,
    duty_of,
    forms_of,
    pair_of,
    peak_of,
    quantity_of,
    range_of,
)
from lumvak.core import units


def test_quantities_are_read_as_people_write_them() -> None:
    assert quantity_of(units.VOLTAGE)("36,5 V") == 36.5
    assert pair_of(units.VOLTAGE, units.CURRENT)("42V:2000mA") == (42.0, 2.0)
    assert range_of("-5C:30C") == (-5.0, 30.0)
    assert range_of("30 to -5") == (-5.0, 30.0)
    assert range_of("20C") == (None, 20.0)
    assert peak_of("40A:8s") == (40.0, 8.0)
    assert peak_of("40") == (40.0, None)
    unit, steps = duty_of("40A 8s, 18A 40s")
    assert unit == "A" and [step.amount for step in steps] == [40.0, 18.0]
    assert duty_of("300W 5s, 100W 60s")[0] == "W"
    assert count_of("13") == 13
    assert forms_of("18650, 21700,18650") == ("18650", "21700")


@pytest.mark.parametrize(
    ("read", "text"),
    [
        (quantity_of(units.VOLTAGE), "many"),
        (pair_of(units.VOLTAGE, units.CURRENT), "42V"),
        (duty_of, "sometimes"),
        (count_of, "0"),
        (forms_of, "round"),
        (forms_of, ","),
        (peak_of, "x:y"),
        (range_of, "warm"),
    ],
)
def test_what_cannot_be_read_is_told(read, text: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(argparse.ArgumentTypeError) as told:
        read(text)
    assert len(str(told.value)) > len(text)
