"""Finds faults in packs whose fault is known: ./bench trouble [how many].

Readings are taken as they are proposed; what is counted is how soon the true fault is the first.
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.broken_packs import STRANGE, BrokenPack

from lumvak.core.trouble.case import case_of
from lumvak.core.trouble.causes import BY_NAME, CAUSES
from lumvak.core.trouble.diagnosis import Diagnosis, diagnosed, place_of
from lumvak.core.trouble.hypotheses import PAIRS, places_in, places_of_pair
from lumvak.core.trouble.proposing import as_reading
from lumvak.core.trouble.readings import TroubleReading
from lumvak.files.catalogue_file import load_catalogue

HOW_MANY = 600
# What each thing that is in no list is complained of.
COMPLAINED = {
    "half-low": ("low-group", "short-range", "drops-out"),
    "half-volts": ("jumps", "since-repair", "short-range"),
    "scattered": ("low-group", "short-range", "charges-short"),
    "more-than-its-groups": ("since-repair", "jumps"),
}
MOST = 5
FIRST, SECOND, SOUND, OTHER, BOTH, USUAL = 0.95, 0.99, 0.95, 0.80, 0.90, 3

# Of causes given 80 to 90 % so many are true; over 99 % no more are wrong than this.
SAID, WRONG = (0.75, 0.95), 0.001


class Walked(Struct, frozen=True):
    """How a search ended: the cause, its place in the ranking (from 0), readings, and shares."""

    cause: str
    complaint: str
    rank: int
    readings: int
    share: float
    top: str
    slowest_s: float


def drawn_single(seed: int) -> tuple[BrokenPack, str, str]:
    """A pack with one fault, with the cause and its place."""
    draw = random.Random(seed)
    series = draw.randint(3, 20)
    known = [it for it in CAUSES if it.name not in ("something-else", "sound")]
    cause = draw.choices(known, [it.prior for it in known])[0]
    where = draw.choice(places_in(cause, series))
    complaint = draw.choices(list(cause.complaints), list(cause.complaints.values()))[0]
    pack = BrokenPack(seed, series, ((cause.name, where),), complaint)
    return pack, cause.name, place_of(cause, where)


def walk(pack: BrokenPack, most: int = MOST) -> tuple[Diagnosis, list[TroubleReading], float]:
    """Readings as they are proposed, until it is enough or so many were taken."""
    parts, _ = load_catalogue()
    case = case_of(pack.series, parts.chemistries["nmc"])
    readings: list[TroubleReading] = []
    slowest = 0.0
    while True:
        begun = time.perf_counter()
        found = diagnosed(case, pack.complaint, readings)  # type: ignore[arg-type]
        slowest = max(slowest, time.perf_counter() - begun)
        if found.next is None or len(readings) >= most:
            return found, readings, slowest
        wanted = as_reading(found.next)
        value = pack.read(wanted.place, wanted.state, wanted.amount, wanted.in_ohm)
        readings.append(replace(wanted, value=value))  # type: ignore[arg-type]


def rank_in(found: Diagnosis, cause: str, where: str) -> int:
    """The place of a cause in the ranking, from 0; 99 where it is not there."""
    for at, it in enumerate(found.ranked):
        if it.cause.name == cause and it.where == where:
            return at
    return 99


def one_single(seed: int) -> Walked:
    """A pack with one fault."""
    pack, cause, where = drawn_single(seed)
    found, readings, slowest = walk(pack)
    top = found.ranked[0]
    return Walked(
        cause,
        pack.complaint,
        rank_in(found, cause, where),
        len(readings),
        top.share,
        f"{top.cause.name} {top.where}",
        slowest,
    )


def one_sound(seed: int) -> Walked:
    """A sound pack of which too much was wanted."""
    draw = random.Random(seed)
    cause = next(it for it in CAUSES if it.name == "sound")
    complaint = draw.choices(list(cause.complaints), list(cause.complaints.values()))[0]
    pack = BrokenPack(seed, draw.randint(3, 20), (("sound", 0),), complaint)
    found, readings, slowest = walk(pack)
    top = found.ranked[0]
    return Walked(
        "sound",
        complaint,
        rank_in(found, "sound", "sound"),
        len(readings),
        top.share,
        f"{top.cause.name} {top.where}",
        slowest,
    )


def one_strange(seed: int) -> Walked:
    """A pack with something that is in no list."""
    draw = random.Random(seed)
    name = draw.choice(STRANGE)
    complaint = draw.choice(COMPLAINED[name])
    pack = BrokenPack(seed, draw.randint(6, 20), ((name, 0),), complaint)
    found, readings, slowest = walk(pack, 8)
    top = found.ranked[0]
    rank = rank_in(found, "something-else", "something")
    return Walked(
        name, complaint, rank, len(readings), top.share, f"{top.cause.name} {top.where}", slowest
    )


def one_pair(seed: int) -> Walked:
    """A pack with two faults that come together; the rank is that of the later one of both."""
    draw = random.Random(seed)
    series = draw.randint(3, 20)
    first, second, _ = draw.choices(PAIRS, [it[2] for it in PAIRS])[0]
    places = draw.choice(places_of_pair(first, second, series))
    complaints = BY_NAME[draw.choice((first, second))].complaints
    complaint = draw.choices(list(complaints), list(complaints.values()))[0]
    pack = BrokenPack(seed, series, ((first, places[0]), (second, places[1])), complaint)
    found, readings, slowest = walk(pack, 8)
    ranks = [
        rank_in(found, name, place_of(BY_NAME[name], place))
        for name, place in zip((first, second), places, strict=True)
    ]
    tops = ", ".join(f"{it.cause.name} {it.where}" for it in found.ranked[:3])
    return Walked(
        f"{first} {places[0]} + {second} {places[1]}",
        complaint,
        max(ranks),
        len(readings),
        found.ranked[0].share,
        tops,
        slowest,
    )


class Told(Struct, frozen=True):
    """How often the truth is first and among the first two, and the usual number of readings."""

    first: float
    two: float
    readings: float


def told(name: str, walked: list[Walked]) -> Told:
    """Print how often the truth is first, and what it was taken for where it is not."""
    count = len(walked)
    first = sum(it.rank == 0 for it in walked) / count
    two = sum(it.rank <= 1 for it in walked) / count
    middle = statistics.median(it.readings for it in walked)
    print(f"{name}: first {100 * first:.1f}, of two {100 * two:.1f} of 100; {middle:g} readings")
    missed = Counter(f"{it.cause} ({it.complaint}) -> {it.top}" for it in walked if it.rank)
    for words, times in missed.most_common(25):
        print(f"   {times} x {words}")
    return Told(first, two, middle)


def fits(true: float, count: int) -> bool:
    """Whether a share of so many is what 80 to 90 % should come to, two deviations beside."""
    low, high = (edge * (1.0 - edge) / count for edge in SAID)
    return SAID[0] - 2.0 * low**0.5 <= true <= SAID[1] + 2.0 * high**0.5


def main(count: int) -> int:
    """Print what was found; 0 where all holds."""
    begun = time.perf_counter()
    with ProcessPoolExecutor() as pool:
        singles = list(pool.map(one_single, range(count), chunksize=4))
        sounds = list(pool.map(one_sound, range(count // 4), chunksize=4))
        strange = list(pool.map(one_strange, range(count // 4), chunksize=4))
    with ProcessPoolExecutor() as pool:
        pairs = list(pool.map(one_pair, range(count // 4), chunksize=4))
    three = sum(it.rank <= 2 for it in pairs) / len(pairs)
    print(f"pairs: both among the first three in {100 * three:.1f} of 100")
    for it in pairs:
        if it.rank > 2:
            print(f"   {it.cause} ({it.complaint}) -> {it.top}, {it.readings}")
    single, healthy, other = (
        told(name, walked)
        for name, walked in (("one fault", singles), ("sound", sounds), ("strange", strange))
    )
    slow = max(it.slowest_s for it in (*singles, *sounds, *strange))
    calibrated = True
    for low in range(50, 100, 10):
        inside = [it for it in singles if low <= 100 * it.share < low + 10]
        if inside:
            true = sum(it.rank == 0 for it in inside) / len(inside)
            print(f"said {low} to {low + 10} %: {100 * true:.0f} of 100 true, of {len(inside)}")
            if low == 80:
                calibrated = fits(true, len(inside))
    sure = [it for it in singles if it.share > 0.99]
    wrong = sum(it.rank > 0 for it in sure)
    print(f"over 99 %: {wrong} wrong of {len(sure)}")
    for it in sure:
        if it.rank:
            print(f"   {it.cause} ({it.complaint}) called {it.top} after {it.readings}")
    print(f"{count} packs in {time.perf_counter() - begun:.0f} s, the slowest answer {slow:.2f} s")
    held = single.first >= FIRST and single.two >= SECOND and single.readings <= USUAL
    held &= healthy.first >= SOUND and other.first >= OTHER and three >= BOTH
    held &= calibrated and wrong <= max(1, WRONG * len(sure))
    print("held" if held else "NOT held")
    return int(not held)


if __name__ == "__main__":
    raise SystemExit(main(int(sys.argv[1]) if len(sys.argv) > 1 else HOW_MANY))
