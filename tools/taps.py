"""What the check of balance leads tells of made-up harnesses: ./bench taps [how many]."""

from __future__ import annotations

import sys
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

import numpy as np
from tests.harnesses import (
    GROUP_FAULTS,
    LEAD_FAULTS,
    ORDERS,
    Harness,
    followed,
    followed_on,
    harness,
)

from lumvak.core.taps.faults import WEAK_V
from lumvak.core.taps.verdict import TapVerdict, judged

CASES = 100_000
SINGLE = (*LEAD_FAULTS, *GROUP_FAULTS)


def single(draw: np.random.Generator, each: bool, name: str) -> str:
    """What becomes of a harness with one fault: alone, decided by a reading, missed, safe."""
    made = harness(draw, each, (name,))
    found = judged(made.case())
    if found.safe:
        return "safe"
    told = [made.is_told_by(item) for item in found.hypotheses]
    if all(told):
        return "alone"
    if not any(told) and not found.unproven:
        return "missed"
    decided, rounds = followed(made, 2)
    if all(made.is_told_by(item) for item in decided.hypotheses):
        return "decided by 1" if rounds == 1 else "decided by 2"
    return "open"


def _weak(draw: np.random.Generator, each: bool) -> bool:
    """Whether a group that lacks 0.15 V is called fine once all readings asked for are taken."""
    made = harness(draw, each, ())
    group = int(draw.integers(len(made.groups)))
    made.lack[group] = 0.15
    found, _ = followed_on(made)
    told = found.groups[group]
    return found.safe and told.told and told.lacks_v + told.least_told_v < WEAK_V


def double(draw: np.random.Generator, each: bool) -> str:
    """What becomes of a harness with two faults within two further readings."""
    while True:
        made = harness(draw, each, draw.choice(SINGLE, 2).tolist())
        if _two(made):
            break
    found, _ = followed(made, 2)
    if found.safe:
        return "safe"
    told = [made.is_told_by(item) for item in found.hypotheses]
    if all(told):
        return "named"
    return "first" if told[0] else "among" if any(told) else "missed"


def mixed(draw: np.random.Generator, each: bool, order: str) -> str:
    """What becomes of leads whose order is mixed, at once and after two further readings."""
    made = harness(draw, each, (), int(draw.integers(6, 25)))
    made.mix(order)
    first, _ = followed(made, 0)
    if _wrongly_named(made, first):
        return "one wrong name"
    found, _ = followed(made, 2)
    if found.safe:
        return "safe"
    if _wrongly_named(made, found):
        return "one wrong name"
    told = [made.is_told_by(item) for item in found.hypotheses]
    return "named" if all(told) else "among" if any(told) else "left open"


def _wrongly_named(made: Harness, found: TapVerdict) -> bool:
    only = found.hypotheses[0]
    return len(found.hypotheses) == 1 and found.explained and not made.is_told_by(only)


def _two(made: Harness) -> bool:
    """Whether two faults are still to be seen: not one that undoes the other."""
    wrong = bool((made.joint != np.arange(len(made.joint))).any())
    return wrong or bool(made.lack.any())


def main() -> int:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CASES
    begun = time.perf_counter()
    for each in (False, True):
        draw = np.random.default_rng(1)
        print("each reading off by itself:" if each else "one gain for all readings, and digits:")
        safe = sum(followed(harness(draw, each, ()), 2)[0].safe for _ in range(count // 10))
        print(
            f"  right: {100.0 * safe / (count // 10):.2f} % of {count // 10} called safe after "
            "the readings asked"
        )
        weak = [_weak(draw, each) for _ in range(count // 50)]
        print(
            f"  groups 0.15 V weak, read across as asked: {weak.count(True)} of {len(weak)} "
            "called fine"
        )
        for name in SINGLE:
            share = count // 2 // 10
            found = Counter(single(draw, each, name) for _ in range(share))
            print(f"  {name}: {_said(found, share)}")
        share = count // 2 // 10
        found = Counter(double(draw, each) for _ in range(share))
        print(f"  two faults, two further readings: {_said(found, share)}")
        for order in ORDERS:
            found = Counter(mixed(draw, each, order) for _ in range(share))
            print(f"  {order}: {_said(found, share)}")
    print(f"{time.perf_counter() - begun:.0f} s")
    return 0


def _said(found: Counter[str], share: int) -> str:
    return ", ".join(
        f"{what} {100.0 * number / share:.2f} %" for what, number in found.most_common()
    )


if __name__ == "__main__":
    sys.exit(main())
