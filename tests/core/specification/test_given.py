"""A part in hand held against its windows, with as few figures as there are."""

import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.bms import bms_spec
from lumvak.core.specification.fuse import fuse_spec, main_fuse_asked
from lumvak.core.specification.given import held, short_words
from lumvak.core.spelling import spoken


def test_what_holds_what_falls_short_and_what_is_not_known(evaluation: Evaluation) -> None:
    given = {"series": 14.0, "continuous_a": 20.0, "peak_a": 120.0}
    found = held(bms_spec(evaluation), given, evaluation)
    assert not found.does
    assert [item.window.name for item in found.holds] == ["series", "stages"]
    (short,) = found.short
    assert (short.window.name, short.short_by) == ("continuous_a", pytest.approx(2.0))
    assert "20 A, 22 A are wanted for the continuous load" in spoken(short_words(short))
    unknown = {window.name for window in found.unknown}
    assert {"family", "kind", "over_voltage_v", "balance_a"} <= unknown
    assert "ports" not in unknown
    # The path then gives the least of all: here the series connections as they are.
    links = [link.continuous_a for link in evaluation.path.links if link.key != "board"]
    assert found.then_a == pytest.approx(min(20.0, *links))


def test_a_fuse_is_held_against_the_form_that_takes_it(evaluation: Evaluation) -> None:
    spec = fuse_spec(main_fuse_asked(evaluation))
    assert held(spec, {"rating_a": 32.0}, evaluation).does
    large = held(spec, {"rating_a": 60.0}, evaluation)
    assert "at most" in spoken(short_words(large.short[0]))
    assert "wire" in spoken(short_words(large.short[0]))
    blade = held(spec, {"rating_a": 32.0, "form": "blade"}, evaluation)
    assert [item.window.case for item in blade.short] == ["blade"]
    words = held(bms_spec(evaluation), {"kind": "balancer"}, evaluation)
    assert words.short[0].window.name == "kind"
    assert "balancer" in spoken(short_words(words.short[0]))


def test_a_figure_that_the_part_has_not_is_named(evaluation: Evaluation) -> None:
    with pytest.raises(KeyError, match="wheels"):
        held(bms_spec(evaluation), {"wheels": 4.0}, evaluation)
