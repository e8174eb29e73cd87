"""What a board must say of itself."""

import msgspec
import pytest

from lumvak.core.catalogue.boards import Board, check_stages, check_thresholds
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import NotAccepted, made
from lumvak.core.record import Unfit


@pytest.fixture
def sound(catalogue: Catalogue) -> dict[str, object]:
    return msgspec.to_builtins(catalogue.boards["wicket-14-30"])


def test_stages_are_currents_and_delays(catalogue: Catalogue) -> None:
    for board in catalogue.boards.values():
        amps, seconds = zip(*board.trips, strict=True)
        assert list(amps) == sorted(amps) and list(seconds) == sorted(seconds, reverse=True)
        assert amps[0] >= board.continuous_a
        with pytest.raises(Unfit):
            check_stages(board.stages, amps[0] + 1.0)


@pytest.mark.parametrize(
    ("volts", "fits"),
    [
        ((4.25, None, 2.8, None), True),
        ((4.25, 4.1, 2.8, 3.0), True),
        ((2.8, None, 4.25, None), False),
        ((4.25, 4.3, 2.8, None), False),
        ((4.25, None, 2.8, 2.7), False),
    ],
)
def test_thresholds_lie_in_their_order(volts: tuple[float, ...], fits: bool) -> None:
    if fits:
        check_thresholds(*volts)
    else:
        with pytest.raises(Unfit):
            check_thresholds(*volts)


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"kind": "balancer", "balance_a": 0.0}, "a balancer must balance"),
        ({"kind": "protection", "balance_a": 0.06}, "has a balance_a of 0"),
        ({"quiescent_a": 1e-5, "off_a": 1e-3}, "off_a must not exceed"),
        ({"series": 41}, "40"),
    ],
)
def test_what_contradicts_is_refused(
    sound: dict[str, object], changed: dict[str, object], said: str
) -> None:
    assert made(Board, sound)
    with pytest.raises(NotAccepted, match=said):
        made(Board, {**sound, **changed})
