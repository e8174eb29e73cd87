"""The windows of a charger, held against the verdicts on chargers."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.verdict import verdict_on
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.charger import charger_missed, charger_spec


def test_the_figures_of_the_barrow_by_hand(evaluation: Evaluation) -> None:
    spec = charger_spec(evaluation)
    volts = spec.of("volts")
    assert volts.wanted is not None
    assert volts.wanted.number == pytest.approx(14 * 4.2)
    assert volts.bounds[1] == pytest.approx(14 * 4.2 * 1.005)
    # Fourteen cells at three quarters of their charge stand between 3.85 V and 4.05 V each.
    assert 14 * 3.85 < volts.bounds[0] < 14 * 4.05
    assert spec.of("amps").bounds[1] == pytest.approx(15.0)


@settings(max_examples=60, deadline=None)
@given(
    volts=st.floats(57.0, 64.0),
    amps=st.floats(0.5, 40.0),
    kind=st.sampled_from(("cccv", "supply", "nickel")),
)
def test_none_in_the_window_is_called_wrong_and_none_outside_is_right(
    evaluation: Evaluation, volts: float, amps: float, kind: str
) -> None:
    charger = Charger(id="drawn", volts=volts, amps=amps, kind=kind)  # type: ignore[arg-type]
    missed = charger_missed(charger_spec(evaluation), charger, evaluation)
    verdict = verdict_on(charger, evaluation.charging.setting).kind
    if not missed:
        assert verdict in ("right", "short")
    else:
        assert verdict != "right"
