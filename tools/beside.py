"""Holds packs in parallel against other ways to work them out: ./bench beside [how many].

Straight curves against the closed form, bent ones against steps ten times finer; charge and energy
are kept, order does not matter, and nothing is called safe where a part would carry more.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.beside_pairs import closed_form, random_pair
from tests.netlists import simulated, simulator

from lumvak.core.beside.joining import joined, safe_charges
from lumvak.core.beside.sharing import SharedLoad, shared
from lumvak.core.beside.side import standing_at
from lumvak.core.beside.together import together
from lumvak.files.export.pair_netlist import pair_text

HOW_MANY = 500
CLOSED, FINER, KEPT, SIMULATED = 1e-6, 2e-3, 1e-6, 0.01


def one_pair(seed: int) -> list[str]:
    """What is wrong with a pair, empty where nothing."""
    wrong = []
    one, other, amps = random_pair(seed, bent=False)
    course = shared([one, other], SharedLoad(amps=amps))
    rows = course.seconds < course.ended[0][1]
    by_hand = closed_form(one, other, amps, course.seconds[rows])
    if np.abs(course.amps[rows, 0] - by_hand).max() > CLOSED * amps:
        wrong.append("closed form")
    one, other, amps = random_pair(seed, bent=True)
    course = shared([one, other], SharedLoad(amps=amps))
    fine = shared([one, other], SharedLoad(amps=amps), step=0.1)
    for found, truth in ((course.hours, fine.hours), (course.given_wh, fine.given_wh)):
        if abs(found - truth) > FINER * truth:
            wrong.append("finer steps")
    ah = one.capacity_ah + other.capacity_ah
    if np.abs(course.given_ah - fine.given_ah).max() > FINER * ah:
        wrong.append("shares of finer steps")
    if abs(course.given_ah.sum() - amps * course.hours) > KEPT * ah:
        wrong.append("charge")
    turned = shared([other, one], SharedLoad(amps=amps))
    if abs(turned.hours - course.hours) > KEPT * course.hours:
        wrong.append("order")
    return wrong + _joins(seed)


def _joins(seed: int) -> list[str]:
    """The peak by hand, and what each part carries at the ends of what is called safe."""
    one, other, _ = random_pair(seed, bent=True)
    found = joined(one, other)
    wrong = []
    by_hand = abs(one.emf_v - other.emf_v) / (one.fast_ohm + other.fast_ohm)
    if abs(found.peak_a - by_hand) > KEPT * by_hand:
        wrong.append("peak")
    draw = random.Random(seed)
    low, high = safe_charges(one, other, found.safe_v)
    for at in (low, high, draw.uniform(low, high)):
        moved = standing_at(other, at)
        amps = (one.emf_v - moved.emf_v) / (one.fast_ohm + moved.fast_ohm)
        gives, takes = (one, moved) if amps > 0.0 else (moved, one)
        least = min(gives.least_a("gives_a"), takes.least_a("takes_a"))
        if abs(amps) > least * (1.0 + 1e-6):
            wrong.append("called safe")
    return wrong


def against_simulator() -> bool:
    """Three pairs against the transient of a circuit simulator, where there is one."""
    if simulator() is None:
        print("no circuit simulator on this machine")
        return True
    worst = 0.0
    for seed in range(3):
        one, other, amps = random_pair(seed, bent=True)
        found = together([one, other], SharedLoad(amps=amps))
        course = found.course
        assert course is not None
        with tempfile.TemporaryDirectory() as folder:
            table = simulated(pair_text(found), Path(folder))
        seconds = table[:, 0]
        rows = (seconds > 1e-3 * seconds[-1]) & (seconds < 0.995 * course.ended[0][1])
        ours = np.interp(seconds[rows], course.seconds, course.amps[:, 0])
        worst = max(worst, float(np.abs(table[rows, 1] - ours).max() / amps))
    print(f"circuit simulator, three pairs: {100.0 * worst:.2f} % of the current apart at most")
    return worst < SIMULATED


def main(count: int) -> int:
    """Print what was found; 0 where all holds."""
    begun, told = time.perf_counter(), Counter[str]()
    with ProcessPoolExecutor() as pool:
        for seed, wrong in enumerate(pool.map(one_pair, range(count), chunksize=4)):
            told.update(wrong or ["held"])
            if wrong:
                print(seed, *wrong, flush=True)
    for name, number in sorted(told.items()):
        print(f"{name}: {number}")
    print(f"{count} pairs in {time.perf_counter() - begun:.0f} s")
    return int(told["held"] < count or not against_simulator())


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if sys.argv[1:] else HOW_MANY))
