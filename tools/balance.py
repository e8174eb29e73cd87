"""Whether and when groups come together, said against simulated courses: ./bench balance [n]."""

from __future__ import annotations

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

import numpy as np
from tests.balancings import campaign

from lumvak.files.catalogue_file import load_catalogue

CASES = 2000


def main() -> int:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    begun = time.perf_counter()
    found = campaign(load_catalogue(own=Path("/nonexistent"))[0], count, first)
    print(
        f"{found.even} even in some time, {found.long} of them too long to follow to the end; "
        f"{found.never} never, {found.stops} of them stops"
    )
    if found.off:
        print(
            f"time said against time run: median {100.0 * np.median(found.off):.1f} % off, "
            f"95 of 100 within {100.0 * np.quantile(found.off, 0.95):.1f} %"
        )
    for fault in found.faults[:40]:
        print(f"  {fault}")
    print(f"{count} in {time.perf_counter() - begun:.0f} s; {len(found.faults)} do not hold")
    return 1 if found.faults else 0


if __name__ == "__main__":
    sys.exit(main())
