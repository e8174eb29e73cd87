"""Printed figures: another reading is told only where it would matter."""

from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.bms import bms_spec
from lumvak.core.specification.cell import cell_spec
from lumvak.core.specification.printed import FIND, READINGS, how_to_find, readings
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.spelling import spoken


def test_a_printed_figure_is_doubted_where_the_other_reading_falls_short(
    evaluation: Evaluation,
) -> None:
    spec = bms_spec(evaluation)
    (said,) = readings(spec, {"continuous_a": 40.0})
    assert spoken(said).endswith("40 A is 20 A: too little")
    # Far more than is wanted serves even so, and too little falls short as it is.
    assert readings(spec, {"continuous_a": 80.0}) == ()
    assert readings(spec, {"continuous_a": 20.0}) == ()
    (peak,) = readings(spec, {"peak_a": 60.0})
    assert "60 A is 36 A" in spoken(peak)
    assert readings(cell_spec(evaluation), {"capacity_min_ah": 4.5})


def test_every_doubt_and_every_hint_is_of_a_figure_that_there_is(evaluation: Evaluation) -> None:
    fields = {
        (part.key, window.name)
        for part in specification_in_hand(evaluation).parts
        for window in part.windows
    }
    assert set(FIND) <= fields
    assert {(key, "stages" if name == "peak_a" else name) for key, name in READINGS} <= fields
    assert how_to_find("bms", "balance_a") and how_to_find("bms", "wakes") == ""
