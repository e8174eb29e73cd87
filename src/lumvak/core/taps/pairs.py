"""Two faults of the leads at once, found by undoing one and looking for the other; and leads in any
order.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from lumvak.core.taps.faults import OPEN, PRIOR, Fault, Joints, Singles, moved, swapped
from lumvak.core.taps.narrow import alike
from lumvak.core.taps.readings import Case

# A lead that may sit anywhere; one that reads what no joint has, or nothing.
ANY, NOWHERE = -3, -2
MOST_ENDED = 2
# Of fewer leads that changed places there is nothing to be mixed.
LEAST_MIXED = 3
Found = tuple[tuple[Fault, ...], Joints, float]


def lead_pairs(case: Case, singles: Singles) -> Iterator[Found]:
    """Pairs of lead faults that put each lead where its total says it sits (methods 30).

    Gives both faults, where each lead sits (n + 1,), and the log of how likely they are. What is
    the same harness is given once, by its likeliest pair. Where each lead reads a joint of its own
    their order alone may be mixed, which is one fault; two swaps that share a lead are that.
    """
    seen = _seen(case)
    best: dict[bytes, Found] = {}
    for undone, second, prior in _undone(seen, singles):
        # Of what may sit anywhere nothing is asked; what reads nothing is open.
        fixed = np.where(undone == NOWHERE, OPEN, undone).astype(np.int16)
        for at in alike(singles, fixed, undone == ANY).tolist():
            first = singles.faults[at]
            if "right" in (first.name, second.name):
                continue
            joint = np.where(seen == NOWHERE, OPEN, seen).astype(np.int16)
            weight = prior + float(singles.log_prior[at])
            key = joint.tobytes()
            if key not in best or weight > best[key][2]:
                best[key] = ((first, second), joint, weight)
    if (order := _order(seen)) is not None:
        key = order[1].tobytes()
        pair = best.get(key)
        if pair is None or _share_a_lead(pair[0]):
            weight = order[2] if pair is None else max(order[2], pair[2])
            best[key] = (*order[:2], weight)
    yield from best.values()


def mixed_order(case: Case) -> Found | None:
    """Leads that read each a joint of its own, as an order that is mixed, if it is.

    As those of ``lead_pairs``; all such orders of as many leads are alike likely.
    """
    return _order(_seen(case))


def _order(seen: Joints) -> Found | None:
    leads = np.arange(len(seen))
    if not np.array_equal(np.sort(seen), leads):
        return None
    off = np.flatnonzero(seen != leads)
    if len(off) < LEAST_MIXED:
        return None
    # Orders of so many things in which none stays where it belongs: their factorial over e.
    ways = math.lgamma(len(off) + 1.0) - 1.0 + math.log(math.comb(len(seen), len(off)))
    fault = Fault("mixed", (*off.tolist(), *seen[off].tolist()))
    return (fault,), seen, math.log(PRIOR["mixed"]) - ways


def _share_a_lead(faults: tuple[Fault, ...]) -> bool:
    """Whether both are swaps, of a lead that is in both."""
    one, other = faults
    swaps = one.name == other.name == "swapped"
    return swaps and bool(set(one.leads) & set(other.leads))


def _seen(case: Case) -> Joints:
    """The joint that each lead sits on by its total; NOWHERE where it is none."""
    leads = len(case.totals)
    read = np.where(np.isnan(case.totals), np.inf, case.totals)
    apart = np.abs(read[:, None] - case.level[None])
    nearest = apart.argmin(axis=1)
    near = case.at_joint[np.arange(leads), nearest]
    return np.where(near, nearest, NOWHERE).astype(np.int16)


def _undone(seen: Joints, singles: Singles) -> Iterator[tuple[Joints, Fault, float]]:
    """Where leads would sit with one fault undone, that fault, and how likely it is."""
    last = len(seen) - 1
    for fault, weight in zip(singles.faults, singles.log_prior.tolist(), strict=True):
        if fault.name == "swapped":
            yield swapped(seen, *fault.leads), fault, weight
        elif fault.name == "reversed":
            yield seen[::-1].copy(), fault, weight
            yield _where_joint(seen, last - seen), fault, weight
        elif fault.name == "open":
            lead = fault.leads[0]
            if seen[lead] == NOWHERE:
                yield moved(seen, lead, ANY), fault, weight
        elif fault.name == "doubled":
            lead, on = fault.leads
            if seen[lead] == on:
                yield moved(seen, lead, ANY), fault, weight
        elif fault.name == "shifted":
            undone = seen.copy()
            rest = slice(fault.leads[0], None)
            undone[rest] = _where_joint(seen, seen + (-1 if fault.up else 1))[rest]
            if fault.up:
                # Who finds no joint over the highest ends there, or on nothing: two at most.
                ended = (seen == last) | (seen == NOWHERE)
                ended[: fault.leads[0]] = False
                if ended.sum() > MOST_ENDED:
                    continue
                undone[ended] = ANY
            yield undone, fault, weight


def _where_joint(seen: Joints, moved_to: Joints) -> Joints:
    return np.where(seen >= 0, moved_to, seen).astype(np.int16)
