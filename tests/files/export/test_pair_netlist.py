"""Packs in parallel as a netlist, read and run by a solver that knows nothing of packs."""

from pathlib import Path

import numpy as np
import pytest

from lumvak.core.beside.sharing import SharedLoad
from lumvak.core.beside.together import Together, together
from lumvak.files.export.pair_netlist import pair_text
from lumvak.files.problem import FileProblem
from tests.beside_pairs import random_pair
from tests.netlists import read_and_run, simulated, simulator


def pair(seed: int, *, watts: bool = False) -> Together:
    one, other, amps = random_pair(seed, bent=True)
    load = SharedLoad(watts=0.9 * amps * one.emf_v) if watts else SharedLoad(amps=amps)
    return together([one, other], load)


def off(found: Together, table: np.ndarray) -> float:
    """How far the amps of the first lie apart at most, as a share of all that is drawn."""
    course = found.course
    assert course is not None
    seconds = table[:, 0]
    rows = (seconds > 1e-3 * seconds[-1]) & (seconds < 0.995 * course.ended[0][1])
    ours = np.interp(seconds[rows], course.seconds, course.amps[:, 0])
    return float(np.abs(table[rows, 1] - ours).max() / course.amps.sum(axis=1).max())


@pytest.mark.parametrize(("seed", "watts"), [(1, False), (2, True), (3, False)])
def test_a_solver_that_reads_the_netlist_says_the_same(seed: int, watts: bool) -> None:
    found = pair(seed, watts=watts)
    assert off(found, read_and_run(pair_text(found))) < 0.01


@pytest.mark.skipif(simulator() is None, reason="no circuit simulator on this machine")
def test_the_simulator_of_this_machine_says_the_same(tmp_path: Path) -> None:
    for seed in (1, 2, 3):
        found = pair(seed, watts=seed == 2)
        assert off(found, simulated(pair_text(found), tmp_path)) < 0.01


def test_what_is_not_joined_directly_is_no_netlist() -> None:
    found = pair(1)
    with pytest.raises(FileProblem):
        pair_text(found, "diodes")
    one, other, amps = random_pair(1, bent=True)
    apart = together([one, other, one], SharedLoad(amps=amps))
    assert pair_text(apart).count("\nVI") == 3
