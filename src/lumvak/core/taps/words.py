"""What remains possible of a harness in words, what to do about it, and what to read next."""

from __future__ import annotations

import math

import numpy as np

from lumvak.core.taps.faults import WEAK_V, Fault
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Case
from lumvak.core.taps.verdict import Hypothesis, Next, TapVerdict
from lumvak.core.units import say

DO = {
    "right": "",
    "swapped": "Change the two over, cover the bare ends, and read all again.",
    "shifted": "Move them one joint on from the first that is wrong, and read all again.",
    "reversed": "Turn the plug's order round, and read all again.",
    "open": "Mend its crimp or its joint, and read it again.",
    "doubled": "Move it to its own joint, and read all again.",
    "weak-group": "Read the group across its own joints, and its cells' history; charge it alone "
    "to the others' voltage, or change it.",
    "flat-group": "Read the group across its own joints: a cell may be missing, shorted or run "
    "down. Do not charge it before you know.",
    "reversed-group": "Take the pack apart there: the group lies the wrong way round.",
    "two-faults": "Mend one, read all again, then the other.",
    "unexplained": "Read again, beginning where it first goes wrong; look whether the black probe "
    "is on the most negative joint.",
}


def said(found: Hypothesis) -> str:
    """A hypothesis in a sentence."""
    lack = dict(found.lack)
    return " ".join(_fault(fault, lack) for fault in found.faults)


def _fault(fault: Fault, lack: dict[int, float]) -> str:
    leads, groups = fault.leads, fault.groups
    if fault.name == "right":
        return "Every lead sits on its joint."
    if fault.name == "swapped":
        return f"Leads {leads[0]} and {leads[1]} are swapped."
    if fault.name == "shifted" and fault.up:
        return f"From lead {leads[0]} on each sits one joint too high; joint {leads[0]} has none."
    if fault.name == "shifted":
        return (
            f"From lead {leads[0]} on each sits one joint too low; joint {leads[0] - 1} has two."
        )  # fmt: skip
    if fault.name == "reversed":
        return "The plug is the wrong way round: its first lead is on the most positive joint."
    if fault.name == "open":
        return f"Lead {leads[0]} is open: it sits on nothing."
    if fault.name == "doubled":
        return f"Lead {leads[0]} sits on joint {leads[1]}, where another is too."
    if fault.name == "weak-group":
        return f"Group {groups[0]} is {say(lack[groups[0]], 'V')} under what it should be."
    if fault.name == "flat-group":
        return f"Group {groups[0]} gives next to nothing: flat, missing or shorted."
    if fault.name == "reversed-group":
        return f"Group {groups[0]} is the wrong way round."
    return "Nothing that is known explains these readings."


def end_said(end: int) -> str:
    """An end of a reading: ``lead 3``, ``main minus``, ``joint 3``."""
    if end >= JOINT:
        return f"joint {end - JOINT}"
    return {MAIN_MINUS: "main minus", MAIN_PLUS: "main plus"}.get(end, f"lead {end}")


def next_said(wanted: Next) -> str:
    """The reading that decides, and what it would be for each that remains."""
    if wanted.decides == ("unexplained",):
        return f"Read from {end_said(wanted.start)} to {end_said(wanted.end)}."
    answers: dict[str, list[str]] = {}
    for name, volts in zip(wanted.decides, wanted.expects, strict=True):
        shown = "nothing steady" if math.isnan(volts) else say(round(volts, 2), "V")
        if name not in answers.setdefault(shown, []):
            answers[shown].append(name)
    told = "; ".join(f"{shown}: {' or '.join(names)}" for shown, names in answers.items())
    return f"Read from {end_said(wanted.start)} to {end_said(wanted.end)}. {told}."


def blind_v(case: Case) -> float:
    """So many V a group may be under, and not be seen by the highest total of a right harness."""
    return float(case.meter.within(np.array([case.level[-1]]))[0])


def verdict_said(case: Case, found: TapVerdict) -> str:
    """The verdict in sentences: whether the plug may go in, what remains, what to do and read."""
    if found.safe:
        words = "Safe to plug in: every lead reads as its joint does."
        blind = blind_v(case)
        if blind > WEAK_V:
            words += (
                f" With this meter a group up to {say(round(blind, 2), 'V')} under does not show "
                "at the top; read it across its own joints where that matters."
            )
        return words
    names = {item.name for item in found.hypotheses}
    parts = ["Do not plug in."]
    if len(found.hypotheses) == 1:
        parts += [said(found.hypotheses[0]), DO[found.hypotheses[0].name]]
    else:
        shown = found.hypotheses[:4]
        more = len(found.hypotheses) - len(shown)
        parts.append(f"{len(found.hypotheses)} things explain it:")
        parts += [f"({place}) {said(item)}" for place, item in enumerate(shown, 1)]
        if more:
            parts.append(f"And {more} more.")
        if found.next is None:
            parts.append("No reading of leads tells them apart; mend what is named and read again.")
            parts += [DO[name] for name in sorted(names) if DO[name]][:1]
    if found.next is not None:
        parts.append(next_said(found.next))
    return " ".join(part for part in parts if part)
