"""More load, a higher stop, a longer run or hotter air never needs fewer cells."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.lead_wire import least_drop_ohm_per_m
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from tests.length import so_many
from tests.pairs import WAYS, gained, random_pair


@pytest.mark.parametrize("way", WAYS)
@settings(max_examples=so_many(8, 12))
@given(number=st.integers(0, 10**5))
def test_who_asks_for_more_gets_no_pack_that_was_refused(
    catalogue: Catalogue, way: str, number: int
) -> None:
    project, harder, seen = random_pair(number * len(WAYS) + WAYS.index(way))
    assert seen == way
    assert gained(project, harder, catalogue) == []


@given(st.floats(0.5, 400.0), st.floats(1.0, 2.0), st.floats(10.0, 60.0))
def test_leads_to_size_with_never_drop_less_for_more(
    current: float, factor: float, rise: float
) -> None:
    one = current * least_drop_ohm_per_m(current, rise, 10.0)
    more = current * factor * least_drop_ohm_per_m(current * factor, rise, 10.0)
    assert more >= one * (1.0 - 1e-12)


def test_the_cold_end_sags_and_the_warm_end_warms(barrow: Project, catalogue: Catalogue) -> None:
    def value(key: str, **need: float) -> float:
        changes = {f"need.{name}": number for name, number in need.items()}
        return evaluate(with_values(barrow, changes), catalogue).figures[key].number

    both = {"coldest_c": -5.0, "ambient_c": 35.0}
    for key in ("cell.resistance_end_ohm", "needs.sag", "pack.usable_fraction", "run.time_h"):
        assert value(key, **both) == pytest.approx(value(key, coldest_c=-5.0, ambient_c=-5.0), 0.02)
    for key in ("heat.temperature_end_c", "run.warmest_c"):
        assert value(key, **both) == pytest.approx(value(key, coldest_c=35.0, ambient_c=35.0), 0.02)
    # Over 25 degC resistance gets no better.
    assert value("cell.resistance_end_ohm", ambient_c=25.0) == value(
        "cell.resistance_end_ohm", ambient_c=45.0
    )


def test_a_coldest_over_the_warmest_is_refused(barrow: Project) -> None:
    with pytest.raises(ProjectError, match="coldest: 20 °C is over the warmest, 10 °C"):
        with_values(barrow, {"need.coldest_c": 20.0, "need.ambient_c": 10.0})
    # One alone moves the other where nothing was said of it.
    alone = with_values(Project(), {"need.coldest_c": 40.0})
    assert alone.need.ambient_c is None
