"""Made-up packs and chargers: what is said of them is what a run of them does."""

from tests.chargers import campaign


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
