"""Numbers on a display: a lead, a group, or its own calibration."""

from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.spelling import spoken
from lumvak.core.taps.shown import explained

TRUE = [3.70, 3.71, 3.69, 3.70, 3.72, 3.70]


def off(**at: float) -> list[float]:
    return [volts + at.get(f"g{group}", 0.0) for group, volts in enumerate(TRUE, 1)]


def test_what_a_display_shows_has_its_reason() -> None:
    assert [item.kind for item in explained(off(g2=0.01), TRUE)] == ["fine"]
    scaled = explained([1.02 * volts for volts in TRUE], TRUE)
    assert [item.kind for item in scaled] == ["calibration"]
    assert "All are off by 2 %" in spoken(scaled[0].words)
    lead = explained(off(g3=0.4, g4=-0.4), TRUE)
    assert [(item.kind, item.place) for item in lead] == [("lead", 3)]
    assert "together they are right" in spoken(lead[0].words)
    group = explained(off(g4=-0.2), TRUE)
    assert [(item.kind, item.place) for item in group] == [("group", 4)]
    end = explained(off(g1=-0.2), TRUE)
    assert "or lead 0 at the end" in spoken(end[0].words)
    both = explained(off(g1=0.3, g2=-0.3, g5=0.1), TRUE)
    assert [(item.kind, item.place) for item in both] == [("lead", 1), ("group", 5)]


@given(st.integers(1, 5), st.floats(0.05, 1.5), st.sampled_from([-1.0, 1.0]))
def test_a_bad_contact_is_found_wherever_it_is(lead: int, volts: float, sign: float) -> None:
    shown = off(**{f"g{lead}": sign * volts, f"g{lead + 1}": -sign * volts})
    assert [(item.kind, item.place) for item in explained(shown, TRUE)] == [("lead", lead)]
