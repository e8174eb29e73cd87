"""Windows: what lies in one, which side is tight, when nothing does."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.figures.figure import typed
from lumvak.core.specification.window import Maker, by, named, side_said
from lumvak.core.spelling import spoken

LOAD = typed("need.current_a", "Load", 20.0, "A")
BMS = Maker("bms")
AMPS = st.floats(0.1, 500.0)


@given(low=AMPS, high=AMPS, value=AMPS)
def test_what_lies_in_a_window_is_what_lies_between(low: float, high: float, value: float) -> None:
    window = BMS.window(
        "continuous_a", "Carries", "A", least=by(low, "x", LOAD), most=by(high, "y", LOAD)
    )
    assert window.empty == (low > high * (1.0 + 1e-9) + 1e-9)
    if abs(value - low) > 1e-6 and abs(value - high) > 1e-6:
        assert window.takes(value) == (low < value < high)
        advised = BMS.window(
            "a", "A", "A", least=by(low, "x", LOAD), most=by(high, "y", LOAD), advice=("most",)
        )
        assert advised.takes(value) == (low < value)


def test_the_tight_side_is_the_one_nearer_to_what_is_wanted() -> None:
    def tight(**sides: float) -> str:
        made = {name: by(value, "x", LOAD) for name, value in sides.items()}
        return BMS.window("a", "A", "A", **made).tight

    assert tight(least=20.0) == "least"
    assert tight(most=20.0) == "most"
    assert tight(least=14.0, most=14.0) == "both"
    assert tight(least=4.2, most=4.3, wanted=4.22) == "least"
    assert tight(least=4.2, most=4.3, wanted=4.28) == "most"
    assert tight() == ""


def test_sides_are_figures_that_lead_back_to_what_they_were_made_from() -> None:
    window = BMS.window("continuous_a", "Carries", "A", least=by(20.0, "what is drawn", LOAD))
    assert window.least is not None
    assert window.least.key == "spec.bms.continuous_a.least"
    assert window.least.inputs == (LOAD,)
    usual = BMS.window("stages", "Ends", "s", most=by(0.001, "usual"))
    assert usual.most is not None and usual.most.origin == "constant"


def test_words_and_what_is_open() -> None:
    kind = BMS.window("kind", "Does", one_of=("full", "protection"))
    assert kind.takes("full") and not kind.takes("balancer")
    assert BMS.window("ports", "Ports").open and BMS.window("ports", "Ports").takes(2.0)
    assert named([kind], {"kind": "balancer"}) == ("kind",)
    assert named([kind], {}) == ()


def test_small_currents_are_said_in_milliamps() -> None:
    window = BMS.window("balance_a", "Balances", "A")
    assert spoken(side_said(window, 0.028)) == "28 mA"
    assert spoken(side_said(window, 22.0)) == "22 A"


def test_a_part_has_the_window_of_a_field_or_none() -> None:
    from lumvak.core.specification.window import PartSpec

    spec = PartSpec("bms", (BMS.window("ports", "Ports"),))
    assert spec.of("ports").label == "Ports"
    with pytest.raises(KeyError):
        spec.of("amps")
