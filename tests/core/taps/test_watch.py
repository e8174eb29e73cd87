"""Group voltages corrected, and what they say."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import made
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.document.watch import Calibration, VoltsSet, Watch
from lumvak.core.evaluate import evaluate
from lumvak.core.taps.watch import corrections_of, watch_topic


def point(shown: float, true: float, day: str = "2026-05-01", module: str = "board") -> Calibration:
    return Calibration(module=module, groups=4, shown_v=shown, true_v=true, day=day)


def topic(catalogue: Catalogue, *sets: tuple[float, ...], **more: object) -> set[str]:
    watch = made(Watch, {"sets": tuple(VoltsSet(volts=item) for item in sets), **more})
    found = watch_topic(watch, catalogue.cells["ostrel-21-48"], 4)
    return {item.code for item in found.findings}


@given(st.floats(0.98, 1.02), st.floats(-0.05, 0.05))
def test_two_points_give_gain_and_offset_and_one_the_offset(gain: float, offset: float) -> None:
    line = [point(shown, gain * shown + offset) for shown in (3.0, 4.1)]
    found = corrections_of(line)[0]
    assert found.gain == pytest.approx(gain)
    assert found.offset_v == pytest.approx(offset, abs=1e-9)
    one = corrections_of(line[:1])[0]
    assert one.gain == 1.0
    assert 3.0 + one.offset_v == pytest.approx(gain * 3.0 + offset)


def test_the_last_day_counts_and_drift_is_told(catalogue: Catalogue) -> None:
    points = (point(3.70, 3.71), point(3.70, 3.69, "2026-09-01"), point(3.6, 3.61, module="other"))
    board, other = corrections_of(points)
    assert board.offset_v == pytest.approx(-0.01)
    assert board.drift_v == pytest.approx(-0.02)
    assert board.day == "2026-09-01"
    assert other.drift_v is None
    assert topic(catalogue, calibrations=points) == {"watch-drift"}


def test_corrections_reach_the_groups_they_are_of(catalogue: Catalogue) -> None:
    watch = Watch(
        sets=(VoltsSet(when="now", volts=(3.70, 3.70, 3.70, 3.70)),),
        calibrations=(Calibration(module="upper", first=3, groups=2, shown_v=3.7, true_v=3.72),),
    )
    evaluation = watch_topic(watch, catalogue.cells["ostrel-21-48"], 4).seen[0]
    assert evaluation.volts == pytest.approx([3.70, 3.70, 3.72, 3.72])
    assert evaluation.mean_v == pytest.approx(3.71)
    assert evaluation.spread_v == pytest.approx(0.02)
    assert (evaluation.highest, evaluation.lowest) == (3, 1)


def test_alarms_by_the_builders_limits(catalogue: Catalogue) -> None:
    assert topic(catalogue, (3.70, 3.70, 3.71, 3.70)) == set()
    assert topic(catalogue, (3.70, 3.70, 3.74, 3.70)) == {"watch-apart"}
    assert topic(catalogue, (3.70, 3.70, 3.74, 3.70), apart_v=0.05) == set()
    assert topic(catalogue, (3.70, 3.70, 3.70, 3.70), low_v=3.75) == {"watch-low"}
    assert topic(catalogue, (4.30, 4.30, 4.30, 4.30)) == {"watch-high"}
    assert topic(catalogue, (3.7, 3.7, 3.7)) == {"watch-count"}
    # What is past counts no more.
    assert topic(catalogue, (2.0, 3.7, 3.7, 3.7), (3.7, 3.7, 3.7, 3.7)) == set()


def test_it_is_a_topic_of_the_evaluation(barrow: Project, catalogue: Catalogue) -> None:
    assert not evaluate(barrow, catalogue).watched.seen
    volts = (*[3.7] * 13, 3.8)
    evaluation = evaluate(with_values(barrow, {"watch.sets": ({"volts": volts},)}), catalogue)
    assert evaluation.figures["watch.spread_v"].number == pytest.approx(0.1)
    assert "watch-apart" in {item.code for item in evaluation.findings}
