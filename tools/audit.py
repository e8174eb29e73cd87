"""Holds audits against packs whose truth is known: ./bench audit [how many].

What a pack truly gives and holds lies in the band, whatever was not seen; one field less never
narrows a band nor betters a verdict; and what could burn is never called fit for use.
"""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.found_packs import drawn

from lumvak.core.as_found.audit import Audit, audited
from lumvak.core.as_found.risks import VERDICTS
from lumvak.core.document.afterwards.as_found import FIELDS, AsFound, is_seen
from lumvak.files.catalogue_file import load_catalogue

HOW_MANY = 500
LEAST, MOST = 0.90, 0.99
SLACK = 1e-9


class Found(Struct, frozen=True):
    """What was found of one pack: whether its truth lay in both bands, and what was wrong."""

    amps_in: bool
    ah_in: bool
    hidden: int
    wrong: tuple[str, ...]


def without(found: AsFound, *fields: str) -> AsFound:
    """The same pack with fields not seen."""
    return replace(found, **{it: () if it == "group_v" else None for it in fields})


def one_pack(seed: int) -> Found:
    """A pack with some of its fields hidden, and with one more."""
    parts, _ = load_catalogue()
    pack = drawn(seed, parts)
    draw = random.Random(seed + 1_000_000)
    share = draw.uniform(0.0, 0.8)
    seen = [it for it in FIELDS if is_seen(pack.whole, it)]
    hidden = [it for it in seen if draw.random() < share]
    found = without(pack.whole, *hidden)
    audit = audited(found, parts)
    wrong = list(burns(audit, pack.joints_a, pack.whole))
    for field in FIELDS:
        if is_seen(found, field):
            wrong += worse(audit, audited(without(found, field), parts), field)
    return Found(
        audit.continuous.low <= pack.amps <= audit.continuous.high,
        audit.capacity_ah.low <= pack.ah <= audit.capacity_ah.high,
        len(hidden),
        tuple(wrong),
    )


def worse(audit: Audit, less: Audit, field: str) -> list[str]:
    """Where a pack of which less is known is called better, or known better."""
    wrong = []
    spans = zip((*audit.rating, audit.capacity_ah), (*less.rating, less.capacity_ah), strict=True)
    for known, wider in spans:
        if wider.width < known.width * (1.0 - SLACK):
            wrong.append(f"{field} hidden narrows a band")
    if VERDICTS.index(less.verdict) < VERDICTS.index(audit.verdict):
        wrong.append(f"{field} hidden betters the verdict")
    return wrong


def burns(audit: Audit, joints_a: float, whole: AsFound) -> list[str]:
    """Where what could burn is called fit for use."""
    if audit.verdict != "use":
        return []
    could = {
        "no fuse": whole.fuse == "none",
        "unknown cells": whole.cell is None,
        "joints past their limit": joints_a < 0.8 * (whole.promised_a or 0.0),
    }
    return [f"{name} called use" for name, it in could.items() if it]


def main(count: int) -> int:
    """Print what was found; 0 where all holds."""
    begun, told = time.perf_counter(), Counter[str]()
    with ProcessPoolExecutor() as pool:
        found = list(pool.map(one_pack, range(count), chunksize=4))
    for item in found:
        told.update(item.wrong)
    shares = {
        "amps": sum(it.amps_in for it in found) / count,
        "charge": sum(it.ah_in for it in found) / count,
    }
    held = not told
    for name, share in shares.items():
        held &= LEAST <= share <= MOST
        print(f"truth in the band of {name}: {100.0 * share:.1f} of 100")
    hidden = sum(it.hidden for it in found) / count
    print(f"{count} packs, {hidden:.1f} fields hidden of each, {time.perf_counter() - begun:.0f} s")
    for name, times in told.most_common():
        print(f"  {times} x {name}")
    print("held" if held else "NOT held")
    return int(not held)


if __name__ == "__main__":
    raise SystemExit(main(int(sys.argv[1]) if len(sys.argv) > 1 else HOW_MANY))
