"""Made-up packs and chargers, what is said against what a run does: ./bench charging [how many].

Each verdict is held against a charge with its board left out and groups alike, where a charge is
said to stop against the run with the board, what groups are said to give against cycles, and what
flowed against what is there after it.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

import numpy as np
from tests.chargers import campaign, grid

CASES, GRID = 1000, 20_000


def main() -> int:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    begun = time.perf_counter()
    found = campaign(count)
    for kind, number in found.kinds.most_common():
        harmless = f", {found.harmless[kind]} of them harmless" if found.harmless[kind] else ""
        print(
            f"{kind:<6} {number:6d}   without its BMS cells get to "
            f"{100.0 * found.highest[kind]:.1f} % of full at the most{harmless}"
        )
    for name, values, unit in (
        ("where a charge stops, said and run", found.stops, "of the charge"),
        ("usable charge, imbalance and cycle", found.usable, "of the capacity"),
        ("a coarse run against a fine one", found.steps, "of the charge"),
        ("charge conserved", found.charge, "Ah"),
        ("energy conserved", found.energy, "Wh"),
    ):
        print(f"{name:<38} median {np.median(values):.2e}, most {np.max(values):.2e} {unit}")
    for fault in found.faults[:10]:
        print(f"  {fault}")
    kinds, mistaken = grid(GRID if count >= CASES else 20 * count)
    print(
        f"{sum(kinds.values())} packs and chargers by volts alone: "
        f"{', '.join(f'{number} {kind}' for kind, number in kinds.most_common())}; "
        f"{len(mistaken)} mistaken"
    )
    for fault in mistaken[:10]:
        print(f"  {fault}")
    print(f"{count} packs in {time.perf_counter() - begun:.0f} s")
    print(f"{len(found.faults)} called right or short that overcharge")
    return 1 if found.faults or mistaken else 0


if __name__ == "__main__":
    sys.exit(main())
