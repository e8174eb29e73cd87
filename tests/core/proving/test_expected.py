"""Bands of what is expected, held against packs that were drawn apart from them."""

import numpy as np
import pytest

from lumvak.core.proving.bench_pack import BenchPack, as_designed
from lumvak.core.proving.expected import (
    LITTLE_IS_WELL,
    Expected,
    drawn_packs,
    taken_through,
    worst_over,
)
from lumvak.core.proving.observables import OBSERVABLES
from lumvak.core.proving.proof import Prepared


def test_nine_in_ten_of_other_packs_lie_in_the_bands(
    bench_pack: BenchPack, ready: Prepared
) -> None:
    expected = ready.expected
    others = drawn_packs(bench_pack, 1000, seed=77)
    shown = {
        "full-discharge.ah": others.emptied.ah,
        "staircase.strip_k": others.stairs.strip_k[:, -1],
        "charger-stop.stop_v": bench_pack.charger_v * others.packs.charger,
    }
    for key, values in shown.items():
        band = expected[key]
        inside = np.mean((values >= band.low) & (values <= band.high))
        far = np.mean([band.verdict(float(value)) == "outside" for value in values])
        assert inside == pytest.approx(0.9, abs=0.035) and far < 0.02


def test_the_middle_is_that_of_the_design(bench_pack: BenchPack, ready: Prepared) -> None:
    expected = ready.expected
    assert set(expected) <= {item.key for item in OBSERVABLES}
    board = bench_pack.board
    assert board is not None
    assert expected["over-current.trip_a"].value == pytest.approx(
        board.stages[0].current_a, rel=0.01
    )
    assert expected["over-voltage.trip_v"].value == pytest.approx(board.over_voltage_v, abs=0.003)
    fuse = 1e3 * bench_pack.parts_ohm[0]
    assert expected["drops.fuse_mohm"].value == pytest.approx(fuse, rel=0.03)
    path = taken_through(bench_pack, as_designed(bench_pack)).model.path_ohm[0]
    assert expected["staircase.path_mohm"].value == pytest.approx(1e3 * path, rel=0.03)
    for key in LITTLE_IS_WELL:
        assert expected[key].verdict(0.0) == "inside"


def test_verdicts_and_the_worst_joint() -> None:
    band = Expected(1.0, 0.9, 1.1, 0.8, 1.2)
    assert [band.verdict(it) for it in (0.79, 0.85, 1.2, 1.21)] == [
        "outside",
        "inside",
        "inside",
        "outside",
    ]
    assert worst_over(np.array([[1.0, 1.0, 4.0]]))[0] == pytest.approx(4.0)
