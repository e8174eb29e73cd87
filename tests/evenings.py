"""Made-up groups, leaks, bleeds and habits, and what a simulated course makes of them."""

from __future__ import annotations

import numpy as np
from msgspec import Struct, field

from lumvak.core.balancing.balancing import Balancing, balancing_of
from lumvak.core.balancing.cycles import EVEN_SHARE, Cycle, CycleSetting, cycles
from lumvak.core.balancing.groups_run import Array, Bleed, Groups
from lumvak.core.balancing.means import Means
from lumvak.core.balancing.phase import Equipment, Grain
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.spelling import spoken

CELLS = ("ostrel-21-48", "fennimor-b-105", "rondel-b-20")
GRAIN = Grain(300.0, 0.003, 2.0, 1e-6)
# A course is followed for so many cycles at the most.
MOST_CYCLES, NEVER_CYCLES, SLOW_CYCLES = 120, 40, 160


class Case(Struct, frozen=True):
    """Groups as they stand, what bleeds them, and how they are used."""

    groups: Groups
    share: Array
    bleed: Bleed
    use: CycleSetting
    full_v: float

    def said(self) -> Balancing:
        """What is said of it."""
        means = Means(self.bleed, None, "the bleed")
        return balancing_of(means, self.groups, self.share, self.use, self.full_v)

    def course(self, count: int) -> tuple[Cycle, ...]:
        """What happens in ``count`` cycles."""
        having = Equipment(self.bleed, grain=GRAIN)
        return cycles(self.groups, self.share, 25.0, self.use, having, count)

    def apart(self, full: Array) -> float:
        """How far rooms at the top are apart, of a capacity."""
        return float(np.ptp(self.groups.ah * (1.0 - full))) / float(self.groups.ah.mean())


def case_of(catalogue: Catalogue, draw: np.random.Generator) -> Case:
    """A case at random: what is too strange for a pack is not drawn."""
    cell = catalogue.cells[CELLS[int(draw.integers(len(CELLS)))]]
    behaviour = behaviour_of(cell, catalogue.chemistry_of(cell))
    count, size = int(draw.integers(3, 17)), float(draw.choice([2.5, 10.0, 20.0, 50.0]))
    ah = size * (1.0 + draw.normal(0.0, 0.01, count))
    share = np.full(count, 0.5)
    kind, apart = draw.integers(3), float(draw.uniform(0.01, 0.12))
    if kind == 0:
        share[int(draw.integers(count))] -= apart
    elif kind == 1:
        share[int(draw.integers(count))] += apart / 2.0
    else:
        share += draw.uniform(-apart / 2.0, apart / 2.0, count)
    leak = np.full(count, 2e-5 * size)
    if draw.random() < 0.5:
        leak[int(draw.integers(count))] += 10.0 ** draw.uniform(-5.0, -2.6) * size
    full_v = cell.voltage_full_v
    from_v = full_v - float(draw.choice([0.0, 0.005, 0.01, 0.02, 0.03, 0.05, 0.08]))
    # A bleed that a charger takes for charging never lets it turn off.
    amps = size * 10.0 ** draw.uniform(-2.7, -2.2)
    bleed = Bleed(
        from_v,
        from_v / amps if draw.random() < 0.5 else None,
        amps,
        spread_v=None if draw.random() < 0.5 else 0.01,
    )
    charge = size * float(draw.uniform(0.12, 0.5))
    use = CycleSetting(
        charge,
        full_v * count,
        charge * float(draw.uniform(0.08, 0.12)),
        None if draw.random() < 0.2 else full_v + float(draw.uniform(0.05, 0.1)),
        full_v - float(draw.uniform(0.05, 0.15)),
        float(draw.choice([0.0, 1.0, 4.0, 12.0])),
        size * float(draw.uniform(0.2, 1.0)),
        cell.voltage_empty_v + 0.3,
        24.0 * float(draw.choice([0.0, 0.5, 2.0, 6.0])),
        0.8 * cell.voltage_empty_v,
    )
    groups = Groups(behaviour, ah, 0.03 / ah, leak, 0.0)
    return Case(groups, share, bleed, use, full_v)


class Found(Struct):
    """What a campaign came to: how many of each, how far hours were off, what was wrong."""

    even: int = 0
    never: int = 0
    stops: int = 0
    long: int = 0
    off: list[float] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)


def campaign(catalogue: Catalogue, count: int, first: int = 0) -> Found:
    """Hold what is said of ``count`` cases against simulated courses of them."""
    found = Found()
    for seed in range(first, first + count):
        case = case_of(catalogue, np.random.default_rng([seed, 28]))
        said = case.said()
        if said.hours is None:
            _held_never(case, said, seed, found)
        else:
            _held_even(case, said, seed, found)
    return found


def _held_never(case: Case, said: Balancing, seed: int, found: Found) -> None:
    """They must not come together, and where it is a stop a group is emptied."""
    found.never += 1
    ran = case.course(NEVER_CYCLES)
    ends = [case.apart(cycle.full) for cycle in ran]
    if said.stop:
        found.stops += 1
        if not ran[-1].flat:
            ran = case.course(SLOW_CYCLES)
        if not ran[-1].flat and min(cycle.start.min() for cycle in ran) > 0.004:
            found.faults.append(f"{seed}: never emptied, though {spoken(said.because)}")
        return
    if ran[-1].flat:
        return
    if ends[-1] <= EVEN_SHARE and case.groups.leak_a.max() > case.groups.leak_a.min():
        # One that loses more passes the others first, and falls behind in the end.
        ends = [case.apart(cycle.full) for cycle in case.course(SLOW_CYCLES)]
    if ends[-1] <= EVEN_SHARE and ends[-1] <= ends[len(ends) // 2] + 1e-4:
        found.faults.append(
            f"{seed}: {ends[-1]:.4f} apart in the end, though {spoken(said.because)}"
        )


def _held_even(case: Case, said: Balancing, seed: int, found: Found) -> None:
    """They must come to the level said, within 15 % of the time and one charge."""
    found.even += 1
    assert said.days is not None
    begun = float(np.ptp((1.0 - case.share) * case.groups.ah)) / float(case.groups.ah.mean())
    level = said.left_share
    if not said.days:
        ends = [case.apart(cycle.full) for cycle in case.course(6)]
        if ends[-1] > max(1.1 * level, begun + 0.004):
            found.faults.append(f"{seed}: even as they stand, then {ends[-1]:.4f} apart")
        return
    hours = next(item for item in said.figures if item.key == "charging.even_h")
    wanted = next(item.number for item in hours.inputs if item.key == "charging.even_charges")
    most = int(np.ceil(1.15 * wanted)) + 2
    if most > MOST_CYCLES:
        found.long += 1
        return
    ran = case.course(most)
    ends = [case.apart(cycle.full) for cycle in ran]
    if ran[-1].flat or ends[-1] > level:
        found.faults.append(
            f"{seed}: {min(ends):.4f} apart after {len(ends)} charges, wanted {level:.4f} in "
            f"{wanted:.1f}; {'flat' if ran[-1].flat else ''}"
        )
        return
    over = [place for place, apart in enumerate(ends) if apart > level]
    at = over[-1] + 1 if over else 0
    before = begun if at == 0 else ends[at - 1]
    part = (before - level) / max(before - ends[at], 1e-9)
    took = at + min(max(part, 0.0), 1.0)
    off = abs(took - wanted)
    found.off.append(off / max(took, 1.0))
    if off > max(0.15 * took, 1.0):
        found.faults.append(f"{seed}: {took:.1f} charges, said {wanted:.1f}")
