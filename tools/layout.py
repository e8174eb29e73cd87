"""Holds random packs, laid and joined from defaults alone, against a look at their metal."""

from __future__ import annotations

import sys
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.packs import random_pack, touching

from lumvak.core.evaluate import evaluate
from lumvak.files.catalogue_file import load_catalogue

HOW_MANY = 2000


def main(count: int) -> int:
    """Print what was found of ``count`` packs; 0 where all holds."""
    catalogue = load_catalogue(own=Path("/nonexistent"))[0]
    told: Counter[str] = Counter()
    begin = time.perf_counter()
    for seed in range(count):
        pack = random_pack(catalogue, seed)
        seen = evaluate(pack.project, catalogue)
        placing = seen.table.placing
        told["packs"] += 1
        told["fit"] += placing.fits
        codes = {item.code for item in seen.findings}
        unsolved = placing.fits and seen.table.solved is None
        told["fit and are not solved"] += unsolved
        by_engine = [near for near in seen.clearance.found.near if near.touches]
        by_hand = touching(seen)
        told["touch, by the engine"] += bool(by_engine)
        told["touch, by hand"] += bool(by_hand)
        told["told otherwise"] += bool(by_hand) and not by_engine
        told["nearer than the least"] += len(seen.clearance.found.near) > len(by_engine)
        told["barred"] += bool(codes & {"group-joint-barred", "series-joint-barred"})
        if by_engine or by_hand or unsolved:
            print(pack.name, "|", "unsolved" if unsolved else "", len(by_engine), len(by_hand),
                  seen.clearance.flaws[0].text if seen.clearance.flaws else by_hand[:1],
                  [f.text for f in seen.table.joint_flaws][:1] if unsolved else "")  # fmt: skip
        elif len(seen.clearance.flaws) > 0:
            print(pack.name, "| near", len(seen.clearance.flaws), seen.clearance.flaws[0].text)
    print(f"{time.perf_counter() - begin:.0f} s")
    for name, number in told.items():
        print(f"{name:<30} {number}")
    return 0


if __name__ == "__main__":
    raise SystemExit(main(int(sys.argv[1]) if len(sys.argv) > 1 else HOW_MANY))
