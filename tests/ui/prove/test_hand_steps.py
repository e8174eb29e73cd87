"""What is typed in bench mode, and what it is kept as."""

import pytest

from lumvak.core.document.proving import Proving, TestName
from lumvak.core.proving.guide import by_hand
from lumvak.core.proving.measured import measured
from lumvak.core.proving.proof import Prepared, proof_of
from lumvak.ui.session import Session
from lumvak.ui.stages.prove.hand_steps import hand_steps
from lumvak.ui.stages.prove.prover import Prover


@pytest.mark.parametrize(
    ("test", "typed", "key", "value"),
    [
        ("over-current", ("58 A", "60 A"), "over-current.trip_a", 59.0),
        ("over-voltage", ("4.26",), "over-voltage.trip_v", 4.26),
        ("under-voltage", ("2.79",), "under-voltage.trip_v", 2.79),
        ("charger-stop", ("57.9",), "charger-stop.stop_v", 57.9),
        ("full-discharge", ("31.2 Ah", "1580 Wh", "45", "20"), "full-discharge.ah", 31.2),
        ("insulation", ("0.01",), "insulation.case_v", 0.01),
        ("asleep", ("0.02",), "asleep.output_v", 0.02),
    ],
)
def test_each_test_is_told_by_what_was_typed(
    session: Session,
    ready: Prepared,
    test: TestName,
    typed: tuple[str, ...],
    key: str,
    value: float,
) -> None:
    prover = Prover(session)
    judged = proof_of(ready, Proving(), {"cells": 30.0}).of(test)
    steps = hand_steps(prover, judged, by_hand(test, ready.pack))
    assert len(steps) == len(typed) and all(step.caution for step in steps)
    # Where it is taken is drawn: on the pack, or on the path of the current.
    assert all(bool(step.sides) != (step.beside is not None) for step in steps)
    for step, text in zip(steps, typed, strict=True):
        assert step.take is not None and step.take(text) == ""
    assert measured(session.project.proving)[key].value == pytest.approx(value)
    assert session.project.proving.readings[-1].by == "by hand"
    prover.end()
