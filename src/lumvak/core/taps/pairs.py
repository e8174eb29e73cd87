"""Two faults of the leads at once: found by undoing one and looking for the other."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from lumvak.core.taps.faults import OPEN, Fault, Joints, Singles, moved, swapped
from lumvak.core.taps.readings import Case

# A lead that may sit anywhere; one that reads what no joint has, or nothing.
ANY, NOWHERE = -3, -2
MOST_ENDED = 2
Found = tuple[tuple[Fault, ...], Joints, float]


def lead_pairs(case: Case, singles: Singles) -> Iterator[Found]:
    """Pairs of lead faults that put each lead where its total says it sits (methods 30).

    Gives both faults, where each lead sits (n + 1,), and the log of how likely they are. What is
    the same harness is given once, by its likeliest pair.
    """
    seen = _seen(case)
    best: dict[bytes, Found] = {}
    for undone, second, prior in _undone(seen, singles):
        for at in np.flatnonzero(_matches(undone, singles.joint)).tolist():
            first = singles.faults[at]
            if "right" in (first.name, second.name):
                continue
            joint = np.where(seen == NOWHERE, OPEN, seen).astype(np.int16)
            weight = prior + float(singles.log_prior[at])
            key = joint.tobytes()
            if key not in best or weight > best[key][2]:
                best[key] = ((first, second), joint, weight)
    yield from best.values()


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


def _matches(seen: Joints, joint: Joints) -> NDArray[np.bool_]:
    """Which of many harnesses (m, n + 1) a seen one may be."""
    same = (joint == seen) | (seen == ANY) | ((seen == NOWHERE) & (joint == OPEN))
    return np.asarray(same.all(axis=1))
