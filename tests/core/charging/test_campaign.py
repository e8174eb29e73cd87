"""Made-up packs and chargers: what is said of them is what a run of them does."""

from tests.chargers import campaign, grid


def test_nothing_called_right_or_short_overcharges_and_the_rest_agrees() -> None:
    """A small part of `./bench charging`."""
    found = campaign(10, seed=7)
    assert found.faults == []
    assert len(found.kinds) >= 2
    assert max(found.stops) < 1e-3
    assert max(found.usable) < 3e-3
    assert max(found.charge) < 1e-8
    assert max(found.energy) < 1e-6
    assert max(found.steps) < 5e-3


def test_no_charger_that_may_be_connected_takes_a_cell_over_its_limit() -> None:
    """A small part of the grid: by volts alone, in a few lines of their own."""
    kinds, wrong = grid(1500)
    assert wrong == []
    assert min(kinds[kind] for kind in ("right", "short", "leans", "wrong")) > 20
