from typing import NamedTuple

import numpy as np

from lumvak.core.figures.figure import Figure, constant, typed
from lumvak.core.figures.settled import settled


class Ends(NamedTuple):
    """A made-up result of two things."""

    volts: np.ndarray
    why: str


def test_settling_keeps_equal_parts_and_never_changes_a_value() -> None:
    def pack(amps: float) -> tuple[Figure, Figure]:
        current = typed("need.current_a", "Continuous", amps, "A")
        volts = constant("constant.volts", "Volts", 3.6, "V", "as it is", "methods 1")
        return current, Figure("power", "Power", amps * 3.6, "W", "product", "", (current, volts))

    before, same, other = pack(10.0), pack(10.0), pack(11.0)
    assert settled(same, before) is before
    kept = settled(other, before)
    assert kept == other
    assert kept[0] is other[0]
    # A number of another kind is not the same to a reader.
    assert settled(Figure("a", "", 1.0, "", "", ""), Figure("a", "", 1, "", "", "")).value == 1.0
    # What comes back as several things with names is looked through like a record.
    ends = Ends(np.array([1.0, 2.0]), "time")
    assert settled(Ends(np.array([1.0, 2.0]), "time"), ends) is ends
    longer = settled(Ends(np.array([1.0, 2.0]), "over"), ends)
    assert isinstance(longer, Ends) and longer.volts is ends.volts and longer.why == "over"
    array = np.array([1.0, 2.0])
    assert settled(array.copy(), array) is array
    assert settled(array + 1.0, array) is not array
