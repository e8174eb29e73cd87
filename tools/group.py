"""Small pools against all ways to deal them, and lots with planted faults."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.lots import least_spread_ah, missed, small_pool

from lumvak.core.matching.dealing import compared
from lumvak.core.matching.pool import pool_of

HEAPS, LOTS = 200, 400
# A dealing that is beaten by more Ah than this is beaten.
BEATEN_AH = 1e-9


def main(pools: int = HEAPS, lots: int = LOTS) -> int:
    beaten = proven = wrongly = 0
    for seed in range(pools):
        cells, series, parallel = small_pool(seed)
        found = compared(pool_of(cells, series, parallel))
        spread = float(np.ptp(found.best.group_ah))
        least = least_spread_ah([ah for _, ah, _ in cells], parallel)
        proven += found.best.proven
        if spread > least + BEATEN_AH:
            beaten += 1
            wrongly += found.best.proven
            print(f"pool {seed}: {spread:.6f} Ah apart, {least:.6f} can be had")
    wrong = 0
    for seed in range(lots):
        told = missed(seed)
        wrong += bool(told)
        for text in told:
            print(f"lot {seed}: {text}")
    for what, count in (
        ("small pools", pools),
        ("of these proven", proven),
        ("beaten in capacity", beaten),
        ("of these said to be proven", wrongly),
        ("lots with a leak, a dead cell and an outsider", lots),
        ("of these with one missed, or a good one told", wrong),
    ):
        print(f"{what:<48} {count:6d}")
    return 1 if beaten or wrong else 0


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:])))
