import numpy as np

from lumvak.core.figures.figure import Figure, constant, typed
from lumvak.core.figures.settled import settled


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
    array = np.array([1.0, 2.0])
    assert settled(array.copy(), array) is array
    assert settled(array + 1.0, array) is not array
