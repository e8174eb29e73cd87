"""Packs with a fault to find: twenty levels, made up from what can be wrong."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.bench.simulated.faults import FAULTS, Hidden, hidden_at, places_of
from lumvak.bench.simulated.pack import SEEDS
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.trouble import ComplaintName
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.proved import bench_pack_of
from lumvak.core.proving.bench_pack import BenchPack

# The first seed of a level hides what the level is made of; others draw from what came up to it.
FIRST_SEED = 1
SOUND = "sound"


class Level(Struct, frozen=True):
    """A level: what its first pack hides, how many groups it has, what its owner says, and
    what that complains of."""

    number: int
    faults: tuple[str, ...]
    series: int
    says: str
    complaint: ComplaintName = "none"

    @property
    def pairs(self) -> bool:
        """Whether two faults are hidden."""
        return len(self.faults) > 1


# fmt: off
LEVELS = (
    Level(1, ("swapped-leads",), 4, "Just built. The BMS wakes and lets nothing out.", "dead"),
    Level(2, ("open-fuse",), 5, "Dead since it was dropped into the boat.", "dead"),
    Level(3, ("dead-charger",), 5,
          "It ran until it was empty. Now it does not charge.", "no-charge"),
    Level(4, ("flat-group",), 5, "It drops out long before it should.", "drops-out"),
    Level(5, ("broken-joint",), 7, "Dead after a winter in the shed.", "dead"),
    Level(6, ("open-lead",), 7, "The BMS shows volts that cannot be.", "low-group"),
    Level(7, ("worn-connector",), 5, "Weaker than it was, and the plug is warm.", "warm-spot"),
    Level(8, ("high-resistance-joint",), 7, "Weaker than it was.", "short-range"),
    Level(9, ("bms-trips-low",), 7, "It cuts out when it is pulled fast.", "cuts-out"),
    Level(10, (), 7, "The range is less than on paper. It was a cold morning.", "short-range"),
    Level(11, ("short-stopping-charger",), 10, "The range is less than it was.", "short-range"),
    Level(12, ("weak-group",), 7, "The range is less than it was.", "short-range"),
    Level(13, ("misread-group",), 10, "The charge ends early.", "charges-short"),
    Level(14, ("lost-cell",), 7, "The range is less since a cell was changed.", "since-repair"),
    Level(15, ("leaking-group",), 7, "After a month on the shelf it was down.", "low-group"),
    Level(16, ("warm-strip",), 10, "One side gets warm on hills.", "warm-spot"),
    Level(17, ("worn-connector", "flat-group"), 5,
          "It drops out early, and the plug is warm.", "drops-out"),
    Level(18, ("high-resistance-joint", "short-stopping-charger"), 7,
          "Weak, and the range is less than it was.", "short-range"),
    Level(19, ("open-fuse", "flat-group"), 7, "Dead, since somebody tried to repair it.", "dead"),
    Level(20, ("worn-connector", "weak-group"), 7,
          "Bought used. It is not what was promised.", "short-range"),
)
# fmt: on
# Everything that can be said of a pack: what is wrong with it, or that nothing is.
SAID = {SOUND: "nothing is wrong: what was expected is", **FAULTS}


def level_of(number: int) -> Level:
    """A level by its number; raises StopIteration for one that is not there."""
    return next(it for it in LEVELS if it.number == number)


def pack_of(level: Level, catalogue: Catalogue) -> BenchPack:
    """The pack of a level as it is designed, with the parts of a catalogue."""
    wanted = {"pack.series": level.series, "pack.parallel": 4, "need.current_a": 20.0}
    return bench_pack_of(evaluate(with_values(Project(name="Practise"), wanted), catalogue))


def hidden_in(level: Level, seed: int, pack: BenchPack) -> tuple[Hidden, ...]:
    """What a level hides; the same for the same seed, and the faults of the level at the first."""
    generator = np.random.default_rng(SEEDS * seed + level.number)
    names = level.faults
    if seed != FIRST_SEED:
        known = [it for it in LEVELS if it.number <= level.number and it.pairs == level.pairs]
        names = known[int(generator.integers(len(known)))].faults
    return tuple(hidden_at(pack, name, generator) for name in names if places_of(pack, name))
